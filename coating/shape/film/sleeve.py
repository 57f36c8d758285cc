"""Sleeves with a base to hold a filling, and cuffs round a dessert: a strip rolled round a straight vessel."""

from __future__ import annotations

import math
from dataclasses import dataclass

from coating.errors import OutOfBounds
from coating.flow.material import ORDINARY
from coating.limits import check
from coating.shape.film.bending import Bend, bend
from coating.shape.transfer.ring import sleeve_mm

HEADROOM_MM = 4.0  # left free above a filling
BASE_OF_WALL = 1.3  # how thick a base is against its wall; common practice, no source
JOIN_MM2 = 3.0  # section of the bead that joins base and wall
_DENSITY = ORDINARY.density_kg_m3


@dataclass(frozen=True)
class Sleeve:
    """Inner size across, height, thickness and overlap in mm; `base`: closed below with a disc."""

    diameter_mm: float
    height_mm: float
    thickness_mm: float
    overlap_mm: float
    base: bool

    @property
    def strip_mm(self) -> float:
        """How long the strip of film is cut, mm."""
        return sleeve_mm(self.diameter_mm, self.thickness_mm, self.overlap_mm)

    @property
    def bend(self) -> Bend:
        """The bend of the wall."""
        return Bend(self.thickness_mm, self.diameter_mm / 2)

    @property
    def base_thick_mm(self) -> float:
        """How thick the base is, mm; 0 without one."""
        return BASE_OF_WALL * self.thickness_mm if self.base else 0.0

    @property
    def wall_g(self) -> float:
        """The wall, g."""
        return self.strip_mm * self.height_mm * self.thickness_mm * _DENSITY * 1e-6

    @property
    def base_g(self) -> float:
        """The disc, which stands within the wall, and the bead that joins them."""
        if not self.base:
            return 0.0
        disc = math.pi / 4 * self.diameter_mm**2 * self.base_thick_mm
        return (disc + math.pi * self.diameter_mm * JOIN_MM2) * _DENSITY * 1e-6

    @property
    def mass_g(self) -> float:
        """Wall and base, g."""
        return self.wall_g + self.base_g

    @property
    def holds_ml(self) -> float:
        """Of a filling, to a little under the rim; nothing without a base."""
        free = self.height_mm - self.base_thick_mm - HEADROOM_MM
        return math.pi / 4 * self.diameter_mm**2 * max(0.0, free) / 1000 if self.base else 0.0


def sleeve(
    diameter_mm: float,
    height_mm: float,
    *,
    thickness_mm: float,
    overlap_mm: float,
    base: bool = False,
    strip_mm: float | None = None,
) -> Sleeve:
    """A sleeve round a vessel or a dessert.

    Parameters
    ----------
    diameter_mm : of what it is rolled round. height_mm, thickness_mm : of the strip. overlap_mm : of its ends. base :
    with a disc below. strip_mm : how long a strip there is; None: as long as it takes.

    Raises
    ------
    OutOfBounds : a strip shorter than round, a base with no room above it, a bend that tears, or a value outside its
    bounds.
    """
    check("sleeve_mm", height_mm, "height_mm"), check("tier_or_cup_mm", diameter_mm, "diameter_mm")
    bend(thickness_mm, diameter_mm / 2)
    cylinder = Sleeve(diameter_mm, height_mm, thickness_mm, check("overlap_mm", overlap_mm), base)
    if strip_mm is not None and check("strip_mm", strip_mm) < cylinder.strip_mm - 1e-6:
        raise OutOfBounds(
            "A strip of {strip_mm} does not go round {diameter_mm}. It takes {least_mm} with {overlap_mm} overlap.",
            strip_mm=strip_mm,
            diameter_mm=diameter_mm,
            least_mm=cylinder.strip_mm,
            overlap_mm=overlap_mm,
            field="strip_mm",
            low=cylinder.strip_mm,
        )
    if base and height_mm <= cylinder.base_thick_mm + HEADROOM_MM:
        raise OutOfBounds(
            "A sleeve that low leaves no room above its base. Make it higher, or make a cuff.", field="height_mm"
        )
    return cylinder
