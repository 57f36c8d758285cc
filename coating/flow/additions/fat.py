"""Fat and crystals: how full of solids it is. Krieger & Dougherty (1959), used for ratios only."""

from __future__ import annotations

from coating.errors import WillNotFlow

DENSITY_FAT_KG_M3 = 900.0  # handbook, from memory
DENSITY_SOLIDS_KG_M3 = 1550.0  # handbook, from memory
PACKING = 0.64
YIELD_EXPONENT = 0.45
CLOSEST = 0.98


def density_kg_m3(fat_fraction: float) -> float:
    """Density of a melted coating.

    Parameters
    ----------
    fat_fraction : float
        Fat by mass, 0 to 1.

    Returns
    -------
    float
        kg/m3.

    >>> round(density_kg_m3(0.32))
    1259
    """
    return 1.0 / (fat_fraction / DENSITY_FAT_KG_M3 + (1 - fat_fraction) / DENSITY_SOLIDS_KG_M3)


def solid_volume_fraction(fat_fraction: float, *, crystal_fraction: float = 0.0) -> float:
    """How much of the volume is solid.

    Parameters
    ----------
    fat_fraction : float
        Fat by mass, 0 to 1.
    crystal_fraction : float
        Share of the melted rest that crystals turn into solids.

    Returns
    -------
    float
        0 to 1.
    """
    solids = (1 - fat_fraction) / DENSITY_SOLIDS_KG_M3
    phi = solids / (solids + fat_fraction / DENSITY_FAT_KG_M3)
    return phi + (1 - phi) * crystal_fraction


def crowding(phi: float) -> float:
    """(1 - phi/.64)^-2. Raises WillNotFlow from 98 % of the closest packing up."""
    if phi / PACKING >= CLOSEST:
        raise WillNotFlow("There is too little melted fat between the solids, so it will not flow.")
    return (1 - phi / PACKING) ** -2


def fat_factors(fat_fraction: float, new_fat_fraction: float) -> tuple[float, float]:
    """What adding fat does to the flow.

    Parameters
    ----------
    fat_fraction, new_fat_fraction : float
        Fat by mass before and after, 0 to 1.

    Returns
    -------
    tuple of float
        Factors on yield stress and viscosity.

    Source: Krieger-Dougherty form; reproduces the handbook rule that 1 % of fat at 36 % does less than a
    twentieth of what it does at 28 % (from memory). The exponent .45 on the yield stress is an assumption.

    >>> round(fat_factors(0.30, 0.31 / 1.01)[1], 3)
    0.791
    """
    ratio = crowding(solid_volume_fraction(new_fat_fraction)) / crowding(solid_volume_fraction(fat_fraction))
    return ratio**YIELD_EXPONENT, ratio


def crystal_factor(fat_fraction: float, crystal_fraction: float) -> float:
    """Factor on both yield stress and viscosity when a share of the melted fat has crystallised."""
    if crystal_fraction <= 0:
        return 1.0
    crowded = crowding(solid_volume_fraction(fat_fraction, crystal_fraction=crystal_fraction))
    return crowded / crowding(solid_volume_fraction(fat_fraction))
