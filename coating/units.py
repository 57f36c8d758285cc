"""Conversions, done once, at the edge. A temperature is not a temperature difference.

Exact factors: international yard and pound agreement of 1959 (inch, pound), kelvin by definition.
"""

from __future__ import annotations

ZERO_CELSIUS_K = 273.15
GAS_CONSTANT = 8.314462618  # J/(mol K), CODATA 2018
GRAVITY = 9.81  # m/s2
GRAMS_PER_OUNCE = 28.349523125
MILLIMETRES_PER_INCH = 25.4


def kelvin(temperature_c: float) -> float:
    """Absolute temperature in K of a temperature in degC."""
    return temperature_c + ZERO_CELSIUS_K


def fahrenheit(temperature_c: float) -> float:
    """A temperature in degC as degF (32 degF is 0 degC).

    >>> fahrenheit(40.0)
    104.0
    """
    return temperature_c * 9 / 5 + 32


def fahrenheit_difference(difference_k: float) -> float:
    """A difference in K as a difference in degF.

    >>> fahrenheit_difference(10.0)
    18.0
    """
    return difference_k * 9 / 5


def ounces(mass_g: float) -> float:
    """Mass in g as avoirdupois ounces."""
    return mass_g / GRAMS_PER_OUNCE


def inches(length_mm: float) -> float:
    """Length in mm as inches."""
    return length_mm / MILLIMETRES_PER_INCH


DAB_G = 0.02  # what a toothpick carries; common practice, no source
WATER_IN_GEL = 0.4  # of a gel or paste; the rest is sugar and glycerol; common practice, no source
