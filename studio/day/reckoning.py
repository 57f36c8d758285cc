"""What a day comes to: an order at once, or the plan that is kept; its lines, its ribbon, and what is said of it."""

from __future__ import annotations

import math
from collections import Counter
from dataclasses import replace
from datetime import datetime, timedelta

from django.utils import timezone

from coating.errors import Infeasible
from coating.learning.names import COAT, LOSS, PACE, PRIORS, SET
from coating.plan.day import HANDS
from coating.plan.day.follow import tightened
from coating.plan.day.greedy import best_of
from coating.plan.day.likely import makespan_range
from coating.plan.day.plan import Plan, one_by_one_s
from coating.plan.day.remedy import remedies
from coating.techniques import technique
from studio.common import clock
from studio.common.requests import KitchenRequest
from studio.common.types import Context, Json
from studio.day.adapters import HEAT, Planned, day_of
from studio.day.folding import Happened
from studio.day.forms import DayForm
from studio.day.left import Left, left_of
from studio.day.models import DayPlan, day_json, part_of
from studio.day.ready import lay_ready
from studio.day.ribboned import ribbon_parts
from studio.day.says import day_says, elsewhere_says, helper_says, late_says, likely_says, then_says, worst_says
from studio.pieces.known_says import goes_by_says
from studio.pieces.models import Job

MORE = {
    HANDS: "another helper",
    HEAT: "one thing more to melt with",
    "fridge": "one place more in the fridge",
    "freezer": "one place more in the freezer",
    "room": "one tray more in the room",
    "stand": "another place to stand",
    "moulds": "one mould more",
}
NEXT = 3  # steps that are shown by themselves
TWO_DAYS = ((10 * 3600, 24 * 3600),)  # ten hours at it, and a night


class NoOrder(Infeasible):
    """No order was found at once; a solver may still find one, or say which steps stand in each other's way."""

    def __init__(self, planned: Planned) -> None:
        super().__init__(f"No order was found at once that keeps all these waits. {_would_do(planned)}", steps=[])
        self.planned = planned


def reckon(request: KitchenRequest, pk: int, form: DayForm, kept: DayPlan | None = None) -> Context:
    """An order that can be done, at once; or the plan that is kept, while the job is as it was. Raises CoatingError."""
    job = Job.objects.whole(request.kitchen, pk)
    planned = day_of(job, request.kitchen, form.asked(request.kitchen))
    if planned is None:
        return {"job": job, "nothing": True, "result": {"makespan_s": 0}}
    plan = kept_plan(kept, planned) or at_once(planned)
    left = None
    if kept is not None and kept_plan(kept, planned) and kept.events.exists():
        left = left_of(job, kept, planned, form, clock.now())
    return {"job": job, "ready": lay_ready(job, request.kitchen, planned), **told(planned, plan, form, kept, left)}


def told(planned: Planned, plan: Plan, form: DayForm, kept: DayPlan | None = None, left: Left | None = None) -> Json:
    """What is said and drawn of a plan, and of what is left of it once it was begun. Raises Infeasible."""
    begin, deadline = form.begins, form.deadline_s()
    stale = kept is not None and kept_plan(kept, planned) is None
    late_s = plan.makespan_s - deadline if deadline is not None else 0
    alone_s, end = one_by_one_s(planned.day), begin + timedelta(seconds=plan.makespan_s)
    days = 1 + end.toordinal() - begin.toordinal()
    slack_s = max(0, -late_s) if deadline is not None else None
    in_time, worst = begin - timedelta(seconds=max(0, late_s)), None
    if not stale and kept is not None:
        worst = _worst(kept, planned, begin, deadline)
    rows = lines(planned, plan, begin, left.had if left else None)
    gone_s = round((timezone.localtime(clock.now()).replace(tzinfo=None) - begin).total_seconds())
    helped, remedies = _helped(planned, plan, begin), []
    if late_s > 0:
        remedies = _remedies(planned, plan, begin, deadline)
    return {
        "says": " ".join(
            [
                day_says(begin, end, days=days, saved_s=max(0, alone_s - plan.makespan_s)),
                *late_says(late_s, in_time, remedies, days=days, slack_s=slack_s),
            ]
        ),
        "notes": [
            *filter(None, [likely_says(begin, makespan_range(planned.day, plan, **_spreads(planned)))]),
            *filter(None, [goes_by_says(_known(planned), {})]),
            *(helper_says(one, days=days) for one in helped),
            *planned.cautions,
            *(elsewhere_says(place, other) for place, other in planned.moved),
            *worst_says(worst, days=days, late=late_s > 0),
        ],
        "kept": kept,
        "stale": stale,
        "plan": plan,
        "planned": planned,
        "begin": begin,
        "end": end,
        "late_s": max(0, late_s),
        "dark_first": [(planned.bowls[a], planned.bowls[b]) for a, b in plan.dark_first(planned.day)],
        "lines": rows,
        "parts": ribbon_parts(rows, planned, plan, begin, days=days, gone_s=gone_s),
        "gone_s": gone_s,
        "begun": left is not None,
        "next": (left.lines if left else [r for r in rows if r["start_s"] + r["long_s"] > gone_s] or rows)[:NEXT],
        "hands": form.cleaned_data["hands"],
        "days": days,
        "result": {"makespan_s": plan.makespan_s, "steps": len(planned.day.steps)},
    }


def _known(planned: Planned) -> dict[str, float]:
    """What a day goes by of how this kitchen works."""
    return {name: factor.value for name, factor in planned.known.only(PACE, SET, LOSS).of.items()}


def _spreads(planned: Planned) -> dict[str, float]:
    """How sure it is how long hands take and what sets."""
    known = planned.known
    coats = known.only(COAT).of.values()
    coat_sd = min((f.sd for f in coats if f.sd is not None), default=PRIORS[COAT])
    return {"pace_sd": known.sd_of(PACE), "waits_sd": math.hypot(known.sd_of(SET), coat_sd)}


def kept_plan(row: DayPlan | None, planned: Planned) -> Plan | None:
    """The plan of the very same steps, where there is one."""
    if row is None or not row.found or row.told != day_json(planned.day):
        return None
    return row.plan


def in_the_way(row: DayPlan | None, planned: Planned) -> list[str]:
    """What stands in each other's way, in words, where a solver found that."""
    names = row.best.get("conflict", []) if row is not None else []
    sentences = [f"{planned.says[n].rstrip('.')} ({planned.of[n].name.lower()})" for n in names if n in planned.says]
    return list(dict.fromkeys(sentences))


def at_once(planned: Planned) -> Plan:
    """The best of a few orders. Raises NoOrder."""
    greedy = best_of(planned.day)
    plan = tightened(planned.day, greedy[0].plan(greedy[1])) if greedy is not None else None
    if plan is None or (planned.day.deadline_s is not None and plan.makespan_s > planned.day.deadline_s):
        raise NoOrder(planned)
    return plan


def _more(resource: str) -> str | None:
    return MORE.get(resource.partition(":")[0])


def _would_do(planned: Planned) -> str:
    names = [more for r in remedies(planned.day) if (more := _more(r.resource))]
    if names:
        return f"{' or '.join(names).capitalize()} would do."
    if not planned.day.closed and best_of(replace(planned.day, deadline_s=None, closed=TWO_DAYS)) is not None:
        return "Over two days it can be done: say until when you work each day."
    return "Work for longer, take a piece out, or make two jobs of it."


def _remedies(planned: Planned, plan: Plan, begin: datetime, deadline_s: int | None) -> list[Context]:
    """What one thing more would do for a day that is too long."""
    return [
        {
            "says": more,
            "end": begin + timedelta(seconds=r.makespan_s),
            "enough": deadline_s is not None and r.makespan_s <= deadline_s,
        }
        for r in remedies(planned.day, plan.makespan_s)
        if (more := _more(r.resource))
    ]


def _worst(row: DayPlan, planned: Planned, begin: datetime, deadline_s: int | None) -> Json | None:
    """What takes longest to make again, when all is done then, and by how much that is too late, s."""
    if not row.again:
        return None
    part, end_s = max(row.again.items(), key=lambda pair: pair[1])
    piece = next((p for name, p in planned.of.items() if part_of(name) == part), None)
    layer = next((la for la in piece.stack if f"{la.pk}" == part), None) if piece else None
    if piece is None or layer is None:
        return None
    late_s = 0 if deadline_s is None else max(0, end_s - deadline_s)
    says = f"{technique(layer.technique).title.lower()} of {piece.name.lower()}"
    return {
        "says": says,
        "end": begin + timedelta(seconds=end_s),
        "late_s": late_s,
        "begin": begin - timedelta(seconds=late_s),
    }


def lines(planned: Planned, plan: Plan, begin: datetime, had: Happened | None = None) -> list[Context]:
    """All that is done, in the order of the clock: steps and melts, with the time before them in which nobody has
    anything to do, what was melted darker before, and which of them are done."""
    by_name, rows = planned.day.by_name, list[tuple[int, int, Json]]()
    dark_first, before = set(plan.dark_first(planned.day)), ""
    for name, start in plan.starts_s.items():
        step = by_name[name]
        if step.handled:
            who = plan.by.get(name)
            line = {
                "says": planned.says[name],
                "piece": planned.unsaid(name),
                "name": name,
                "done": had is not None and name in had.done,
                "whose": planned.of.get(name),
                "need": planned.bowls.get(step.bowl or ""),
                "who": planned.names.get(who or ""),
            }
            rows.append((start, step.duration_s, line))
    melted = Counter[str]()
    for melt in plan.melts:
        bowl, need = planned.day.bowls[melt.bowl], planned.bowls[melt.bowl]
        line = {
            "melt": need,
            "need": need,
            "name": "",
            "done": melted[melt.bowl] < (had.melts.get(melt.bowl, 0) if had else 0),
            "again": melt.again,
            "then": then_says(need, again=melt.again),
            "after_dark": planned.bowls[before].name if (before, melt.bowl) in dark_first else None,
        }
        before = melt.bowl
        melted[melt.bowl] += 1
        rows.append((melt.start_s, bowl.off_s(again=melt.again), line))
    made, free, day = [], 0, begin.date()
    for number, (start, long, line) in enumerate(sorted(rows, key=lambda f: f[0]), 1):
        at = begin + timedelta(seconds=start)
        made.append(
            {
                **line,
                "number": number,
                "at": at,
                "start_s": start,
                "long_s": long,
                "idle_s": max(0, start - free) if at.date() == day else 0,
            }
        )
        free, day = max(free, start + long), at.date()
    return made


def _helped(planned: Planned, plan: Plan, begin: datetime) -> list[Context]:
    """When each helper is wanted, and for how long; no steps where there is nothing for one to do."""
    rows = []
    for key in planned.helpers:
        at = [(plan.starts_s[s.name], s.duration_s) for s in planned.day.steps if plan.by.get(s.name) == key]
        first, last = (min(a for a, _ in at), max(a + b for a, b in at)) if at else (0, 0)
        rows.append(
            {
                "name": planned.names[key],
                "steps": len(at),
                "work_s": sum(b for _, b in at),
                "first": begin + timedelta(seconds=first),
                "last": begin + timedelta(seconds=last),
            }
        )
    return rows
