"""Water: a trace acts like missing fat, more seizes the bowl, much more makes ganache."""

from __future__ import annotations

import math

TRACE = 0.001
FAT_LOST_PER_TRACE, FAT_TRACE = 0.01, 0.003  # Beckett, from memory
SEIZES = 0.008  # share of water within which most of the seizing is done; an assumption
SUGAR_FRACTION = 0.45
SAUCE, DILUTION = 0.3, 3.0  # share of water from which more thins, and by which power; assumptions


def sucrose_saturation_percent(temperature_c: float) -> float:
    """Sucrose in a saturated solution, % by mass. Source: Vavrinecz / ICUMSA polynomial, from memory.

    >>> round(sucrose_saturation_percent(20), 1)
    66.7
    """
    t = temperature_c
    return 64.447 + 0.08222 * t + 1.6169e-3 * t**2 - 1.558e-6 * t**3 - 4.63e-8 * t**4


def ganache_water_fraction(temperature_c: float, *, sugar_fraction: float = SUGAR_FRACTION) -> float:
    """Water, as a share of the total, at which all the sugar is dissolved. Derived."""
    saturated = sucrose_saturation_percent(temperature_c) / 100
    water_per_sugar = (1 - saturated) / saturated
    per_coating = sugar_fraction * water_per_sugar
    return per_coating / (1 + per_coating)


def fat_loss_to_water(water_fraction: float) -> float:
    """Fat that seems to be missing for a trace of water: .01 per .3 %, no further.

    Parameters
    ----------
    water_fraction : float
        Water by mass, 0 to 1.

    Returns
    -------
    float
        Fat by mass.
    """
    return FAT_LOST_PER_TRACE * min(max(water_fraction, 0.0), FAT_TRACE) / FAT_TRACE


def water_factor(water_fraction: float) -> float:
    """What water beyond the trace does to the flow.

    An assumption fitted to practice: it seizes within a per cent or two, lets go again near ganache, and beyond 30 %
    it is a sauce that every further drop thins.

    Parameters
    ----------
    water_fraction : float
        Water by mass, 0 to 1.

    Returns
    -------
    float
        Factor on yield stress and viscosity.

    >>> water_factor(0.1) > 10, water_factor(0.6) < 0.5
    (True, True)
    """
    if water_fraction <= TRACE:
        return 1.0
    ganache = ganache_water_fraction(35.0)
    rise = 1 - math.exp(-(water_fraction - TRACE) / SEIZES)
    seized = math.exp(5.3 * rise / (1 + math.exp((water_fraction - ganache) / 0.025)))
    return seized * (max(0.0, 1 - max(water_fraction, SAUCE)) / (1 - SAUCE)) ** DILUTION
