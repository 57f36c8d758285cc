"""Schools of melting: how a kitchen does it, and what that comes to for a mass.

Microwave: as `coating.heat.bursts` plans it. Water
bath: Newton heating through a bath of 55 degC, 3 W/K for 300 g [assumed], more for more with the face of the bowl.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType

from coating.errors import UnknownName, WouldScorch
from coating.heat.bursts import burst_plan
from coating.heat.melting import SHORTEST_BURST_S, coupling, melting_energy_j
from coating.heat.melting_curve import (
    LATENT_HEAT,
    MELTS_AT_C,
    PALM,
    SPECIFIC_HEAT_LIQUID,
    SPECIFIC_HEAT_SOLID,
    MeltingCurve,
)
from coating.limits import check

BATH_C = {"double_boiler": 55.0, "boil_and_off": 60.0}
BATH_W_K, BATH_MASS_G = 3.0, 300.0
ORDINARY_W = 800.0


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
    school: str,
    mass_g: float,
    *,
    start_c: float,
    target_c: float,
    power_w: float = ORDINARY_W,
    curve: MeltingCurve = PALM,
) -> MeltingWay:
    """How a school melts a mass.

    Parameters
    ----------
    school : one of SCHOOLS. mass_g : g. start_c, target_c : degC, start below 32 and target above. power_w : rated.
    curve : how its fat melts.

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
    try:
        plan = burst_plan(
            mass_g,
            start_c=start_c,
            target_c=target_c,
            power_w=power_w,
            power_fraction=way.power_fraction,
            fixed_s=way.fixed_burst_s,
            curve=curve,
        )
    except WouldScorch:  # so little: the shortest bursts there are, and a look after each
        all_s = melting_energy_j(mass_g, start_c, target_c, curve=curve) / (
            power_w * way.power_fraction * coupling(mass_g)
        )
        return MeltingWay(way, all_s, SHORTEST_BURST_S, SHORTEST_BURST_S, way.fixed_burst_s is not None)
    first, last = (plan.bursts_s[0], plan.bursts_s[-2:][0]) if plan.bursts_s else (0.0, 0.0)  # what remains is stirred
    return MeltingWay(way, plan.all_s, first, last, way.fixed_burst_s is not None and last < way.fixed_burst_s)
