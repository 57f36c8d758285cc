"""A whole job by colour: what goes on, what the spares take, what is lost, what must be left, what to melt.

in = goes on + spares + lost + left, to the last figure.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from coating.flow.casson1959 import Flow
from coating.piece.cores import Core
from coating.piece.layers import DENSITY, FILM, Layer, on_one_g
from coating.plan.quantities import BAG_LOSS_G, BOWL_LOSS_G, ROOM_BELOW_MM, ROOM_BESIDE_MM, TILTED

AT_ONCE = 4  # cavities poured full before the first is drained; common practice, no source
BAG_HOLDS_G = 150.0  # three quarters of an ordinary bag; common practice, no source


@dataclass(frozen=True)
class LayerNeed:
    """What a layer asks of its bowl, g: on all pieces, left for depth, lost in bags."""

    goes_on_g: float
    depth_g: float
    lost_g: float


@dataclass(frozen=True)
class Batch:
    """So many pieces of one kind, with spares: a core and its layers."""

    core: Core
    layers: tuple[Layer, ...]
    count: int
    spares: int = 0


@dataclass(frozen=True)
class Amount:
    """One colour for one flow, g: on the pieces, on the spares, lost in bowl and bags, left for depth. Bags filled."""

    colour: str
    flow: str
    goes_on_g: float
    spare_g: float
    lost_g: float
    left_g: float
    bags: int

    @property
    def melt_g(self) -> float:
        return self.goes_on_g + self.spare_g + self.lost_g + self.left_g


def depth_g(core: Core, layer: Layer) -> float:
    """What must still be in the bowl for the last piece, g: depth for a dip in a tilted bowl; for shells what fills
    `AT_ONCE` cavities to the brim and is drained back, less what stays in them. Nothing for the rest."""
    if layer.technique == "shell":
        return max(0.0, AT_ONCE * (core.holds_ml * DENSITY * 1e-3 - on_one_g(core, layer)))
    if layer.kind.measured != FILM or layer.kind.on == "rim":
        return 0.0
    width = core.across_mm + ROOM_BESIDE_MM
    deep = layer.share * core.length_mm + ROOM_BELOW_MM
    return math.pi / 4 * width**2 * deep * TILTED * DENSITY * 1e-6


def need_of(core: Core, layer: Layer, pieces: float, *, flow: Flow | None = None) -> LayerNeed:
    """What a layer on so many pieces asks of its bowl, at a flow or the one its technique aims for; of a layer in
    several colours, on the share of the pieces that is of one."""
    goes_on_g = on_one_g(core, layer, flow=flow) * pieces
    bags = math.ceil(goes_on_g / BAG_HOLDS_G - 1e-9) if layer.kind.bag else 0
    return LayerNeed(goes_on_g, depth_g(core, layer), bags * BAG_LOSS_G)


def amounts(
    batches: Sequence[Batch], *, bowl_loss_g: float = BOWL_LOSS_G, bag_loss_g: float = BAG_LOSS_G,
    flows: dict[str, Flow] | None = None,
) -> list[Amount]:  # fmt: skip
    """What each colour takes, by the flow it is wanted at: layers that share both share a bowl.

    Parameters
    ----------
    batches : pieces with their layers. bowl_loss_g : stays in a bowl, g. bag_loss_g : stays in a bag, g.
    flows : how a bowl stands, by the technique's window; else the flow the technique aims for.

    Raises OutOfBounds as `on_one_g`.
    """
    groups: dict[tuple[str, str], list[tuple[Batch, Layer]]] = {}
    for batch in batches:
        for layer in batch.layers:
            if layer.takes_coating:
                groups.setdefault((layer.colour, layer.kind.window), []).append((batch, layer))
    found = []
    for (colour, flow), pairs in groups.items():
        each = [(b, la, on_one_g(b.core, la, flow=(flows or {}).get(flow))) for b, la in pairs]
        on_g = sum(g * b.count for b, _, g in each)
        spare_g = sum(g * b.spares for b, _, g in each)
        bagged_g = sum(g * (b.count + b.spares) for b, la, g in each if la.kind.bag)
        bags = math.ceil(bagged_g / BAG_HOLDS_G - 1e-9) if bagged_g else 0
        lost_g = (bowl_loss_g + bags * bag_loss_g) if on_g + spare_g > 0 else 0.0
        left_g = max((depth_g(b.core, la) for b, la, g in each if g > 0), default=0.0)
        found.append(Amount(colour, flow, on_g, spare_g, lost_g, left_g, bags))
    return found
