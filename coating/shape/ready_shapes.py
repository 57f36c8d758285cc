"""Shapes to begin from: our own, each as wide as it is asked for, its left upper corner at the origin."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from types import MappingProxyType

import numpy as np

from coating.errors import UnknownName
from coating.limits import check
from coating.shape.areas import Areas, OutlineRing, areas_of
from coating.shape.curves import ellipse, rounded, smoothed, star, teardrop
from coating.shape.strokes import Array

_C = (50.0, 50.0)


def _turned(line: Array, degrees: float, about: tuple[float, float] = _C) -> Array:
    c, s = math.cos(math.radians(degrees)), math.sin(math.radians(degrees))
    return np.asarray((line - about) @ np.array([[c, s], [-s, c]]) + about)


def _moon(bite: float) -> list[Array]:
    """A disc of 100 bitten by another; the more, the thinner."""
    reach, other = 50.0, 44.0
    off = bite * 50.0
    crossing = (off**2 + reach**2 - other**2) / (2 * off)
    cut, inner = math.acos(crossing / reach), math.acos((crossing - off) / other)
    t = np.linspace(cut, 2 * math.pi - cut, 60)
    u = np.linspace(2 * math.pi - inner, inner, 60)
    outside = np.column_stack([50 + reach * np.cos(t), 50 + reach * np.sin(t)])
    inside = np.column_stack([50 + off + other * np.cos(u), 50 + other * np.sin(u)])
    return [np.concatenate([outside, inside])]


def _soft_star(middle: tuple[float, float], across: float) -> Array:
    """Its rays a little round, as a bag draws them."""
    from shapely import Polygon

    sharp = Polygon(star(middle, across, inner=0.5))
    return np.asarray(sharp.buffer(-0.03 * across).buffer(0.03 * across, quad_segs=6).exterior.coords)


def _comet() -> list[Array]:
    tails = [np.array([(62, 36), (4 + 8 * i, 62 + 14 * i), (66 + 3 * i, 50 + 2 * i)]) for i in range(3)]
    return [_soft_star((74, 30), 52), *[_tail(t) for t in tails]]


def _tail(corners: Array) -> Array:
    a, b, c = corners
    out = smoothed(np.array([a, (a + b) / 2 + (-3, -5), b]))
    back = smoothed(np.array([b, (b + c) / 2 + (2, 5), c]))
    return np.concatenate([out, back])


def _planet() -> list[Array]:
    band, hole = ellipse(_C, 100, 30, points=64), ellipse(_C, 78, 15, points=64)
    ball = ellipse(_C, 56, 56, points=64)
    return [_turned(band, -18), _turned(hole, -18), ball]


def _cloud() -> list[Array]:
    puffs = ((24, 58, 40), (44, 42, 52), (70, 50, 44), (84, 62, 32), (50, 62, 50))
    return [ellipse((x, y), d, d, points=48) for x, y, d in puffs]


def _flower() -> list[Array]:
    petals = [_turned(ellipse((50, 24), 32, 46, points=40), 72 * k) for k in range(5)]
    return [*petals, ellipse(_C, 24, 24)]


def _heart() -> list[Array]:
    t = np.linspace(0, 2 * math.pi, 90)
    return [
        np.column_stack([50 + 48 * np.sin(t) ** 3, 46 - 40 * (np.cos(t) - 0.38 * np.cos(2 * t) - 0.15 * np.cos(3 * t))])
    ]


def _plaque() -> list[Array]:
    w, h, bite = 100.0, 62.0, 12.0
    line: list[Array] = []
    for cx, cy, begin in ((0.0, 0.0, 90), (w, 0.0, 180), (w, h, 270), (0.0, h, 0)):
        t = np.radians(np.linspace(begin, begin - 90, 14))
        line.append(np.column_stack([cx + bite * np.cos(t), cy + bite * np.sin(t)]))
    return [np.concatenate(line)]


def _rocket() -> list[Array]:
    side = smoothed(np.array([(50.0, 0.0), (64, 18), (68, 42), (64, 70)]))
    hull = np.concatenate([side, (side * (-1, 1) + (100, 0))[::-1]])
    fins = [np.array([(62.0, 52), (86, 78), (84, 92), (62, 72)]), np.array([(38.0, 52), (14, 78), (16, 92), (38, 72)])]
    flame = teardrop((50, 100), (50, 66), 22)
    return [hull, *[rounded(f, 2, closed=True) for f in fins], flame]


def _fin() -> list[Array]:
    """It stands at the left of what it is glued to: its straight side is the right one."""
    back = smoothed(np.array([(96.0, 0.0), (60, 22), (26, 62), (8, 100)]))
    return [np.concatenate([back, np.array([(40.0, 92.0), (96, 78)])])]


def _snow() -> list[Array]:
    arm = np.array([(47.0, 50), (47, 8), (50, 2), (53, 8), (53, 50)])
    twig = np.array([(50.0, 24), (62, 12), (66, 16), (50, 33), (34, 16), (38, 12)])
    return [_turned(line, 60 * k) for k in range(6) for line in (arm, twig)]


@dataclass(frozen=True)
class ReadyShape:
    """A shape of the library, drawn on a field of 100; rings that overlap run together, by the even-odd rule where
    `holed`."""

    name: str
    title: str
    rings: Callable[[], list[Array]]
    small: bool = False
    holed: bool = False


READY = MappingProxyType({s.name: s for s in (
    ReadyShape("star", "Star", lambda: [_soft_star(_C, 100)]),
    ReadyShape("comet", "Comet", _comet),
    ReadyShape("crescent", "Crescent", lambda: _moon(0.42)),
    ReadyShape("half_moon", "Waning moon", lambda: _moon(0.8)),
    ReadyShape("planet", "Ringed planet", _planet, holed=True),
    ReadyShape("rocket", "Rocket", _rocket),
    ReadyShape("cloud", "Cloud", _cloud),
    ReadyShape("flower", "Flower", _flower),
    ReadyShape("leaf", "Leaf", lambda: [teardrop((2, 50), (98, 50), 46, points=60)]),
    ReadyShape("snow", "Snow crystal", _snow),
    ReadyShape("plaque", "Plaque", _plaque),
    ReadyShape("ring", "Ring", lambda: [ellipse(_C, 100, 100, points=96), ellipse(_C, 58, 58, points=72)], holed=True),
    ReadyShape("heart", "Heart", _heart, small=True),
    ReadyShape("oval", "Oval", lambda: [ellipse(_C, 100, 66, points=72)], small=True),
    ReadyShape("dot", "Round", lambda: [ellipse(_C, 100, 100, points=96)], small=True),
    ReadyShape("fin", "Fin", _fin, small=True),
    ReadyShape("drop", "Drop", lambda: [teardrop((50, 0), (50, 100), 62, points=60)], small=True),
)})  # fmt: skip


def ready_shape(name: str, *, width_mm: float) -> Areas:
    """A shape of the library, so wide. Raises UnknownName, OutOfBounds."""
    if name not in READY:
        raise UnknownName(f"There is no shape called {name[:40]!r}.", field="shape", choices=list(READY))
    known = READY[name]
    check("page_mm", width_mm, "width_mm")
    if name == "planet":
        return _planet_areas(width_mm)
    rings = [OutlineRing(line, True, known.holed, 0 if known.holed else i) for i, line in enumerate(known.rings())]
    return areas_of(rings).sized(width_mm)


def _planet_areas(width_mm: float) -> Areas:
    """The ball lies over its ring."""
    band, hole, ball = _planet()
    ring = areas_of([OutlineRing(band, True, True, 0), OutlineRing(hole, True, True, 0)]).parts
    return Areas(tuple(_joined([*ring, *areas_of([OutlineRing(ball, True, True, 0)]).parts]))).sized(width_mm)


def _joined(parts: list[object]) -> list[object]:
    from shapely import unary_union

    whole = unary_union(parts)
    return list(getattr(whole, "geoms", [whole]))
