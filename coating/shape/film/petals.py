"""Knife petals: a blade dipped, laid on film, lifted and pulled back to a point; built up big to small on a disc.

A ring holds as many as go round where its petals are widest, six tenths along them. Counts and tilts are common
practice, no source.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from coating.flow.material import ORDINARY
from coating.limits import check

SIZES = ((1.0, 15.0), (0.78, 40.0), (0.56, 65.0))  # of the largest petal, and how steeply it stands, degrees
LONG = 1.6  # a petal's length in its widths
MEAN_OF_MIDDLE = 2 / 3  # how thick it is on the whole, of its middle: it thins to its edges
WIDEST = 0.6
SPARES = 0.15
STAMEN_G = 0.05
_DENSITY = ORDINARY.density_kg_m3


@dataclass(frozen=True)
class PetalRing:
    """Petals of one size: how many, how wide and long in mm, and how steeply they stand, degrees."""

    count: int
    wide_mm: float
    long_mm: float
    tilt_deg: float
    begins_mm: float

    def petal_g(self, thickness_mm: float) -> float:
        """One, as an ellipse that thins to its edges."""
        area = math.pi / 4 * self.wide_mm * self.long_mm
        return area * thickness_mm * MEAN_OF_MIDDLE * _DENSITY * 1e-6

    @property
    def spares(self) -> int:
        """How many more to make, for those that break."""
        return math.ceil(SPARES * self.count)


@dataclass(frozen=True)
class Flower:
    """Rings from the largest to the smallest on a disc, mm; how thick a petal is in its middle; stamens."""

    rings: tuple[PetalRing, ...]
    disc_mm: float
    thickness_mm: float
    stamens: int

    @property
    def petals(self) -> int:
        """How many petals stand in all rings."""
        return sum(r.count for r in self.rings)

    @property
    def ring_g(self) -> tuple[float, ...]:
        """What each ring takes, with its spares."""
        return tuple(r.petal_g(self.thickness_mm) * (r.count + r.spares) for r in self.rings)

    @property
    def disc_g(self) -> float:
        """The disc, g."""
        return math.pi / 4 * self.disc_mm**2 * 2.0 * _DENSITY * 1e-6

    @property
    def mass_g(self) -> float:
        """The whole flower, g."""
        return sum(self.ring_g) + self.disc_g + self.stamens * STAMEN_G

    @property
    def across_mm(self) -> float:
        """The flower from tip to tip, mm."""
        outer = self.rings[0]
        return 2 * (outer.begins_mm + outer.long_mm * math.cos(math.radians(outer.tilt_deg)))


def flower(
    wide_mm: float, *, disc_mm: float, thickness_mm: float, sizes: int = 3, overlap: float = 0.1, stamens: int = 20
) -> Flower:
    """A flower of knife petals.

    Parameters
    ----------
    wide_mm : the largest petal, as wide as its blade. disc_mm : what it is built on. thickness_mm : of a petal's
    middle. sizes : one to three blades. overlap : share of its width by which a petal lies under the next.
    stamens : piped in the middle.

    Raises
    ------
    OutOfBounds : a value outside its bounds.
    """
    check("petal_mm", wide_mm, "wide_mm"), check("core_mm", disc_mm, "disc_mm"), check("film_mm", thickness_mm)
    check("petal_sizes", sizes, "sizes"), check("petal_overlap", overlap, "overlap")
    rings = []
    for i, (share, tilt) in enumerate(SIZES[: int(sizes)]):
        wide, begins = share * wide_mm, disc_mm / 2 * (0.8, 0.5, 0.25)[i]
        at = begins + WIDEST * LONG * wide * math.cos(math.radians(tilt))
        count = max(3, round(2 * math.pi * at / (wide * (1 - overlap))))
        rings.append(PetalRing(count, wide, LONG * wide, tilt, begins))
    return Flower(tuple(rings), disc_mm, thickness_mm, int(check("stamens", stamens, "stamens")))
