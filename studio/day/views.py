"""The Day sheet: what do I do next? A good order at once, with its waits."""

from __future__ import annotations

from datetime import datetime, time, timedelta
from typing import Any

from django import forms
from django.contrib import messages
from django.http import Http404, HttpResponse, JsonResponse
from django.shortcuts import redirect, render
from django.template.loader import render_to_string
from django.utils import timezone
from django.views.decorators.http import require_POST

from coating.errors import CoatingError, Infeasible
from coating.figures.lanes import lanes
from coating.plan.day import HANDS
from coating.plan.day.greedy import best_of
from coating.plan.day.plan import Plan, one_by_one_s
from coating.plan.day.remedy import remedies
from studio.common import clock
from studio.common.forms import CountField, asked_and_reckoned
from studio.common.live import LiveView
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required
from studio.day import actions, out
from studio.day.adapters import HEAT, Planned, day_of
from studio.day.models import DayPlan, day_json
from studio.pieces.models import Job

MOST_STEPS = 240
MORE = {HANDS: "another pair of hands", HEAT: "a second thing to melt with", "fridge": "one place more in the fridge",
        "freezer": "one place more in the freezer"}  # fmt: skip
FILES = {"pdf": "application/pdf", "ics": "text/calendar; charset=utf-8", "csv": "text/csv; charset=utf-8"}


class DayForm(forms.Form):
    begin = forms.TimeField(label="Begin at", initial=time(9, 0), widget=forms.TimeInput(format="%H:%M"),
                            error_messages={"invalid": "A time like 9:00."})  # fmt: skip
    ready = forms.TimeField(label="Ready by", required=False, widget=forms.TimeInput(format="%H:%M"),
                            error_messages={"invalid": "A time like 17:30."})  # fmt: skip
    hands = CountField("helpers", label="Pairs of hands", initial=1)
    fridge = CountField("places", label="Fridge places", initial=4, low=0, high=40)
    freezer = CountField("places", label="Freezer places", initial=2, low=0, high=40)


def _reckon(request: KitchenRequest, pk: int, form: DayForm, kept: DayPlan | None = None) -> dict[str, Any]:
    """An order that can be done, at once; or the plan that is kept, while the job is as it was. Raises CoatingError."""
    job = Job.objects.whole(request.kitchen, pk)
    data, kitchen = form.cleaned_data, request.kitchen
    begin = datetime.combine(timezone.localdate(clock.now()), data["begin"])
    deadline = None
    if data.get("ready"):
        until = datetime.combine(begin.date(), data["ready"])
        deadline = int((until - begin).total_seconds())
        if deadline <= 0:
            raise Infeasible("That is before it begins: begin earlier, or be ready later.", field="ready", steps=[])
    planned = day_of(job, kitchen, hands=data["hands"], fridge=data["fridge"] if kitchen.has_fridge else 0,
                     freezer=data["freezer"] if kitchen.has_freezer else 0)  # fmt: skip
    if planned is None:
        return {"job": job, "nothing": True, "result": {"makespan_s": 0}}
    if len(planned.day.steps) > MOST_STEPS:
        raise Infeasible(
            f"That is {len(planned.day.steps)} steps: {MOST_STEPS} at most in one day. Make two jobs of it.", steps=[]
        )
    plan = _kept(kept, planned) or _at_once(planned)
    late_s = plan.makespan_s - deadline if deadline is not None else 0
    stale = kept is not None and _kept(kept, planned) is None
    alone_s = one_by_one_s(planned.day)
    return {
        "job": job, "kept": kept, "stale": stale, "plan": plan, "planned": planned, "begin": begin,
        "end": begin + timedelta(seconds=plan.makespan_s), "late_s": max(0, late_s), "alone_s": alone_s,
        "remedies": _remedies(planned, plan, begin, deadline) if late_s > 0 else [], "takes_s": plan.makespan_s,
        "in_time": begin - timedelta(seconds=max(0, late_s)),
        "slack_s": max(0, -late_s) if deadline is not None else None,
        "lines": _lines(planned, plan, begin), "picture": _picture(planned, plan), "hands": data["hands"],
        "saved_s": max(0, alone_s - plan.makespan_s),
        "result": {"makespan_s": plan.makespan_s, "steps": len(planned.day.steps)},
    }  # fmt: skip


def _kept(row: DayPlan | None, planned: Planned) -> Plan | None:
    """The plan of the very same steps."""
    return (
        row.plan
        if row is not None and row.told == {**day_json(planned.day), "deadline_s": row.told["deadline_s"]}
        else None
    )


def _at_once(planned: Planned) -> Plan:
    """The best of a few orders. Raises Infeasible."""
    found = best_of(planned.day)
    if found is None:
        raise Infeasible(f"No order keeps all these waits. {_would_do(planned)}", steps=[])
    greedy, placed = found
    return greedy.plan(placed)


def _would_do(planned: Planned) -> str:
    names = [MORE[r.resource] for r in remedies(planned.day) if r.resource in MORE]
    return f"{' or '.join(names).capitalize()} would do." if names else "Take a piece out, or make two days of it."


def _remedies(planned: Planned, plan: Plan, begin: datetime, deadline_s: int | None) -> list[dict[str, Any]]:
    """What one thing more would do for a day that is too long."""
    return [
        {"says": MORE[r.resource], "end": begin + timedelta(seconds=r.makespan_s),
         "enough": deadline_s is not None and r.makespan_s <= deadline_s}
        for r in remedies(planned.day, plan.makespan_s) if r.resource in MORE
    ]  # fmt: skip


def _lines(planned: Planned, plan: Plan, begin: datetime) -> list[dict[str, Any]]:
    """All that hands do, in the order of the clock: steps and melts, with the waits before them."""
    by_name, found = planned.day.by_name, []
    for name, start in plan.starts_s.items():
        step = by_name[name]
        if HANDS in step.uses:
            need = planned.bowls.get(step.bowl or "")
            found.append(
                (
                    start,
                    step.duration_s,
                    {"says": planned.says[name], "piece": planned.of[name], "need": need, "name": name},
                )
            )
    for melt in plan.melts:
        bowl, need = planned.day.bowls[melt.bowl], planned.bowls[melt.bowl]
        found.append((melt.start_s, bowl.heat_s + bowl.stir_s, {"melt": need, "need": need, "name": ""}))
    lines, free = [], 0
    for number, (start, long, told) in enumerate(sorted(found, key=lambda f: f[0]), 1):
        lines.append({**told, "number": number, "at": begin + timedelta(seconds=start), "long_s": long,
                      "idle_s": max(0, start - free)})  # fmt: skip
        free = max(free, start + long)
    return lines


def _picture(planned: Planned, plan: Plan) -> Any:
    order = [n for n, _ in sorted(plan.starts_s.items(), key=lambda p: p[1]) if HANDS in planned.day.by_name[n].uses]
    titles = {HANDS: "hands", HEAT: "heat", **{key: need.name for key, need in planned.bowls.items()}}
    return {"drawn": lanes(planned.day, plan, order, titles), "labs": {
        key: need.colour.lab if need.colour else None for key, need in planned.bowls.items()},
        "bowl_of": {s.name: s.bowl for s in planned.day.steps}}  # fmt: skip


@kitchen_required
def next_day(request: KitchenRequest) -> HttpResponse:
    """The day of the job that comes next."""
    job = Job.objects.for_kitchen(request.kitchen).first()
    return redirect("day:day", pk=job.pk) if job else redirect("pieces:jobs")


def _row(request: KitchenRequest, pk: int) -> DayPlan | None:
    found: DayPlan | None = DayPlan.objects.for_kitchen(request.kitchen).filter(job_id=pk).first()
    return found


def _page(request: KitchenRequest, pk: int, form: DayForm, reckoned: Any, status: int = 200) -> HttpResponse:
    context: dict[str, Any] = {"form": form, "job": Job.objects.get_for(request.kitchen, pk=pk)}
    try:
        found = _reckon(request, pk, reckoned, _row(request, pk)) if reckoned.is_valid() else None
        context |= found or {"refusal": "Say when you begin."}
    except CoatingError as refusal:
        context["refusal"] = refusal.message
    return render(request, "day/day.html", context, status=422 if form.is_bound and form.errors else status)


@kitchen_required
def day_page(request: KitchenRequest, pk: int) -> HttpResponse:
    """What to do, in a good order; the plan that was asked for, where there is one."""
    Job.objects.get_for(request.kitchen, pk=pk)
    row = _row(request, pk)
    asked = {k: v for k, v in row.asked.items() if k != "v"} if row else None
    form, reckoned = asked_and_reckoned(DayForm, request.GET if "begin" in request.GET else asked)
    return _page(request, pk, form, reckoned)


@kitchen_required
@require_POST
def plan_day(request: KitchenRequest, pk: int) -> HttpResponse:
    """Ask for the shortest plan; it is looked for outside of this request."""
    job = Job.objects.get_for(request.kitchen, pk=pk)
    form = DayForm(request.POST)
    if not form.is_valid():
        return _page(request, pk, form, form)
    try:
        found = _reckon(request, pk, form)
    except CoatingError as refusal:
        said = refusal.fields.get("field")
        form.add_error(said if said in form.fields else None, refusal.message)
        return _page(request, pk, form, form)
    if not found.get("nothing"):
        asked = {name: request.POST.get(name, "") for name in form.fields}
        actions.ask(job, asked, found["planned"], found["plan"])
    return redirect("day:day", pk=pk)


@kitchen_required
@require_POST
def plan_stop(request: KitchenRequest, pk: int) -> HttpResponse:
    """Take the best so far."""
    actions.stop(DayPlan.objects.get_for(request.kitchen, job_id=pk))
    return redirect("day:day", pk=pk)


@kitchen_required
def progress(request: KitchenRequest, pk: int) -> HttpResponse:
    """How far the planner is: the parts of the page, and whether it is over."""
    row: DayPlan = DayPlan.objects.get_for(request.kitchen, job_id=pk)
    form = DayForm({k: v for k, v in row.asked.items() if k != "v"})
    form.is_valid()
    context = _reckon(request, pk, form, row)
    parts = {role: render_to_string(name, context, request) for role, name in DayLive.part_templates.items()}
    parts["state"] = render_to_string("day/parts/state.html", context, request)
    return JsonResponse({"parts": parts, "over": not row.under_way})


@kitchen_required
def day_file(request: KitchenRequest, pk: int, suffix: str) -> HttpResponse:
    """The day as it is planned, or in an order at once: on paper, for a calendar, as a table."""
    if suffix not in FILES:
        raise Http404("no such format")
    job, row = Job.objects.get_for(request.kitchen, pk=pk), _row(request, pk)
    asked = {k: v for k, v in row.asked.items() if k != "v"} if row else None
    _, form = asked_and_reckoned(DayForm, asked)
    try:
        form.is_valid()
        found = _reckon(request, pk, form, row)
        if found.get("nothing"):
            raise Infeasible("Nothing is to be done yet.", steps=[])
        content = _content(suffix, job, found, request)
    except CoatingError as refusal:
        messages.error(request, refusal.message)
        return redirect("day:day", pk=pk)
    response = HttpResponse(content, content_type=FILES[suffix])
    response["Content-Disposition"] = f'inline; filename="day-sheet.{suffix}"'
    return response


def _content(suffix: str, job: Job, found: dict[str, Any], request: KitchenRequest) -> bytes | str:
    lines = found["lines"]
    if suffix == "csv":
        return out.as_csv(lines)
    if suffix == "ics":
        return out.as_calendar(job.name, lines, request.kitchen.zone, f"{job.pk}:{found['begin']:%Y-%m-%d}")
    hands = f"{found['hands']} pairs of hands" if found["hands"] > 1 else "one pair of hands"
    head = f"{found['begin']:%A, %-d %B %Y}, {found['begin']:%-H:%M} to {found['end']:%-H:%M}, {hands}"
    return out.day_pdf(job.name, head, lines, found["picture"], paper=request.GET.get("paper", "A4"))


class DayLive(LiveView):
    """An order at once while it is changed."""

    part_templates = {"answer": "day/parts/answer.html", "lanes": "day/parts/lanes.html", "list": "day/parts/list.html"}

    def make_form(self, request: KitchenRequest, fields: dict[str, Any], **kwargs: Any) -> DayForm:
        self.pk = Job.objects.get_for(request.kitchen, pk=kwargs["pk"]).pk
        return DayForm(fields)

    def make_context(self, request: KitchenRequest, form: Any, **kwargs: Any) -> dict[str, Any]:
        return _reckon(request, self.pk, form)
