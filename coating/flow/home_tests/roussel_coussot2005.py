"""The spread: a spoonful poured on a warm plate, its width read after a minute (Roussel & Coussot 2005).

tau0 = 225 rho g V^2/(128 pi^2 R^5) for a thin cake at rest. A coating has not stopped after a minute: what is read is
too thick by 1 + .25 (30 s/t)^.6, from a numerical solution of the spreading Casson film. A heap that hardly spreads is
read as a slump instead (Pashias, Boger, Summers & Glenister 1996, from memory), joined to the other where they meet, so
that a narrower heap is never read as thinner; it is stiff in any case, and its range is wide.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from coating.errors import OutOfBounds
from coating.flow.material import ORDINARY
from coating.limits import check
from coating.units import GRAVITY

DENSITY_KG_M3 = ORDINARY.density_kg_m3
GOOD, DOUBTFUL = 0.35, 1.0  # sqrt(2 tau0/(rho g R))
RANGES = {"spread": 0.25, "caution": 0.4, "slump": 0.6}  # one in three is further off; estimates
LEAST_SURE_PA, UNSURE = 4.0, 0.5


@dataclass(frozen=True)
class Spread:
    """Yield stress in Pa with its likely range, and how it was read: "spread", "caution" or "slump"."""

    yield_stress_pa: float
    low_pa: float
    high_pa: float
    regime: str


def read_early(wait_s: float) -> float:
    """By how much a spread read after `wait_s` looks too thick.

    >>> round(read_early(30), 2), round(read_early(300), 2)
    (1.25, 1.06)
    """
    return 1 + 0.25 * (30 / wait_s) ** 0.6


def spread(
    *, volume_ml: float, diameter_mm: float, wait_s: float = 60.0, density_kg_m3: float = DENSITY_KG_M3
) -> Spread:
    """Yield stress from how wide a spoonful spreads.

    Parameters
    ----------
    volume_ml : float
        Poured, ml.
    diameter_mm : float
        Across after the wait, mm.
    wait_s : float
        How long it spreads, s.
    density_kg_m3 : float
        Of the melted coating.

    Returns
    -------
    Spread

    Raises
    ------
    OutOfBounds
        A value outside its bounds, or so narrow that it stands taller than it is wide.
    """
    volume_m3 = check("spread_ml", volume_ml, "volume_ml") * 1e-6
    radius_m = check("spread_mm", diameter_mm, "diameter_mm") / 2000
    wait_s = check("spread_wait_s", wait_s, "wait_s")
    pull = check("density_kg_m3", density_kg_m3) * GRAVITY
    early = read_early(wait_s)
    stress = 225 * pull * volume_m3**2 / (128 * math.pi**2 * radius_m**5) / early
    steepness = math.sqrt(2 * stress / (pull * radius_m))
    regime = "spread" if steepness < GOOD else "caution" if steepness < DOUBTFUL else "slump"
    if regime == "slump":
        meet_m = (450 * volume_m3**2 / (128 * math.pi**2 * early)) ** (1 / 6)
        joined = pull * meet_m / 2 / _slumped(volume_m3, meet_m, pull)
        stress = joined * _slumped(volume_m3, radius_m, pull)
    off = max(RANGES[regime], UNSURE if stress < LEAST_SURE_PA else 0.0)
    return Spread(stress, stress * (1 - off), stress * (1 + off), regime)


def _slumped(volume_m3: float, radius_m: float, pull: float) -> float:
    """Yield stress in Pa of a heap that began as a cylinder as tall as wide: s/H = 1 - 2t (1 - ln 2t), t = tau0/GH."""
    tall_m = (4 * volume_m3 / math.pi) ** (1 / 3)
    left = volume_m3 / (math.pi * radius_m**2) / tall_m
    if left >= 1:
        raise OutOfBounds("It did not spread at all. Warm it, or measure it again.", field="diameter_mm")
    low, high = 1e-9, 0.5
    for _ in range(60):
        t = (low + high) / 2
        low, high = (t, high) if 2 * t * (1 - math.log(2 * t)) < left else (low, t)
    return low * pull * tall_m
