"""Tapping: how often until fine detail is full, and which bubbles rise.

A tap adds about five gravities for about a tenth of a second [assumed]; detail is full once the coating there has
been sheared five times its own depth [assumed]. A bubble rises only if its radius is above tau0/(.143 rho g)
(Tsamopoulos et al. 2008, from memory).
"""

from __future__ import annotations

import math

from coating.errors import WillNotFlow
from coating.flow.casson1959 import Flow
from coating.flow.material import ORDINARY, Material
from coating.limits import check
from coating.units import GRAVITY

TAP_G, TAP_S, SHEARS = 5.0, 0.1, 5.0
BUBBLE = 0.143
MOST_TAPS = 60


def taps(flow: Flow, detail_mm: float, *, material: Material = ORDINARY) -> int:
    """How many taps fill a groove so fine. Raises WillNotFlow where none would."""
    deep_m = check("bead_mm", detail_mm, "detail_mm") / 1000
    stress = material.density_kg_m3 * GRAVITY * (1 + TAP_G) * deep_m
    rate = flow.shear_rate_per_s(stress)
    needed = math.inf if rate <= 0 else math.ceil(SHEARS / (rate * TAP_S))
    if needed > MOST_TAPS:
        raise WillNotFlow("Coating this stiff does not run into such a fine detail. Thin it or warm it.", field="flow")
    return max(2, int(needed))


def bubble_mm(flow: Flow, *, tapped: bool = False, material: Material = ORDINARY) -> float:
    """The smallest bubble that rises by itself, or while it is tapped: across, mm."""
    pull = material.density_kg_m3 * GRAVITY * (1 + (TAP_G if tapped else 0.0))
    return 2000 * flow.yield_stress_pa / (BUBBLE * pull)
