"""Casson (1959): sqrt(tau) = sqrt(tau0) + sqrt(eta * shear rate).

A Casson pair must not be put into Bingham formulas: in a pipe that answers 1.4 to 8 times too much.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from coating.limits import check


@dataclass(frozen=True)
class Flow:
    """A Casson pair: yield stress in Pa, viscosity in Pa s.

    Source: ICA analytical method 46 (2000) fits chocolate at 40 degC this way.
    """

    yield_stress_pa: float
    viscosity_pa_s: float

    def __post_init__(self) -> None:
        check("yield_stress_pa", self.yield_stress_pa)
        check("viscosity_pa_s", self.viscosity_pa_s)

    def shear_rate_per_s(self, stress_pa: float) -> float:
        """Shear rate in 1/s under a stress in Pa; none below the yield stress."""
        if stress_pa <= self.yield_stress_pa:
            return 0.0
        return (math.sqrt(stress_pa) - math.sqrt(self.yield_stress_pa)) ** 2 / self.viscosity_pa_s

    def scaled(self, *, yield_stress: float, viscosity: float) -> Flow:
        """A copy with both values multiplied."""
        return Flow(self.yield_stress_pa * yield_stress, self.viscosity_pa_s * viscosity)


def pipe_flow(flow: Flow, *, radius_m: float, length_m: float, pressure_pa: float) -> float:
    """Volume flow of a Casson fluid through a round pipe or nozzle.

    Parameters
    ----------
    flow : Flow
    radius_m, length_m : float
        Of the pipe, m.
    pressure_pa : float
        Over its length, Pa.

    Returns
    -------
    float
        m3/s: pi R^4 dP/(8 eta L) [1 - 16/7 sqrt(xi) + 4/3 xi - xi^4/21] with xi = 2 L tau0/(R dP); 0 from xi = 1 up.

    Source: closed form of Casson flow in a tube (Oka 1960, from memory); checked by integration.
    """
    radius_m, length_m = check("radius_m", radius_m), check("length_m", length_m)
    pressure_pa = check("pressure_pa", pressure_pa)
    wall_stress_pa = radius_m * pressure_pa / (2 * length_m)
    if wall_stress_pa <= flow.yield_stress_pa:
        return 0.0
    xi = flow.yield_stress_pa / wall_stress_pa
    newtonian = math.pi * radius_m**4 * pressure_pa / (8 * flow.viscosity_pa_s * length_m)
    return newtonian * max(0.0, 1 - 16 / 7 * math.sqrt(xi) + 4 / 3 * xi - xi**4 / 21)
