"""The Day sheet: what do I do next? A good order at once, with its waits; planned, moved by hand, taken along."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from django import forms
from django.contrib import messages
from django.http import Http404, HttpResponse, JsonResponse
from django.middleware.csrf import get_token
from django.shortcuts import redirect, render
from django.template.loader import render_to_string
from django.views.decorators.http import require_POST

from coating.errors import CoatingError, Infeasible
from coating.plan.day import Plan
from coating.plan.day.follow import AFTER, LIFE, NIGHT, WINDOW
from coating.plan.day.move import Moved, moved
from coating.plan.day.network import Arc
from studio.common import measures
from studio.common.forms import VersionedForm, asked_and_reckoned
from studio.common.live import LiveView
from studio.common.measures import refusal_text
from studio.common.models import ChangedMeanwhile
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required
from studio.common.templatetags.clocks import clock_text
from studio.common.types import Context, Fields
from studio.common.words import many
from studio.day import actions, out
from studio.day.adapters import Planned
from studio.day.forms import DayForm
from studio.day.models import DayPlan, asked_of
from studio.day.reckoning import NoOrder, in_the_way, reckon, told
from studio.day.says import moved_says
from studio.pieces.models import Job

FILES = {"pdf": "application/pdf", "ics": "text/calendar; charset=utf-8", "csv": "text/csv; charset=utf-8"}
PARTS = {"answer": "day/parts/answer.html", "ribbon": "day/parts/ribbon.html", "beside": "day/parts/beside.html"}


class OpenForm(forms.Form):
    """Which plan the page shows: its version, 0 where there was none."""

    plan_version = forms.IntegerField(min_value=0, max_value=2**31 - 1, required=False)

    @classmethod
    def version_of(cls, request: KitchenRequest) -> int | None:
        """The version of the plan that the page showed, or None."""
        form = cls(request.POST)
        return form.cleaned_data["plan_version"] if form.is_valid() else None


class MoveForm(forms.Form):
    """A step and where it is dragged to, s from when the day begins; none: nothing is moved after all."""

    step = forms.CharField(max_length=80, required=False)
    to_s = forms.IntegerField(min_value=0, max_value=14 * 24 * 3600, required=False)
    keep = forms.BooleanField(required=False)


@kitchen_required
def next_day(request: KitchenRequest) -> HttpResponse:
    """The day of the job that comes next."""
    job = Job.objects.for_kitchen(request.kitchen).next_first().first()
    return redirect("day:day", pk=job.pk) if job else redirect("pieces:jobs")


def _row(request: KitchenRequest, pk: int) -> DayPlan | None:
    plan: DayPlan | None = DayPlan.objects.for_kitchen(request.kitchen).filter(job_id=pk).first()
    return plan


def _page(request: KitchenRequest, pk: int, form: DayForm, reckoned: Any, status: int = 200) -> HttpResponse:
    row = _row(request, pk)
    context: Context = {
        "form": form,
        "job": Job.objects.get_for(request.kitchen, pk=pk),
        "plan_version": row.version if row else 0,
    }
    try:
        day = reckon(request, pk, reckoned, row) if reckoned.is_valid() else None
        context |= day or {"refusal": "Say when you begin."}
    except CoatingError as refusal:
        context |= _refused(refusal, row)
    bad = form.is_bound and form.errors and status == 200
    return render(request, "day/day.html", context, status=422 if bad else status)


def _refused(refusal: CoatingError, row: DayPlan | None) -> Context:
    """What is said where there is no plan; what stands in each other's way, once a solver found that."""
    if not isinstance(refusal, NoOrder):
        return {"refusal": refusal_text(refusal)}
    return {"refusal": refusal_text(refusal), "kept": row, "in_the_way": in_the_way(row, refusal.planned)}


@kitchen_required
def day_page(request: KitchenRequest, pk: int) -> HttpResponse:
    """What to do, in a good order; the plan that was asked for, where there is one."""
    Job.objects.get_for(request.kitchen, pk=pk)
    kept = asked_of(_row(request, pk))
    form, reckoned = asked_and_reckoned(DayForm, request.GET if "begin" in request.GET else kept)
    return _page(request, pk, form, reckoned)


@kitchen_required
@require_POST
def plan_day(request: KitchenRequest, pk: int) -> HttpResponse:
    """Ask for the shortest plan; it is looked for outside of this request."""
    job = Job.objects.get_for(request.kitchen, pk=pk)
    form, expected = DayForm(request.POST), OpenForm.version_of(request)
    if not form.is_valid():
        return _page(request, pk, form, form)
    try:
        form.check_ahead()
        day = _order(request, pk, form)
        if day:
            actions.ask(job, _asked(request, form), *day, expected=expected)
    except ChangedMeanwhile:
        form.add_error(None, VersionedForm.CHANGED)
        return _page(request, pk, form, form, 409)
    except CoatingError as refusal:
        said = refusal.fields.get("field")
        form.add_error(said if said in form.fields else None, refusal_text(refusal))
        return _page(request, pk, form, form)
    return redirect("day:day", pk=pk)


def _order(request: KitchenRequest, pk: int, form: DayForm) -> tuple[Planned, Plan | None] | None:
    """What is to be planned and the order found at once, if one was; None where there is nothing to do."""
    try:
        day = reckon(request, pk, form)
    except NoOrder as none:
        return none.planned, None
    return None if day.get("nothing") else (day["planned"], day["plan"])


def _asked(request: KitchenRequest, form: DayForm) -> dict[str, str]:
    """As it was typed, without what was left empty."""
    fields = {name: request.POST.get(name, "") for name in form.fields}
    return {name: text for name, text in fields.items() if text} | {"on": f"{form.begins:%Y-%m-%d}"}


@kitchen_required
@require_POST
def plan_stop(request: KitchenRequest, pk: int) -> HttpResponse:
    """Take the best so far."""
    actions.stop(DayPlan.objects.get_for(request.kitchen, job_id=pk))
    return redirect("day:day", pk=pk)


def _parts(request: KitchenRequest, context: Context) -> dict[str, str]:
    return {role: render_to_string(name, context, request) for role, name in PARTS.items()}


@kitchen_required
def progress(request: KitchenRequest, pk: int) -> HttpResponse:
    """How far the planner is: the parts of the page, and whether it is over."""
    row: DayPlan = DayPlan.objects.get_for(request.kitchen, job_id=pk)
    form = DayForm(asked_of(row))
    form.is_valid()
    try:
        context = reckon(request, pk, form, row)
        parts = _parts(request, context)
    except CoatingError as refusal:
        context, parts = {"job": row.job, **_refused(refusal, row)}, {}
    parts["state"] = render_to_string("day/parts/state.html", context, request)
    return JsonResponse({"parts": parts, "over": not row.under_way})


@kitchen_required
@require_POST
def move(request: KitchenRequest, pk: int) -> HttpResponse:
    """A step is dragged: what that costs, or why not; kept where that is asked for."""
    job, row = Job.objects.get_for(request.kitchen, pk=pk), _row(request, pk)
    form, move_form, expected = DayForm(request.POST), MoveForm(request.POST), OpenForm.version_of(request)
    if not form.is_valid() or not move_form.is_valid():
        return JsonResponse({"message": "Look at the marked field, then move it again."}, status=422)
    try:
        context = reckon(request, pk, form, row)
        if context.get("nothing"):
            raise Infeasible("Nothing is to be done yet.", steps=[])
        data, planned = move_form.cleaned_data, context["planned"]
        if data["step"] and data["to_s"] is not None:
            outcome = moved(planned.day, context["plan"], data["step"], data["to_s"])
            if outcome.plan is not None:
                if data["keep"]:
                    row = actions.move(job, _asked(request, form), planned, outcome.plan, expected=expected)
                context |= told(planned, outcome.plan, form, row)
            context["moved"] = _came_of(outcome, planned, data["step"], context["end"])
    except ChangedMeanwhile:
        return JsonResponse({"message": VersionedForm.CHANGED}, status=409)
    except CoatingError as refusal:
        return JsonResponse({"message": refusal_text(refusal)}, status=422)
    parts = _parts(request, context) | {"moved": render_to_string("day/parts/moved.html", context, request)}
    return JsonResponse({"parts": parts, "kept": data["keep"] and context["moved"]["can"]})


def _came_of(outcome: Moved, planned: Planned, step: str, end: datetime) -> Context:
    """What came of a move, in words."""
    why = list(dict.fromkeys(words for arc in outcome.why if (words := _why(arc, planned))))[:2]
    along = list(dict.fromkeys(planned.says[n].rstrip(".") for n in outcome.along if n in planned.says))[:3]
    return {
        "can": outcome.plan is not None,
        "says": planned.says.get(step, "").rstrip("."),
        "came": moved_says(outcome.costs_s, end, why, along),
        "why": why,
    }


def _why(arc: Arc, planned: Planned) -> str | None:
    """A rule that is in the way, in the maker's words."""
    says = planned.says.get(arc.of, "").rstrip(".")
    if arc.why == NIGHT:
        return "nobody is at work then"
    if arc.why == LIFE and says:
        return f"its bowl is cold by then: {says}"
    if arc.why == WINDOW and says:
        return f"it cannot wait so long: {says}"
    if arc.why == AFTER and says:
        return f"first comes: {says}"
    return f"hands are at: {says}" if says else "its bowl is melted first"


@kitchen_required
def day_file(request: KitchenRequest, pk: int, suffix: str) -> HttpResponse:
    """The day as it is planned, or in an order at once: on paper, for a calendar, as a table."""
    if suffix not in FILES:
        raise Http404("no such format")
    job, row = Job.objects.get_for(request.kitchen, pk=pk), _row(request, pk)
    _, form = asked_and_reckoned(DayForm, asked_of(row))
    try:
        form.is_valid()
        day = reckon(request, pk, form, row)
        if day.get("nothing"):
            raise Infeasible("Nothing is to be done yet.", steps=[])
        content = _content(suffix, job, day, request)
    except CoatingError as refusal:
        messages.error(request, refusal_text(refusal))
        return redirect("day:day", pk=pk)
    response = HttpResponse(content, content_type=FILES[suffix])
    response["Content-Disposition"] = f'inline; filename="day-sheet.{suffix}"'
    return response


def _content(suffix: str, job: Job, context: Context, request: KitchenRequest) -> bytes | str:
    lines = context["lines"]
    if suffix == "csv":
        return out.as_csv(lines)
    if suffix == "ics":
        return out.as_calendar(job.name, lines, request.kitchen.zone, f"{job.pk}:{context['begin']:%Y-%m-%d}")
    hands = f"for {many(context['hands'], 'person', 'people')}"
    until = f"{clock_text(context['end'])}" if context["days"] == 1 else f"{context['end']:%A, %-d %B, %-H:%M}"
    head = f"{context['begin']:%A, %-d %B %Y}, {clock_text(context['begin'])} to {until}, {hands}"
    return out.day_pdf(job.name, head, context, paper=request.GET.get("paper") or measures.paper())


class DayLive(LiveView):
    """An order at once while it is changed."""

    part_templates = {**PARTS, "state": "day/parts/state.html"}

    def make_form(self, request: KitchenRequest, fields: Fields, **kwargs: Any) -> DayForm:
        self.pk = Job.objects.get_for(request.kitchen, pk=kwargs["pk"]).pk
        return DayForm(fields)

    def make_context(self, request: KitchenRequest, form: Any, **kwargs: Any) -> Context:
        form.check_ahead()
        day = reckon(request, self.pk, form, _row(request, self.pk))
        if day.get("stale"):  # another day than the one that was planned
            day |= {"kept": None, "stale": False}
        return day | {"csrf_token": get_token(request)}
