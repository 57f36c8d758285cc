"""A day that is planned: what was asked, the steps, and the best plan so far."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import asdict
from datetime import date, timedelta

from django.db import models
from django.utils import timezone

from coating.plan.day import Day, DayBowl, DayStep, Hold, Lag, Melt, Plan
from studio.common import clock
from studio.common.models import KitchenOwned, KitchenQuerySet, Versioned, within
from studio.common.types import Json, Typed
from studio.pieces.models import Job

MOST_MIN = 6000  # of hands, over several days
ASKED, SOLVING, DONE, STOPPED, FAILED, MOVED = "asked", "solving", "done", "stopped", "failed", "moved"


class DayPlan(KitchenOwned, Versioned):
    """One a job. `asked` is versioned JSON: {"v": 1, "begin": "09:00", "ready": "", "hands", ...} as the form has it;
    `told`: {"v": 1, "steps", "lags", "resources", "bowls", "holds", "closed"} as `coating.plan.day` has them; `best`:
    {"v": 1, "starts_s": {...}, "melts": [...], "makespan_s", "bound_s", "optimal", "by": {...}, "again": {...}}, or
    {"v": 1} before there is one, with "conflict": names of steps where there can be none.
    `took_min` is how many minutes of their own hands it took, where its maker wrote that down, at `took_at`.
    `task`: the one that plans it; one that was asked for before has nothing to say any more. `version` goes up
    whenever a maker asks for another plan or moves a step, not when the planner finds a better one.
    """

    STATES = [
        (ASKED, "asked"),
        (SOLVING, "being planned"),
        (DONE, "planned"),
        (STOPPED, "stopped"),
        (FAILED, "failed"),
        (MOVED, "moved by hand"),
    ]

    job = models.OneToOneField(Job, on_delete=models.CASCADE, related_name="day_plan")
    asked = models.JSONField(default=dict)
    told = models.JSONField(default=dict)
    best = models.JSONField(default=dict)
    state = models.CharField(max_length=8, choices=STATES, default=ASKED)
    why = models.CharField(max_length=300, blank=True)
    stop = models.BooleanField(default=False)
    task = models.UUIDField(null=True, blank=True)
    took_min = models.FloatField(null=True, blank=True)
    took_at = models.DateTimeField(null=True, blank=True)

    class Meta:
        constraints = [within("took_min", 1, MOST_MIN, name="day_took_minutes_within")]

    objects = KitchenQuerySet.as_manager()

    def __str__(self) -> str:
        return f"day of {self.job}"

    @property
    def under_way(self) -> bool:
        """Whether it is being planned."""
        return self.state in (ASKED, SOLVING)

    @property
    def day(self) -> Day:
        """What is to be planned."""
        rows = self.told
        return Day(
            tuple(
                DayStep(s["name"], s["duration_s"], s["uses"], s["bowl"], tuple(s.get("by", ()))) for s in rows["steps"]
            ),
            tuple(Lag(**la) for la in rows["lags"]),
            rows["resources"],
            {name: DayBowl(**b) for name, b in rows["bowls"].items()},
            rows.get("deadline_s"),
            tuple(Hold(h["resource"], tuple(h["steps"]), h["places"]) for h in rows.get("holds", ())),
            tuple((begin, end) for begin, end in rows.get("closed", ())),
        )

    @property
    def plan(self) -> Plan:
        """The best so far."""
        best = self.best
        melts = tuple(Melt(m["bowl"], m["start_s"], m.get("again", False)) for m in best["melts"])
        return Plan(best["starts_s"], melts, best["makespan_s"], best["bound_s"], best["optimal"], best.get("by", {}))

    @property
    def went_by_pace(self) -> float:
        """How many times the seconds that are assumed its hands were planned to take."""
        return float(self.job.taught.get("of", {}).get("pace", [1.0])[0])

    @property
    def found(self) -> bool:
        """Whether there is a plan yet."""
        return "starts_s" in self.best

    @property
    def again(self) -> dict[str, int]:
        """When all is done if a layer has to be made once more, s, by layer; empty until that is known."""
        return dict(self.best.get("again", {}))


class DayEvent(KitchenOwned):
    """What happened at the bench: only ever added. `step`: the name of a step, or "melt:" and a bowl. The same `key`
    is kept once."""

    KINDS = [
        ("done", "done"),
        ("one", "one more"),
        ("undone", "not done after all"),
        ("longer", "needs longer"),
        ("wrong", "went wrong"),
        ("again", "made again"),
        ("broke", "one broke"),
        ("anew", "from the beginning"),
        ("mended", "is being mended"),
    ]

    plan = models.ForeignKey(DayPlan, on_delete=models.CASCADE, related_name="events")
    key = models.UUIDField(unique=True)
    step = models.CharField(max_length=80)
    kind = models.CharField(max_length=6, choices=KINDS)
    happened_at = models.DateTimeField()
    minutes = models.FloatField(default=0.0)  # of what is mended: how long that takes
    recorded_at = models.DateTimeField(auto_now_add=True)

    objects = KitchenQuerySet.as_manager()

    class Meta:
        ordering = ["happened_at", "pk"]
        constraints = [within("minutes", 0, 20160, name="day_event_minutes_within")]

    def __str__(self) -> str:
        return f"{self.step} {self.kind}"


def asked_of(row: DayPlan | None) -> Typed | None:
    """What was asked, for its form. A day that is over is asked for today."""
    if row is None:
        return None
    values = {k: v for k, v in row.asked.items() if k != "v"}
    today = timezone.localdate(clock.now())
    first = date.fromisoformat(values.get("on") or today.isoformat())
    if first + timedelta(seconds=row.best.get("makespan_s", 0)) >= today:
        return values
    later = {"on": today.isoformat()}
    if values.get("ready_on"):
        later["ready_on"] = (date.fromisoformat(values["ready_on"]) + (today - first)).isoformat()
    return values | later


def part_of(step: str) -> str:
    """What is made again with it when it went wrong: its layer."""
    match = re.match(r"\d+", step)
    return match[0] if match else step


def day_json(day: Day) -> Json:
    """A day to keep."""
    return {
        "v": 1,
        "deadline_s": day.deadline_s,
        "resources": dict(day.resources),
        "steps": [
            {"name": s.name, "duration_s": s.duration_s, "uses": dict(s.uses), "bowl": s.bowl, "by": list(s.by)}
            for s in day.steps
        ],
        "lags": [
            {"before": la.before, "after": la.after, "min_s": la.min_s, "max_s": la.max_s, "from_start": la.from_start}
            for la in day.lags
        ],
        "bowls": {name: asdict(b) for name, b in day.bowls.items()},
        "holds": [{"resource": h.resource, "steps": list(h.steps), "places": h.places} for h in day.holds],
        "closed": [list(night) for night in day.closed],
    }


def plan_json(plan: Plan, again: Mapping[str, int] | None = None) -> Json:
    """A plan to keep, and when all is done if a layer has to be made once more."""
    return {
        "v": 1,
        "starts_s": dict(plan.starts_s),
        "makespan_s": plan.makespan_s,
        "bound_s": plan.bound_s,
        "melts": [asdict(m) for m in plan.melts],
        "optimal": plan.optimal,
        "by": dict(plan.by),
        "again": dict(again or {}),
    }
