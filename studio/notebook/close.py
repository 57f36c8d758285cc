"""Closing a job, standing, with one thumb: how many came out, three taps, photos, a line of words. All of it may be
left out, and said again later."""

from __future__ import annotations

import uuid
from typing import Any

from django import forms
from django.contrib import messages
from django.db import transaction
from django.http import HttpResponse
from django.shortcuts import redirect, render

from studio.common import clock
from studio.common.forms import CountField, WordsField
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required, sent_once
from studio.common.throttle import takes_files
from studio.day.models import DayPlan
from studio.notebook.models import MOST_WORDS, Note, Outcome
from studio.notebook.photos import keep_all
from studio.notebook.record import PieceCame, broke_by, pieces_of
from studio.pieces.models import Job
from studio.pieces.reckoned import window_of


def _taps(label: str, choices: list[tuple[str, str]]) -> forms.ChoiceField:
    return forms.ChoiceField(label=label, choices=choices, required=False, widget=forms.RadioSelect)


class CameOutForm(forms.Form):
    """How one piece came out."""

    good = CountField("count", label="Good ones", low=0, required=False)
    coat = _taps("Thickness of the coat", Outcome.COAT)
    bowl = _taps("Amount in the bowl", Outcome.BOWL)
    liked = _taps("Verdict", Outcome.LIKED)

    def __init__(self, data: Any, *, came: PieceCame) -> None:
        self.came, said = came, came.outcome
        first = {"good": came.likely_good} if said is None else {n: getattr(said, n) for n in self.base_fields}
        super().__init__(data, initial=first, prefix=f"p{came.piece.pk}")
        if not any(window_of(layer) for layer in came.piece.stack):
            del self.fields["coat"], self.fields["bowl"]

    @property
    def says(self) -> tuple[int | None, str, str, str]:
        """All of it, to compare with what was said."""
        data = self.cleaned_data
        return data["good"], data.get("coat", ""), data.get("bowl", ""), data["liked"]

    @property
    def taps(self) -> list[forms.BoundField]:
        """What is tapped."""
        return [self[name] for name in ("coat", "bowl", "liked") if name in self.fields]


class ClosingForm(forms.Form):
    """A line of words about all of it."""

    words = WordsField(
        label="A line for next time",
        max_length=MOST_WORDS,
        required=False,
        lines=True,
        widget=forms.Textarea(attrs={"rows": 2}),
    )


def _pieces(job: Job) -> list[PieceCame]:
    plan = DayPlan.objects.filter(job=job).prefetch_related("events").first()
    return pieces_of(job, Outcome.objects.filter(job=job), broke_by(job, plan))


@kitchen_required
@takes_files
@sent_once
def close(request: KitchenRequest, pk: int) -> HttpResponse:
    """How it went."""
    job = Job.objects.whole(request.kitchen, pk)
    data = request.POST if request.method == "POST" else None
    rows = [CameOutForm(data, came=came) for came in _pieces(job)]
    form = ClosingForm(data)
    if data is not None and form.is_valid() and not [row for row in rows if not row.is_valid()]:
        _, refusals = keep_all(request, job)
        close_job(job, rows, form.cleaned_data["words"])
        for refusal in refusals:
            messages.error(request, refusal)
        messages.success(request, "Kept. Say more whenever you like: what was said before stays too.")
        return redirect("notebook:evening", pk=pk)
    context = {"job": job, "rows": rows, "form": form}
    return render(request, "notebook/close.html", context, status=422 if data is not None else 200)


@transaction.atomic
def close_job(job: Job, rows: list[CameOutForm], words: str) -> None:
    """Keep what was said; of what was said already nothing is added."""
    now = clock.now()
    said = [Outcome(job=job, kitchen=job.kitchen, key=uuid.uuid4(), at=now)]
    for row in rows:
        before = row.came.outcome
        if row.says != (before.said if before else (None, "", "", "")):
            good, coat, bowl, liked = row.says
            of = {"good": good, "coat": coat, "bowl": bowl, "liked": liked}
            said.append(Outcome(job=job, kitchen=job.kitchen, piece=row.came.piece, key=uuid.uuid4(), at=now, **of))
    if len(said) == 1 and Outcome.objects.filter(job=job).exists():
        said = []
    Outcome.objects.bulk_create(said)
    if words:
        Note.objects.create(kitchen=job.kitchen, job=job, text=words, key=uuid.uuid4(), at=now)
