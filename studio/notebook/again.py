"""Make it again: for another count, date, size or colour, with everything that was learned or changed since."""

from __future__ import annotations

from typing import Any

from django import forms
from django.contrib import messages
from django.db import transaction
from django.db.models import F
from django.http import HttpResponse
from django.shortcuts import redirect, render

from coating.errors import CoatingError
from studio.accounts.models import Kitchen
from studio.colours.models import Colour
from studio.common.forms import CountField, NumberField, WordsField
from studio.common.measures import refusal_text
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required, sent_once
from studio.common.types import Context
from studio.common.words import lower
from studio.notebook.copying import Changes, make_again, name_again
from studio.notebook.differs import Differs, differs_from
from studio.notebook.evenings import one_evening
from studio.notebook.models import MadeAgain
from studio.notebook.record import Evening, record_of
from studio.pieces.models import Family, Job, Piece

TIMES = (("0.5", "Half as many"), ("1", "As many"), ("2", "Twice as many"))


class AgainForm(forms.Form):
    """What is otherwise this time; untouched, all of it is as it was."""

    name = WordsField(label="Name", max_length=80)
    due_on = forms.DateField(
        label="Date", required=False, widget=forms.DateInput(attrs={"type": "date"}, format="%Y-%m-%d")
    )
    size = NumberField("size_percent", label="Size, in % of last time", required=False)

    def __init__(self, data: Any = None, *, job: Job, times: float = 1.0, only: int | None = None) -> None:
        self.pieces: list[Piece] = [p for p in job.pieces.all() if p.family_id is None and p.count]
        self.families: list[Family] = list(job.families.all())
        used = [la.colour for p in job.pieces.all() for la in p.stack if la.colour]
        self.used: list[Colour] = list({c.pk: c for c in used}.values())
        super().__init__(data, initial={"name": name_again(job.name), "size": 100.0})
        for piece in self.pieces:
            count = 0 if only and piece.pk != only else max(1, round(piece.count * times))
            self.fields[f"count-{piece.pk}"] = CountField("count", label=piece.name, low=0, initial=count)
        for family in self.families:
            count = max(1, round(family.count * times))
            self.fields[f"family-{family.pk}"] = CountField("count", label=family.name, initial=count)
        colours = [(str(c.pk), c.name) for c in Colour.objects.for_kitchen(job.kitchen_id)] if self.used else []
        for colour in self.used:
            field = forms.ChoiceField(
                label=f"Colour in place of {lower(colour.name)}", choices=colours, initial=str(colour.pk)
            )
            self.fields[f"colour-{colour.pk}"] = field

    @property
    def counts(self) -> list[forms.BoundField]:
        """How many of each."""
        return [self[name] for name in self.fields if name.startswith(("count-", "family-"))]

    @property
    def colours(self) -> list[forms.BoundField]:
        """Which colour for which."""
        return [self[name] for name in self.fields if name.startswith("colour-")]

    def clean(self) -> dict[str, Any]:
        data = super().clean() or {}
        left = [data.get(f"count-{p.pk}", 1) for p in self.pieces] + [1 for _ in self.families]
        if not self.errors and not any(left):
            raise forms.ValidationError("Of one thing at least there has to be something to make.")
        return data

    def changes(self) -> Changes:
        """As it was filled in."""
        data = self.cleaned_data
        chosen = {c.pk: data[f"colour-{c.pk}"] for c in self.used}
        others = Colour.objects.in_bulk([int(pk) for of, pk in chosen.items() if str(of) != pk])
        return Changes(
            data["name"],
            data["due_on"],
            {p.pk: data[f"count-{p.pk}"] for p in self.pieces},
            {f.pk: data[f"family-{f.pk}"] for f in self.families},
            (data["size"] or 100.0) / 100,
            {of: others[int(pk)] for of, pk in chosen.items() if int(pk) in others},
        )


def _sent(request: KitchenRequest) -> Any:
    """What was filled in, to be kept or only to be shown; None of an untouched page."""
    return request.POST if request.method == "POST" else request.GET if "name" in request.GET else None


def _only(request: KitchenRequest) -> int | None:
    """The one piece that is made again, where the address names one."""
    only = request.GET.get("piece", "")
    return int(only) if only.isdecimal() and len(only) < 19 else None


def _times(request: KitchenRequest) -> float:
    said = request.GET.get("times", "1")
    return float(said) if said in dict(TIMES) else 1.0


@kitchen_required
@sent_once
def again(request: KitchenRequest, pk: int) -> HttpResponse:
    """The same once more: what it takes and what differs, before anything is kept."""
    job = one_evening(request.kitchen, pk)
    record = record_of(job, request.kitchen)
    times, posted = _times(request), request.method == "POST"
    form = AgainForm(_sent(request), job=job, times=times, only=_only(request))
    shown = form if form.is_bound else AgainForm(_untouched(form), job=job)
    context: Context = {"job": job, "record": record, "form": form, "times": _choices(times)}
    try:
        if shown.is_valid() and posted:
            new = make_again(job, request.kitchen, shown.changes())
            messages.success(request, f"{new.name} is begun. Nothing is melted yet.")
            return redirect("notebook:differs", pk=new.pk)
        if shown.is_valid():
            context["differs"] = previewed(record, request.kitchen, shown.changes())
    except CoatingError as refusal:
        context["refusal"] = refusal_text(refusal)
    wrong = posted or (form.is_bound and bool(form.errors))
    return render(request, "notebook/again.html", context, status=422 if wrong else 200)


def _untouched(form: AgainForm) -> dict[str, Any]:
    """What the form would send as it is."""
    return {name: form[name].value() for name in form.fields if form[name].value() is not None}


def _choices(now: float) -> list[tuple[str, str, bool]]:
    return [(times, title, float(times) == now) for times, title in TIMES]


def previewed(record: Evening, kitchen: Kitchen, changes: Changes) -> Differs:
    """What it would come to: it is made and taken back again, so that nothing is worked out another way. Raises
    CoatingError."""
    with transaction.atomic():
        new = make_again(record.job, kitchen, changes)
        there = Kitchen.objects.select_related("owner").get(pk=kitchen.pk)
        differs = differs_from(record, Job.objects.whole(there, new.pk), there)
        transaction.set_rollback(True)
    if there.cupboard_version != kitchen.cupboard_version:  # what was read under it never was
        Kitchen.objects.filter(pk=kitchen.pk).update(cupboard_version=F("cupboard_version") + 2)
    return differs


@kitchen_required
def differs(request: KitchenRequest, pk: int) -> HttpResponse:
    """A job that was made after another: what differs from last time."""
    made: MadeAgain = MadeAgain.objects.get_for(request.kitchen, job_id=pk)
    record = record_of(one_evening(request.kitchen, made.of_id), request.kitchen)
    job = Job.objects.whole(request.kitchen, pk)
    context: Context = {"job": job, "record": record}
    try:
        context["differs"] = differs_from(record, job, request.kitchen)
    except CoatingError as refusal:
        context["refusal"] = refusal_text(refusal)
    return render(request, "notebook/differs.html", context)
