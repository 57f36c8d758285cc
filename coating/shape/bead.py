"""A piped line after it has settled: as wide as its yield stress lets it spread.

The ridge of a fluid with a yield stress stands as h^2 = 2 tau0 x/(rho g) from either edge (thin ridge, plane), so that
its height is sqrt(tau0 w/(rho g)) and its section two thirds of height times width. A round bead of diameter d has the
same section when w/d = [(3 pi/8)^2 rho g d/tau0]^(1/3). Derived.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from coating.flow.material import ORDINARY, Material
from coating.limits import check
from coating.units import GRAVITY


@dataclass(frozen=True)
class Bead:
    """A settled line: width and height in mm."""

    width_mm: float
    height_mm: float


def settled_bead(bead_mm: float, yield_stress_pa: float, *, material: Material = ORDINARY) -> Bead:
    """How a line leaves itself; one that stands as it was pressed keeps its round section.

    Parameters
    ----------
    bead_mm : diameter as pressed, mm. yield_stress_pa : Pa, above 0. material : what it is of.

    Raises
    ------
    OutOfBounds : a value outside its bounds.

    >>> round(settled_bead(2, 12).width_mm / 2, 3)
    1.419
    """
    d_m = check("bead_mm", bead_mm) / 1000
    pull = material.density_kg_m3 * GRAVITY
    tau0 = check("standing_pa", yield_stress_pa, "yield_stress_pa")
    spread = ((3 * math.pi / 8) ** 2 * pull * d_m / tau0) ** (1 / 3)
    if spread <= 1:
        return Bead(bead_mm, bead_mm)
    width_m = d_m * spread
    return Bead(width_m * 1000, math.sqrt(tau0 * width_m / pull) * 1000)
