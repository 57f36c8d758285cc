"""Water-based colours in fat: how much their water thickens a bowl, and the dose that does no harm."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import lru_cache

from coating.errors import WillNotFlow
from coating.flow.state import Conditions, flow_now
from coating.limits import check
from coating.units import WATER_IN_GEL

HARMLESS = 0.1  # thicker by so much goes unnoticed
WATER_UNNOTICED = 0.001  # of a bowl; a few drops of gel make paste, whatever the model says. Common practice, no source
_ORDINARY = Conditions(number=50.0, fat_fraction=0.32, kind="coating", temperature_c=40.0)


@dataclass(frozen=True)
class GelHarm:
    """Yield stress over what it was (None: it seizes), whether it seizes, and the most gel, g, that goes unnoticed."""

    thicker: float | None
    seizes: bool
    harmless_g: float


def gel_harm(mass_g: float, gel_g: float, *, water_fraction: float = WATER_IN_GEL) -> GelHarm:
    """What a dose of gel does to a bowl of ordinary coating at 40 degC.

    Parameters
    ----------
    mass_g : coating, g. gel_g : gel or paste, g. water_fraction : of the gel, 0 to 1.

    Raises OutOfBounds. What goes unnoticed never brings more than .1 % of water. The water acts as in
    `coating.flow.additions.water`: a trace like missing fat, more seizes.
    """
    check("mass_g", mass_g), check("mass_g", gel_g, "gel_g"), check("reflectance", water_fraction, "water_fraction")

    def thicker(gel: float) -> float | None:
        whole = mass_g + gel
        try:
            before, after = (flow_now(_with(water)) for water in (0.0, gel * water_fraction / whole if whole else 0.0))
        except WillNotFlow:
            return None
        return after.yield_stress_pa / before.yield_stress_pa

    def unnoticed(gel: float) -> bool:
        times = thicker(gel) if gel * water_fraction <= WATER_UNNOTICED * (mass_g + gel) else None
        return times is not None and times <= 1 + HARMLESS

    low, high = 0.0, max(mass_g, 1e-6)
    if unnoticed(high):
        return GelHarm(thicker(gel_g), False, high)
    for _ in range(40):
        middle = (low + high) / 2
        low, high = (middle, high) if unnoticed(middle) else (low, middle)
    now = thicker(gel_g)
    return GelHarm(now, now is None or now > 3.0, low)


@lru_cache(maxsize=32)
def harmless_share(water_fraction: float = WATER_IN_GEL) -> float:
    """The most gel that goes unnoticed, as a share of the coating's mass."""
    return gel_harm(100.0, 0.0, water_fraction=water_fraction).harmless_g / 100.0


def _with(water: float) -> Conditions:
    return replace(_ORDINARY, water_fraction=water)
