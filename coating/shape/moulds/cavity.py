"""Cavities: how much one holds and how large its wall is, from its shape and a few lengths; or from water on a scale.

Sizes of the presets are what shops sell: common practice, no source.
"""

from __future__ import annotations

import math
from abc import ABC, abstractmethod
from dataclasses import dataclass, fields, replace
from types import MappingProxyType

from coating.errors import OutOfBounds, UnknownName
from coating.limits import check


@dataclass(frozen=True)
class Cavity(ABC):
    """Abstract; lengths in mm, areas in mm2, volumes in ml. Open above."""

    def __post_init__(self) -> None:
        for f in fields(self):
            check("core_mm", getattr(self, f.name), f.name)

    @property
    @abstractmethod
    def deep_mm(self) -> float: ...

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
    def open_mm2(self) -> float: ...

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
        return self.holds_to_ml(self.deep_mm)

    def scaled(self, factor: float) -> Cavity:
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
        return self.depth_mm

    @property
    def across_mm(self) -> float:
        return self.top_mm

    @property
    def span_mm(self) -> float:
        return self.top_mm

    @property
    def open_mm2(self) -> float:
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


@dataclass(frozen=True)
class Preset:
    """A mould to begin with: its picture is its shape. `detail_mm`: the finest groove of it. `cavities`: in one
    mould."""

    name: str
    title: str
    says: str
    cavity: Cavity
    cavities: int
    detail_mm: float = 2.0


PRESETS = MappingProxyType({p.name: p for p in (
    Preset("praline", "Praline", "a thumb across", Cone(29, 24, 15), 24),
    Preset("half_ball", "Half ball", "an egg cup", Dome(40, 40, 20), 15),
    Preset("big_dome", "Big dome", "a hand across", Dome(120, 120, 60), 2),
    Preset("long_dome", "Long dome", "a small boat", Dome(140, 90, 40), 2),
    Preset("bar", "Bar", "a phone, thin", Tray(140, 65, 9), 3, 1.5),
    Preset("lolly", "Lolly", "two coins thick", Cone(55, 50, 8), 6),
    Preset("letters", "Letters and fine shapes", "a stamp", Tray(30, 18, 6), 20, 0.8),
    Preset("small_parts", "Small parts", "a fingernail", Dome(14, 12, 5), 30, 0.8),
    Preset("cup", "Cup", "a muffin", Cone(65, 50, 40), 6),
    Preset("cube", "Cube", "a die, large", Tray(28, 28, 28), 15),
)})  # fmt: skip


def preset(name: str) -> Preset:
    """Raises UnknownName."""
    if name not in PRESETS:
        raise UnknownName(f"There is no mould called {name[:40]!r}.", field="preset", choices=list(PRESETS))
    return PRESETS[name]


def from_water(name: str, water_g: float, cavities: int) -> Cavity:
    """A preset's shape, as large as the water that fills so many cavities weighs. Raises UnknownName, OutOfBounds."""
    many = int(check("cavities", cavities))
    if check("mass_g", water_g, "water_g") <= 0:
        raise OutOfBounds("Weigh the water that fills it.", field="water_g")
    return preset(name).cavity.for_ml(water_g / many)
