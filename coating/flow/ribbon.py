"""The words of the ribbon: what falls from the spoon, by the time it takes to level.

A ripple of 5 mm and 20 mm length settles under gravity: da/dt = -(e/2k) * shear rate(rho g a/e). The relief left is
e tau0/(rho g). With tau = rho g a/e the time has a closed form. The boundaries of the words are an assumption.
"""

from __future__ import annotations

import math

from coating.flow.casson1959 import Flow
from coating.flow.material import ORDINARY, Material
from coating.units import GRAVITY

WORDS = ("runs", "thin ribbon", "folds", "mounds", "holds", "stiff")
RUNS_S, THIN_S, FOLDS_S = 0.3, 1.0, 6.0
STIFF_PA = 120.0
_WAVE_NUMBER = 2 * math.pi / 0.020
_AMPLITUDE_M = 0.005
_LEVELLED = 0.75
_LEAST_YIELD_PA = 1e-9


def _start_stress_pa(material: Material) -> float:
    return material.density_kg_m3 * GRAVITY * _AMPLITUDE_M / math.e


def levelling_time_s(flow: Flow, *, material: Material = ORDINARY) -> float:
    """Seconds until three quarters of what can level have levelled; inf when it never moves. Derived."""
    start = _start_stress_pa(material)
    yield_stress = max(flow.yield_stress_pa, _LEAST_YIELD_PA)
    if yield_stress >= start:
        return math.inf
    end = yield_stress + (1 - _LEVELLED) * (start - yield_stress)
    root, u0, u1 = math.sqrt(yield_stress), math.sqrt(start), math.sqrt(end)
    integral = 2 * (math.log((u0 - root) / (u1 - root)) + root / (u1 - root) - root / (u0 - root))
    return 2 * _WAVE_NUMBER * flow.viscosity_pa_s / (material.density_kg_m3 * GRAVITY) * integral


def flow_word(flow: Flow, *, material: Material = ORDINARY) -> str:
    """How a ribbon from the spoon looks.

    Parameters
    ----------
    flow : Flow
    material : Material
        What its density follows from.

    Returns
    -------
    str
        "runs", "thin ribbon", "folds", "mounds", "holds" or "stiff".
    """
    return WORDS[min(5, int(ribbon_position(flow, material=material)))]


def ribbon_position(flow: Flow, *, material: Material = ORDINARY) -> float:
    """Where on the ribbon a flow hangs: 0 to 6, one step a word, thicker to the right."""
    if flow.yield_stress_pa > STIFF_PA:
        return 6.0 - STIFF_PA / flow.yield_stress_pa
    time_s = levelling_time_s(flow, material=material)
    if math.isinf(time_s):
        start = _start_stress_pa(material)
        return 4.0 + min(0.999, math.log(flow.yield_stress_pa / start) / math.log(STIFF_PA / start))
    if time_s < RUNS_S:
        return time_s / RUNS_S
    if time_s < THIN_S:
        return 1.0 + math.log(time_s / RUNS_S) / math.log(THIN_S / RUNS_S)
    if time_s < FOLDS_S:
        return 2.0 + math.log(time_s / THIN_S) / math.log(FOLDS_S / THIN_S)
    return 4.0 - FOLDS_S / time_s
