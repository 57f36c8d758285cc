"""Too much heat: white goes thick and stays so. An assumption, in equivalent minutes at 50 degC."""

from __future__ import annotations

import math

REFERENCE_C, SCALE_K, HALVING_MINUTES = 50.0, 4.0, 40.0


def overheated_factor(minutes: float) -> float:
    """What too much warmth did to the flow; it does not come back.

    Parameters
    ----------
    minutes : float
        Equivalent minutes at 50 degC.

    Returns
    -------
    float
        Factor on yield stress and viscosity, at least 1.
    """
    return 1.0 + minutes / HALVING_MINUTES


def overheated_minutes(
    temperature_c: float, *, surround_c: float, time_constant_s: float, duration_s: float, bears_k: float = 0.0
) -> float:
    """Equivalent minutes at 50 degC collected while a bowl cools exponentially.

    The integral of exp((T - 50)/4) over the cooling curve, with the series of the exponential integral,
    ln|x| + sum x^n/(n n!).

    Parameters
    ----------
    temperature_c, surround_c : float
        Of the bowl at the beginning and of what is around it, degC.
    time_constant_s, duration_s : float
        Of the cooling, and how long it goes on, s.
    bears_k : float
        Degrees more than white that it bears (milk and dark chocolate).

    Returns
    -------
    float
        min.
    """
    if duration_s <= 0:
        return 0.0
    excess = temperature_c - surround_c
    level = math.exp((surround_c - REFERENCE_C - bears_k) / SCALE_K)
    if abs(excess) < 1e-6:
        return level * duration_s / 60
    later = excess * math.exp(-duration_s / time_constant_s)
    integral_s = (
        time_constant_s
        * level
        * (duration_s / time_constant_s + _ei_series(excess / SCALE_K) - _ei_series(later / SCALE_K))
    )
    return max(0.0, integral_s / 60)


def _ei_series(x: float) -> float:
    """sum x^n/(n n!), which is Ei(x) less ln|x| and Euler's constant, for -20 < x < 30."""
    total, term = 0.0, 1.0
    for n in range(1, 200):
        term *= x / n
        total += term / n
        if abs(term) <= 1e-17 * abs(total):
            break
    return total
