"""A technique as the pages know it: what a layer of it asks of its bowl, and the words that are said of it."""

from __future__ import annotations

from dataclasses import replace
from functools import lru_cache
from typing import TYPE_CHECKING, Any

from coating.flow.casson1959 import Flow
from coating.piece import layers as core_layers
from coating.piece.amounts import need_of
from coating.piece.cores import Core
from coating.piece.kinds import kind_of_core
from coating.piece.layers import FILM, LINE, SPREAD, coat_of_dip_mm, on_one_g, technique
from coating.piece.layers import Layer as CoreLayer
from coating.plan.quantities import Need
from studio.pieces.stacks import as_core_layer

if TYPE_CHECKING:
    from studio.pieces.models import Layer, Piece

# How a bowl for a flow is spoken of.
_SPOKEN = {
    "dip": "dip", "dip_fruit": "dip", "balls": "dip", "lace": "lace", "lettering": "line", "drizzle": "drizzle",
    "shell": "shell", "solid_mould": "mould", "outline": "outline", "flood": "flood", "marbling": "pour",
    "sheet": "sheet", "petals": "petal", "slab": "slab", "glue": "glue", "cake_drip": "drip",
}  # fmt: skip
# How sentences about such a bowl end: its last button, when it is thick, when it is thin, cool enough to.
_ENDS = {
    "dip": ("All dipped", "the coat will be heavy", "the coat will be slight", "to dip"),
    "cake_drip": ("All dripped", "the drips stay stubby", "they may reach the board", "to drip"),
}
_OTHER = ("All done", "it will be heavy", "it will run", "to use")


@lru_cache(maxsize=1024)
def _core(name: str, *size_mm: float) -> Core:
    return kind_of_core(name).core(*size_mm)


def core_of(piece: Piece) -> Core:
    """The core of a piece. `size` is versioned JSON: {"v": 2, "mm": [...]}."""
    return _core(piece.core, *piece.size["mm"])


def told_of(layer: Layer) -> CoreLayer:
    """A layer as the core knows it, made once from the row as it was read."""
    kept: CoreLayer = layer.__dict__.get("_told") or layer.__dict__.setdefault("_told", as_core_layer(layer))
    return kept


class Technique:
    """One technique of the core. `this`, `thick`, `thin` and `cool` end sentences about a bowl; `done` is its last
    button; `bowl` what a bowl for it is called after its colour."""

    def __init__(self, name: str) -> None:
        self.kind = technique(name)
        spoken = _SPOKEN.get(self.kind.window, self.kind.title.lower())
        self.word, self.title = name, self.kind.title
        self.bowl = "" if self.kind.window == "dip" else spoken
        self.this = f"this {spoken}"
        self.done, self.thick, self.thin, self.cool = _ENDS.get(self.kind.window, _OTHER)

    @property
    def flow(self) -> str:
        """The window its bowl has to be in, a key of `coating.flow.windows`; "" when it needs no bowl."""
        return self.kind.window

    @property
    def templates(self) -> dict[str, str]:
        """Where its parts of a page are, by role."""
        return {role: f"pieces/layer/{role}.html" for role in ("line", "figure")}

    def one_g(self, layer: Layer, flow: Flow | None = None) -> float:
        """On one piece, g, at a flow or the one it aims for."""
        return on_one_g(core_of(layer.piece), told_of(layer), flow=flow)

    def need(self, layer: Layer, flow: Flow | None = None) -> Need:
        """What it asks of its bowl at a flow; without one, at the flow the technique aims for."""
        pieces, kept = layer.piece.count + layer.piece.spares, layer.__dict__.setdefault("_needs", {})
        if (pieces, flow) not in kept:
            part = layer.in_part
            share, depth = (part.share, part.depth_g) if part else (1.0, 0.0)
            whole = need_of(core_of(layer.piece), told_of(layer), pieces * share, flow=flow)
            kept[pieces, flow] = replace(whole, depth_g=max(whole.depth_g, depth))
        found: Need = kept[pieces, flow]
        return found

    def thickness_mm(self, layer: Layer, flow: Flow | None = None) -> float:
        """How thick what sets is, mm."""
        told = told_of(layer)
        if self.kind.measured == FILM:
            return coat_of_dip_mm(core_of(layer.piece), told.share, flow)
        if self.kind.measured == LINE:
            return (told.width_mm or self.kind.width_mm) * core_layers.BEAD_HEIGHT
        if self.kind.measured == SPREAD:
            return told.thickness_mm or self.kind.thickness_mm
        return 5.0

    def shown(self, layer: Layer, flow: Flow | None = None) -> dict[str, Any]:
        """What its templates need besides piece and layer, at a flow or at the one it aims for."""
        thick_mm = self.thickness_mm(layer, flow) if self.kind.measured == FILM else None
        return {"one_g": self.one_g(layer, flow), "kind": self.kind, "told": told_of(layer), "thick_mm": thick_mm}
