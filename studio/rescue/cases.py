"""What is at hand becomes a case for the core."""

from __future__ import annotations

from collections.abc import Mapping

from coating.care.diagnosis import Case
from coating.heat.melting import TEMPER_LOST_C
from coating.heat.setting import SETS_AT_C
from coating.piece.kinds import KINDS
from coating.plan.proposal import bases_for
from coating.simulate.bowl import BowlContext, Event
from coating.techniques import TECHNIQUES
from studio.bowls.times import ORDINARY_HUMIDITY
from studio.rescue.forms import FactsForm
from studio.rescue.subject import Subject

MELTED_OUT_C = 40.0  # nothing of its temper is left
IN_TEMPER_C = 30.5
# What sets, where nobody said what is being made.
SETS_AS = {"lace_breaks": "line", "lace_tears": "line", "joint_slips": "line", "no_print": "film"}
SETS_AS |= dict.fromkeys(("stuck", "breaks_out", "corners"), "mould")


def case_of(subject: Subject, symptom: str, answers: Mapping[str, str], facts: FactsForm) -> Case:
    """A symptom of what is at hand, with what was looked at and what was said of the piece."""
    kitchen, desk, piece = subject.kitchen, subject.desk, facts.piece()
    names = subject.techniques
    shape = TECHNIQUES[names[0]].sets_as if names and names[0] in TECHNIQUES else SETS_AS.get(symptom, "coat")
    wet = facts.wet_said()
    wet = _was_wet(subject) if wet is None else wet
    if desk is None:
        white = subject.layer.white if subject.layer else None
        context = BowlContext(room_c=kitchen.room_c, white=white)
        return Case(
            symptom, context, (), 0.0, None, shape, answers, piece, humidity=ORDINARY_HUMIDITY, wet=wet,
            power_w=kitchen.oven_w,
        )  # fmt: skip
    wish, cupboard = desk.wish, desk.cupboard
    return Case(
        symptom,
        desk.context,
        desk.events,
        desk.at_s,
        desk.window,
        shape,
        answers,
        piece,
        desk.target_lab,
        tuple(wish.colours.allowed(bases_for(wish, cupboard))),
        tuple(wish.colours.allowed(cupboard.colourants)),
        cupboard.thinner,
        ORDINARY_HUMIDITY,
        tempered_at_s(desk.events) if desk.bowl.white == "tempered" else None,
        wet,
        kitchen.oven_w,
        wish.colours,
    )


def tempered_at_s(events: list[Event]) -> float | None:
    """When a log last says that it came into temper: cool enough, after it had been melted out; None for never."""
    came, out = None, False
    for event in sorted(events, key=lambda e: (e.at_s, e.seq)):
        if event.to_c is None:
            continue
        if event.to_c >= MELTED_OUT_C:
            out, came = True, None
        elif out and SETS_AT_C["tempered"] < event.to_c <= min(IN_TEMPER_C, TEMPER_LOST_C):
            out, came = False, event.at_s
    return came


def _was_wet(subject: Subject) -> bool | None:
    """Whether wet fruit goes through it, as far as the job says; None: nobody knows."""
    layers = subject.desk.layers if subject.desk else []
    pieces = [layer.piece for layer in layers]
    wet = any(KINDS[p.core].name in ("berry", "fruit") for p in pieces if p.core in KINDS)
    return True if wet else None
