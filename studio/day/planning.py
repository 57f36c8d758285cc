"""The task that looks for a shorter day, outside of any request."""

from __future__ import annotations

import threading
import time
import uuid
from typing import Any

from django.conf import settings
from django.db import connections
from django_tasks import TaskContext, task

from coating.errors import CoatingError
from coating.plan.day import Day, Plan, solve
from coating.plan.day.again import once_more
from studio.common.measures import refusal_text
from studio.day.models import ASKED, DONE, FAILED, SOLVING, STOPPED, DayPlan, part_of, plan_json
from studio.work.lost import when_given_up

LARGE = 80  # steps


@task(takes_context=True)
def plan_day(context: TaskContext, pk: int) -> str:
    """Plan the day of that number: every better plan is kept as it is found. Returns what became of it."""
    me = uuid.UUID(context.task_result.id)
    mine = DayPlan.objects.filter(pk=pk, task=me)
    if not mine.filter(state__in=[ASKED, SOLVING]).update(state=SOLVING):
        return "no longer wanted"
    row = mine.get()

    def better(plan: Plan) -> None:
        if not row.found or plan.makespan_s <= row.best["makespan_s"]:
            _over(pk, me, best=plan_json(plan))

    def told_to_stop() -> bool:
        wanted = mine.filter(stop=False, state=SOLVING).exists()
        _let_go()
        return not wanted

    begun = time.monotonic()
    try:
        limit = settings.PLANNING_S[len(row.told["steps"]) > LARGE]
        solution = solve(row.day, time_limit_s=limit, listener=better, stop=told_to_stop)
    except CoatingError as refusal:
        none = {} if row.found else {"best": {"v": 1, "conflict": refusal.fields.get("steps", [])}}
        _over(pk, me, state=FAILED, why=refusal_text(refusal)[:300], **none)
        return FAILED
    ended = STOPPED if not solution.optimal and time.monotonic() - begun < limit - 1 else DONE
    best = solution if not row.found or solution.makespan_s <= row.best["makespan_s"] else row.plan
    _over(pk, me, state=ended, best=plan_json(best, once_more_of(row.day, best)))
    return ended


@when_given_up(plan_day)
def _not_planned(pk: int) -> None:
    """It was begun several times and its planner died each time."""
    why = "Planning it broke off several times. The order found at once stays; take a step out, or ask again."
    DayPlan.objects.filter(pk=pk, state__in=[ASKED, SOLVING]).update(state=FAILED, why=why)


def once_more_of(day: Day, plan: Plan) -> dict[str, int]:
    """When all is done if a layer has to be made once more, s, by layer."""
    parts: dict[str, list[str]] = {}
    for step in day.steps:
        parts.setdefault(part_of(step.name), []).append(step.name)
    return once_more(day, plan, parts)


def _over(pk: int, me: uuid.UUID, **values: Any) -> None:
    """Write over a row that is still this task's: one asked for again meanwhile is left alone."""
    DayPlan.objects.filter(pk=pk, state=SOLVING, task=me).update(**values)
    _let_go()


def _let_go() -> None:
    """A thread of the solver has a connection of its own, which is not kept."""
    if threading.current_thread() is not threading.main_thread() and not connections["default"].in_atomic_block:
        connections["default"].close()
