"""Parts on a piece as it is drawn: where each lies, how it is turned and how large, as SVG moves it."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass, replace

from coating.figures.outlines import MIDDLE, MOST, Bar, CutOutline, Outline, outline_of
from coating.piece.cores import Core, Tier
from coating.piece.kinds import CoreKind
from coating.stack.joints import INTO, ring, stands
from coating.stack.layers import Layer
from coating.techniques.part import INSIDE_IT, PAIRS, ROUND, STANDING, TOP

MOST_DRAWN, LYING = 24, 0.24  # a top is seen so flat
ONTO = 0.22  # share of a part that is behind what it stands on; so it is drawn


@dataclass(frozen=True)
class Spot:
    """Where the middle of a part lies in a picture of 100 by 100; how far it is turned, degrees; how narrow and
    how flat it is seen, from edge-on (near 0) to its face (1); whether it is mirrored."""

    x: float
    y: float
    turned: float = 0.0
    narrow: float = 1.0
    mirrored: bool = False
    flat: float = 1.0

    def moved(self, size: float, middle: tuple[float, float] = (MIDDLE, MIDDLE)) -> str:
        """As SVG has it, for a part that is drawn around `middle` and shown so many times as large."""
        wide = size * max(0.12, self.narrow) * (-1 if self.mirrored else 1)
        turn = f" rotate({self.turned:.1f})" if self.turned else ""
        return (
            f"translate({self.x:.2f} {self.y:.2f}){turn} scale({wide:.4f} {size * self.flat:.4f}) "
            f"translate({-middle[0]:.2f} {-middle[1]:.2f})"
        )


def px_per_mm(kind: CoreKind, core: Core) -> float:
    """How large a mm of a core is in its picture."""
    return outline_of(kind, core).per_mm


def spots(
    kind: CoreKind,
    core: Core,
    layer: Layer,
    size_mm: tuple[float, float],
    *,
    above: bool = False,
    seen: tuple[float, float] | None = None,
    flat: float = LYING,
) -> list[Spot]:
    """Where the parts of a layer lie on a piece, those at the back first.

    Parameters
    ----------
    kind, core : what they are on. layer : how many, where and how. size_mm : of one part as it is seen. above : seen
    from above, where it is drawn as a round. seen : how wide and high what they are on is, mm, where that is not as its
    core. flat : how much of its height is seen of a part that lies.
    """
    outline, scale, count = outline_of(kind, core), outline_of(kind, core).per_mm, max(1, min(MOST_DRAWN, layer.count))
    if seen is not None:
        outline = Bar(seen[0] * scale / 2, seen[1] * scale / 2)
    half = (size_mm[0] * scale / 2, size_mm[1] * scale / 2)
    if above:
        return list(_from_above(layer, count, half, 2 * MOST / core.across_mm / scale))
    lies = seen is None and not stands(kind)
    wide, high = _half_wide(outline), outline.half_high
    if layer.placed == INSIDE_IT:
        return list(_row(count, half[0], MIDDLE, outline.top + min(half[1], high) * 0.9, wide * 0.8))
    if layer.where == PAIRS:
        return list(_pairs(count, half, wide, high))
    if layer.where == ROUND:
        return list(_ring(count, half, min(wide, high)) if lies else _around(count, half, wide, outline.bottom))
    if layer.where == STANDING and not lies:
        return list(_row(count, half[0], MIDDLE, outline.top - half[1] * (1 - 2 * ONTO), wide))
    if layer.where == TOP and not lies:
        y = outline.top if isinstance(core, Tier) else outline.top + 3.0
        return [
            replace(spot, flat=flat)
            for spot in _row(count, half[0], MIDDLE, y - half[1] * max(0.0, flat - LYING), wide)
        ]
    face = outline.face
    middle_y = outline.top - half[1] * (1 - 2 * ONTO) if isinstance(outline, CutOutline) else face.y
    return list(_rows(count, half, face.x, middle_y, face.half_wide))


def _half_wide(outline: Outline) -> float:
    return float(getattr(outline, "half_wide", getattr(outline, "half_top", 34.0)))


def _row(count: int, half_wide: float, x: float, y: float, room: float) -> Iterable[Spot]:
    """Side by side, closer where there is not the room."""
    step = min(2.1 * half_wide, 2 * room / max(1, count))
    return (Spot(x + (i - (count - 1) / 2) * step, y) for i in range(count))


def _rows(count: int, half: tuple[float, float], x: float, y: float, room: float) -> Iterable[Spot]:
    """In rows on a face."""
    across = max(1, min(count, round(math.sqrt(count * max(half[1], 1e-6) / max(half[0], 1e-6)))))
    rows = math.ceil(count / across)
    for row in range(rows):
        many = min(across, count - row * across)
        yield from _row(many, half[0], x, y + (row - (rows - 1) / 2) * 2.1 * half[1], room)


def _pairs(count: int, half: tuple[float, float], wide: float, high: float) -> Iterable[Spot]:
    """Left and right, the first pair a little below the middle, the next above it."""
    for i in range(count):
        pair, right = divmod(i, 2)
        beside = 2.1 * half[1] * ((count + 1) // 2) > 1.6 * high  # too tall for one above the other
        y = MIDDLE + high * 0.3 - (0 if beside else pair * 2.1 * half[1])
        out = wide * math.sqrt(max(0.05, 1 - ((y - MIDDLE) / max(high, 1e-6)) ** 2)) if high else wide
        yield Spot(
            MIDDLE + (1 if right else -1) * (out + half[0] * (1 - 2 * INTO + (2.1 * pair if beside else 0))),
            y,
            mirrored=bool(right),
        )


def _ring(count: int, half: tuple[float, float], radius: float) -> Iterable[Spot]:
    """Round the middle of what is flat, each turned outwards: on it where they fit, else about it."""
    reach, _ = ring(count, (2 * half[0], 2 * half[1]), radius)
    for i in range(count):
        turn = 2 * math.pi * i / count
        yield Spot(MIDDLE + reach * math.sin(turn), MIDDLE - reach * math.cos(turn), math.degrees(turn))


def _around(count: int, half: tuple[float, float], wide: float, bottom: float) -> Iterable[Spot]:
    """Standing against what is round, those that are seen: the ones at the side narrower, the front last."""
    turns = [2 * math.pi * i / count for i in range(count)]
    seen = sorted((t for t in turns if math.cos(t) > -0.05), key=math.cos)
    return (Spot(MIDDLE + wide * math.sin(t), bottom - half[1] + 2.0 * math.cos(t), narrow=math.cos(t)) for t in seen)


def _from_above(layer: Layer, count: int, half: tuple[float, float], scale: float) -> Iterable[Spot]:
    """On a round of the size of the picture."""
    w, thin = half[0] * scale, 0.16
    if layer.placed == INSIDE_IT or layer.where in (TOP, STANDING):
        flat = thin if layer.where == STANDING and layer.placed != INSIDE_IT else 1.0
        yield from (replace(spot, flat=flat) for spot in _row(count, w, MIDDLE, MIDDLE, MOST * 0.7))
    elif layer.where == PAIRS:
        for i in range(count):
            pair, right = divmod(i, 2)
            x = MIDDLE + (1 if right else -1) * (MOST + w * (1 - 2 * INTO))
            yield Spot(x, MIDDLE + pair * 4, mirrored=bool(right), flat=thin)
    elif layer.where == ROUND:
        for i in range(count):
            turn = 2 * math.pi * i / count
            yield Spot(MIDDLE + MOST * math.sin(turn), MIDDLE - MOST * math.cos(turn), math.degrees(turn), flat=thin)
    else:
        for i in range(count):
            x = MIDDLE + (i - (count - 1) / 2) * 2.1 * w
            y = MIDDLE + math.sqrt(max(0.0, MOST**2 - min(MOST, abs(x - MIDDLE)) ** 2))
            yield Spot(x, y, flat=thin)
