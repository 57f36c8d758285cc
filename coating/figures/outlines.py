"""Outlines of cores in a picture of 100 by 100: the whole of it, what lies below a line, and the face to decorate.

Everything comes as SVG path data with one decimal. Proportions are true; the size fills the picture.
"""

from __future__ import annotations

import math
from abc import ABC, abstractmethod
from dataclasses import dataclass

from coating.piece.cores import Core, Hollow, Rod, Round, Twist
from coating.piece.kinds import CoreKind

MIDDLE, MOST = 50.0, 40.0  # the middle of the picture, and how far a core reaches from it
SLIM = 0.16  # what is slimmer than that is drawn so slim
KNOT_WIDE = 68.0  # a twist from arm to arm
_AROUND = 72
_WAVES = (0.0, 0.9, -0.5, 0.8, -0.6, 0.5, 0.0)


@dataclass(frozen=True)
class FaceArea:
    """Where decoration goes: its middle, and half its width and height."""

    x: float
    y: float
    half_wide: float
    half_high: float
    square: float = 0.56  # from an oval (.56) to a square (1)


class Outline(ABC):
    """Abstract: a core as it is drawn. `half_high` : half of how high it is in the picture; `per_mm` : how large a mm
    of it is there, 0 where that is not known."""

    half_high: float
    per_mm: float

    @property
    def top(self) -> float:
        """Where it begins, from above."""
        return MIDDLE - self.half_high

    @property
    def bottom(self) -> float:
        """Where it ends."""
        return MIDDLE + self.half_high

    @abstractmethod
    def whole(self, grow: float = 0.0) -> str:
        """All of it, so much larger all round."""

    @abstractmethod
    def below(self, share: float, grow: float = 0.0) -> str:
        """The lower `share` of it, with a line a little uneven, as a dip leaves it."""

    def leaning(self, share: float, lean: float, grow: float = 0.0) -> str:
        """The lower `share` of it, cut by a line that rises by `lean` from left to right; straight where it cannot."""
        return self.below(share, grow)

    @property
    @abstractmethod
    def face(self) -> FaceArea:
        """Where decoration goes."""

    def level(self, share: float) -> float:
        """Where the line of a dip is."""
        return self.bottom - share * (self.bottom - self.top)


@dataclass(frozen=True)
class Oval(Outline):
    """A round biscuit seen from its face, a ball, a berry."""

    half_wide: float
    half_high: float
    per_mm: float = 0.0

    def whole(self, grow: float = 0.0) -> str:
        rx, ry = self.half_wide + grow, self.half_high + grow
        arc = f"A{rx:.1f} {ry:.1f} 0 1 1"
        return f"M{MIDDLE - rx:.1f} {MIDDLE:g} {arc} {MIDDLE + rx:.1f} {MIDDLE:g} {arc} {MIDDLE - rx:.1f} {MIDDLE:g}Z"

    def below(self, share: float, grow: float = 0.0) -> str:
        if share >= 1:
            return self.whole(grow)
        rx, ry, y = self.half_wide + grow, self.half_high + grow, self.level(share)
        half = rx * math.sqrt(max(0.0, 1 - ((y - MIDDLE) / ry) ** 2))
        large = int(share > 0.5)
        edge = _wavy(MIDDLE - half, MIDDLE + half, y)
        return f"M{MIDDLE - half:.1f} {y:.1f}{edge} A{rx:.1f} {ry:.1f} 0 {large} 1 {MIDDLE - half:.1f} {y:.1f}Z"

    def leaning(self, share: float, lean: float, grow: float = 0.0) -> str:
        rx, ry = self.half_wide + grow, self.half_high + grow
        turns = [2 * math.pi * i / _AROUND for i in range(_AROUND)]
        return _cut_by([(MIDDLE + rx * math.cos(t), MIDDLE + ry * math.sin(t)) for t in turns], self.level(share), lean)

    @property
    def face(self) -> FaceArea:
        return FaceArea(MIDDLE, MIDDLE, self.half_wide * 0.74, self.half_high * 0.74)


@dataclass(frozen=True)
class Bar(Outline):
    """What is straight: a finger, a rod, a panel, a slab seen from above, a glass, a tier from the side."""

    half_wide: float
    half_high: float
    corner: float = 3.0
    lid: float = 0.0  # half the height of the oval that is seen of its top
    per_mm: float = 0.0

    def whole(self, grow: float = 0.0) -> str:
        return self._from(self.top - grow, grow, f"H{MIDDLE + self.half_wide + grow - self.corner:.1f}")

    def below(self, share: float, grow: float = 0.0) -> str:
        if share >= 1:
            return self.whole(grow)
        left, right = MIDDLE - self.half_wide - grow, MIDDLE + self.half_wide + grow
        y = self.level(share)
        return f"M{left:.1f} {y:.1f}{_wavy(left, right, y)}{self._foot(grow)}V{y:.1f}Z"

    def leaning(self, share: float, lean: float, grow: float = 0.0) -> str:
        if self.lid:
            return self.below(share, grow)
        left, right = MIDDLE - self.half_wide - grow, MIDDLE + self.half_wide + grow
        top, down = self.top - grow, self.bottom + grow
        return _cut_by([(left, top), (right, top), (right, down), (left, down)], self.level(share), lean)

    def _from(self, y: float, grow: float, across: str) -> str:
        left, right, r = MIDDLE - self.half_wide - grow, MIDDLE + self.half_wide + grow, self.corner
        if self.lid:
            arc = f"A{right - MIDDLE:.1f} {self.lid:.1f} 0 0 1"
            return f"M{left:.1f} {y:.1f}{arc} {right:.1f} {y:.1f}{self._foot(grow)}V{y:.1f}Z"
        corners = f"Q{right:.1f} {y:.1f} {right:.1f} {y + r:.1f}"
        last = f"Q{left:.1f} {y:.1f} {left + r:.1f} {y:.1f}Z"
        return f"M{left + r:.1f} {y:.1f}{across}{corners}{self._foot(grow)}V{y + r:.1f}{last}"

    def _foot(self, grow: float) -> str:
        left, right, down = MIDDLE - self.half_wide - grow, MIDDLE + self.half_wide + grow, self.bottom + grow
        if self.lid:
            return f"V{down:.1f}A{right - MIDDLE:.1f} {self.lid:.1f} 0 0 1 {left:.1f} {down:.1f}"
        r = self.corner
        return (
            f"V{down - r:.1f}Q{right:.1f} {down:.1f} {right - r:.1f} {down:.1f}"
            f"H{left + r:.1f}Q{left:.1f} {down:.1f} {left:.1f} {down - r:.1f}"
        )

    @property
    def face(self) -> FaceArea:
        return FaceArea(MIDDLE, MIDDLE + self.lid / 2, self.half_wide * 0.8, self.half_high * 0.78, 0.84)


@dataclass(frozen=True)
class CutOutline(Outline):
    """What is hollow, cut through: a mould, a cup. Layers lie in it."""

    half_top: float
    half_base: float
    half_high: float
    per_mm: float = 0.0

    def _half(self, y: float) -> float:
        up = (self.bottom - y) / (self.bottom - self.top)
        return self.half_base + (self.half_top - self.half_base) * up

    def between(self, low: float, high: float, inset: float = 0.0) -> str:
        """What lies between two shares of its depth, from the bottom, so far in from the wall."""
        y0, y1 = self.level(low), self.level(high)
        a, b = self._half(y0) - inset, self._half(y1) - inset
        return f"M{MIDDLE - b:.1f} {y1:.1f}H{MIDDLE + b:.1f}L{MIDDLE + a:.1f} {y0:.1f}H{MIDDLE - a:.1f}Z"

    def whole(self, grow: float = 0.0) -> str:
        return self.between(0, 1, -grow)

    def below(self, share: float, grow: float = 0.0) -> str:
        return self.between(0, min(1.0, share), -grow)

    @property
    def face(self) -> FaceArea:
        return FaceArea(MIDDLE, self.top, self.half_top * 0.8, 4.0)


@dataclass(frozen=True)
class Knot(Outline):
    """A pretzel twist: a string, drawn as a line; `whole` and `below` are what of the string to draw."""

    half_high = 32.0
    per_mm: float = 0.0
    _STRING = (
        (66, 70),
        (53, 55),
        (46, 42),
        (38, 26),
        (26, 24),
        (16, 44),
        (22, 68),
        (50, 82),
        (78, 68),
        (84, 44),
        (74, 24),
        (62, 26),
        (54, 42),
        (47, 55),
        (34, 70),
    )

    def whole(self, grow: float = 0.0) -> str:
        return _string(self._fine())

    def below(self, share: float, grow: float = 0.0) -> str:
        y = self.level(share)
        runs: list[list[tuple[float, float]]] = [[]]
        for point in self._fine():
            if point[1] >= y:
                runs[-1].append(point)
            elif runs[-1]:
                runs.append([])
        return "".join(_string(run) for run in runs if len(run) > 1)

    def _fine(self) -> list[tuple[float, float]]:
        """The string as a smooth curve through its points (Catmull and Rom 1974)."""
        p = [self._STRING[0], *self._STRING, self._STRING[-1]]
        points = []
        for a, b, c, d in zip(p, p[1:], p[2:], p[3:], strict=False):
            for i in range(6):
                t = i / 6
                weights = (-t + 2 * t * t - t**3, 2 - 5 * t * t + 3 * t**3, t + 4 * t * t - 3 * t**3, t**3 - t * t)
                points.append(
                    tuple(sum(w * q[k] for w, q in zip(weights, (a, b, c, d), strict=True)) / 2 for k in (0, 1))
                )
        return [(f[0], f[1]) for f in points] + [self._STRING[-1]]

    @property
    def face(self) -> FaceArea:
        return FaceArea(MIDDLE, 50.0, 27.0, 27.0)


def outline_of(kind: CoreKind, core: Core) -> Outline:
    """A core of a kind as it is drawn."""
    if isinstance(core, Twist):
        return Knot(KNOT_WIDE / core.across_mm)
    if isinstance(core, Hollow):
        deep = core.depth_mm / core.top_diameter_mm
        half_high = max(16.0, min(MOST, MOST * deep * 1.15))
        half_base = max(14.0, MOST * core.base_diameter_mm / core.top_diameter_mm)
        return CutOutline(MOST, half_base, half_high, 2 * MOST / core.across_mm)
    if kind.figure == "disc":
        return Oval(MOST, MOST, 2 * MOST / core.across_mm)
    wide_mm, high_mm = (
        (core.diameter_mm, core.height_mm) if isinstance(core, Round) else (core.across_mm, core.length_mm)
    )
    wide, high, per_mm = *_within(wide_mm, high_mm), 2 * MOST / max(wide_mm, high_mm)
    if isinstance(core, Round):
        return Oval(wide, high, per_mm)
    if kind.figure == "tier":
        return Bar(wide, min(high, 32.0), 0.0, wide * 0.24, 2 * wide / core.across_mm)
    if isinstance(core, Rod):
        return Bar(wide, high, wide, 0.0, per_mm)
    if kind.figure == "sheet":
        wide, high = high, wide  # it lies
    return Bar(wide, high, min(4.0, wide), 0.0, per_mm)


def _cut_by(ring: list[tuple[float, float]], y: float, lean: float) -> str:
    """What of a ring lies below a line through the middle at `y` that rises by `lean` (Sutherland and Hodgman 1974)."""
    depth = [py - y + lean * (px - MIDDLE) for px, py in ring]
    points: list[tuple[float, float]] = []
    for i, (px, py) in enumerate(ring):
        (qx, qy), a, b = ring[i - 1], depth[i - 1], depth[i]
        if (a < 0) != (b < 0):
            points.append((qx + (px - qx) * a / (a - b), qy + (py - qy) * a / (a - b)))
        if b >= 0:
            points.append((px, py))
    return "M" + "L".join(f"{px:.1f} {py:.1f}" for px, py in points) + "Z" if points else ""


def _within(wide_mm: float, high_mm: float) -> tuple[float, float]:
    most = max(wide_mm, high_mm)
    return MOST * max(SLIM, wide_mm / most), MOST * max(SLIM, high_mm / most)


def _wavy(left: float, right: float, y: float) -> str:
    """A line from left to right that is a little uneven."""
    step = (right - left) / (len(_WAVES) - 1)
    scale = min(1.0, abs(step) / 6)
    return "".join(
        f"Q{left + (i - 0.5) * step:.1f} {y + 1.6 * scale * (-1) ** i:.1f} "
        f"{left + i * step:.1f} {y + _WAVES[i] * scale:.1f}"
        for i in range(1, len(_WAVES))
    )


def _string(points: list[tuple[float, float]]) -> str:
    first, *rest = points
    return f"M{first[0]:.0f} {first[1]:.0f}" + "".join(f"L{x:.0f} {y:.0f}" for x, y in rest)
