"""What stays on: the film that drains from a dipped face, and its grams.

sqrt(h) = [sqrt(hy) + sqrt(hy + 4 sqrt(eta z/(G t)))]/2 with hy = tau0/G, the drainage of a Casson film (Jeffreys 1930
for tau0 = 0; derived). Tapping multiplies the pull of gravity by about two: an assumption.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from coating.flow.additions.fat import density_kg_m3
from coating.flow.casson1959 import Flow
from coating.shape.pieces import RoundBiscuit
from coating.units import GRAVITY

DRAIN_S = 10.0
TAP_G = 1.0
_SLICES = 24


def coat_thickness_mm(
    flow: Flow,
    *,
    below_line_mm: float,
    drain_s: float = DRAIN_S,
    tap_g: float = TAP_G,
    density: float = density_kg_m3(0.32),
) -> float:
    """Film thickness in mm at a depth below the dip line, after draining and tapping.

    Parameters
    ----------
    flow : Casson pair. below_line_mm : z in mm. drain_s : s. tap_g : taps as extra gravities. density : kg/m3.
    """
    pull = density * GRAVITY * (1 + tap_g)
    standing = flow.yield_stress_pa / pull
    draining = 4 * math.sqrt(flow.viscosity_pa_s * below_line_mm / 1000 / (pull * drain_s))
    return ((math.sqrt(standing) + math.sqrt(standing + draining)) / 2) ** 2 * 1000


@dataclass(frozen=True)
class Coat:
    """Wetted area in mm2, mean thickness in mm and mass in g of a coat on one piece."""

    area_mm2: float
    thickness_mm: float
    mass_g: float


def dip_coat(piece: RoundBiscuit, depth_share: float, flow: Flow, *, fat_fraction: float = 0.32) -> Coat:
    """Coat a dip leaves on one piece.

    Parameters
    ----------
    piece : the core. depth_share : how much of its height goes in, 0 to 1. flow : as it stands in the bowl.

    Returns
    -------
    Coat, the thickness averaged over the wetted area slice by slice below the line.
    """
    depth = depth_share * piece.diameter_mm
    density = density_kg_m3(fat_fraction)
    area = piece.dipped_area_mm2(depth)
    if area <= 0:
        return Coat(0.0, 0.0, 0.0)
    volume = 0.0
    for i in range(_SLICES):
        top, bottom = depth * (1 - i / _SLICES), depth * (1 - (i + 1) / _SLICES)
        slice_area = piece.dipped_area_mm2(top) - piece.dipped_area_mm2(bottom)
        below_line = depth - (top + bottom) / 2
        volume += slice_area * coat_thickness_mm(flow, below_line_mm=below_line, density=density)
    return Coat(area, volume / area, volume * density * 1e-6)
