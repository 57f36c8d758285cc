"""Drips down a tier of a cake: how far they should run is wanted, what to squeeze follows from how the bowl flows."""

from __future__ import annotations

from contextlib import suppress
from functools import lru_cache
from typing import Any

from coating.errors import OutOfBounds
from coating.figures.unrolled import unrolled_side
from coating.flow.casson1959 import Flow
from coating.flow.drip import Drip, drip_length, drip_volume
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

    def squeeze_ml(self, layer: Layer, flow: Flow | None = None) -> float:
        """For one drip of the wanted length; at the flow it aims for when no squeeze does it at this one."""
        wanted = {name: layer.parameters[name] for name in ("length_mm", "wall", "width_mm")}
        warm_c = working_temperature_c(layer.white)
        if flow is not None:
            with suppress(OutOfBounds):
                return drip_volume(number_from_flow(flow), temperature_c=warm_c, **wanted)
        return drip_volume(number_from_flow(window(self.word).aim), temperature_c=warm_c, **wanted)

    def around(self, layer: Layer, flow: Flow | None = None) -> DripsRound:
        wanted = layer.parameters
        tier = CakeTier(layer.piece.size["diameter_mm"], layer.piece.size["height_mm"])
        return drips_round(
            tier, volume_ml=self.squeeze_ml(layer, flow), width_mm=wanted["width_mm"],
            spacing_mm=wanted["spacing_mm"], flooded=wanted["flooded"],
        )  # fmt: skip

    def need(self, layer: Layer, flow: Flow | None = None) -> DripNeed:
        return DripNeed(self.around(layer, flow), layer.piece.count, layer.piece.spares)

    def thickness_mm(self, layer: Layer, flow: Flow | None = None) -> float:
        wanted = layer.parameters
        return mean_thickness_mm(
            volume_ml=self.squeeze_ml(layer, flow), length_mm=wanted["length_mm"], width_mm=wanted["width_mm"]
        )

    def shown(self, layer: Layer, flow: Flow | None = None) -> dict[str, Any]:
        around, drip, volume_ml = self.around(layer, flow), self._drip(layer, flow), self.squeeze_ml(layer, flow)
        side = unrolled_side(around, length_mm=drip.length_mm, low_mm=drip.low_mm, high_mm=drip.high_mm)
        return {"around": around, "drip": drip, "volume_ml": volume_ml, "side": side}

    def result(self, layer: Layer) -> dict[str, float]:
        around = self.around(layer)
        return {"drips": around.drips, "volume_ml": self.squeeze_ml(layer), "length_mm": self._drip(layer).length_mm}

    def _drip(self, layer: Layer, flow: Flow | None = None) -> Drip:
        wanted = layer.parameters
        number, warm_c = number_from_flow(flow or window(self.word).aim), working_temperature_c(layer.white)
        return _runs(number, self.squeeze_ml(layer, flow), warm_c, wanted["wall"], wanted["width_mm"])


@lru_cache(maxsize=4096)
def _runs(number: float, volume_ml: float, temperature_c: float, wall: str, width_mm: float) -> Drip:
    return drip_length(number, volume_ml=volume_ml, temperature_c=temperature_c, wall=wall, width_mm=width_mm)
