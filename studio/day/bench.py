"""At the bench: one thing, big; what waits beside it, what comes next. Late? The rest follows what happened."""

from __future__ import annotations

import uuid
from collections.abc import Mapping
from datetime import datetime, timedelta
from pathlib import Path

from django import forms
from django.contrib import messages
from django.contrib.staticfiles import finders
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_POST

from coating.errors import CoatingError
from coating.plan.day import Day
from studio.bowls.context import SHOWN, BandItem, band_items
from studio.bowls.models import Bowl
from studio.common import clock
from studio.common.coming import seen_coming
from studio.common.forms import asked_and_reckoned
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required
from studio.common.types import Context, Json, Typed
from studio.day import actions
from studio.day.adapters import Planned, day_of
from studio.day.forms import DayForm
from studio.day.left import begun, left_of
from studio.day.models import DayEvent, DayPlan, asked_of
from studio.day.ready import before_says, lay_ready
from studio.day.ring import ring_of
from studio.day.says import age_says, undo_says
from studio.day.shown import shown_of
from studio.day.went import went
from studio.pieces.models import Job

OLDEST = timedelta(days=2)
AT_ONCE_S = 60


class EventForm(forms.Form):
    """What a button sends."""

    key = forms.UUIDField()
    step = forms.CharField(max_length=80)
    kind = forms.ChoiceField(choices=DayEvent.KINDS)
    ago_s = forms.FloatField(required=False)  # how long ago it happened; left out: now

    def moment(self, now: datetime) -> datetime:
        """Never in the future, never long ago: clocks of tablets go wrong."""
        ago_s = self.cleaned_data.get("ago_s") or 0.0
        return now - timedelta(seconds=min(max(ago_s, 0.0), OLDEST.total_seconds()))


def _row(request: KitchenRequest, pk: int) -> DayPlan:
    plan: DayPlan = DayPlan.objects.select_related("job").get_for(request.kitchen, job_id=pk)
    return plan


def _now(request: KitchenRequest, pk: int) -> Context:
    """What the bench shows."""
    row, now = _row(request, pk), clock.now()
    job = Job.objects.whole(request.kitchen, pk)
    _, form = asked_and_reckoned(DayForm, asked_of(row))
    planned = day_of(job, request.kitchen, form.asked(request.kitchen))
    left = left_of(job, row, planned, form, now)
    day, had, done, rest = row.day, left.had, left.done, left.rest
    hands = [s.name for s in day.steps if s.handled]
    context: Context = {
        "job": job,
        "row": row,
        "done_count": sum(n in done for n in hands),
        "count": len(hands),
        "now": now,
        "longer": had.longer if had.longer and had.longer > now else None,
        "last": had.order[-1] if had.order else None,
        "key": uuid.uuid4(),
        "undo_key": uuid.uuid4(),
    }
    if had.order:
        context["undo"] = undo_says(had.order[-1], planned.says if planned else {}, planned.bowls if planned else {})
    if rest is None or planned is None:
        return context | {"over": True, "went": went(row, had)}
    mine = [line for line in left.lines if not line["who"]]
    meanwhile = [{**line, "key": uuid.uuid4()} for line in left.lines if line["who"] and line["wait_s"] <= AT_ONCE_S]
    first = mine[0] if mine else None
    if first is not None:
        first["shown"] = shown_of(planned, first["step"])
        first["not_for"] = age_says(first["age"])
    waiting = _waiting(day, planned, done, now, first)  # which tells the window of what is at hand
    if first is not None and first.get("window"):
        first["coming"] = _coming(first["window"])
    ring = ring_of(first, day, left, _kept(request, first), now) if first else None
    if not had.order:
        context["before"] = before_says(lay_ready(job, request.kitchen, planned), request.kitchen)
    helped, spare = {line["step"] for line in meanwhile}, _spare_s(form, left.end)
    return context | {
        "line": first,
        "all": [line for line in left.lines if line is not first and line["step"] not in helped][:40],
        "meanwhile": meanwhile,
        "waiting": waiting,
        "ring": ring,
        "late_s": rest.late_s,
        "end": left.end,
        "spare_s": max(0.0, spare),
        "overdue_s": max(0.0, -spare),
    }


def _kept(request: KitchenRequest, line: Typed) -> BandItem | None:
    """The bowl of a step as the band shows it, where there is one."""
    bowl = line["need"].bowl if line["need"] else None
    if bowl is None:
        return None
    in_use = Bowl.objects.for_kitchen(request.kitchen).in_use()
    bowls = in_use.newest(SHOWN)
    request.shelf = band_items(request.kitchen, bowls), len(bowls) if len(bowls) < SHOWN else in_use.count()
    return next((item for item in request.shelf[0] if item.bowl.pk == bowl.pk), None)


def _spare_s(form: DayForm, end: datetime) -> float:
    """How long before it has to be ready, s; 0 where nothing was said, or that day is still to come."""
    try:
        deadline = form.deadline_s()
    except CoatingError:
        return 0.0
    if deadline is None or form.begins.date() > end.date():
        return 0.0
    return (form.begins + timedelta(seconds=deadline) - end.replace(tzinfo=None)).total_seconds()


def _wait(planned: Planned, step: str, least_s: float, most_s: float | None, *, of_s: float = 0.0) -> Json:
    """A step that waits: for how long at least and at most, when its timer rings, if it does, and of how long that is
    left."""
    missed = most_s is not None and most_s < 0
    return {
        "says": planned.says.get(step, ""),
        "piece": planned.unsaid(step),
        "least_s": max(0.0, least_s),
        "most_s": most_s,
        "missed": missed,
        "rings_s": least_s if least_s > 0 else None if missed else most_s,
        "of_s": of_s,
    }


def _coming(window: Json) -> str:
    """What goes wrong with what is done before its time; "" once that has come."""
    if window["least_s"] < AT_ONCE_S:
        return ""
    return seen_coming("early_out" if window["most_s"] is None else "lifted_early")


def _waiting(
    day: Day, planned: Planned, done: Mapping[str, datetime], now: datetime, first: Typed | None
) -> list[Context]:
    """What was begun and waits: until when at least, and at most. What is in hand says its own window."""
    lines: list[Context] = []
    for lag in day.lags:
        if lag.before not in done or lag.after in done or not (lag.min_s or lag.max_s is not None):
            continue
        gone = (now - done[lag.before]).total_seconds()
        step = day.by_name[lag.after]
        least = lag.min_s - gone + (step.duration_s if not step.handled else 0)
        most = None if lag.max_s is None or not step.handled else lag.max_s - gone
        line = _wait(planned, lag.after, least, most, of_s=lag.min_s if least > 0 else (lag.max_s or 0) - lag.min_s)
        if first is not None and first.get("step") == lag.after:
            first["window"] = line
        else:
            lines.append(line)
    told_of = {la.after for la in day.lags if la.before in done and (la.min_s or la.max_s is not None)}
    for step in (s for s in day.steps if not s.handled and s.name not in done and s.name in planned.says):
        since = None if step.name in told_of else begun(step, day, done)
        if since is not None:
            left_s = step.duration_s - (now - since).total_seconds()
            lines.append(_wait(planned, step.name, left_s, None))
    return sorted(lines, key=lambda w: w["least_s"])[:6]


def worker(request: HttpRequest) -> HttpResponse:
    """The script that opens the bench without a connection, at an address that lets it see all days."""
    script = Path(finders.find("studio/js/bench-worker.js") or "").read_text()
    return HttpResponse(script, content_type="text/javascript")


@kitchen_required
def bench(request: KitchenRequest, pk: int) -> HttpResponse:
    """One thing, big."""
    row = DayPlan.objects.for_kitchen(request.kitchen).filter(job_id=pk).first()
    if row is None or not row.found:
        Job.objects.get_for(request.kitchen, pk=pk)
        messages.info(request, "Plan the day first: then the bench leads you through it.")
        return redirect("day:day", pk=pk)
    return render(request, "day/bench.html", _now(request, pk))


@kitchen_required
@require_POST
def happened(request: KitchenRequest, pk: int) -> HttpResponse:
    """A button was pressed, now or while there was no connection; the same one counts once."""
    row, form = _row(request, pk), EventForm(request.POST)
    if not form.is_valid():
        if request.headers.get("Accept", "").startswith("application/json"):
            return JsonResponse({"message": "That was not understood: load the page again."}, status=422)
        messages.error(request, "That was not understood: try again.")
        return redirect("day:bench", pk=pk)
    data = form.cleaned_data
    actions.happened(row, key=data["key"], step=data["step"], kind=data["kind"], at=form.moment(clock.now()))
    if request.headers.get("Accept", "").startswith("application/json"):
        return JsonResponse({"kept": str(data["key"])})
    return redirect("day:bench", pk=pk)
