"""How long and how much when a bowl is used: setting, bending, damp out of the fridge, and seed for tempering."""

from __future__ import annotations

from contextlib import suppress

from coating.errors import OutOfBounds
from coating.flow.casson1959 import Flow
from coating.heat.alduchov_eskridge1996 import wet_min
from coating.heat.melting import TEMPER_LOST_C
from coating.heat.setting import PLACES_C, Pliable, Setting
from coating.heat.tempering import seed_for
from coating.heat.times import SHAPES, bend_window, sets_where, slower
from coating.plan.keeping import keeping
from coating.simulate.bowl import BowlState
from studio.bowls.adapters import Desk
from studio.common.types import Context

ORDINARY_HUMIDITY = 0.6


def times(desk: Desk, state: BowlState, flow: Flow | None) -> Context:
    """Everything of these that a bowl page says, for a state whose flow is known."""
    return {
        "keeps": None if state.empty else keeping(state),
        "waits": _waits(desk, state, flow),
        "bends": _bends(desk) if flow else None,
        "damp_min": _damp_min(desk),
        "seed_g": _seed_g(desk),
    }


def _waits(desk: Desk, state: BowlState, flow: Flow | None) -> list[tuple[str, Setting]]:
    """How long a coat of this bowl takes to set, by the places this kitchen has."""
    if flow is None or desk.coat_mm is None:
        return []
    thick = desk.coat_mm
    sets = sets_where("coat", thick, room_c=desk.kitchen.room_c, white=desk.bowl.white, pour_c=state.temperature_c)
    settings = slower(sets, desk.job_goes_by.set)
    return [(p, settings[p]) for p in desk.kitchen.places if p in settings]


def _bends(desk: Desk) -> Pliable | None:
    """From when and until when an ordinary line bends in this room; None where it never sets."""
    with suppress(OutOfBounds):
        line_mm, room_c = SHAPES["line"].thickness_mm, desk.kitchen.room_c
        bends = bend_window("line", line_mm, "room", room_c=room_c, white=desk.bowl.white)
        return bends.slower(desk.job_goes_by.set)
    return None


def _damp_min(desk: Desk) -> float | None:
    """Minutes a piece out of the fridge stays damp in an ordinary kitchen; None without a fridge."""
    if not desk.kitchen.has_fridge:
        return None
    return wet_min(PLACES_C["fridge"], room_c=desk.kitchen.room_c, relative_humidity=ORDINARY_HUMIDITY)


def _seed_g(desk: Desk) -> float | None:
    """Unmelted chocolate that cools a hot bowl to its working temperature, g; None when it is not to be tempered."""
    now = desk.now
    if desk.bowl.white != "tempered" or now.empty or now.is_set or now.temperature_c <= TEMPER_LOST_C:
        return None
    target_c, room_c = now.warmth.work_at_c, desk.kitchen.room_c
    return seed_for(now.mass_g, temperature_c=now.temperature_c, target_c=target_c, room_c=room_c).seed_g
