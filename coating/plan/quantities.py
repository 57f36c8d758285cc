"""Goes on, and melt at least: nobody melts six grams.

What is melted for a dip covers what goes on every piece and spare, what sticks to the bowl, and the depth that the last
piece still needs. A tilted bowl, a little wider than the piece, needs about half the straight-sided volume. For drips
it covers them, one tried at the back, and what stays in the bowl and in the bag.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Protocol

from coating.shape.drips import DripsRound

BOWL_LOSS_G, BAG_LOSS_G = 12.0, 8.0
ROOM_BESIDE_MM, ROOM_BELOW_MM = 15.0, 8.0
TILTED = 0.5
ROUND_UP_G = 10.0


class Need(Protocol):
    """What a layer asks of its bowl: g that go on, g left for depth, g lost besides what sticks to the bowl."""

    @property
    def goes_on_g(self) -> float: ...

    @property
    def depth_g(self) -> float: ...

    @property
    def lost_g(self) -> float: ...


@dataclass(frozen=True)
class DripNeed:
    """One drip layer: what goes round one tier, and how many of them; spares count as whole tiers."""

    around: DripsRound
    count: int
    spares: int = 0

    @property
    def goes_on_g(self) -> float:
        return self.around.mass_g * (self.count + self.spares)

    @property
    def depth_g(self) -> float:
        return 0.0

    @property
    def lost_g(self) -> float:
        """What stays in the bag, and the drip that is tried at the back."""
        return BAG_LOSS_G + self.around.drips_g / self.around.drips


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


def quantity(needs: Sequence[Need]) -> Quantity:
    """Add up the layers that share one bowl: they share its depth and what sticks to it too."""
    if not needs:
        return Quantity(0.0, 0.0, 0.0)
    lost_g = BOWL_LOSS_G + sum(n.lost_g for n in needs)
    return Quantity(sum(n.goes_on_g for n in needs), max(n.depth_g for n in needs), lost_g)
