"""What a day comes to: an order at once, or the plan that is kept; its lines, its lanes, and what is said of it."""

from __future__ import annotations

from dataclasses import replace
from datetime import datetime, timedelta
from typing import Any

from django.utils import timezone

from coating.errors import Infeasible
from coating.looks.lanes import lanes
from coating.plan.day import HANDS
from coating.plan.day.follow import tightened
from coating.plan.day.greedy import best_of
from coating.plan.day.plan import Plan, one_by_one_s
from coating.plan.day.remedy import remedies
from coating.techniques import technique
from studio.common import clock
from studio.common.requests import KitchenRequest
from studio.common.templatetags.clocks import clock_text
from studio.common.types import Context, Json
from studio.day.adapters import HEAT, Planned, day_of
from studio.day.forms import DayForm
from studio.day.models import DayPlan, day_json, part_of
from studio.day.ready import lay_ready
from studio.day.says import day_says, elsewhere_says, helper_says, late_says, then_says, worst_says
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
    return {"job": job, "ready": lay_ready(job, request.kitchen, planned), **told(planned, plan, form, kept)}


def told(planned: Planned, plan: Plan, form: DayForm, kept: DayPlan | None = None) -> Json:
    """What is said and drawn of a plan. Raises Infeasible."""
    begin, deadline = form.begins, form.deadline_s()
    stale = kept is not None and kept_plan(kept, planned) is None
    late_s = plan.makespan_s - deadline if deadline is not None else 0
    alone_s, end = one_by_one_s(planned.day), begin + timedelta(seconds=plan.makespan_s)
    days = 1 + end.toordinal() - begin.toordinal()
    slack_s = max(0, -late_s) if deadline is not None else None
    in_time, worst = begin - timedelta(seconds=max(0, late_s)), None
    if not stale and kept is not None:
        worst = _worst(kept, planned, begin, deadline)
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
        "lines": lines(planned, plan, begin),
        "pictures": _pictures(planned, plan, begin),
        "hands": form.cleaned_data["hands"],
        "labs": {key: need.tone.lab for key, need in planned.bowls.items()},
        "bowl_of": {s.name: s.bowl for s in planned.day.steps},
        "starts_s": plan.starts_s,
        "days": days,
        "result": {"makespan_s": plan.makespan_s, "steps": len(planned.day.steps)},
    }


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


def lines(planned: Planned, plan: Plan, begin: datetime) -> list[Context]:
    """All that is done, in the order of the clock: steps and melts, with the waits before them and what is light."""
    by_name, rows = planned.day.by_name, list[tuple[int, int, Json]]()
    dark_first, before = set(plan.dark_first(planned.day)), ""
    for name, start in plan.starts_s.items():
        step = by_name[name]
        if step.handled:
            who = plan.by.get(name)
            line = {
                "says": planned.says[name],
                "piece": unsaid(planned, name),
                "name": name,
                "whose": planned.of.get(name),
                "need": planned.bowls.get(step.bowl or ""),
                "who": planned.names.get(who or ""),
            }
            rows.append((start, step.duration_s, line))
    for melt in plan.melts:
        bowl, need = planned.day.bowls[melt.bowl], planned.bowls[melt.bowl]
        line = {
            "melt": need,
            "need": need,
            "name": "",
            "again": melt.again,
            "then": then_says(need, again=melt.again),
            "after_dark": planned.bowls[before].name if (before, melt.bowl) in dark_first else None,
        }
        before = melt.bowl
        rows.append((melt.start_s, bowl.off_s(again=melt.again), line))
    made, free, day = [], 0, begin.date()
    for number, (start, long, line) in enumerate(sorted(rows, key=lambda f: f[0]), 1):
        at = begin + timedelta(seconds=start)
        made.append(
            {
                **line,
                "number": number,
                "at": at,
                "long_s": long,
                "new_day": at.date() != day,
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


def unsaid(planned: Planned, name: str) -> Any:
    """The piece of a step, where its words do not name it."""
    piece = planned.of.get(name)
    if piece is None or name.startswith("bowl:"):
        return None
    return None if piece.name.lower() in planned.says[name].lower() else piece


def _pictures(planned: Planned, plan: Plan, begin: datetime) -> list[Context]:
    """Lanes, of each day by itself."""
    order = [n for n, _ in sorted(plan.starts_s.items(), key=lambda p: p[1]) if planned.day.by_name[n].handled]
    titles = {HANDS: "hands", HEAT: "heat", **planned.names, **{key: n.name for key, n in planned.bowls.items()}}
    nights = [(a, b) for a, b in planned.day.closed if a < plan.makespan_s]
    spans = zip([0, *(b for _, b in nights)], [*(a for a, _ in nights), plan.makespan_s], strict=True)
    now, words = timezone.localtime(clock.now()).replace(tzinfo=None), bar_words(planned, begin, plan)
    gone = (now - begin).total_seconds()
    return [
        {
            "drawn": drawn,
            "on": begin + timedelta(seconds=first),
            "first_s": first,
            "now_s": gone - first,
            "says": words,
            "ticks": [(x, begin + timedelta(seconds=first + 60 * m)) for x, m in drawn.ticks],
        }
        for first, last in spans
        if last > first
        for drawn in [lanes(planned.day, plan, order, titles, first, last)]
    ]


def bar_words(planned: Planned, begin: datetime, plan: Plan) -> dict[str, str]:
    """What a step in the lanes is called, and when it is done."""
    words = {}
    for name, start in plan.starts_s.items():
        first = begin + timedelta(seconds=start)
        last = first + timedelta(seconds=planned.day.by_name[name].duration_s)
        words[name] = f"{planned.says.get(name, '').rstrip('.')}, {clock_text(first)} to {clock_text(last)}"
    return words
