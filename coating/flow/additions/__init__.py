"""What does this do to the flow? Fat, crystals, water, temperature and too much heat, a file each.

Every effect is a pair of factors on (yield stress, viscosity) of the coating as its label has it.
"""

from coating.flow.additions.fat import (
    DENSITY_FAT_KG_M3,
    density_kg_m3,
    fat_factors,
    solid_volume_fraction,
)
from coating.flow.additions.overheating import overheated_factor, overheated_minutes
from coating.flow.additions.temperature import temperature_factors
from coating.flow.additions.water import fat_loss_to_water, water_factor

__all__ = [
    "DENSITY_FAT_KG_M3",
    "density_kg_m3",
    "fat_factors",
    "fat_loss_to_water",
    "overheated_factor",
    "overheated_minutes",
    "solid_volume_fraction",
    "temperature_factors",
    "water_factor",
]
