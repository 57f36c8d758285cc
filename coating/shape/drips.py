"""Drips round a tier: how many, and the grams of the drips, the rim they start from and a flooded top.

The bead on the rim is 6 mm wide and 2.2 mm high with a rounded section (.8 of the rectangle), a flooded top lies 2.5 mm
deep: common practice, no source.
"""

from __future__ import annotations

from dataclasses import dataclass

from coating.flow.additions.fat import density_kg_m3
from coating.flow.material import ORDINARY_FAT
from coating.limits import check
from coating.shape.pieces import CakeTier

RIM_MM, THICK_MM, ROUNDED, TOP_MM = 6.0, 2.2, 0.8, 2.5
ROOM_BESIDE = 1.2  # widths from middle to middle below which two drips run together


@dataclass(frozen=True)
class DripsRound:
    """How many drips go round, the way between two in mm, and masses in g."""

    tier: CakeTier
    drips: int
    width_mm: float
    apart_mm: float
    drips_g: float
    rim_g: float
    top_g: float

    @property
    def mass_g(self) -> float:
        """Drips, rim and top together, g."""
        return self.drips_g + self.rim_g + self.top_g


def drips_round(
    tier: CakeTier,
    *,
    volume_ml: float,
    width_mm: float,
    spacing_mm: float,
    flooded: bool = False,
    fat_fraction: float = ORDINARY_FAT,
) -> DripsRound:
    """Drips evenly round a tier.

    Parameters
    ----------
    tier : mm. volume_ml : of one drip. width_mm : of a drip. spacing_mm : from middle to middle, at least; never so
    little that two run together. flooded : whether the top is covered too. fat_fraction : of the coating.

    Raises
    ------
    OutOfBounds : a value outside its bounds.
    """
    wide = check("drip_width_mm", width_mm, "width_mm")
    gap_mm = max(check("spacing_mm", spacing_mm, "spacing_mm"), wide * ROOM_BESIDE)
    drips = max(1, int(tier.round_mm / gap_mm + 1e-9))
    g_per_mm3 = density_kg_m3(fat_fraction) * 1e-6
    each_mm3 = check("drip_ml", volume_ml, "volume_ml") * 1000
    rim_mm3 = tier.round_mm * RIM_MM * THICK_MM * ROUNDED
    top_mm3 = tier.top_mm2 * TOP_MM if flooded else 0.0
    return DripsRound(
        tier,
        drips,
        wide,
        tier.round_mm / drips,
        drips * each_mm3 * g_per_mm3,
        rim_mm3 * g_per_mm3,
        top_mm3 * g_per_mm3,
    )


def mean_thickness_mm(*, volume_ml: float, length_mm: float, width_mm: float) -> float:
    """Of a drip that has run so far, spread evenly over its length and width."""
    return volume_ml * 1000 / max(length_mm * width_mm, 1.0)
