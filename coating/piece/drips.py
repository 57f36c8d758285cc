"""Drips down a tier as a layer of a piece: what to squeeze for the run that is wanted, and what goes round."""

from __future__ import annotations

from contextlib import suppress

from coating.errors import OutOfBounds
from coating.flow.casson1959 import Flow
from coating.flow.drip import Squeeze, squeeze_for
from coating.flow.trade_number import number_from_flow
from coating.flow.windows import window
from coating.heat.melting import working_temperature_c
from coating.piece.cores import Core, Tier
from coating.shape.drips import DripsRound, drips_round
from coating.shape.pieces import CakeTier

LENGTH_MM, WIDTH_MM, SPACING_MM, CHILLED = 40.0, 9.0, 28.0, "chilled"


def squeeze_of(
    length_mm: float | None, width_mm: float | None, wall: str, white: str, flow: Flow | None = None
) -> Squeeze:
    """One drip of the wanted length; at the flow it aims for when no squeeze does it at this one.

    Raises OutOfBounds when no single squeeze runs so far.
    """
    wanted = {"length_mm": length_mm or LENGTH_MM, "width_mm": width_mm or WIDTH_MM}
    warm_c = working_temperature_c(white)
    if flow is not None:
        with suppress(OutOfBounds):
            return squeeze_for(number_from_flow(flow), temperature_c=warm_c, wall=wall or CHILLED, **wanted)
    aimed = number_from_flow(window("cake_drip").aim)
    return squeeze_for(aimed, temperature_c=warm_c, wall=wall or CHILLED, **wanted)


def drips_on(
    core: Core,
    squeeze: Squeeze,
    *,
    length_mm: float | None,
    width_mm: float | None,
    spacing_mm: float | None,
    flooded: bool,
) -> DripsRound:
    """All of them round a tier. Raises OutOfBounds for another core, or drips that would stand on the board."""
    if not isinstance(core, Tier):
        raise OutOfBounds(
            "Choose a tier of a cake, or a dessert that stands up: drips need a side to run down.", field="core"
        )
    if (length_mm or LENGTH_MM) >= core.height_mm:
        raise OutOfBounds(
            "Drips that long would reach the board. Keep them shorter than the side is high.", field="length_mm"
        )
    return drips_round(
        CakeTier(core.diameter_mm, core.height_mm),
        volume_ml=squeeze.volume_ml,
        width_mm=width_mm or WIDTH_MM,
        spacing_mm=spacing_mm or SPACING_MM,
        flooded=flooded,
    )
