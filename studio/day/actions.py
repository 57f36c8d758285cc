"""Verbs of a planned day: ask for one, stop, and what the solver does."""

from __future__ import annotations

import threading
import time
from typing import Any

from django.conf import settings
from django.db import connections, transaction

from coating.errors import CoatingError
from coating.plan.day import Day, Plan, solve
from coating.plan.day.again import once_more
from studio.common import clock
from studio.day.adapters import Planned
from studio.day.models import (
    ASKED,
    DONE,
    FAILED,
    MOVED,
    SOLVING,
    STOPPED,
    DayEvent,
    DayPlan,
    day_json,
    part_of,
    plan_json,
)
from studio.pieces.models import Job

LARGE = 80  # steps


def ask(job: Job, asked: dict[str, Any], planned: Planned, first: Plan | None) -> DayPlan:
    """Plan a day anew; the order found at once, if one was, is the best so far. What happened at the bench stays."""
    best = plan_json(first) if first else {"v": 1}
    told = {
        "asked": {"v": 1, **asked}, "told": day_json(planned.day), "state": ASKED, "best": best, "why": "",
        "stop": False, "heartbeat": None, "kitchen": job.kitchen,
    }  # fmt: skip
    row, _ = DayPlan.objects.update_or_create(job=job, defaults=told)
    return row


def move(job: Job, asked: dict[str, Any], planned: Planned, plan: Plan) -> DayPlan:
    """Keep an order that a maker gave it. What happened at the bench stays."""
    told = {
        "asked": {"v": 1, **asked}, "told": day_json(planned.day), "state": MOVED, "why": "", "stop": False,
        "best": plan_json(plan, _once_more(planned.day, plan)), "heartbeat": None, "kitchen": job.kitchen,
    }  # fmt: skip
    row, _ = DayPlan.objects.update_or_create(job=job, defaults=told)
    return row


def stop(row: DayPlan) -> None:
    """The best so far is the plan."""
    DayPlan.objects.filter(pk=row.pk, state=ASKED).update(state=STOPPED)
    DayPlan.objects.filter(pk=row.pk, state=SOLVING).update(stop=True)


def happened(row: DayPlan, *, key: Any, step: str, kind: str, at: Any) -> bool:
    """Keep what happened, once. Returns whether it is new."""
    _, new = DayEvent.objects.get_or_create(
        key=key, defaults={"kitchen": row.kitchen, "plan": row, "step": step, "kind": kind, "happened_at": at}
    )
    return new


def claim() -> DayPlan | None:
    """The next day that is asked for, now this solver's; None where none is."""
    with transaction.atomic():
        row = DayPlan.objects.waiting().select_for_update(skip_locked=True).first()
        if row is None:
            return None
        row.state, row.heartbeat, row.stop = SOLVING, clock.now(), False
        row.save(update_fields=["state", "heartbeat", "stop"])
        return row


def solve_next() -> bool:
    """Plan the next day that is asked for. Returns whether there was one."""
    row = claim()
    if row is None:
        return False
    mine = DayPlan.objects.filter(pk=row.pk, state=SOLVING, asked_at=row.asked_at)
    asked_at = row.asked_at

    def better(plan: Plan) -> None:
        if not row.found or plan.makespan_s <= row.best["makespan_s"]:
            _over(row.pk, asked_at, best=plan_json(plan), heartbeat=clock.now())

    def told_to_stop() -> bool:
        _over(row.pk, asked_at, heartbeat=clock.now())
        return not mine.filter(stop=False).exists()

    begun = time.monotonic()
    try:
        limit = settings.PLANNING_S[len(row.told["steps"]) > LARGE]
        found = solve(row.day, time_limit_s=limit, told=better, stop=told_to_stop)
    except CoatingError as refusal:
        none = {} if row.found else {"best": {"v": 1, "conflict": refusal.fields.get("steps", [])}}
        _over(row.pk, asked_at, state=FAILED, why=refusal.message[:300], **none)
        return True
    ended = STOPPED if not found.optimal and time.monotonic() - begun < limit - 1 else DONE
    best = found if not row.found or found.makespan_s <= row.best["makespan_s"] else row.plan
    _over(row.pk, asked_at, state=ended, best=plan_json(best, _once_more(row.day, best)))
    return True


def _once_more(day: Day, plan: Plan) -> dict[str, int]:
    parts: dict[str, list[str]] = {}
    for step in day.steps:
        parts.setdefault(part_of(step.name), []).append(step.name)
    return once_more(day, plan, parts)


def _over(pk: int, asked_at: Any, **told: Any) -> None:
    """Write over a row that is still this solver's: one asked for again meanwhile is left alone."""
    DayPlan.objects.filter(pk=pk, state=SOLVING, asked_at=asked_at).update(**told)
    if threading.current_thread() is not threading.main_thread() and not connections["default"].in_atomic_block:
        connections["default"].close()
