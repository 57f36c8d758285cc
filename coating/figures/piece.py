"""A piece as a picture of 100 by 100: its core, and each layer on it in the order it is put on."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from functools import lru_cache

from coating.figures.outlines import MIDDLE, Cut, Face, Knot, Outline, Oval, outline_of
from coating.piece.cores import Core
from coating.piece.kinds import Kind
from coating.piece.layers import SPREAD, TOP, Layer

CORE, GREEN = -1, -2
# Of the layer's colour, a line of it, what is light on dark or the reverse, and a thin line on the core.
FILL, LINE, OVER, DETAIL = "fill", "line", "over", "detail"
_GOLDEN = math.pi * (3 - math.sqrt(5))  # Vogel 1979: points spread evenly over a round
_STRING_WIDE = 9.0
_LEAN = 0.75  # of an angled dip, in a picture


@dataclass(frozen=True)
class Mark:
    """One thing to draw: SVG path data, whether it is filled, a line, or over its layer; the line's width; the place of
    its layer in the stack, or CORE, or GREEN for leaves that grow on it."""

    path: str
    kind: str
    layer: int
    width: float = 0.0


@lru_cache(maxsize=1024)
def piece_picture(kind: Kind, core: Core, layers: tuple[Layer, ...]) -> tuple[Mark, ...]:
    """Everything to draw of a piece, the core first. Layers that say more than can be drawn show it by a few."""
    outline = outline_of(kind, core)
    marks = [_core(outline), *_details(kind, outline)]
    for place, layer in enumerate(layers):
        under = any(
            (la.kind.measured == SPREAD and la.kind.on == TOP) or la.technique == "pour" for la in layers[:place]
        )
        for path, how, width in (
            _swirls(outline.face) if under and layer.technique == "marbling" else _layer(outline, layer, layers[:place])
        ):
            marks.append(Mark(path, how, place, width))
    sticks = [m for m in marks if m.layer >= 0 and layers[m.layer].technique == "stick"]
    return (*sticks, *(m for m in marks if m not in sticks)) if not isinstance(outline, Cut) else tuple(marks)


def _core(outline: Outline) -> Mark:
    if isinstance(outline, Knot):
        return Mark(outline.whole(), LINE, CORE, _STRING_WIDE)
    return Mark(outline.whole(3.0) if isinstance(outline, Cut) else outline.whole(), FILL, CORE)


def _details(kind: Kind, outline: Outline) -> list[Mark]:
    """What tells one core from another."""
    face, found = outline.face, list[Mark]()
    w, h, x, y = face.half_wide, face.half_high, face.x, face.y
    if kind.name in ("round_biscuit", "finger_biscuit"):
        holes = _spread(face, 9) if kind.name == "round_biscuit" else [
            (x + side * w * 0.5, y + h * up) for side in (-1, 1) for up in (-0.8, -0.4, 0.0, 0.4, 0.8)]  # fmt: skip
        found.append(Mark("".join(_dot(a, b, 1.2) for a, b in holes), DETAIL, CORE))
    elif kind.name == "sandwich_biscuit":
        found.append(Mark(_dot(x, y, w * 1.12) + _star(x, y, w * 0.7), DETAIL, CORE))
    elif kind.name == "berry":
        seeds = "".join(f"M{a:.1f} {b:.1f}v2" for a, b in _spread(face, 15))
        found.append(Mark(seeds, DETAIL, CORE))
        leaf = f"M{x:.1f} {outline.top + 1:.1f}"
        sides = "".join(f"{leaf}q{s * 5} -6 {s * 13} 1q{-s * 7} 7 {-s * 13} -1Z" for s in (-1, 1))
        found.append(Mark(f"{sides}{leaf}q-4 5 0 11q4 -6 0 -11Z", FILL, GREEN))
    elif kind.name == "fruit":
        found.append(Mark(f"M{x:.1f} {outline.top + 5:.1f}Q{x + w * 0.5:.1f} {y:.1f} {x:.1f} {outline.bottom - 5:.1f}",
                          DETAIL, CORE))  # fmt: skip
    elif kind.figure == "tier":
        wide, lid = w * 1.25, w * 1.25 * 0.24
        found.append(
            Mark(f"M{x - wide:.1f} {outline.top:.1f}a{wide:.1f} {lid:.1f} 0 0 0 {2 * wide:.1f} 0", DETAIL, CORE)
        )
    elif kind.name == "panel":
        found.append(
            Mark("".join(f"M{x - w:.1f} {y + h * t:.1f}h{2 * w:.1f}" for t in (-0.45, 0.0, 0.45)), DETAIL, CORE)
        )
    elif kind.name == "marshmallow":
        found.append(Mark(f"M{x - w:.1f} {outline.top + 10:.1f}q{w:.1f} 9 {2 * w:.1f} 0", DETAIL, CORE))
    return found


_Drawn = list[tuple[str, str, float]]


def _layer(outline: Outline, layer: Layer, below: tuple[Layer, ...]) -> _Drawn:
    name, face = layer.technique, outline.face
    if name == "angled_dip":  # the next one leans the other way
        lean = -_LEAN if sum(la.technique == name for la in below) % 2 else _LEAN
        return [(outline.leaning(layer.share, lean, 1.4), FILL, 0.0)]
    dip = next((la for la in below if la.technique == "dip"), None)
    if name == "dots" and dip is not None and dip.share < 1 and isinstance(outline, Oval):
        return [("".join(_dot(x, outline.level(dip.share) + 3.4, r) for x, r in _along(outline, dip.share)), FILL, 0.0)]
    if isinstance(outline, Cut) and name in _INSIDE:
        return _INSIDE[name](outline, layer)
    if name in ("dip", "second_dip", "shell", "solid"):
        grow = 2.6 if name == "second_dip" else 1.4
        if isinstance(outline, Knot):
            return [(outline.below(layer.share), LINE, _STRING_WIDE + 2 * grow)]
        return [(outline.below(layer.share, grow), FILL, 0.0)]
    if name == "rim":
        y, wide = outline.top + 3, face.half_wide * 1.23
        return [(f"M{MIDDLE - wide:.1f} {y:.1f}a{wide:.1f} {wide * 0.24:.1f} 0 0 0 {2 * wide:.1f} 0", LINE, 7.0)]
    return _ON_FACE[name](face, layer) if name in _ON_FACE else []


def _along(oval: Oval, share: float) -> list[tuple[float, float]]:
    """Where dots lie along a dip line, and how large they are: a small one between each two."""
    half = oval.half_wide * math.sqrt(max(0.0, 1 - ((oval.level(share) - MIDDLE) / oval.half_high) ** 2)) - 5
    return [(MIDDLE + half * (k / 5 - 1), 1.4 if k % 2 else 2.8) for k in range(11)]


# -- inside ----------------------------------------------------------------------------------------------------
def _shell(cut: Cut, layer: Layer) -> _Drawn:
    return [(cut.between(0, 1), FILL, 0.0), (cut.between(0.16, 1, 5.0), OVER, 0.0)]


def _solid(cut: Cut, layer: Layer) -> _Drawn:
    return [(cut.between(0, layer.share), FILL, 0.0)]


def _filling(cut: Cut, layer: Layer) -> _Drawn:
    return [(cut.between(0.16, 0.78, 5.0), FILL, 0.0)]


def _cap(cut: Cut, layer: Layer) -> _Drawn:
    return [(cut.between(0.86, 1.0), FILL, 0.0)]


def _insert(cut: Cut, layer: Layer) -> _Drawn:
    low = (cut.top + cut.bottom) / 2
    return [(_dot(MIDDLE, low, min(9.0, (cut.bottom - cut.top) * 0.24)), FILL, 0.0)]


def _stick(cut: Cut, layer: Layer) -> _Drawn:
    return [(f"M{MIDDLE} {cut.level(0.35):.1f}V4", LINE, 5.0)]


_INSIDE: dict[str, Callable[[Cut, Layer], _Drawn]] = {
    "shell": _shell, "solid": _solid, "filling": _filling, "cap": _cap, "insert": _insert, "stick": _stick,
}  # fmt: skip


# -- on the face -----------------------------------------------------------------------------------------------
def _plate(face: Face, grow: float = 1.0) -> str:
    """What covers the face: as round as the face is."""
    rx, ry = face.half_wide * grow, face.half_high * grow
    x, y, k = face.x, face.y, face.square
    return (
        f"M{x - rx:.1f} {y:.1f}C{x - rx:.1f} {y - ry * k:.1f} {x - rx * k:.1f} {y - ry:.1f} {x:.1f} {y - ry:.1f}"
        f"S{x + rx:.1f} {y - ry * k:.1f} {x + rx:.1f} {y:.1f}S{x + rx * k:.1f} {y + ry:.1f} {x:.1f} {y + ry:.1f}"
        f"S{x - rx:.1f} {y + ry * k:.1f} {x - rx:.1f} {y:.1f}Z"
    )


def _dot(x: float, y: float, r: float) -> str:
    return f"M{x - r:.1f} {y:.1f}a{r:.1f} {r:.1f} 0 1 0 {2 * r:.1f} 0a{r:.1f} {r:.1f} 0 1 0 {-2 * r:.1f} 0Z"


def _spread(face: Face, count: int, out: float = 0.88) -> list[tuple[float, float]]:
    found = []
    for i in range(count):
        r, turn = out * math.sqrt((i + 0.5) / count), i * _GOLDEN
        found.append((face.x + face.half_wide * r * math.cos(turn), face.y + face.half_high * r * math.sin(turn)))
    return found


def _poured(face: Face, layer: Layer) -> _Drawn:
    return [(_plate(face, 1.12), FILL, 0.0)]


def _flooded(face: Face, layer: Layer) -> _Drawn:
    return [(_plate(face), FILL, 0.0), (_plate(face), OVER, 2.0)]


def _swirls(face: Face) -> _Drawn:
    """What is drawn through a ground of another colour."""
    return [(_marbled(face, Layer("marbling"))[1][0], LINE, 7.0)]


def _marbled(face: Face, layer: Layer) -> _Drawn:
    w, h = face.half_wide, face.half_high
    swirls = "".join(
        f"M{face.x - w * 0.8:.1f} {face.y + h * y:.1f}c{w * 0.5:.1f} {-h * 0.5:.1f} {w * 0.6:.1f} {h * 0.45:.1f} "
        f"{w * 0.9:.1f} {h * 0.05:.1f}s{w * 0.4:.1f} {-h * 0.35:.1f} {w * 0.7:.1f} {-h * 0.08:.1f}"
        for y in (-0.5, 0.0, 0.5)
    )
    return [(_plate(face, 1.16), FILL, 0.0), (swirls, OVER, 3.2)]


def _transfer(face: Face, layer: Layer) -> _Drawn:
    size = min(face.half_wide, face.half_high) * 0.16
    stars = "".join(_star(x, y, size) for x, y in _spread(face, 7))
    return [(_plate(face, 1.1), FILL, 0.0), (stars, OVER, 0.0)]


def _filmed(face: Face, layer: Layer) -> _Drawn:
    """Three loops of a strip, as a bow."""
    s = min(face.half_wide, face.half_high) * 0.5
    loops = "".join(
        f"M{face.x:.1f} {face.y:.1f}q{s * a:.1f} {s * b:.1f} {s * c:.1f} {s * d:.1f}t{-s * c:.1f} {-s * d:.1f}"
        for a, b, c, d in ((-0.9, -1.3, -1.5, -0.2), (0.9, -1.3, 1.5, -0.2), (-0.5, 0.9, 0.0, 1.2))
    )
    return [(loops, LINE, max(3.0, s * 0.3))]


def _petalled(face: Face, layer: Layer) -> _Drawn:
    s = min(face.half_wide, face.half_high) * 0.78
    petals = []
    for i in range(8):
        a = math.pi / 4 * i
        x, y = face.x + s * math.cos(a), face.y + s * math.sin(a)
        u, v = -math.sin(a) * s * 0.42, math.cos(a) * s * 0.42
        mx, my = face.x + 0.5 * s * math.cos(a), face.y + 0.5 * s * math.sin(a)
        petals.append(f"M{face.x:.1f} {face.y:.1f}Q{mx + u:.1f} {my + v:.1f} {x:.1f} {y:.1f}"
                      f"Q{mx - u:.1f} {my - v:.1f} {face.x:.1f} {face.y:.1f}Z")  # fmt: skip
    return [("".join(petals), FILL, 0.0), (_dot(face.x, face.y, s * 0.16), OVER, 0.0)]


def _star(x: float, y: float, r: float) -> str:
    points = []
    for i in range(8):
        reach, turn = (r if i % 2 == 0 else r * 0.36), math.pi / 4 * i
        points.append(f"{x + reach * math.sin(turn):.1f} {y - reach * math.cos(turn):.1f}")
    return f"M{'L'.join(points)}Z"


def _drizzled(face: Face, layer: Layer) -> _Drawn:
    w, h, n = face.half_wide * 1.25, face.half_high * 0.95, 7
    step = 2 * h / n
    path = f"M{face.x - w:.1f} {face.y - h + step:.1f}"
    for i in range(n):
        y = face.y - h + i * step
        side = w if i % 2 == 0 else -w
        path += f"Q{face.x + side * 1.15:.1f} {y + step * 0.1:.1f} {face.x + side * 0.9:.1f} {y + step * 0.7:.1f}"
        path += f"T{face.x - side * 0.9:.1f} {y + step * 1.7:.1f}" if i < n - 1 else ""
    return [(path, LINE, 1.8)]


def _lines(face: Face, layer: Layer) -> _Drawn:
    w, h = face.half_wide, face.half_high
    arcs = "".join(
        f"M{face.x - w * s:.1f} {face.y + h * 0.5 * s:.1f}Q{face.x:.1f} {face.y - h * 1.25 * s:.1f} "
        f"{face.x + w * s:.1f} {face.y + h * 0.5 * s:.1f}"
        for s in (0.95, 0.62, 0.3)
    )
    return [(arcs, LINE, 2.8)]


def _lettered(face: Face, layer: Layer) -> _Drawn:
    w, h = face.half_wide * 0.9, min(face.half_high * 0.42, 15.0)
    step = 2 * w / 5
    x, y = face.x - w, face.y + h * 0.4
    loops = f"M{x:.1f} {y:.1f}"
    for i in range(4):
        tall = h * (1.5 if i in (0, 2) else 0.9)
        loops += f"c{step * 0.9:.1f} {-tall * 0.3:.1f} {step:.1f} {-tall:.1f} {step * 0.55:.1f} {-tall:.1f}"
        loops += f"s{-step * 0.25:.1f} {tall:.1f} {step * 0.45:.1f} {tall:.1f}"
    return [(loops, LINE, 2.8)]


def _dotted(face: Face, layer: Layer) -> _Drawn:
    few = max(1, min(layer.count, 14)) if layer.count > 1 else 9
    size = min(3.4, 0.5 * min(face.half_wide, face.half_high))
    return [("".join(_dot(x, y, size) for x, y in _spread(face, few)), FILL, 0.0)]


def _laced(face: Face, layer: Layer) -> _Drawn:
    w, h = face.half_wide, face.half_high
    path = ""
    for row in range(3):
        y, step = face.y - h * 0.7 + row * h * 0.66, w / 2
        path += f"M{face.x - w + (step / 2 if row % 2 else 0):.1f} {y:.1f}"
        path += f"q{step / 2:.1f} {h * 0.85:.1f} {step:.1f} 0" * (4 if row % 2 == 0 else 3)
    return [(path, LINE, 2.0)]


def _topped(face: Face, layer: Layer) -> _Drawn:
    few, size = max(1, min(layer.count, 16)), min(3.2, 0.4 * min(face.half_wide, face.half_high))
    if layer.count == 1:
        return [(_star(face.x, face.y, size * 3.4), FILL, 0.0)]
    rice = "".join(
        f"M{x:.1f} {y:.1f}l{size * math.cos(i * 2.1):.1f} {size * math.sin(i * 2.1):.1f}"
        for i, (x, y) in enumerate(_spread(face, few))
    )
    return [(rice, LINE, 3.6)]


def _dusted(face: Face, layer: Layer) -> _Drawn:
    return [("".join(_dot(x, y, 0.8) for x, y in _spread(face, 26, 1.0)), FILL, 0.0)]


def _leafed(face: Face, layer: Layer) -> _Drawn:
    s = min(face.half_wide, face.half_high) * 0.34
    x, y = face.x + face.half_wide * 0.2, face.y - face.half_high * 0.15
    corners = ((0.7, -0.8), (0.5, 0.3), (0.8, -0.1), (-0.4, 1.0), (-0.7, 0.1))
    return [(f"M{x - s:.1f} {y:.1f}l" + " ".join(f"{s * a:.1f} {s * b:.1f}" for a, b in corners) + "Z", FILL, 0.0)]


def _painted(face: Face, layer: Layer) -> _Drawn:
    w, h = face.half_wide, face.half_high
    strokes = "".join(f"M{face.x - w * s:.1f} {face.y + h * t:.1f}q{w * s:.1f} {-h * 0.3:.1f} {2 * w * s:.1f} 0"
                      for s, t in ((0.5, -0.38), (0.85, 0.02), (0.7, 0.42)))  # fmt: skip
    return [(strokes, LINE, max(3.0, h * 0.26))]


def _modelled(face: Face, layer: Layer) -> _Drawn:
    s = min(face.half_wide, face.half_high) * 0.36
    petals = "".join(_dot(face.x + s * math.cos(a), face.y + s * math.sin(a), s * 0.62)
                     for a in (math.pi * 2 / 5 * i - 1.57 for i in range(5)))  # fmt: skip
    return [(petals, FILL, 0.0), (_dot(face.x, face.y, s * 0.42), OVER, 0.0)]


def _glued(face: Face, layer: Layer) -> _Drawn:
    w, y = face.half_wide * 0.9, face.y + face.half_high * 1.12
    return [(f"M{face.x - w:.1f} {y:.1f}h{2 * w:.1f}", LINE, 4.5)]


def _dripped(face: Face, layer: Layer) -> _Drawn:
    w, top = face.half_wide * 1.24, face.y - face.half_high * 1.26
    step, path = 2 * w / 6, f"M{face.x - w:.1f} {top:.1f}"
    for i, run in enumerate((20.0, 31.0, 16.0, 35.0, 22.0, 28.0)):
        path += (
            f"v{run:.1f}a{step * 0.3:.1f} {step * 0.3:.1f} 0 0 0 {step * 0.6:.1f} 0v{8 - run:.1f}h{step * 0.4:.1f}v-8"
        )
        path += "" if i == 5 else "v0"
    arc = f"A{w:.1f} {w * 0.24:.1f} 0 0 0"
    return [(f"{path}{arc} {face.x - w:.1f} {top:.1f}Z", FILL, 0.0)]


def _own(face: Face, layer: Layer) -> _Drawn:
    return [(_plate(face, 0.5), LINE, 1.4)]


def _stuck(face: Face, layer: Layer) -> _Drawn:
    return [(f"M{face.x:.1f} {face.y:.1f}V3", LINE, 5.0)]


def _inserted(face: Face, layer: Layer) -> _Drawn:
    return [(_dot(face.x, face.y, min(face.half_wide, face.half_high) * 0.4), FILL, 0.0)]


_ON_FACE: dict[str, Callable[[Face, Layer], _Drawn]] = {
    "spread": _poured, "pour": _poured, "icing": _poured, "filling": _poured, "cap": _poured, "flood": _flooded,
    "marbling": _marbled,
    "transfer": _transfer, "drizzle": _drizzled, "lines": _lines, "lettering": _lettered, "dots": _dotted,
    "lace": _laced, "topping": _topped, "dust": _dusted, "leaf": _leafed, "paint": _painted, "modelling": _modelled,
    "film": _filmed, "petals": _petalled, "glue": _glued, "cake_drip": _dripped, "own": _own, "stick": _stuck,
    "insert": _inserted,
}  # fmt: skip


# What cores and uncoloured layers look like, as sRGB.
CORE_TINTS = {
    "round_biscuit": "#dfba7d", "sandwich_biscuit": "#6b4a35", "finger_biscuit": "#dfba7d", "pretzel_twist": "#9c6330",
    "pretzel_rod": "#9c6330", "ball": "#a97e55", "berry": "#bf4a40", "fruit": "#e3a24f", "marshmallow": "#f2e8e0",
    "sweet": "#8a5a44", "cup": "#e4dcc8", "glass_rim": "#dbe6e6", "mould": "#c9cfd2", "cake_tier": "#efe2c4",
    "dessert": "#e9d2b4", "slab": "#efe9da", "shape": "#efe9da", "panel": "#c48b4c",
}  # fmt: skip
LAYER_TINTS = {
    "filling": "#9a6a45", "insert": "#7d5138", "topping": "#c98a2e", "icing": "#fffdf6", "modelling": "#e8cfae",
    "stick": "#e6dac0", "dust": "#d8c78f", "leaf": "#c9a24a", "own": "#5c5c4c",
}  # fmt: skip
PLAIN_TINT, GREEN_TINT = "#f6eed9", "#6f8a3c"
