"""A bow of loops on a disc: a strip's ends joined is a drop, and rings of drops are set one upon the other.

A drop is a round end and two straight sides that meet at its point under twice the half-angle a; with the radius r its
edge is 2 r cot a + r (pi + 2 a) long and it is r (1 + 1/sin a) deep. Loops of the first ring touch; those of the next
are tilted and have the room that is left.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from coating.errors import OutOfBounds
from coating.flow.material import ORDINARY
from coating.limits import check
from coating.shape.film.bending import Bend, bend

TILTS_DEG = (0.0, 35.0, 65.0)
SPARES = 0.1  # share that breaks; common practice, no source
DISC_OF_LOOP = 0.8  # the disc against how deep a loop is
LOCK_G = 0.5  # drizzled over the points of a loop to lock it
_DENSITY = ORDINARY.density_kg_m3


@dataclass(frozen=True)
class Bow:
    """The strip of a loop in mm, the half-angle of a loop, and how many loops each ring has, the lowest first."""

    strip_mm: float
    wide_mm: float
    thickness_mm: float
    half_angle_rad: float
    rings: tuple[int, ...]

    @property
    def radius_mm(self) -> float:
        """How tightly a loop turns, mm."""
        a = self.half_angle_rad
        return self.strip_mm / (2 / math.tan(a) + math.pi + 2 * a)

    @property
    def deep_mm(self) -> float:
        """From the point of a loop to its round end."""
        return self.radius_mm * (1 + 1 / math.sin(self.half_angle_rad))

    @property
    def across_mm(self) -> float:
        """The whole bow, across, mm."""
        return 2 * self.deep_mm

    @property
    def disc_mm(self) -> float:
        """The disc the loops stand on, across, mm."""
        return DISC_OF_LOOP * self.deep_mm

    @property
    def loops(self) -> int:
        """How many loops the bow has."""
        return sum(self.rings)

    @property
    def spares(self) -> int:
        """How many more to make, for those that break."""
        return math.ceil(SPARES * self.loops)

    @property
    def bend(self) -> Bend:
        """The bend of a loop."""
        return Bend(self.thickness_mm, self.radius_mm)

    @property
    def loop_g(self) -> float:
        """One loop, g."""
        return self.strip_mm * self.wide_mm * self.thickness_mm * _DENSITY * 1e-6

    @property
    def disc_g(self) -> float:
        """The disc, g."""
        return math.pi / 4 * self.disc_mm**2 * 1.3 * self.thickness_mm * _DENSITY * 1e-6

    @property
    def lock_g(self) -> float:
        """What glues the loops on, g."""
        return LOCK_G * self.loops

    @property
    def mass_g(self) -> float:
        """Loops with their spares, the disc, and what locks them."""
        return self.loop_g * (self.loops + self.spares) + self.disc_g + self.lock_g


def bow(strip_mm: float, wide_mm: float, *, thickness_mm: float, around: int = 8, rings: int = 3) -> Bow:
    """A bow.

    Parameters
    ----------
    strip_mm, wide_mm, thickness_mm : of the strip of one loop. around : loops in the lowest ring, 5 to 14.
    rings : one to three.

    Raises
    ------
    OutOfBounds : a loop too tight for its thickness, a strip wider than its loop is deep, or a value outside its
    bounds.
    """
    check("strip_mm", strip_mm), check("piece_side_mm", wide_mm, "wide_mm")
    first, many = int(check("bow_loops", around, "around")), int(check("bow_rings", rings, "rings"))
    half = math.pi / first
    counts = tuple(max(1, int(first * math.cos(math.radians(tilt)) + 1e-9)) for tilt in TILTS_DEG[:many])
    shape = Bow(strip_mm, wide_mm, thickness_mm, half, counts)
    bend(thickness_mm, shape.radius_mm)
    if wide_mm > shape.deep_mm:
        raise OutOfBounds(
            "A loop of that strip is {deep_mm} deep. Cut the strip narrower than that, or longer.",
            deep_mm=shape.deep_mm,
            field="wide_mm",
            high=shape.deep_mm,
        )
    return shape
