"""Goes on, and melt at least: nobody melts six grams.

What is melted covers what goes on every piece and spare, what sticks to the bowl, and the depth that the last piece
still needs. A tilted bowl, a little wider than the piece, needs about half the straight-sided volume.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from coating.flow.additions.fat import density_kg_m3
from coating.shape.pieces import RoundBiscuit

BOWL_LOSS_G = 12.0
ROOM_BESIDE_MM, ROOM_BELOW_MM = 15.0, 8.0
TILTED = 0.5
ROUND_UP_G = 10.0


@dataclass(frozen=True)
class DipNeed:
    """One dip layer: what a piece takes in g, how many, and the depth it needs in the bowl."""

    coat_g: float
    count: int
    spares: int
    piece: RoundBiscuit
    depth_share: float

    @property
    def pieces(self) -> int:
        return self.count + self.spares

    @property
    def goes_on_g(self) -> float:
        return self.coat_g * self.pieces

    @property
    def depth_g(self) -> float:
        """Mass in g that must still lie in the tilted bowl for the last piece."""
        width = self.piece.diameter_mm + ROOM_BESIDE_MM
        depth = self.depth_share * self.piece.diameter_mm + ROOM_BELOW_MM
        volume_mm3 = math.pi / 4 * width**2 * depth * TILTED
        return volume_mm3 * density_kg_m3(0.32) * 1e-6


@dataclass(frozen=True)
class Quantity:
    """Masses in g: what goes on, what must be left for depth, what sticks, what to melt (rounded up to 10 g).

    `up_to_g` is a larger mass to melt, where a kitchen cannot measure the smaller.
    """

    goes_on_g: float
    depth_g: float
    lost_g: float
    up_to_g: float = 0.0

    @property
    def melt_g(self) -> float:
        total = self.goes_on_g + self.depth_g + self.lost_g
        return max(self.up_to_g, math.ceil(total / ROUND_UP_G - 1e-9) * ROUND_UP_G)

    @property
    def left_over_g(self) -> float:
        """What can be poured back for the next colour."""
        return self.melt_g - self.goes_on_g - self.lost_g


def quantity(needs: list[DipNeed]) -> Quantity:
    """Add up the dips that share one bowl: they share its depth and its loss too."""
    if not needs:
        return Quantity(0.0, 0.0, 0.0)
    return Quantity(sum(n.goes_on_g for n in needs), max(n.depth_g for n in needs), BOWL_LOSS_G)
