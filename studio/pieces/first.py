"""A first job: "What are you making?" by pictures, then how many, in which colours, for when. Two pages and done."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from datetime import date, timedelta
from typing import Any

from django import forms
from django.db import transaction
from django.http import Http404, HttpResponse
from django.shortcuts import redirect, render
from django.utils import timezone

from coating.stack.starts import STARTS, Start, start_called
from studio.colours.models import Colour
from studio.common import clock
from studio.common.forms import CountField, WordsField
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required, sent_once
from studio.common.types import Typed
from studio.cupboard.tones import PLAIN, Tone, tones_in
from studio.pieces.models import Job
from studio.pieces.parts import picture_of_plan
from studio.pieces.pictures import Pictured
from studio.pieces.says import first_name
from studio.pieces.stacks import PiecePlan, first_extras, in_tones, keep_piece, keep_together, plans_of

PICTURES = ("pops", "half_dipped", "berries", "drip_cake", "filled", "slab", "rods", "shapes")
EASY = "half_dipped"
EASY_COUNT, MANY, FEW = 6, (6, 12, 20, 24), (1, 2, 3, 4)
SATURDAY = 5
SHOWN = 12  # colours to choose from


class FirstForm(forms.Form):
    """How many, in which colours, for when; `tones` : by key, plain among them."""

    count = CountField("count", label="How many", low=1, high=400)
    tones = forms.MultipleChoiceField(
        label="Colours",
        widget=forms.CheckboxSelectMultiple,
        error_messages={"required": "Choose a colour, or plain."},
    )
    when = forms.ChoiceField(
        label="The day it is for", widget=forms.RadioSelect, error_messages={"required": "Say for when."}
    )
    due_on = forms.DateField(
        label="Another date",
        required=False,
        widget=forms.DateInput(attrs={"type": "date"}, format="%Y-%m-%d"),
        error_messages={"invalid": "Write the date as 2026-11-28."},
    )
    name = WordsField(label="What is the occasion? You can leave it blank", max_length=80, required=False)

    def __init__(self, *args: Any, tones: Mapping[str, Tone], today: date, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.all_tones = {key or "plain": tone for key, tone in tones.items()}
        self.fields["tones"].choices = [(key, tone.name) for key, tone in self.all_tones.items()]  # type: ignore[attr-defined]
        self.days = days_from(today)
        whens = [*((key, says) for key, says, _ in self.days), ("other", "another date")]
        self.fields["when"].choices = whens  # type: ignore[attr-defined]

    def clean(self) -> Typed:
        data = super().clean() or {}
        dates = {key: day for key, _, day in self.days}
        if data.get("when") == "other" and not data.get("due_on") and "due_on" not in self.errors:
            self.add_error("due_on", "Choose the date.")
        data["due_on"] = dates.get(data.get("when", ""), data.get("due_on"))
        return data

    def shades(self) -> list[tuple[Any, Tone]]:
        """Each colour as its box to tick."""
        boxes = list(self["tones"])
        return [(box, self.all_tones[box.data["value"]]) for box in boxes]


def days_from(today: date) -> list[tuple[str, str, date]]:
    """Dates that are a tap away: today, tomorrow, and the Saturday after."""
    saturday = today + timedelta(days=(SATURDAY - today.weekday()) % 7)
    days = [("today", "today", today), ("tomorrow", "tomorrow", today + timedelta(days=1))]
    if saturday > today + timedelta(days=1):
        days.append(("saturday", f"Saturday, {saturday:%-d %B}", saturday))
    return days


@kitchen_required
@sent_once
def first_page(request: KitchenRequest) -> HttpResponse:
    """Eight pictures to begin with; or an easy evening to follow."""
    if request.method == "POST":
        tones = [tone for key, tone in tones_in(request.kitchen).items() if key][:1] or [PLAIN]
        today = timezone.localdate(clock.now())
        job = begin(request, start_called(EASY), EASY_COUNT, tones, "An easy first evening", today)
        return redirect("day:day", pk=job.pk)
    shown = [(STARTS[name], _picture(request, STARTS[name])) for name in PICTURES]
    return render(request, "pieces/first.html", {"starts": shown, "easy_count": EASY_COUNT})


def _picture(request: KitchenRequest, start: Start) -> Pictured:
    """A start in the first colours of a kitchen."""
    made = list(Colour.objects.for_kitchen(request.kitchen)[:2])
    first, second = (*made, None, None)[:2]
    colours = {"": None, "main": first, "second": second}
    return picture_of_plan(plans_of(start, colours, first_extras(request.kitchen))[0])


@kitchen_required
@sent_once
def first_of(request: KitchenRequest, name: str) -> HttpResponse:
    """How many of what was picked, in which colours, for when: then it is a job."""
    if name not in PICTURES:
        raise Http404("no such picture")
    start, tones = STARTS[name], dict(list(tones_in(request.kitchen).items())[:SHOWN])
    today = timezone.localdate(clock.now())
    first = {"count": start.count if start.count == 1 else 12, "when": days_from(today)[-1][0]}
    form = FirstForm(request.POST or None, tones=tones, today=today, initial=first)
    if request.method == "POST" and form.is_valid():
        data = form.cleaned_data
        chosen = [form.all_tones[key] for key in data["tones"]]
        job_name = data["name"] or first_name(start.title, data["due_on"])
        job = begin(request, start, data["count"], chosen, job_name, data["due_on"])
        return redirect("pieces:job", pk=job.pk)
    picture = _picture(request, start)
    context = {"form": form, "start": start, "picture": picture, "counts": FEW if start.count == 1 else MANY}
    return render(request, "pieces/first_of.html", context, status=422 if form.errors else 200)


@transaction.atomic
def begin(request: KitchenRequest, start: Start, count: int, tones: list[Tone], name: str, due_on: date | None) -> Job:
    """A job of one start, its count shared out among the colours."""
    job: Job = Job.objects.create(kitchen=request.kitchen, name=name[:80], due_on=due_on)
    plan: PiecePlan = plans_of(start, {}, first_extras(request.kitchen))[0]
    plans = in_tones(replace(plan, count=count), tones)
    if len(plans) == 1:
        keep_piece(job, plans[0])
    else:
        keep_together(job, start.title, "variants", count, plans)
    return job
