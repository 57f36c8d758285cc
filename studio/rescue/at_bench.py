"""What went to pieces at the bench: what is made again, and where a spare is taken."""

from __future__ import annotations

import uuid
from dataclasses import dataclass
from datetime import datetime, timedelta

from coating.care.diagnosis import Offer
from coating.care.diagnosis.moves import GIVING_UP
from studio.common import clock
from studio.day.broken import Breaks, can_break, parts_made
from studio.day.folding import fold
from studio.day.left import left_of
from studio.rescue.subject import Subject


@dataclass(frozen=True)
class AtTheBench:
    """A step that can be made again, and the parts of it that can have broken, each with the key of its tap."""

    step: str
    breaks: list[tuple[Breaks, uuid.UUID]]
    again_key: uuid.UUID


def ends_at(subject: Subject, offer: Offer) -> datetime | None:
    """When the day is then done, as the bench reckons it; None away from the bench."""
    if subject.job is None or not subject.step or subject.plan is None or subject.reckoned_day is None:
        return None
    row, (form, planned) = subject.plan, subject.reckoned_day
    minutes, key = offer.minutes, subject.bowl_key
    if offer.move in GIVING_UP and key in row.day.bowls:
        bowl = row.day.bowls[key]
        minutes = (bowl.heat_s + bowl.stir_s) / 60
    return left_of(subject.job, row, planned, form, clock.now()).end + timedelta(minutes=minutes)


def at_the_bench(subject: Subject) -> AtTheBench | None:
    """Of a step that is at hand; None without one."""
    row = subject.plan
    if subject.job is None or not subject.step or row is None:
        return None
    had = fold(row.events.all(), {}, parts_made(subject.job))
    breaks = [(b, uuid.uuid4()) for b in can_break(subject.job, subject.step, row.day.by_name, had)]
    return AtTheBench(subject.step, breaks, uuid.uuid4())
