"""Doing what was advised: the same events as by hand, a timer, the day at the bench, and the record of it."""

from __future__ import annotations

import uuid
from collections.abc import Sequence
from datetime import timedelta

from django.db import transaction

from coating.care.diagnosis import Case, Diagnosis, Offer
from coating.care.diagnosis.moves import GIVING_UP
from coating.colour.ways import ANY_WAY
from studio.bowls.actions import Line, append, begin_bowl, finish, strike_out
from studio.bowls.adapters import Desk, colour_way_json
from studio.bowls.added import added_line
from studio.bowls.models import LONGEST_S, Bowl, BowlEvent, Timer
from studio.common import clock
from studio.day.actions import happened
from studio.day.folding import MELT
from studio.rescue.anew import anew_g, made_g
from studio.rescue.models import Rescue
from studio.rescue.spoken.moves import MOVES
from studio.rescue.subject import Subject

TIMED = ("wait", "cold_place", "cool", "chill_wall", "warm_wall", "boxed", "warm_bag")
MADE_AGAIN = ("panels",)  # of what there is one of; of several the rest waits
STIRRED_S = 120
MOST_LINES = 12


@transaction.atomic
def rescue(
    subject: Subject, case: Case, diagnosis: Diagnosis, offer: Offer, *, key: uuid.UUID, expected_seq: int
) -> tuple[Rescue, Bowl | None]:
    """Write down that a move was made; returns that and the fresh bowl, where one was begun. A `key` counts once.
    Raises BowlChanged."""
    already = Rescue.objects.filter(key=key, kitchen=subject.kitchen).first()
    if already is not None:
        return already, None
    desk, fresh = subject.desk, None
    if desk is not None and desk.bowl.finished_at is None:
        if offer.move in GIVING_UP:
            fresh = _afresh(subject, desk, key=key, expected_seq=expected_seq, again=offer.move == "swap")
        else:
            lines = lines_of(desk, offer)
            if lines:
                append(desk.bowl, lines, expected_seq=expected_seq, key=key, sent=f"rescue {offer.move}")
        _timed(subject, desk, offer, key)
    row = Rescue.objects.create(
        kitchen=subject.kitchen,
        bowl=desk.bowl if desk else None,
        job=subject.job,
        step=subject.step,
        key=key,
        symptom=case.symptom,
        cause=diagnosis.first.cause,
        move=offer.move,
        answers=dict(case.answers),
        happened_at=clock.now(),
    )
    _at_the_bench(subject, offer, key=key)
    return row, fresh


@transaction.atomic
def undo(row: Rescue) -> None:
    """What a move wrote into its bowl is struck out, its timer stops, and it counts for nothing. Raises BowlChanged."""
    bowl = row.bowl
    if bowl is not None and bowl.finished_at is None:
        keys = [uuid.uuid5(row.key, str(i)) for i in range(MOST_LINES)]
        for event in BowlEvent.objects.filter(bowl=bowl, key__in=keys, struck_by=None).order_by("seq"):
            key = uuid.uuid5(row.key, f"strike {event.seq}")
            strike_out(bowl, event.seq, expected_seq=bowl.last_seq, key=key)
        Timer.objects.filter(bowl=bowl, stopped_at=None, key=row.key).update(stopped_at=clock.now())
    Rescue.objects.filter(pk=row.pk).update(undone=True)


def lines_of(desk: Desk, offer: Offer) -> list[Line]:
    """What a move writes into a bowl."""
    done = offer.done
    if offer.move == "stir":
        return [("stirred", {"seconds": STIRRED_S})]
    if done is None:
        return []
    if offer.move in ("warm", "cool") and done.to_c is not None:
        kind = "warmed" if done.to_c >= desk.now.temperature_c else "cooled"
        smooth: list[Line] = [("tested", {"test": "lumps", "value": 0})] if desk.now.solid_fraction > 0 else []
        return [(kind, {"to_c": round(done.to_c, 2)}), *smooth, ("stirred", {})]
    if not done.parts:
        return []
    there = {row.code for row in desk.stock.rows}
    added = [added_line(desk, part) for part in done.parts if part.ingredient.name in there]
    warm: list[Line] = []
    if any(part.ingredient.is_base for part in done.parts):
        warm = [("warmed", {"to_c": round(desk.now.warmth.work_at_c, 2)})]
    return [*added, *warm, ("stirred", {})]


def _afresh(subject: Subject, desk: Desk, *, key: uuid.UUID, expected_seq: int, again: bool) -> Bowl | None:
    """The bowl is done with what was made from it, the rest of it lost or put aside; a fresh one takes its place."""
    made = min(made_g(subject), desk.now.mass_g)
    lost_g = round(max(0.0, desk.now.mass_g - made), 1)
    finish(
        desk.bowl,
        used_g=made,
        expected_seq=expected_seq,
        key=key,
        more={"lost_g": lost_g} if again else {"aside_g": lost_g},
    )
    bowl = desk.bowl
    colours = {**(bowl.colours or colour_way_json(ANY_WAY, melt_g=desk.melt_g)), "anew_g": round(anew_g(subject), 1)}
    return begin_bowl(
        subject.kitchen,
        name=bowl.name,
        white=bowl.white,
        colour=bowl.colour,
        base=bowl.base,
        job=bowl.job,
        technique=bowl.technique,
        layers=[(use.layer, use.grams) for use in bowl.uses.all()],
        colours=colours,
    )


def _timed(subject: Subject, desk: Desk, offer: Offer, key: uuid.UUID) -> None:
    minutes = offer.wait_min if offer.wait_min is not None else offer.minutes
    if offer.move not in TIMED or minutes < 0.5:
        return
    seconds = min(float(LONGEST_S), minutes * 60)
    Timer.objects.create(
        kitchen=subject.kitchen,
        bowl=desk.bowl,
        says=MOVES[offer.move].name[:1].upper() + MOVES[offer.move].name[1:],
        seconds=seconds,
        rings_at=clock.now() + timedelta(seconds=seconds),
        key=key,
    )


def _at_the_bench(subject: Subject, offer: Offer, *, key: uuid.UUID) -> None:
    """The rest of the day waits for it; what is melted afresh is melted again."""
    row = subject.plan
    if row is None or not subject.step:
        return
    now = clock.now()
    for step, kind in _events(subject, offer):
        happened(row, key=key, step=step, kind=kind, at=now, minutes=offer.minutes if kind == "mended" else 0.0)


def _events(subject: Subject, offer: Offer) -> Sequence[tuple[str, str]]:
    """What is tapped for a move: what is made again, what is melted again, or that the rest waits."""
    if offer.move in MADE_AGAIN and subject.layer is not None and subject.layer.piece.count == 1:
        return [(subject.step, "again")]
    if offer.move in GIVING_UP and subject.bowl_key:
        return [(f"{MELT}{subject.bowl_key}", "undone"), (f"bowl:{subject.bowl_key}", "undone")]
    return [(subject.step, "mended")]
