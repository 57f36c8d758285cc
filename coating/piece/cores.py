"""Cores: what layers go on. Each knows the area that is wetted, its top, its outline and what it holds."""

from __future__ import annotations

import math
from abc import ABC, abstractmethod
from dataclasses import dataclass, fields

from coating.errors import OutOfBounds
from coating.limits import check
from coating.shape.pieces import CakeTier, RoundBiscuit

# The string of a twist, in widths of it, as it is drawn; how high that is; how much of it lies free. Measured of the
# drawing; assumption.
TWIST_ROPE, TWIST_HIGH, TWIST_FREE = 4.27, 0.87, 0.9


@dataclass(frozen=True)
class Core(ABC):
    """Abstract. All lengths in mm, areas in mm2, volumes in ml."""

    def __post_init__(self) -> None:
        for f in fields(self):
            check("core_mm", getattr(self, f.name), f.name)

    @property
    @abstractmethod
    def length_mm(self) -> float:
        """How far it goes in when it goes in all the way."""

    @property
    @abstractmethod
    def across_mm(self) -> float:
        """How wide a bowl it wants."""

    @abstractmethod
    def wetted_mm2(self, share: float) -> float:
        """Area wetted when a share (0 to 1) of its length is dipped; 1 is all of it."""

    @property
    @abstractmethod
    def top_mm2(self) -> float:
        """The face that looks up when it lies or stands."""

    @property
    @abstractmethod
    def outline_mm(self) -> float:
        """Round the edge of its top."""

    @property
    def whole_mm2(self) -> float:
        """What is wetted when the whole of it goes in, mm2."""
        return self.wetted_mm2(1.0)

    @property
    def runs_mm(self) -> float:
        """How far down a coat runs at most, before it drips off: as a rule, as far as there is something below."""
        return math.inf

    @property
    def inside_mm2(self) -> float:
        """The wall that a shell covers; none for what is not hollow."""
        return 0.0

    @property
    def holds_ml(self) -> float:
        """What goes in, level with the brim; nothing for what is not hollow."""
        return 0.0


@dataclass(frozen=True)
class Disc(Core):
    """A round biscuit, a sandwich biscuit, a plaque: dipped edge first."""

    diameter_mm: float
    thickness_mm: float

    @property
    def length_mm(self) -> float:
        return self.diameter_mm

    @property
    def across_mm(self) -> float:
        return self.diameter_mm

    def wetted_mm2(self, share: float) -> float:
        biscuit = RoundBiscuit(self.diameter_mm, self.thickness_mm)
        return biscuit.dipped_area_mm2(_share(share) * self.diameter_mm)

    @property
    def top_mm2(self) -> float:
        return math.pi / 4 * self.diameter_mm**2

    @property
    def outline_mm(self) -> float:
        return math.pi * self.diameter_mm


@dataclass(frozen=True)
class Block(Core):
    """A finger biscuit, a bar, a marshmallow, a flat panel: dipped end first."""

    long_mm: float
    width_mm: float
    thickness_mm: float

    @property
    def length_mm(self) -> float:
        return self.long_mm

    @property
    def across_mm(self) -> float:
        return max(self.width_mm, self.thickness_mm)

    def wetted_mm2(self, share: float) -> float:
        ends = self.width_mm * self.thickness_mm
        depth = _share(share) * self.long_mm
        return 2 * (self.width_mm + self.thickness_mm) * depth + ends * (2 if share >= 1 else 1 if share > 0 else 0)

    @property
    def top_mm2(self) -> float:
        return self.long_mm * self.width_mm

    @property
    def outline_mm(self) -> float:
        return 2 * (self.long_mm + self.width_mm)


@dataclass(frozen=True)
class Round(Core):
    """A ball, a berry, a fruit: a body of revolution as wide as `diameter_mm` and as tall as `height_mm`."""

    diameter_mm: float
    height_mm: float

    @property
    def length_mm(self) -> float:
        return self.height_mm

    @property
    def across_mm(self) -> float:
        return self.diameter_mm

    def wetted_mm2(self, share: float) -> float:
        """In closed form: 2 pi a c times the integral of sqrt(1 + k u2) over the height in u, with k = (a / c)2 - 1."""
        a, c = self.diameter_mm / 2, self.height_mm / 2
        u = 2 * _share(share) - 1
        return 2 * math.pi * a * c * (_meridian(u, (a / c) ** 2 - 1) - _meridian(-1.0, (a / c) ** 2 - 1))

    @property
    def top_mm2(self) -> float:
        return self.whole_mm2 / 2

    @property
    def outline_mm(self) -> float:
        return math.pi * self.diameter_mm


@dataclass(frozen=True)
class Rod(Core):
    """A pretzel rod, a straw, a stick: round and long, dipped end first."""

    long_mm: float
    diameter_mm: float

    @property
    def length_mm(self) -> float:
        return self.long_mm

    @property
    def across_mm(self) -> float:
        return self.diameter_mm

    def wetted_mm2(self, share: float) -> float:
        ends = math.pi / 4 * self.diameter_mm**2 * (2 if share >= 1 else 1 if share > 0 else 0)
        return math.pi * self.diameter_mm * _share(share) * self.long_mm + ends

    @property
    def top_mm2(self) -> float:
        return math.pi / 2 * self.diameter_mm * self.long_mm

    @property
    def outline_mm(self) -> float:
        return 2 * (self.long_mm + self.diameter_mm)


@dataclass(frozen=True)
class Twist(Core):
    """A pretzel twist: a string knotted as it is drawn, so wide from arm to arm; how long the string is follows.

    The lower third of the knot has 34 % of its string, the lower half 49 %: its share is taken as that of the height.
    """

    width_mm: float
    string_mm: float

    @property
    def length_mm(self) -> float:
        return TWIST_HIGH * self.width_mm

    @property
    def across_mm(self) -> float:
        return self.width_mm

    @property
    def rope_mm(self) -> float:
        """How long its string is, mm."""
        return TWIST_ROPE * self.width_mm

    @property
    def runs_mm(self) -> float:
        """From the top of the string to half way round it: then it drips off between."""
        return self.string_mm / 2

    def wetted_mm2(self, share: float) -> float:
        return math.pi * self.string_mm * self.rope_mm * TWIST_FREE * _share(share)

    @property
    def top_mm2(self) -> float:
        return self.string_mm * self.rope_mm * TWIST_FREE

    @property
    def outline_mm(self) -> float:
        return math.pi * self.width_mm


@dataclass(frozen=True)
class Tier(Core):
    """A tier of a cake or a dessert that stands: its side and its top."""

    diameter_mm: float
    height_mm: float

    @property
    def length_mm(self) -> float:
        return self.height_mm

    @property
    def across_mm(self) -> float:
        return self.diameter_mm

    def wetted_mm2(self, share: float) -> float:
        return math.pi * self.diameter_mm * self.height_mm * _share(share) + (self.top_mm2 if share >= 1 else 0.0)

    @property
    def top_mm2(self) -> float:
        return CakeTier(self.diameter_mm, self.height_mm).top_mm2

    @property
    def outline_mm(self) -> float:
        return math.pi * self.diameter_mm


@dataclass(frozen=True)
class Hollow(Core):
    """A mould, a cup, a bowl: a cone cut off, open above, as deep as `depth_mm`. Layers go in."""

    top_diameter_mm: float
    base_diameter_mm: float
    depth_mm: float

    @property
    def length_mm(self) -> float:
        return self.depth_mm

    @property
    def across_mm(self) -> float:
        return self.top_diameter_mm

    def wetted_mm2(self, share: float) -> float:
        return self.inside_mm2 * _share(share)

    @property
    def top_mm2(self) -> float:
        return math.pi / 4 * self.top_diameter_mm**2

    @property
    def outline_mm(self) -> float:
        return math.pi * self.top_diameter_mm

    @property
    def inside_mm2(self) -> float:
        big, small = self.top_diameter_mm / 2, self.base_diameter_mm / 2
        return math.pi * (big + small) * math.hypot(big - small, self.depth_mm) + math.pi * small**2

    @property
    def holds_ml(self) -> float:
        big, small = self.top_diameter_mm / 2, self.base_diameter_mm / 2
        return math.pi * self.depth_mm / 3 * (big**2 + big * small + small**2) / 1000


@dataclass(frozen=True)
class Sheet(Core):
    """What is spread or poured by itself on film or paper: a slab, bark, a strip, a shape to lift off."""

    long_mm: float
    width_mm: float

    @property
    def length_mm(self) -> float:
        return self.long_mm

    @property
    def across_mm(self) -> float:
        return self.width_mm

    def wetted_mm2(self, share: float) -> float:
        return self.top_mm2 * _share(share)

    @property
    def top_mm2(self) -> float:
        return self.long_mm * self.width_mm

    @property
    def outline_mm(self) -> float:
        return 2 * (self.long_mm + self.width_mm)


def _meridian(u: float, k: float) -> float:
    """The integral of sqrt(1 + k u2) from 0 to u."""
    root = math.sqrt(max(0.0, 1 + k * u * u))
    if abs(k) < 1e-9:
        return u
    scale = math.sqrt(abs(k))
    arc = math.asinh(scale * u) if k > 0 else math.asin(max(-1.0, min(1.0, scale * u)))
    return 0.5 * (u * root + arc / scale)


def _share(share: float) -> float:
    if not 0 <= share <= 1:
        raise OutOfBounds("A share must be between nothing and all of it.", field="share", low=0, high=1)
    return share
