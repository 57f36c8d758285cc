"""What stays on: the film that drains from a dipped face, which its grams follow.

sqrt(h) = [sqrt(hy) + sqrt(hy + 4 sqrt(eta z/(G t)))]/2 with hy = tau0/G, the drainage of a Casson film (Jeffreys 1930
for tau0 = 0; derived). Tapping multiplies the pull of gravity by about two: an assumption.
"""

from __future__ import annotations

import math

from coating.flow.casson1959 import Flow
from coating.flow.material import ORDINARY, Material
from coating.units import GRAVITY

DRAIN_S = 10.0
TAP_G = 1.0


def coat_thickness_mm(
    flow: Flow,
    *,
    below_line_mm: float,
    drain_s: float = DRAIN_S,
    tap_g: float = TAP_G,
    material: Material = ORDINARY,
) -> float:
    """Film thickness at a depth below the dip line, after draining and tapping.

    Parameters
    ----------
    flow : Flow
    below_line_mm : float
        mm.
    drain_s : float
        s.
    tap_g : float
        Taps, as extra gravities.
    material : Material
        What it is of.

    Returns
    -------
    float
        mm.
    """
    pull = material.density_kg_m3 * GRAVITY * (1 + tap_g)
    standing = flow.yield_stress_pa / pull
    draining = 4 * math.sqrt(flow.viscosity_pa_s * below_line_mm / 1000 / (pull * drain_s))
    return ((math.sqrt(standing) + math.sqrt(standing + draining)) / 2) ** 2 * 1000
