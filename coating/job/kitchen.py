"""The kitchen a job is made in: how it melts, sets and measures, and what there is of vessels, moulds and places."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, field
from types import MappingProxyType

from coating.colour.mixing import Ingredient
from coating.heat.schools import ORDINARY_W
from coating.learning.factors import NOTHING, Factors
from coating.quantities import Measures, measurable_g

ROUND_UP_G = 10.0
# Narrow glasses, mugs and bowls that a kitchen has, across, mm; common practice, no source.
VESSELS_MM = (55.0, 70.0, 90.0, 120.0, 150.0, 200.0, 250.0)


@dataclass(frozen=True)
class Mould:
    """Moulds of one kind that there are: the core they cast, its size in mm, cavities in one, how many of them."""

    core: str
    size_mm: tuple[float, ...]
    cavities: int
    count: int = 1


@dataclass(frozen=True)
class Kitchen:
    """`measures` : scale or spoons. `school`, `oven_w` : how it melts. `room_c`, `humidity` : degC and 0 to 1. `cold` :
    where things are put to set: "room", "fridge" or "freezer". `vessels_mm` : how wide bowls are. `stand_places` : to
    stand what was dipped, 0 for as many as it takes. `places` : in the fridge and the freezer, where they are few.
    `paces` : seconds for one of a technique, where they are not as assumed. `factors` : what this kitchen learned."""

    measures: Measures = Measures()
    school: str = "half_power"
    oven_w: float = ORDINARY_W
    room_c: float = 21.0
    humidity: float = 0.6
    cold: str = "room"
    vessels_mm: tuple[float, ...] = VESSELS_MM
    moulds: tuple[Mould, ...] = ()
    stand_places: int = 0
    places: Mapping[str, int] = field(default_factory=lambda: MappingProxyType({}))
    hands: int = 1
    paces: tuple[tuple[str, float], ...] = ()
    factors: Factors = NOTHING

    def pace(self, technique: str, assumed_s: float) -> float:
        """How much longer hands take over a technique than is assumed: as was said of it, else as was learned."""
        own_s = dict(self.paces).get(technique)
        return self.factors.pace if own_s is None or assumed_s <= 0 else own_s / assumed_s

    @property
    def wheres(self) -> tuple[str, ...]:
        """Where things can be put to set: where the maker likes it first, and never where there is no place."""
        cold = [p for p in (self.cold, "fridge", "freezer") if p != "room" and self.places.get(p, 1)]
        return tuple(dict.fromkeys(["room", *cold] if self.cold == "room" else [*cold, "room"]))

    def vessel_mm(self, wide_mm: float) -> float:
        """The smallest bowl as wide as that; a little wider than it where none is."""
        return next((v for v in sorted(self.vessels_mm) if v >= wide_mm), wide_mm)

    def measured_g(self, mass_g: float, base: Ingredient | None) -> float:
        """What can be measured at or above a mass in g: by tens on a scale, in whole pieces of base without one."""
        if mass_g <= 0:
            return 0.0
        if self.measures.has_scale:
            return math.ceil(mass_g / ROUND_UP_G - 1e-9) * ROUND_UP_G
        family, piece_g = (base.family, base.piece_g) if base else ("palm", 0.0)
        return measurable_g(mass_g, self.measures, family=family, piece_g=piece_g)
