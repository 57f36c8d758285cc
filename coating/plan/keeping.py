"""How a piece of this bowl keeps: how hard it is in the room, and what makes it bloom.

Shares of solid fat as in `flow.firmness`; what brings bloom is common practice, no source. Nothing here says when it
blooms: that is not modelled.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from coating.flow.firmness import FAMILY_LIMIT, SNAP, SOFT, foreign_share, solid_fraction
from coating.heat.melting import TEMPER_LOST_C
from coating.heat.setting import SETS_AT_C
from coating.simulate.bowl import BowlState

WARM_ROOM_C = 24.0
ROOM_MARGIN_K = 2.0  # it sets only that much below where it hardens


@dataclass(frozen=True)
class Keeping:
    """`hard`: "snap", "soft" or "melting" in the room; the solid share of its fat there; why it may bloom, worst first;
    `sets_below_c` the warmest room in degC in which it sets, and whether this one is warmer."""

    hard: str
    solid_fraction: float
    blooms: tuple[str, ...]
    sets_below_c: float
    too_warm: bool


def keeping(state: BowlState) -> Keeping:
    """For a bowl that is not empty, in its own room."""
    room_c, white = state.context.room_c, state.white
    solid = solid_fraction(state.fat_base, state.added_fats, state.fat_g, room_c)
    hard = "melting" if solid < SOFT else "soft" if solid < SNAP or white == "untempered" else "snap"
    below_c = SETS_AT_C[white] - ROOM_MARGIN_K
    return Keeping(hard, solid, tuple(_blooms(state, room_c)), below_c, room_c >= below_c)


def _blooms(state: BowlState, room_c: float) -> Iterator[str]:
    chocolate = state.white != "coating"
    if state.white == "untempered":
        yield "untempered, it may turn grey and streaky from the next day on"
    if state.white == "tempered" and state.temperature_c > TEMPER_LOST_C:
        yield "it is not in temper as it is: set like this, it turns grey"
    if foreign_share(state.fat_base, state.added_fats, state.fat_g) > FAMILY_LIMIT:
        yield "more than 5 % of its fat is of the other family"
    if chocolate and room_c >= WARM_ROOM_C:
        yield "a warm room brings its fat to the face"
