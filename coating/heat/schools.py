"""Schools of melting: how a kitchen does it, and what that comes to for a mass.

Microwave: a burst never takes the melted part past 48 degC even if only half of the bowl takes up the heat. Water
bath: Newton heating through a bath of 55 degC, 3 W/K for 300 g [assumed], more for more with the face of the bowl.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType

from coating.errors import UnknownName
from coating.heat.melting import (
    CEILING_C,
    COUPLING,
    LATENT_HEAT,
    LONGEST_BURST_S,
    MELTS_AT_C,
    SHORTEST_BURST_S,
    SPECIFIC_HEAT_LIQUID,
    SPECIFIC_HEAT_SOLID,
    first_burst_s,
    melting_time_s,
)
from coating.limits import check

BATH_C = {"double_boiler": 55.0, "boil_and_off": 60.0}
BATH_W_K, BATH_MASS_G = 3.0, 300.0
ORDINARY_W = 800.0
BORNE = 1.3  # unmelted pieces take up that much more than reckoned [assumed]


@dataclass(frozen=True)
class School:
    """A way of melting: on "microwave" or "hob", at a power setting, with a fixed burst in s or None; `mixes` says what
    is done after a burst, "stir" or "knead"."""

    name: str
    title: str
    heat: str
    power_fraction: float = 1.0
    fixed_burst_s: float | None = None
    mixes: str = "stir"


SCHOOLS: Mapping[str, School] = MappingProxyType(
    {
        s.name: s
        for s in (
            School("half_power", "half power, a stir after each burst", "microwave", 0.5),
            School("tapering", "full power, shorter and shorter bursts", "microwave"),
            School("bursts_20", "20 seconds at a time", "microwave", 1.0, 20.0),
            School("bursts_30", "30 seconds at a time", "microwave", 1.0, 30.0),
            School("in_the_bag", "in the piping bag, kneaded after each burst", "microwave", 0.5, 15.0, "knead"),
            School("double_boiler", "over a pan of water kept warm", "hob"),
            School("boil_and_off", "boil the water, switch off, set the bowl on it", "hob"),
        )
    }
)


@dataclass(frozen=True)
class MeltingWay:
    """First and last burst and all heating in s; on the hob only `all_s`.

    `too_long`: the school's fixed burst would scorch this little once it is liquid, so the last is shorter.
    """

    school: School
    all_s: float
    first_s: float = 0.0
    last_s: float = 0.0
    too_long: bool = False


def safe_burst_s(mass_g: float, at_c: float, *, power_w: float, power_fraction: float) -> float:
    """Longest burst in s at a temperature: half the way to 48 degC stays in hand, 3 to 30 s."""
    power = power_w * power_fraction * COUPLING
    safe = (CEILING_C - at_c) * mass_g / 1000 * SPECIFIC_HEAT_LIQUID / (2 * power)
    return min(LONGEST_BURST_S, max(SHORTEST_BURST_S, safe))


def bath_time_s(mass_g: float, *, start_c: float, target_c: float, bath_c: float) -> float:
    """Seconds over a water bath: warming, melting at 32 degC, warming on."""
    ua = BATH_W_K * (mass_g / BATH_MASS_G) ** (2 / 3)
    mass_kg = mass_g / 1000
    solid = SPECIFIC_HEAT_SOLID * math.log((bath_c - start_c) / (bath_c - MELTS_AT_C))
    melting = LATENT_HEAT / (bath_c - MELTS_AT_C)
    liquid = SPECIFIC_HEAT_LIQUID * math.log((bath_c - MELTS_AT_C) / (bath_c - target_c))
    return mass_kg / ua * (solid + melting + liquid)


def bath_rewarm_s(mass_g: float, *, start_c: float, target_c: float, bath_c: float) -> float:
    """Seconds over a water bath for what is still melted: warming alone."""
    ua = BATH_W_K * (mass_g / BATH_MASS_G) ** (2 / 3)
    return mass_g / 1000 * SPECIFIC_HEAT_LIQUID / ua * math.log((bath_c - start_c) / (bath_c - target_c))


def melting_way(
    school: str, mass_g: float, *, start_c: float, target_c: float, power_w: float = ORDINARY_W
) -> MeltingWay:
    """How a school melts a mass.

    Parameters
    ----------
    school : one of SCHOOLS. mass_g : g. start_c, target_c : degC, start below 32 and target above. power_w : rated.

    Raises
    ------
    UnknownName : no such school. OutOfBounds : a value outside its bounds.
    """
    if school not in SCHOOLS:
        raise UnknownName(f"There is no way of melting called {school[:60]!r}.", field="school", choices=list(SCHOOLS))
    way = SCHOOLS[school]
    check("mass_g", mass_g), check("power_w", power_w)
    if way.heat == "hob":
        bath_c = BATH_C[school]
        start_c = min(start_c, MELTS_AT_C)
        return MeltingWay(way, bath_time_s(mass_g, start_c=start_c, target_c=target_c, bath_c=bath_c))
    power = {"power_w": power_w, "power_fraction": way.power_fraction}
    all_s = melting_time_s(mass_g, start_c=start_c, target_c=target_c, **power)
    last = safe_burst_s(mass_g, target_c - 4, **power)
    if way.fixed_burst_s is not None:
        safe = safe_burst_s(mass_g, start_c, **power)
        first = way.fixed_burst_s if way.fixed_burst_s <= BORNE * safe else safe
        return MeltingWay(way, all_s, first, min(first, last), last < way.fixed_burst_s)
    first = safe_burst_s(mass_g, start_c, **power) if school == "tapering" else first_burst_s(mass_g, **power)
    return MeltingWay(way, all_s, first, min(first, last))
