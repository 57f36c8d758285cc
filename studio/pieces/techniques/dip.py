"""A biscuit, dipped edge first."""

from __future__ import annotations

from typing import Any

from coating.flow.casson1959 import Flow
from coating.flow.windows import window
from coating.plan.quantities import DipNeed
from coating.shape.coats import Coat, dip_coat
from coating.shape.pieces import RoundBiscuit
from studio.pieces.forms import DipForm
from studio.pieces.models import Layer, Piece
from studio.pieces.techniques.base import Technique


class Dip(Technique):
    word, core, title, this, done = "dip", "round_biscuit", "A dipped biscuit", "this dip", "All dipped"
    thick, thin, cool = "the coat will be heavy", "the coat will be slight", "to dip"
    form = DipForm

    def size(self, data: dict[str, Any]) -> dict[str, Any]:
        return {"v": 1, "diameter_mm": data["diameter_mm"], "thickness_mm": data["thickness_mm"]}

    def parameters(self, data: dict[str, Any]) -> dict[str, Any]:
        return {"v": 1, "depth_share": float(data["depth"])}

    def initial(self, piece: Piece, layer: Layer) -> dict[str, Any]:
        share = layer.parameters["depth_share"]
        return {**piece.size, "depth": f"{share:g}" if share != 1 else "1.0"}

    def coat(self, layer: Layer, flow: Flow | None = None) -> Coat:
        """On one piece."""
        return dip_coat(_biscuit(layer), layer.parameters["depth_share"], flow or window(self.word).aim)

    def need(self, layer: Layer, flow: Flow | None = None) -> DipNeed:
        piece, share = layer.piece, layer.parameters["depth_share"]
        return DipNeed(self.coat(layer, flow).mass_g, piece.count, piece.spares, _biscuit(layer), share)

    def thickness_mm(self, layer: Layer, flow: Flow | None = None) -> float:
        return self.coat(layer, flow).thickness_mm

    def shown(self, layer: Layer, flow: Flow | None = None) -> dict[str, Any]:
        return {"coat": self.coat(layer, flow)}

    def result(self, layer: Layer) -> dict[str, float]:
        return {"coat_g": self.coat(layer).mass_g}


def _biscuit(layer: Layer) -> RoundBiscuit:
    return RoundBiscuit(layer.piece.size["diameter_mm"], layer.piece.size["thickness_mm"])
