"""Warmth: an Arrhenius factor from the 40 degC at which labels are read, without crystals."""

from __future__ import annotations

import math

from coating.units import GAS_CONSTANT, kelvin

LABEL_C = 40.0
ACTIVATION_VISCOSITY_J = 30e3  # from memory, an assumption for any one coating
ACTIVATION_YIELD_J = 12e3


def temperature_factors(temperature_c: float) -> tuple[float, float]:
    """What warmth does to the flow; 1 at 40 degC.

    Parameters
    ----------
    temperature_c : float

    Returns
    -------
    tuple of float
        Factors on yield stress and viscosity.

    >>> [round(f, 2) for f in temperature_factors(29.5)]
    [1.17, 1.49]
    """
    inverse = 1 / kelvin(temperature_c) - 1 / kelvin(LABEL_C)
    return (
        math.exp(ACTIVATION_YIELD_J / GAS_CONSTANT * inverse),
        math.exp(ACTIVATION_VISCOSITY_J / GAS_CONSTANT * inverse),
    )
