"""Layers of a piece that was built as a stack: one class for every technique of the core, with words from here."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache
from typing import TYPE_CHECKING, Any

from coating.flow.casson1959 import Flow
from coating.piece import layers as core_layers
from coating.piece.amounts import BAG_HOLDS_G, depth_g
from coating.piece.cores import Core, kind_of_core
from coating.piece.layers import FILM, LINE, SPREAD, film_mm, on_one_g, technique
from coating.plan.quantities import BAG_LOSS_G
from studio.pieces.stacks import VERSION, as_core_layer
from studio.pieces.techniques.base import Technique

if TYPE_CHECKING:
    from studio.pieces.models import Layer, Piece

# How a bowl for a flow is spoken of: what it is for, and what its bowl is called after its colour.
_SPOKEN = {
    "dip": "dip", "dip_fruit": "dip", "balls": "dip", "lace": "lace", "lettering": "line", "drizzle": "drizzle",
    "shell": "shell", "solid_mould": "mould", "outline": "outline", "flood": "flood", "marbling": "pour",
    "sheet": "sheet", "petals": "petal", "glue": "glue", "cake_drip": "drip",
}  # fmt: skip


def is_stacked(layer: Layer) -> bool:
    """Whether it belongs to a stack that was built."""
    return bool(layer.parameters.get("v") == VERSION)


def core_of(piece: Piece) -> Core:
    """The core of a built piece. `size` is versioned JSON: {"v": 2, "mm": [...]}."""
    return _core(piece.core, *piece.size["mm"])


@lru_cache(maxsize=1024)
def _core(name: str, *size_mm: float) -> Core:
    return kind_of_core(name).core(*size_mm)


def core_layer(layer: Layer) -> core_layers.Layer:
    """A row as the core knows it. `parameters` is versioned JSON: {"v": 2, "share", "thickness_mm", "placed", ...}."""
    return as_core_layer(layer)


@dataclass(frozen=True)
class StackNeed:
    """What a layer of a stack asks of its bowl, g."""

    goes_on_g: float
    depth_g: float
    lost_g: float


class Stacked(Technique):
    """One technique of the core."""

    def __init__(self, name: str) -> None:
        kind = technique(name)
        spoken = _SPOKEN.get(kind.window, kind.title.lower())
        self.kind, self.word, self.core, self.title = kind, name, "", kind.title
        self.bowl = "" if kind.window == "dip" else spoken
        self.this, self.done = f"this {spoken}", "All done"
        self.thick, self.thin, self.cool = "it will be heavy", "it will run", "to use"

    @property
    def flow(self) -> str:
        return self.kind.window

    @property
    def templates(self) -> dict[str, str]:
        return {role: f"pieces/stacked/{role}.html" for role in ("line", "small", "figure")}

    def size(self, data: dict[str, Any]) -> dict[str, Any]:
        raise NotImplementedError("a stack is built on a page of its own")

    def parameters(self, data: dict[str, Any]) -> dict[str, Any]:
        raise NotImplementedError("a stack is built on a page of its own")

    def initial(self, piece: Piece, layer: Layer) -> dict[str, Any]:
        raise NotImplementedError("a stack is built on a page of its own")

    def one_g(self, layer: Layer, flow: Flow | None = None) -> float:
        return on_one_g(core_of(layer.piece), core_layer(layer), flow=flow)

    def need(self, layer: Layer, flow: Flow | None = None) -> StackNeed:
        goes_on_g = self.one_g(layer, flow) * (layer.piece.count + layer.piece.spares)
        bags = math.ceil(goes_on_g / BAG_HOLDS_G - 1e-9) if self.kind.bag else 0
        return StackNeed(goes_on_g, depth_g(core_of(layer.piece), core_layer(layer)), bags * BAG_LOSS_G)

    def thickness_mm(self, layer: Layer, flow: Flow | None = None) -> float:
        told = core_layer(layer)
        if self.kind.measured == FILM:
            return film_mm(self.kind.window, told.share * core_of(layer.piece).length_mm, flow)
        if self.kind.measured == LINE:
            return (told.width_mm or self.kind.width_mm) * core_layers.BEAD_HEIGHT
        if self.kind.measured == SPREAD:
            return told.thickness_mm or self.kind.thickness_mm
        return 5.0

    def shown(self, layer: Layer, flow: Flow | None = None) -> dict[str, Any]:
        core = kind_of_core(layer.piece.core).title.lower()
        return {"core": core, "one_g": self.one_g(layer, flow), "kind": self.kind, "told": core_layer(layer),
                "y": 78 - 12 * min(layer.order, 6)}  # fmt: skip


STACKED: Mapping[str, Stacked] = {name: Stacked(name) for name in core_layers.TECHNIQUES}


def by_flow(flow: str) -> Stacked:
    """The first technique that wants a flow."""
    return next(s for s in STACKED.values() if s.flow == flow)
