"""What is poured, as shapes and waits need to know it: one place for the density of an ordinary coating."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

from coating.flow.additions.fat import density_kg_m3

ORDINARY_FAT = 0.32  # g in 1 g, of candy coatings and white bars; labels, common practice, no source


@dataclass(frozen=True)
class Material:
    """A melted coating.

    Parameters
    ----------
    fat_fraction : g of fat in 1 g.
    """

    fat_fraction: float = ORDINARY_FAT

    @cached_property
    def density_kg_m3(self) -> float:
        """Density of it melted, kg/m3.

        >>> round(ORDINARY.density_kg_m3)
        1259
        """
        return density_kg_m3(self.fat_fraction)

    @property
    def g_per_mm3(self) -> float:
        """The same in g/mm3."""
        return self.density_kg_m3 * 1e-6


ORDINARY = Material()
