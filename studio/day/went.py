"""How a day went: step by step, as it was planned and as it was done."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime, timedelta

from django.utils import timezone

from coating.errors import CoatingError
from studio.accounts.models import Kitchen
from studio.common.forms import asked_and_reckoned
from studio.common.templatetags.kitchen import lower_first
from studio.day.adapters import Planned, day_of
from studio.day.broken import parts_made
from studio.day.folding import Happened, fold
from studio.day.forms import DayForm
from studio.day.models import DayPlan
from studio.day.says import went_says
from studio.pieces.models import Job


@dataclass(frozen=True)
class WentStep:
    """A step with its words, when it was to be done and when it was; None where it was not tapped."""

    name: str
    says: str
    planned_at: datetime
    done_at: datetime | None

    @property
    def late_s(self) -> float:
        """How much later than planned, s."""
        return (self.done_at - self.planned_at).total_seconds() if self.done_at else 0.0


@dataclass(frozen=True)
class Went:
    """The steps of a day in the order they were done, those that were not tapped last, and what is said of it."""

    steps: list[WentStep]
    says: list[str]
    took_s: float
    planned_s: float
    broke: int

    @property
    def tapped(self) -> list[WentStep]:
        """The steps that were tapped."""
        return [step for step in self.steps if step.done_at]


def took_s(had: Happened) -> float:
    """From the first tap to the last, s."""
    ends = [*had.done.values(), *had.melted.values()]
    return (max(ends) - min(ends)).total_seconds() if ends else 0.0


def went(row: DayPlan, had: Happened) -> list[str]:
    """How it went, from the first tap to the last."""
    return went_says(took_s(had), row.plan.makespan_s, broke=sum(had.broke.values()), wrong=had.troubles)


def went_of(job: Job, row: DayPlan, kitchen: Kitchen) -> Went | None:
    """The day of a whole job; None where it was not planned, or nothing of it was tapped."""
    if not row.found or not row.events.all():
        return None
    _, form = asked_and_reckoned(DayForm, {k: v for k, v in row.asked.items() if k != "v"})
    try:
        planned = day_of(job, kitchen, form.asked(kitchen)) if form.is_valid() else None
    except CoatingError:
        planned = None
    had = fold(row.events.all(), planned.counts if planned else {}, parts_made(job))
    begin = timezone.make_aware(form.begins, timezone.get_current_timezone())
    return Went(
        _steps(row, had, planned, begin), went(row, had), took_s(had), row.plan.makespan_s, sum(had.broke.values())
    )


def _steps(row: DayPlan, had: Happened, planned: Planned | None, begin: datetime) -> list[WentStep]:
    """Every step of hands whose words are still known."""
    says = planned.says if planned else {}
    steps = []
    for step in row.day.steps:
        if step.handled and step.name in says and step.name in row.plan.starts_s:
            due = begin + timedelta(seconds=row.plan.starts_s[step.name] + step.duration_s)
            steps.append(WentStep(step.name, says[step.name], due, had.done.get(step.name)))
    for melt in {melt.bowl: melt for melt in row.plan.melts}.values():  # its last, which is when it was tapped last
        if planned and melt.bowl in planned.bowls:
            due = begin + timedelta(seconds=melt.ready_s(row.day))
            words = f"Melt {lower_first(planned.bowls[melt.bowl].name)}."
            steps.append(WentStep(f"melt:{melt.bowl}", words, due, had.melted.get(melt.bowl)))
    return sorted(steps, key=lambda s: (s.done_at is None, s.done_at or s.planned_at, s.planned_at))
