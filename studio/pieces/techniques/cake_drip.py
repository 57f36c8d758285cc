"""Drips down a tier of a cake: how far they should run is wanted, what to squeeze follows from how the bowl flows."""

from __future__ import annotations

from typing import Any

from coating.figures.unrolled import unrolled_side
from coating.flow.casson1959 import Flow
from coating.flow.drip import Squeeze
from coating.piece.amounts import LayerNeed
from coating.piece.drips import LENGTH_MM, WIDTH_MM, drips_on, squeeze_of
from coating.plan.quantities import DripNeed, Need
from coating.shape.drips import DripsRound, mean_thickness_mm
from studio.pieces.models import Layer
from studio.pieces.techniques.base import Technique, core_of


class CakeDrip(Technique):
    """Its line and its figure say how many, how far and how much to squeeze."""

    @property
    def templates(self) -> dict[str, str]:
        return {role: f"pieces/cake_drip/{role}.html" for role in ("line", "figure")}

    def squeeze(self, layer: Layer, flow: Flow | None = None) -> Squeeze:
        """One drip of the wanted length."""
        told = layer.parameters
        return squeeze_of(told.get("length_mm"), told.get("width_mm"), told.get("wall", ""), layer.white, flow)

    def around(self, layer: Layer, flow: Flow | None = None) -> DripsRound:
        """All of them."""
        told = layer.parameters
        return drips_on(
            core_of(layer.piece), self.squeeze(layer, flow), length_mm=told.get("length_mm"),
            width_mm=told.get("width_mm"), spacing_mm=told.get("spacing_mm"), flooded=bool(told.get("flooded")),
        )  # fmt: skip

    def need(self, layer: Layer, flow: Flow | None = None) -> Need:
        """Drips, what stays in the bag, and the one that is tried at the back; drips that were designed weigh what was
        drawn."""
        found = DripNeed(self.around(layer, flow), layer.piece.count, layer.piece.spares)
        drawn_g = layer.parameters.get("goes_on_g")
        if drawn_g is None:
            return found
        drawn_g *= layer.in_part.share if layer.in_part else 1.0
        return LayerNeed(drawn_g * (layer.piece.count + layer.piece.spares), found.depth_g, found.lost_g)

    def thickness_mm(self, layer: Layer, flow: Flow | None = None) -> float:
        squeeze, told = self.squeeze(layer, flow), layer.parameters
        width_mm = told.get("width_mm") or WIDTH_MM
        return mean_thickness_mm(volume_ml=squeeze.volume_ml, length_mm=squeeze.drip.length_mm, width_mm=width_mm)

    def shown(self, layer: Layer, flow: Flow | None = None) -> dict[str, Any]:
        around, squeeze = self.around(layer, flow), self.squeeze(layer, flow)
        drip = squeeze.drip
        side = unrolled_side(around, length_mm=drip.length_mm, low_mm=drip.low_mm, high_mm=drip.high_mm)
        wanted_mm = layer.parameters.get("length_mm") or LENGTH_MM
        return {
            "around": around,
            "drawn_g": layer.parameters.get("goes_on_g"),
            "drip": drip,
            "volume_ml": squeeze.volume_ml,
            "side": side,
            "wanted_mm": wanted_mm,
        }
