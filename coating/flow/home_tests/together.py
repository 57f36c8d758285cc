"""What two tests say together: a spread gives the yield stress, a drain then the viscosity.

Likely errors after Monte Carlo over what hands get wrong (width, volume, time, hole): 21 % on the yield stress, 28 % on
the viscosity and 10 % on the number when the hole is calibrated.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from coating.errors import TestsDisagree, WillNotFlow
from coating.flow.casson1959 import Flow
from coating.flow.home_tests.bag_drain import FULL_G, LEFT_G, drain_time_s
from coating.flow.trade_number import number_from_flow
from coating.limits import BOUNDS

YIELD_OFF, VISCOSITY_OFF, NUMBER_OFF = 0.21, 0.28, 0.10


@dataclass(frozen=True)
class MeasuredFlow:
    """A flow measured by two tests, its number, and the relative ranges of the three (one standard deviation)."""

    flow: Flow
    number: float
    yield_off: float = YIELD_OFF
    viscosity_off: float = VISCOSITY_OFF
    number_off: float = NUMBER_OFF


def measured(
    yield_stress_pa: float, seconds: float, *, hole_mm: float, from_g: float = FULL_G, to_g: float = LEFT_G
) -> MeasuredFlow:
    """The Casson pair from a spread and a bag together.

    Parameters
    ----------
    yield_stress_pa : float
        Of the spread, Pa.
    seconds : float
        How long the bag took, s.
    hole_mm : float
        Across the hole, mm.
    from_g, to_g : float
        What was in the bag at the beginning and at the end, g.

    Returns
    -------
    Measured

    Raises
    ------
    TestsDisagree
        It ran out quicker than its yield stress lets anything run.
    """

    def too_long(viscosity: float) -> bool:
        try:
            flow = Flow(yield_stress_pa, viscosity)
            return drain_time_s(flow, hole_mm=hole_mm, from_g=from_g, to_g=to_g) > seconds
        except WillNotFlow:
            return True

    low, high = BOUNDS["viscosity_pa_s"].low, BOUNDS["viscosity_pa_s"].high
    if too_long(low):
        raise TestsDisagree(
            "The two tests do not agree. Do one of them again while the coating is warm.", field="seconds"
        )
    for _ in range(60):
        middle = math.sqrt(low * high)
        low, high = (low, middle) if too_long(middle) else (middle, high)
    flow = Flow(yield_stress_pa, math.sqrt(low * high))
    return MeasuredFlow(flow, number_from_flow(flow))
