"""The bag: how long it takes to run out of a hole, hung up and not pressed.

The bag is a cone. A Casson fluid is led through it with the pressure of three parts: what the yield stress holds, what
the viscosity takes, and the root between them (a = (8/7)^2); derived, and checked against integration of the exact
pipe flow along the cone. The hole decides: calibrate it with a coating whose number is known.
"""

from __future__ import annotations

import math
from collections.abc import Callable

from coating.errors import WillNotFlow
from coating.flow.casson1959 import Flow
from coating.flow.material import ORDINARY
from coating.flow.trade_number import flow_from_number
from coating.limits import check
from coating.units import GRAVITY

HALF_ANGLE = math.radians(18.0)  # an assumption for a folded bag
DENSITY_KG_M3 = ORDINARY.density_kg_m3
FULL_G, LEFT_G = 150.0, 50.0
_A = (8 / 7) ** 2
_POINTS = 33
_LONGEST_S = 3600.0


def drip_out_m3_s(flow: Flow, *, hole_m: float, fill_m: float) -> float:
    """Flow in m3/s out of a hanging cone of hole and fill radius in m; none when the yield stress holds it."""
    slope = math.tan(HALF_ANGLE)
    head_pa = DENSITY_KG_M3 * GRAVITY * (fill_m - hole_m) / slope
    held = 2 * _A * flow.yield_stress_pa * math.log(fill_m / hole_m)
    spare = head_pa * slope - held
    if spare <= 0:
        return 0.0
    straight = 8 * flow.viscosity_pa_s / (3 * math.pi) * (hole_m**-3 - fill_m**-3)
    root = 4 / 1.5 * math.sqrt(4 * _A * flow.yield_stress_pa * flow.viscosity_pa_s / math.pi)
    root *= hole_m**-1.5 - fill_m**-1.5
    return ((-root + math.sqrt(root**2 + 4 * straight * spare)) / (2 * straight)) ** 2


def _fill_m(volume_m3: float, hole_m: float) -> float:
    return (hole_m**3 + 3 * volume_m3 * math.tan(HALF_ANGLE) / math.pi) ** (1 / 3)


def drain_time_s(flow: Flow, *, hole_mm: float, from_g: float = FULL_G, to_g: float = LEFT_G) -> float:
    """How long a hanging bag takes to run from one mass to another.

    Parameters
    ----------
    flow : Flow
    hole_mm : float
        Across the hole, mm.
    from_g, to_g : float
        What is in the bag at the beginning and at the end, g.

    Returns
    -------
    float
        s.

    Raises
    ------
    OutOfBounds
        A value outside its bounds.
    WillNotFlow
        The yield stress holds it in the bag.
    """
    hole_m = check("hole_mm", hole_mm) / 2000
    check("mass_g", from_g), check("mass_g", to_g)
    masses = [to_g + (from_g - to_g) * i / (_POINTS - 1) for i in range(_POINTS)]
    slowness = []
    for mass_g in masses:
        speed = drip_out_m3_s(flow, hole_m=hole_m, fill_m=_fill_m(mass_g / 1000 / DENSITY_KG_M3, hole_m))
        if speed * _LONGEST_S * DENSITY_KG_M3 * 1000 < from_g - to_g:
            raise WillNotFlow("It stays in the bag, because it is too thick for this hole.")
        slowness.append(1 / speed)
    ends, odd, even = slowness[0] + slowness[-1], sum(slowness[1:-1:2]), sum(slowness[2:-1:2])
    step_m3 = (from_g - to_g) / 1000 / DENSITY_KG_M3 / (_POINTS - 1)
    return step_m3 / 3 * (ends + 4 * odd + 2 * even)


def number_from_drain(
    seconds: float, *, hole_mm: float, from_g: float = FULL_G, to_g: float = LEFT_G, k_per_s: float = 6.0
) -> float:
    """Trade number of a coating that drained in so many seconds.

    Parameters
    ----------
    seconds : float
        How long it took, s.
    hole_mm : float
        Across the hole, mm.
    from_g, to_g : float
        What was in the bag at the beginning and at the end, g.
    k_per_s : float
        Yield stress over viscosity of the coating, 1/s.

    Returns
    -------
    float
        1 or 400 when it lies beyond.

    Raises
    ------
    OutOfBounds
        A value outside its bounds.
    """
    check("duration_s", seconds)

    def slower(number: float) -> bool:
        try:
            flow = flow_from_number(number, k_per_s=k_per_s)
            return drain_time_s(flow, hole_mm=hole_mm, from_g=from_g, to_g=to_g) > seconds
        except WillNotFlow:
            return True

    return _bisect(slower, 1.0, 400.0)


def calibrated_hole_mm(
    seconds: float, number: float, *, from_g: float = FULL_G, to_g: float = LEFT_G, k_per_s: float = 6.0
) -> float:
    """How wide a hole really is, from how long a coating of known number took.

    Parameters
    ----------
    seconds : float
        How long it took, s.
    number : float
        Trade number of the coating.
    from_g, to_g : float
        What was in the bag at the beginning and at the end, g.
    k_per_s : float
        Yield stress over viscosity of the coating, 1/s.

    Returns
    -------
    float
        mm; 1 or 20 when it lies beyond.

    Raises
    ------
    OutOfBounds
        A value outside its bounds.
    """
    flow = flow_from_number(number, k_per_s=k_per_s)
    check("duration_s", seconds)

    def quicker(hole_mm: float) -> bool:
        try:
            return drain_time_s(flow, hole_mm=hole_mm, from_g=from_g, to_g=to_g) < seconds
        except WillNotFlow:
            return False

    return _bisect(quicker, 1.0, 20.0)


def _bisect(beyond: Callable[[float], bool], low: float, high: float) -> float:
    for _ in range(48):
        middle = (low + high) / 2
        low, high = (low, middle) if beyond(middle) else (middle, high)
    return (low + high) / 2
