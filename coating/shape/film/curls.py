"""Curls: a rectangle spread on film and cut from corner to corner is two long triangles, each wound into a glass."""

from __future__ import annotations

import math
from dataclasses import dataclass

from coating.flow.material import ORDINARY
from coating.limits import check
from coating.shape.film.bending import Bend, bend

_DENSITY = ORDINARY.density_kg_m3


@dataclass(frozen=True)
class Curl:
    """One of the two triangles: how long and wide at its foot, how thick, and the glass it is wound into, mm."""

    long_mm: float
    wide_mm: float
    thickness_mm: float
    glass_mm: float

    @property
    def slant_rad(self) -> float:
        """How steeply it winds, so that it never lies on itself: up by its own width a turn."""
        return math.atan(self.wide_mm / (math.pi * self.glass_mm)) if self.turns_level > 1 else 0.0

    @property
    def turns_level(self) -> float:
        """Turns if it were laid level."""
        return self.long_mm / (math.pi * self.glass_mm)

    @property
    def turns(self) -> float:
        """How often it winds round the glass."""
        return self.turns_level * math.cos(self.slant_rad)

    @property
    def high_mm(self) -> float:
        """How high it stands in the glass: the climb, and at the foot its width."""
        return max(self.wide_mm * math.cos(self.slant_rad), self.long_mm * math.sin(self.slant_rad))

    @property
    def bend(self) -> Bend:
        """The bend of a curl round its glass."""
        return Bend(self.thickness_mm, self.glass_mm / 2)

    @property
    def mass_g(self) -> float:
        """Of one: half its rectangle."""
        return self.long_mm * self.wide_mm / 2 * self.thickness_mm * _DENSITY * 1e-6


def curl(long_mm: float, wide_mm: float, *, thickness_mm: float, glass_mm: float) -> Curl:
    """Raises OutOfBounds for a bend that tears, or a value outside its bounds."""
    check("strip_mm", long_mm, "long_mm"), check("piece_side_mm", wide_mm, "wide_mm")
    bend(thickness_mm, check("tier_or_cup_mm", glass_mm, "glass_mm") / 2)
    return Curl(long_mm, wide_mm, thickness_mm, glass_mm)


def rectangles(count: int) -> int:
    """Two from one."""
    return -(-int(check("count", count)) // 2)
