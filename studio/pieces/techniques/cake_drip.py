"""Drips down a tier of a cake: how far they should run is wanted, what to squeeze follows from how the bowl flows."""

from __future__ import annotations

from contextlib import suppress
from typing import Any

from coating.errors import OutOfBounds
from coating.figures.unrolled import unrolled_side
from coating.flow.casson1959 import Flow
from coating.flow.drip import Squeeze, squeeze_for
from coating.flow.trade_number import number_from_flow
from coating.flow.windows import window
from coating.heat.melting import working_temperature_c
from coating.plan.quantities import DripNeed
from coating.shape.drips import DripsRound, drips_round, mean_thickness_mm
from coating.shape.pieces import CakeTier
from studio.pieces.forms import CakeDripForm
from studio.pieces.models import Layer, Piece
from studio.pieces.techniques.base import Technique

_PARAMETERS = ("length_mm", "width_mm", "spacing_mm", "wall")


class CakeDrip(Technique):
    word, core, title, this, done = "cake_drip", "cake_tier", "A cake with drips", "this drip", "All dripped"
    bowl, thick, thin, cool = "drip", "the drips stay stubby", "they may reach the board", "to drip"
    form = CakeDripForm

    def size(self, data: dict[str, Any]) -> dict[str, Any]:
        return {"v": 1, "diameter_mm": data["diameter_mm"], "height_mm": data["height_mm"]}

    def parameters(self, data: dict[str, Any]) -> dict[str, Any]:
        return {"v": 1, **{name: data[name] for name in _PARAMETERS}, "flooded": data["top"] == "flooded"}

    def initial(self, piece: Piece, layer: Layer) -> dict[str, Any]:
        known = {name: layer.parameters[name] for name in _PARAMETERS}
        return {**piece.size, **known, "top": "flooded" if layer.parameters["flooded"] else "rim"}

    def squeeze(self, layer: Layer, flow: Flow | None = None) -> Squeeze:
        """One drip of the wanted length; at the flow it aims for when no squeeze does it at this one."""
        wanted = {name: layer.parameters[name] for name in ("length_mm", "wall", "width_mm")}
        warm_c = working_temperature_c(layer.white)
        if flow is not None:
            with suppress(OutOfBounds):
                return squeeze_for(number_from_flow(flow), temperature_c=warm_c, **wanted)
        return squeeze_for(number_from_flow(window(self.word).aim), temperature_c=warm_c, **wanted)

    def around(self, layer: Layer, flow: Flow | None = None) -> DripsRound:
        wanted = layer.parameters
        tier = CakeTier(layer.piece.size["diameter_mm"], layer.piece.size["height_mm"])
        return drips_round(
            tier, volume_ml=self.squeeze(layer, flow).volume_ml, width_mm=wanted["width_mm"],
            spacing_mm=wanted["spacing_mm"], flooded=wanted["flooded"],
        )  # fmt: skip

    def need(self, layer: Layer, flow: Flow | None = None) -> DripNeed:
        return DripNeed(self.around(layer, flow), layer.piece.count, layer.piece.spares)

    def thickness_mm(self, layer: Layer, flow: Flow | None = None) -> float:
        squeeze = self.squeeze(layer, flow)
        width_mm = layer.parameters["width_mm"]
        return mean_thickness_mm(volume_ml=squeeze.volume_ml, length_mm=squeeze.drip.length_mm, width_mm=width_mm)

    def shown(self, layer: Layer, flow: Flow | None = None) -> dict[str, Any]:
        around, squeeze = self.around(layer, flow), self.squeeze(layer, flow)
        drip = squeeze.drip
        side = unrolled_side(around, length_mm=drip.length_mm, low_mm=drip.low_mm, high_mm=drip.high_mm)
        return {"around": around, "drip": drip, "volume_ml": squeeze.volume_ml, "side": side}

    def result(self, layer: Layer) -> dict[str, float]:
        around, squeeze = self.around(layer), self.squeeze(layer)
        return {"drips": around.drips, "volume_ml": squeeze.volume_ml, "length_mm": squeeze.drip.length_mm}
