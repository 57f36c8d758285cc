"""The trade number: a rotational reading in % of full torque, melted, 40 degC, 20 turns a minute.

The gap is wide, so the shear rate in it follows from the Casson law integrated over the gap, not from the Newtonian
gap rate (24 % off). One number is not a unique pair: it is closed by k = tau0/eta (an assumption): 6 for milk and
white chocolate, 4 to 6 for compound, 1 to 2 yield-reduced, 12 to 20 wet or full of powder.
"""

from __future__ import annotations

import math
from functools import lru_cache

from coating.flow.casson1959 import Flow
from coating.limits import check
from coating.roots import crossing

BOB_RADIUS_MM, CUP_RADIUS_MM, BOB_LENGTH_MM = 5.88, 9.525, 39.29  # instrument tables, from memory
STRESS_PER_NUMBER_PA = 1.684  # Pa at the bob per % of torque, from memory
SPEED_RAD_S = 20 * 2 * math.pi / 60
_GAP = (BOB_RADIUS_MM / CUP_RADIUS_MM) ** 2


def _gap_integral(stress_bob_pa: float, yield_stress_pa: float) -> float:
    """2 eta Omega of a Casson fluid in the gap; 0 where it does not move."""
    if stress_bob_pa <= yield_stress_pa:
        return 0.0
    stress_cup = max(stress_bob_pa * _GAP, yield_stress_pa)
    root = math.sqrt(yield_stress_pa)
    return (
        stress_bob_pa
        - stress_cup
        - 4 * root * (math.sqrt(stress_bob_pa) - math.sqrt(stress_cup))
        + yield_stress_pa * math.log(stress_bob_pa / stress_cup)
    )


@lru_cache(maxsize=256)
def _yield_stress_per_number(k_per_s: float) -> float:
    stress = STRESS_PER_NUMBER_PA

    def excess(yield_stress: float) -> float:
        return _gap_integral(stress, yield_stress) - 2 * SPEED_RAD_S * yield_stress / k_per_s

    return crossing(excess, 1e-9, stress * (1 - 1e-12))


def flow_from_number(number: float, *, k_per_s: float = 6.0) -> Flow:
    """The Casson pair of a trade number.

    Parameters
    ----------
    number : float
        Trade number, % of torque.
    k_per_s : float
        tau0/eta, 1/s.

    Returns
    -------
    Flow
        Linear in the number: for k 6, tau0 = .3226 N Pa and eta = .05377 N Pa s.

    Raises
    ------
    OutOfBounds
        A value outside its bounds.

    Source: Casson fluid in a coaxial gap (Reiner's integral), derived; instrument constants from memory.
    """
    number, k_per_s = check("number", number), check("k_per_s", k_per_s)
    yield_stress = number * _yield_stress_per_number(k_per_s)
    return Flow(yield_stress, yield_stress / k_per_s)


def number_from_flow(flow: Flow) -> float:
    """The trade number a Casson pair would read; inverse of `flow_from_number`.

    Parameters
    ----------
    flow : Flow

    Returns
    -------
    float
        More than 0; it may exceed 100.
    """
    target = 2 * SPEED_RAD_S * flow.viscosity_pa_s
    low = max(flow.yield_stress_pa, 1e-9)
    high = low + target + 1.0
    while _gap_integral(high, flow.yield_stress_pa) < target:
        high *= 2
    stress = crossing(lambda s: _gap_integral(s, flow.yield_stress_pa) - target, low, high)
    return stress / STRESS_PER_NUMBER_PA
