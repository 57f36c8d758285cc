"""A burst plan: how long in the microwave, and how warm it then is.

A burst is as long as half of the bowl could take up all of it, its heat of melting counted, and stay under the
ceiling; 30 s at most, 60 at half power. Chocolate and less than 170 g are treated with more care: there half the way to
48 degC is kept in hand as if nothing were left to melt. Each is stirred in before the next. A coating is taken off the
heat with a tenth of it solid: stirring melts that. `coating.heat.melting.coupling` says how much of the power it takes.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from coating.beliefs import OVEN_SD, RANGE_SD
from coating.errors import OutOfBounds, WouldScorch
from coating.heat.melting import (
    CEILING_C,
    COUPLING,
    LONGEST_BURST_S,
    SHORTEST_BURST_S,
    SMALL_G,
    coupling,
    warmed_temperature_c,
)
from coating.heat.melting_curve import MELTS_AT_C, PALM, SPECIFIC_HEAT_LIQUID, Heap, MeltingCurve, heat_j
from coating.limits import check

_MOST = 200
STIRS_OUT = 0.1  # share of lumps that stirring melts; common practice, no source


@dataclass(frozen=True)
class BurstPlan:
    """Bursts in s, and the temperature in degC and the share still solid after each was stirred in."""

    bursts_s: tuple[float, ...]
    predicted_c: tuple[float, ...]
    solid_fractions: tuple[float, ...]

    @property
    def all_s(self) -> float:
        """Seconds of all bursts together."""
        return sum(self.bursts_s)

    @property
    def likely(self) -> tuple[int, int]:
        """How many bursts it likely takes, at least and at most: ovens give more or less than they are rated for.

        >>> BurstPlan((20.0,) * 6, (35.0,) * 6, (0.0,) * 6).likely
        (4, 9)
        """
        wide = math.exp(RANGE_SD * OVEN_SD)
        return max(1, math.floor(len(self.bursts_s) / wide)), math.ceil(len(self.bursts_s) * wide)

    @property
    def rows(self) -> tuple[tuple[float, float, float], ...]:
        """Burst in s, temperature in degC and share still solid after it."""
        return tuple(zip(self.bursts_s, self.predicted_c, self.solid_fractions, strict=True))


def burst_plan(
    mass_g: float,
    *,
    start_c: float,
    target_c: float,
    power_w: float,
    power_fraction: float = 0.5,
    solid_fraction: float | None = None,
    fixed_s: float | None = None,
    ceiling_c: float = CEILING_C,
    curve: MeltingCurve = PALM,
) -> BurstPlan:
    """Bursts that take a mass to a temperature and never past it.

    Parameters
    ----------
    mass_g : g. start_c, target_c : degC. power_w : rated. power_fraction : setting. solid_fraction : still unmelted;
    None: all of it below 32 degC, nothing above. fixed_s : the school's burst, shortened where it would overheat.
    ceiling_c : never to be passed: where it scorches (48 degC for white), or 33 where temper is lost.
    curve : how its fat melts.

    Raises
    ------
    OutOfBounds : a value outside its bounds, or a target above the ceiling.
    WouldScorch : so little that even 3 s overheat it; `least_g` says how much it takes.
    """
    mass_g, start_c = check("mass_g", mass_g), check("temperature_c", start_c, "start_c")
    target_c = check("temperature_c", target_c, "target_c")
    setting = check("power_fraction", power_fraction)
    rated = check("oven_w", power_w, "power_w") * setting
    power, at_worst = rated * coupling(mass_g), rated * COUPLING
    if target_c > ceiling_c:
        why = "it scorches and thickens for good" if ceiling_c >= CEILING_C else "its temper would be lost"
        raise OutOfBounds(
            "Do not heat it above {ceiling_c}: " + why + ".", ceiling_c=ceiling_c, field="target_c", high=ceiling_c
        )
    room_k = ceiling_c - (MELTS_AT_C if ceiling_c >= CEILING_C else min(start_c, target_c))
    least_g = SHORTEST_BURST_S * at_worst / (room_k * SPECIFIC_HEAT_LIQUID) * 1000
    if mass_g < least_g:
        raise WouldScorch(
            "{mass_g} is too little for this oven. Take {least_g} or more, a lower setting, or a bowl of warm water.",
            mass_g=mass_g,
            field="mass_g",
            least_g=least_g,
        )
    solid = (1.0 if start_c < MELTS_AT_C else 0.0) if solid_fraction is None else solid_fraction
    whole = curve.is_sharp and mass_g >= SMALL_G and solid > STIRS_OUT
    longest = fixed_s or (min(2 * LONGEST_BURST_S, LONGEST_BURST_S / setting) if whole else LONGEST_BURST_S)
    warm, steps = start_c, list[tuple[float, float, float]]()
    while len(steps) < _MOST and not (whole and solid <= STIRS_OUT):
        left = _seconds_to(Heap(mass_g, warm, solid), target_c, power, curve)
        if left < SHORTEST_BURST_S / 2:
            break
        if fixed_s is None and not whole:
            safe = (ceiling_c - warm) * mass_g / 1000 * SPECIFIC_HEAT_LIQUID / (2 * at_worst)
        else:
            safe = heat_j((Heap(mass_g, warm, solid),), ceiling_c, curve) / (2 * (power if whole else at_worst))
        burst = min(longest, max(SHORTEST_BURST_S, safe))
        burst = float(min(round(burst) if whole else max(SHORTEST_BURST_S, int(burst)), int(left + 0.5)))
        warm, solid = warmed_temperature_c(mass_g, warm, burst * power, solid_fraction=solid, curve=curve)
        steps.append((burst, warm, solid))
    bursts, temperatures, solids = zip(*steps, strict=True) if steps else ((), (), ())
    return BurstPlan(bursts, temperatures, solids)


def _seconds_to(heap: Heap, target_c: float, power_w: float, curve: MeltingCurve) -> float:
    return heat_j((heap,), target_c, curve) / power_w if heap.temperature_c < target_c else 0.0
