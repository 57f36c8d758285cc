"""Cores: what layers go on. Each knows the area that is wetted, its top, its outline and what it holds.

Sizes to choose from are what shops sell: common practice, no source.
"""

from __future__ import annotations

import math
from abc import ABC, abstractmethod
from collections.abc import Mapping
from dataclasses import dataclass, fields
from types import MappingProxyType

from coating.errors import OutOfBounds, UnknownName
from coating.limits import check
from coating.shape.pieces import CakeTier, RoundBiscuit


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
        return self.wetted_mm2(1.0)

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
    """A pretzel rod, a straw, a stick: round and long, dipped end first. A twisted pretzel is a rod of its length."""

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
        raise OutOfBounds("A share is between none and all of it.", field="share", low=0, high=1)
    return share


@dataclass(frozen=True)
class Kind:
    """A kind of core: what it is called, its shape, sizes to choose from (title, dimensions in mm), what it contains.

    `allergens` : what it usually contains; None for what is bought and could be anything, until its pack was read.
    `bought` : comes ready. `breaks` : share that breaks in handling.
    """

    name: str
    title: str
    shape: type[Core]
    sizes: tuple[tuple[str, tuple[float, ...]], ...]
    allergens: tuple[str, ...] | None = ()
    bought: bool = True
    breaks: float = 0.04

    @property
    def usual(self) -> tuple[float, ...]:
        """The size to begin with, mm: the usual one, or the first."""
        return dict(self.sizes).get("usual", self.sizes[0][1])

    @property
    def figure(self) -> str:
        """The word for its outline: disc, block, round, rod, tier, hollow or sheet."""
        return self.shape.__name__.lower()

    def core(self, *size_mm: float) -> Core:
        """One of a size. Raises OutOfBounds; WrongShape for the wrong number of dimensions."""
        return self.shape(*size_mm)


_WHEAT = ("wheat",)
_KINDS = (
    Kind("round_biscuit", "Round biscuit", Disc, (("small", (45, 6)), ("usual", (60, 8)), ("large", (80, 10))), _WHEAT),
    Kind("sandwich_biscuit", "Sandwich biscuit", Disc, (("small", (40, 13)), ("usual", (46, 16)), ("thick", (46, 22))),
         (*_WHEAT, "milk", "soya")),
    Kind("finger_biscuit", "Finger biscuit", Block, (("thin", (80, 18, 9)), ("usual", (95, 25, 12))), _WHEAT),
    Kind("pretzel_twist", "Pretzel twist", Rod, (("small", (150, 6)), ("usual", (230, 8))), _WHEAT, breaks=0.08),
    Kind("pretzel_rod", "Pretzel rod", Rod, (("thin", (120, 6)), ("usual", (190, 12))), _WHEAT, breaks=0.05),
    Kind("ball", "Cake ball or truffle", Round, (("small", (25, 25)), ("usual", (32, 32)), ("large", (40, 40))),
         ("wheat", "milk", "egg"), bought=False, breaks=0.06),
    Kind("berry", "Berry", Round, (("small", (25, 30)), ("usual", (32, 42)), ("large", (40, 55)))),
    Kind("fruit", "Fruit slice or segment", Round, (("segment", (25, 60)), ("apple", (70, 75)))),
    Kind("marshmallow", "Marshmallow", Round, (("usual", (28, 32)), ("large", (40, 45)))),
    Kind("sweet", "Bought sweet", Round, (("small", (15, 15)), ("usual", (25, 25))), None),
    Kind("cup", "Cup to fill", Hollow, (("mini", (30, 22, 18)), ("usual", (50, 38, 25)), ("dessert", (65, 50, 60)))),
    Kind("glass_rim", "Rim of a glass", Tier, (("usual", (70, 110)), ("wide", (95, 90)))),
    Kind("mould", "Mould", Hollow, (("praline", (29, 24, 15)), ("bar", (60, 56, 10)), ("half ball", (60, 20, 30)),
                                    ("big shell", (110, 60, 55))), bought=False),
    Kind("cake_tier", "Tier of a cake", Tier, (("small", (150, 100)), ("usual", (200, 110)), ("large", (260, 110))),
         ("wheat", "milk", "egg"), bought=False, breaks=0.0),
    Kind("dessert", "Dessert", Tier, (("mousse", (60, 50)), ("tart", (90, 25))), ("milk", "egg"), bought=False),
    Kind("slab", "Slab or bark", Sheet, (("small", (200, 150)), ("tray", (330, 230))), bought=False, breaks=0.0),
    Kind("shape", "Piped or spread shape", Sheet, (("small", (30, 30)), ("usual", (50, 50)), ("large", (90, 90))),
         bought=False, breaks=0.15),
    Kind("panel", "Flat panel", Block, (("wall", (120, 90, 6)), ("roof", (140, 80, 6)), ("gable", (90, 120, 6))),
         _WHEAT, bought=False, breaks=0.06),
)  # fmt: skip
KINDS: Mapping[str, Kind] = MappingProxyType({k.name: k for k in _KINDS})


def kind_of_core(name: str) -> Kind:
    """The kind of that name. Raises UnknownName."""
    if name not in KINDS:
        raise UnknownName(f"There is no core called {name[:60]!r}.", field="core", choices=list(KINDS))
    return KINDS[name]
