"""Drips down a tier of a cake: how far they should run is wanted, what to squeeze follows from how the bowl flows."""

from __future__ import annotations

from coating.figures.unrolled import unrolled_side
from coating.flow.casson1959 import Flow
from coating.piece.drips import LENGTH_MM, drips_on, squeeze_of
from studio.common.types import Context
from studio.pieces.models import Layer
from studio.pieces.reckoned import core_of


def drips_shown(layer: Layer, flow: Flow | None = None) -> Context:
    """One squeeze, how many go round, and the side laid out flat, at a flow or at the one that is aimed for."""
    parameters = layer.parameters
    length_mm, width_mm = parameters.get("length_mm"), parameters.get("width_mm")
    squeeze = squeeze_of(length_mm, width_mm, parameters.get("wall", ""), layer.white, flow)
    around = drips_on(
        core_of(layer.piece),
        squeeze,
        length_mm=length_mm,
        width_mm=width_mm,
        spacing_mm=parameters.get("spacing_mm"),
        flooded=bool(parameters.get("flooded")),
    )
    drip = squeeze.drip
    side = unrolled_side(around, length_mm=drip.length_mm, low_mm=drip.low_mm, high_mm=drip.high_mm)
    return {
        "around": around,
        "drip": drip,
        "volume_ml": squeeze.volume_ml,
        "side": side,
        "wanted_mm": length_mm or LENGTH_MM,
    }
