"""Verbs of a planned day: ask for one, move a step, stop, and what happened at the bench."""

from __future__ import annotations

import uuid
from typing import Any

from django.db import IntegrityError, transaction

from coating.plan.day import Plan
from studio.common.models import ChangedMeanwhile
from studio.common.types import Typed
from studio.cupboard.actions import cupboard_changed
from studio.day.adapters import Planned
from studio.day.models import ASKED, MOVED, SOLVING, STOPPED, DayEvent, DayPlan, day_json, plan_json
from studio.day.planning import once_more_of, plan_day
from studio.pieces.known import keeps_to_it
from studio.pieces.models import Job


def ask(job: Job, values: Typed, planned: Planned, first: Plan | None, *, expected: int | None) -> DayPlan:
    """Plan a day anew; the order found at once, if one was, is the best so far. What happened at the bench stays.

    `expected`: the version of the plan that was open, 0 for none; None: whichever there is. Raises ChangedMeanwhile.
    """
    best = plan_json(first) if first else {"v": 1}
    with transaction.atomic():
        keeps_to_it(job, job.kitchen)
        row = _over_plan(job, expected, values=values, told=day_json(planned.day), state=ASKED, best=best)
        row.task = uuid.UUID(plan_day.enqueue(row.pk).id)
        row.save(update_fields=["task"])
    return row


def move(job: Job, values: Typed, planned: Planned, plan: Plan, *, expected: int | None) -> DayPlan:
    """Keep an order that a maker gave it. What happened at the bench stays. Raises ChangedMeanwhile."""
    with transaction.atomic():
        best = plan_json(plan, once_more_of(planned.day, plan))
        return _over_plan(job, expected, values=values, told=day_json(planned.day), state=MOVED, best=best)


def _over_plan(job: Job, expected: int | None, *, values: Typed, **values_set: Any) -> DayPlan:
    """The plan of a job as it is wanted now, one version further. Raises ChangedMeanwhile."""
    row = DayPlan.objects.select_for_update().filter(job=job).first()
    if expected is not None and expected != (row.version if row else 0):
        raise ChangedMeanwhile
    try:
        with transaction.atomic():
            row = row or DayPlan.objects.create(job=job, kitchen=job.kitchen, version=0)
    except IntegrityError as other:  # another window made the first one at this moment
        raise ChangedMeanwhile from other
    values_set |= {"asked": {"v": 1, **values}, "why": "", "stop": False, "task": None, "version": row.version + 1}
    for name, value in values_set.items():
        setattr(row, name, value)
    row.save()
    return row


def stop(row: DayPlan) -> None:
    """The best so far is the plan."""
    DayPlan.objects.filter(pk=row.pk, state=ASKED).update(state=STOPPED)
    DayPlan.objects.filter(pk=row.pk, state=SOLVING).update(stop=True)


def happened(row: DayPlan, *, key: uuid.UUID, step: str, kind: str, at: Any, minutes: float = 0.0) -> bool:
    """Keep what happened, once: a button that is sent again counts once, another one of the same page by itself.
    Returns whether it is new."""
    _, new = DayEvent.objects.get_or_create(
        key=uuid.uuid5(key, f"{step} {kind}"),
        defaults={
            "kitchen": row.kitchen,
            "plan": row,
            "step": step,
            "kind": kind,
            "happened_at": at,
            "minutes": minutes,
        },
    )
    if new and kind == "done" and _is_over(row):
        cupboard_changed(row.kitchen)  # how long hands took is known now
    return new


def _is_over(row: DayPlan) -> bool:
    """Whether every step of hands was done once."""
    done = set(row.events.filter(kind="done").values_list("step", flat=True))
    return all(step.name in done for step in row.day.steps if step.handled)
