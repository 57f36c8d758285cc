"""What went to pieces at the bench: what is made again, and where a spare is taken."""

from __future__ import annotations

import uuid
from dataclasses import dataclass

from studio.day.broken import Breaks, can_break, parts_made
from studio.day.folding import fold
from studio.day.models import DayPlan
from studio.rescue.subject import Subject


@dataclass(frozen=True)
class AtTheBench:
    """A step that can be made again, and the parts of it that can have broken, each with the key of its tap."""

    step: str
    breaks: list[tuple[Breaks, uuid.UUID]]
    again_key: uuid.UUID


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
