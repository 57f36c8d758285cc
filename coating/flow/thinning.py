"""Thinning: how much of which fat brings a number down, and how hard it then sets.

Models of thick coatings are rough (-30 to +60 %), so half is prescribed, stirred in and tested again. A cold, wet or
overheated bowl is never thinned first.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from types import MappingProxyType

from coating.beliefs import FLOW, PRIORS, RANGE_SD
from coating.errors import OutOfBounds, UnknownName
from coating.flow.additions.fat import fat_factors
from coating.flow.casson1959 import Flow
from coating.flow.firmness import firmness
from coating.flow.trade_number import flow_from_number, number_from_flow
from coating.limits import check
from coating.roots import crossing

THINNERS = ("cocoa butter", "palm flakes", "coconut oil", "shortening", "liquid oil")
LOW, HIGH = 0.7, 1.6
LABEL = (math.exp(-RANGE_SD * PRIORS[FLOW]), math.exp(RANGE_SD * PRIORS[FLOW]))  # times what a label says
MOST_SHARE = 0.6


@dataclass(frozen=True)
class Thinning:
    """A dose in g with its range, the half to begin with, and how hard it sets."""

    thinner: str
    thinner_g: float
    low_g: float
    high_g: float
    first_addition_g: float
    solid_fat_fraction: float
    verdict: str
    reason: str


def fat_share_for(fits: Callable[[Flow], bool], flow: Flow, fat_fraction: float) -> float:
    """Least fat, in g per g of coating, after which `fits` holds; 0 when it does already.

    Raises OutOfBounds when even .6 g per g is not enough.
    """

    def thinned(x: float) -> Flow:
        yield_stress, viscosity = fat_factors(fat_fraction, (fat_fraction + x) / (1 + x))
        return flow.scaled(yield_stress=yield_stress, viscosity=viscosity)

    if fits(flow):
        return 0.0
    low, high = 0.0, MOST_SHARE
    if not fits(thinned(high)):
        raise OutOfBounds(
            "It cannot get that thin and still be a coating, however much fat goes in.", field="target_number"
        )
    while high - low > 1e-7:
        middle = (low + high) / 2
        low, high = (low, middle) if fits(thinned(middle)) else (middle, high)
    return high


def thin(
    mass_g: float,
    number: float,
    target_number: float,
    *,
    fat_fraction: float,
    base: str = "chocolate",
    thinner: str = "cocoa butter",
    room_c: float = 22.0,
    k_per_s: float = 6.0,
    label: tuple[float, float] = LABEL,
) -> Thinning:
    """Fat that brings a coating from one trade number to another.

    Parameters
    ----------
    mass_g : in the bowl, g. number, target_number : as they stand, at the same temperature.
    fat_fraction : of the bowl. base : "chocolate" or "coating". thinner : one of THINNERS. room_c : degC.
    label : how many times what it says the number may be, at the least and at the most.

    Returns
    -------
    Thinning; nothing to add when it is thin enough already.

    Raises
    ------
    OutOfBounds : no amount of fat reaches it. UnknownName : another thinner.
    """
    mass_g = check("mass_g", mass_g)
    fat_fraction, room_c = check("fat_fraction", fat_fraction), check("room_c", room_c)
    target_number = check("number", target_number, "target_number")
    if thinner not in THINNERS:
        raise UnknownName(f"There is no thinner called {thinner[:60]!r}.", field="thinner", choices=list(THINNERS))
    flow = flow_from_number(number, k_per_s=k_per_s)

    def share_at(times: float) -> float | None:
        """Fat in g per g where the label number is so many times what it says; None where none is enough."""

        def shortfall(x: float) -> float:
            by_fat = fat_factors(fat_fraction, (fat_fraction + x) / (1 + x))
            thinned = flow.scaled(yield_stress=times * by_fat[0], viscosity=times * by_fat[1])
            return number_from_flow(thinned) - target_number

        if target_number >= number * times:
            return 0.0
        return None if shortfall(MOST_SHARE) > 0 else crossing(shortfall, 0.0, MOST_SHARE)

    share = share_at(1.0)
    if share is None:
        raise OutOfBounds(
            "It cannot get that thin and still be a coating, however much fat goes in.", field="target_number"
        )
    ends = [mass_g * (MOST_SHARE if end is None else end) for end in map(share_at, label)]
    by_label = ends[0], ends[1]
    return dose(share * mass_g, mass_g, fat_fraction, base=base, thinner=thinner, room_c=room_c, by_label=by_label)


def dose(
    thinner_g: float,
    mass_g: float,
    fat_fraction: float,
    *,
    base: str,
    thinner: str,
    room_c: float,
    already: Mapping[str, float] = MappingProxyType({}),
    by_label: tuple[float, float] | None = None,
) -> Thinning:
    """A Thinning of `thinner_g` with its range, its first half and its firmness; `already` are the g of fats by name
    that were added before and count among the fat of the bowl. `by_label`: what it takes, g, at both ends of what the
    label number may be; joined in quadrature with how rough the model is. None where the number was measured."""
    least_g, most_g = by_label or (thinner_g, thinner_g)
    name = thinner.replace(" ", "_")
    added = {**already, name: already.get(name, 0.0) + thinner_g} if thinner_g > 0 else already
    firm = firmness(base, added, mass_g * fat_fraction + thinner_g, room_c)
    return Thinning(
        thinner,
        thinner_g,
        max(0.0, thinner_g - math.hypot((1 - LOW) * thinner_g, thinner_g - least_g)),
        thinner_g + math.hypot((HIGH - 1) * thinner_g, most_g - thinner_g),
        thinner_g / 2,
        firm.solid_fraction,
        firm.verdict,
        firm.reason,
    )
