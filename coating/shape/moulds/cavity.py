"""Cavities: how much one holds and how large its wall is, from its shape and a few lengths."""

from __future__ import annotations

import math
from abc import ABC, abstractmethod
from dataclasses import dataclass, fields, replace

from coating.limits import check


@dataclass(frozen=True)
class Cavity(ABC):
    """Abstract; lengths in mm, areas in mm2, volumes in ml. Open above."""

    def __post_init__(self) -> None:
        for f in fields(self):
            check("core_mm", getattr(self, f.name), f.name)

    @property
    @abstractmethod
    def deep_mm(self) -> float:
        """How deep it is, mm."""

    @property
    @abstractmethod
    def across_mm(self) -> float:
        """The widest way over its opening."""

    @property
    @abstractmethod
    def span_mm(self) -> float:
        """The narrower way over its opening: what a lid or a flat wall spans."""

    @property
    @abstractmethod
    def open_mm2(self) -> float:
        """The opening, mm2."""

    @property
    @abstractmethod
    def rim_mm(self) -> float:
        """The way round its opening."""

    @property
    @abstractmethod
    def wall_mm2(self) -> float:
        """All that a shell covers."""

    @abstractmethod
    def holds_to_ml(self, high_mm: float) -> float:
        """Filled so high from the bottom."""

    @abstractmethod
    def within(self, wall_mm: float) -> Cavity | None:
        """What is left inside a shell so thick, its rim level with the mould's; None where nothing is."""

    @property
    def holds_ml(self) -> float:
        """What it holds when it is full, ml."""
        return self.holds_to_ml(self.deep_mm)

    def scaled(self, factor: float) -> Cavity:
        """The same form, larger or smaller by a factor."""
        return replace(self, **{f.name: factor * getattr(self, f.name) for f in fields(self)})

    def for_ml(self, volume_ml: float) -> Cavity:
        """The same shape, holding so much."""
        return self.scaled((check("layer_ml", volume_ml, "volume_ml") / self.holds_ml) ** (1 / 3))


@dataclass(frozen=True)
class Sided(Cavity):
    """What is as long, as wide and as deep as said."""

    long_mm: float
    wide_mm: float
    depth_mm: float

    @property
    def deep_mm(self) -> float:
        """How deep it is, mm."""
        return self.depth_mm

    @property
    def across_mm(self) -> float:
        return max(self.long_mm, self.wide_mm)

    @property
    def span_mm(self) -> float:
        return min(self.long_mm, self.wide_mm)


@dataclass(frozen=True)
class Dome(Sided):
    """Half of a ball or of an egg lying down: round below, as wide and long as said, so deep."""

    @property
    def open_mm2(self) -> float:
        """The opening, an ellipse, mm2."""
        return math.pi / 4 * self.long_mm * self.wide_mm

    @property
    def rim_mm(self) -> float:
        a, b = self.long_mm / 2, self.wide_mm / 2
        h = ((a - b) / (a + b)) ** 2
        return math.pi * (a + b) * (1 + 3 * h / (10 + math.sqrt(4 - 3 * h)))  # Ramanujan 1914

    @property
    def wall_mm2(self) -> float:
        """Half an ellipsoid, within 1.1 per cent (Thomsen 2004)."""
        a, b, c, p = self.long_mm / 2, self.wide_mm / 2, self.depth_mm, 1.6075
        mean = ((a * b) ** p + (a * c) ** p + (b * c) ** p) / 3
        return float(2 * math.pi * mean ** (1 / p))

    def holds_to_ml(self, high_mm: float) -> float:
        h = min(max(high_mm, 0.0), self.depth_mm) / self.depth_mm
        return math.pi / 4 * self.long_mm * self.wide_mm * self.depth_mm * (h**2 - h**3 / 3) / 1000

    def within(self, wall_mm: float) -> Dome | None:
        left = (self.long_mm - 2 * wall_mm, self.wide_mm - 2 * wall_mm, self.depth_mm - wall_mm)
        return Dome(*left) if min(left) > 1 else None


@dataclass(frozen=True)
class Cone(Cavity):
    """A cone cut off: a cup, a praline, a flower pot."""

    top_mm: float
    base_mm: float
    depth_mm: float

    @property
    def deep_mm(self) -> float:
        """How deep it is, mm."""
        return self.depth_mm

    @property
    def across_mm(self) -> float:
        return self.top_mm

    @property
    def span_mm(self) -> float:
        return self.top_mm

    @property
    def open_mm2(self) -> float:
        """The opening, a circle, mm2."""
        return math.pi / 4 * self.top_mm**2

    @property
    def rim_mm(self) -> float:
        return math.pi * self.top_mm

    @property
    def wall_mm2(self) -> float:
        big, small = self.top_mm / 2, self.base_mm / 2
        return math.pi * (big + small) * math.hypot(big - small, self.depth_mm) + math.pi * small**2

    def holds_to_ml(self, high_mm: float) -> float:
        h = min(max(high_mm, 0.0), self.depth_mm)
        small = self.base_mm / 2
        big = small + (self.top_mm / 2 - small) * h / self.depth_mm
        return math.pi * h / 3 * (big**2 + big * small + small**2) / 1000

    def within(self, wall_mm: float) -> Cone | None:
        """A wall that leans is measured across it."""
        lean = math.hypot(self.depth_mm, (self.top_mm - self.base_mm) / 2) / self.depth_mm
        off = 2 * wall_mm * lean
        rise = (self.top_mm - self.base_mm) * wall_mm / self.depth_mm  # its base lies so much higher
        left = (self.top_mm - off, self.base_mm + rise - off, self.depth_mm - wall_mm)
        return Cone(*left) if min(left) > 1 else None


@dataclass(frozen=True)
class Tray(Sided):
    """A box: a bar, a lolly, a letter as wide and long as its strokes together."""

    @property
    def open_mm2(self) -> float:
        """The opening, a rectangle, mm2."""
        return self.long_mm * self.wide_mm

    @property
    def rim_mm(self) -> float:
        return 2 * (self.long_mm + self.wide_mm)

    @property
    def wall_mm2(self) -> float:
        return self.open_mm2 + self.rim_mm * self.depth_mm

    def holds_to_ml(self, high_mm: float) -> float:
        return self.open_mm2 * min(max(high_mm, 0.0), self.depth_mm) / 1000

    def within(self, wall_mm: float) -> Tray | None:
        left = (self.long_mm - 2 * wall_mm, self.wide_mm - 2 * wall_mm, self.depth_mm - wall_mm)
        return Tray(*left) if min(left) > 1 else None
