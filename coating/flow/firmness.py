"""How hard it sets: the solid share of the fat at room temperature after other fat went in."""

from __future__ import annotations

import math

from coating.units import GAS_CONSTANT, kelvin

SNAP, SOFT = 0.65, 0.50
_MELTING_K = 306.45  # handbook anchors, from memory
_HEAT_OF_FUSION_J = 130e3
_LIQUID_IN_COCOA_BUTTER = 0.22
PALM_AT_25 = 0.75
PALM_PER_K = 0.015  # an assumption
PALM_SLOPES = {
    "cocoa_butter": 0.8,
    "palm_flakes": 0.0,
    "coconut_oil": 0.72,
    "shortening": 0.6,
    "liquid_oil": 1.6,
}


def cocoa_butter_solid_fraction(temperature_c: float, *, foreign_share: float = 0.0) -> float:
    """Solid share of cocoa butter with a share of foreign, liquid fat, 0 to 1.

    Ideal solubility: xs = exp[-(130e3/R)(1/T - 1/306.45)], 1 - [.22(1 - x) + x]/(1 - xs).

    Source: derived; anchors 76 / 70 / 46 % at 20 / 25 / 30 degC from memory.

    >>> round(cocoa_butter_solid_fraction(22, foreign_share=0.1), 3)
    0.653
    """
    exponent = -(_HEAT_OF_FUSION_J / GAS_CONSTANT) * (1 / kelvin(temperature_c) - 1 / _MELTING_K)
    dissolved = math.exp(min(exponent, 0.0))
    liquid = _LIQUID_IN_COCOA_BUTTER * (1 - foreign_share) + foreign_share
    if dissolved >= 1 - 1e-9:
        return 0.0
    return min(1.0, max(0.0, 1 - liquid / (1 - dissolved)))


def palm_solid_fraction(temperature_c: float, *, thinner: str, share: float) -> float:
    """Solid share of a palm-fat coating with a share of a thinner in its fat, 0 to 1.

    An assumption: .75 at 25 degC, .015 per degree, and a straight line for each thinner.
    """
    plain = PALM_AT_25 - PALM_PER_K * (temperature_c - 25)
    return min(1.0, max(0.0, plain - PALM_SLOPES[thinner] * share))
