"""What went to pieces at the bench: what is made again, and where a spare is taken."""

from __future__ import annotations

import uuid
from dataclasses import dataclass
from datetime import datetime, timedelta

from coating.care.diagnosis import Offer
from coating.care.diagnosis.moves import GIVING_UP
from coating.errors import CoatingError
from studio.common import clock
from studio.common.forms import asked_and_reckoned
from studio.day.adapters import day_of
from studio.day.broken import Breaks, can_break, parts_made
from studio.day.folding import fold
from studio.day.forms import DayForm
from studio.day.left import left_of
from studio.day.models import DayPlan, asked_of
from studio.rescue.subject import Subject


@dataclass(frozen=True)
class AtTheBench:
    """A step that can be made again, and the parts of it that can have broken, each with the key of its tap."""

    step: str
    breaks: list[tuple[Breaks, uuid.UUID]]
    again_key: uuid.UUID


def ends_at(subject: Subject, offer: Offer) -> datetime | None:
    """When the day is then done, as the bench reckons it; None away from the bench."""
    if subject.job is None or not subject.step:
        return None
    row = DayPlan.objects.for_kitchen(subject.kitchen).filter(job=subject.job).first()
    if row is None or not row.found:
        return None
    _, form = asked_and_reckoned(DayForm, asked_of(row))
    try:
        planned = day_of(subject.job, subject.kitchen, form.asked(subject.kitchen))
    except CoatingError:
        return None
    minutes = offer.minutes
    if offer.move in GIVING_UP and subject.desk is not None and subject.desk.reckoned is not None:
        bowl = row.day.bowls.get(subject.desk.reckoned.key)
        minutes = (bowl.heat_s + bowl.stir_s) / 60 if bowl else minutes
    left = left_of(subject.job, row, planned, form, clock.now())
    return left.end + timedelta(minutes=minutes)


def at_the_bench(subject: Subject) -> AtTheBench | None:
    """Of a step that is at hand; None without one."""
    if subject.job is None or not subject.step:
        return None
    row = DayPlan.objects.for_kitchen(subject.kitchen).filter(job=subject.job).first()
    if row is None or not row.found:
        return None
    had = fold(row.events.all(), {}, parts_made(subject.job))
    breaks = [(b, uuid.uuid4()) for b in can_break(subject.job, subject.step, row.day.by_name, had)]
    return AtTheBench(subject.step, breaks, uuid.uuid4())
