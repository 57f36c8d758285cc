"""A line of words on anything, at the moment: kept with what it is about, and gathered on the page of its evening."""

from __future__ import annotations

import uuid
from typing import Any

from django import forms
from django.contrib import messages
from django.db import transaction
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import redirect
from django.urls import reverse
from django.utils.http import url_has_allowed_host_and_scheme
from django.views.decorators.http import require_POST

from studio.accounts.models import Kitchen
from studio.bowls.models import Bowl
from studio.colours.models import Colour
from studio.common import clock
from studio.common.forms import WordsField
from studio.common.meant import meant
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required, sent_once
from studio.common.types import Context
from studio.cupboard.models import Ingredient
from studio.designs.models import Design
from studio.notebook.models import MOST_WORDS, Note
from studio.pieces.models import Job, Layer, Piece

ABOUT: dict[str, Any] = {
    "bowl": Bowl,
    "piece": Piece,
    "design": Design,
    "colour": Colour,
    "ingredient": Ingredient,
    "job": Job,
    "layer": Layer,
}
SHOWN = 5
# Pages that gather notes themselves, or lead through something one step at a time.
NOT_ON = ("notebook:evening", "notebook:close")


class NoteForm(forms.Form):
    """A line, what it is about, and where it was written."""

    text = WordsField(
        label="Note",
        max_length=MOST_WORDS,
        lines=True,
        widget=forms.Textarea(attrs={"rows": 2}),
        error_messages={"required": "Write something first."},
    )
    about = forms.ChoiceField(choices=[(name, name) for name in ABOUT])
    pk = forms.IntegerField(min_value=1, max_value=2**62)
    step = forms.CharField(max_length=80, required=False)
    says = WordsField(max_length=200, required=False)
    back = forms.CharField(max_length=200, required=False)


def keep_note(kitchen: Kitchen, text: str, about: str, pk: int, **more: str) -> Note:
    """A line about one thing of a kitchen; 404 for another's."""
    thing = ABOUT[about].objects.get_for(kitchen, pk=pk)
    if isinstance(thing, Layer):
        about, thing = "piece", thing.piece
    job = _job_of(thing)
    of = {} if about == "job" else {about: thing}
    return Note.objects.create(kitchen=kitchen, text=text, key=uuid.uuid4(), at=clock.now(), job=job, **of, **more)


def _job_of(thing: Any) -> Job | None:
    """The job that something is part of."""
    if isinstance(thing, Job):
        return thing
    if isinstance(thing, Design):
        return thing.layer.piece.job if thing.layer else None
    return getattr(thing, "job", None)


def back_to(request: HttpRequest, address: str, otherwise: str) -> str:
    """An address of ours to go back to."""
    safe = url_has_allowed_host_and_scheme(address, allowed_hosts=None) and address.startswith("/")
    return address if safe else otherwise


@kitchen_required
@require_POST
@sent_once
def note_add(request: KitchenRequest) -> HttpResponse:
    """Keep a line and go back to where it was written."""
    form = NoteForm(request.POST)
    if not form.is_valid():
        wrong = form.errors.get("text")
        if not wrong:
            raise Http404("about nothing")
        messages.error(request, " ".join(str(e) for e in wrong))
        return redirect(back_to(request, request.POST.get("back", ""), reverse("notebook:all")))
    data = form.cleaned_data
    note = keep_note(request.kitchen, data["text"], data["about"], data["pk"], step=data["step"], says=data["says"])
    messages.success(request, "Noted." if note.job is None else "Noted. It is on the page of its evening too.")
    return redirect(back_to(request, data["back"], reverse("notebook:all")))


@kitchen_required
@require_POST
@sent_once
def note_change(request: KitchenRequest, pk: int) -> HttpResponse:
    """Put a line otherwise, or take it away; what it said before stays on record."""
    note: Note = Note.objects.standing().get_for(request.kitchen, pk=pk)
    text = NoteForm.base_fields["text"]
    back = back_to(request, request.POST.get("back", ""), reverse("notebook:all"))
    if request.POST.get("what") == "delete":
        Note.objects.filter(pk=note.pk).update(gone=True)
        messages.success(request, "The note is deleted.")
        return redirect(back)
    try:
        words = text.clean(request.POST.get("text", ""))
    except forms.ValidationError as wrong:
        messages.error(request, " ".join(wrong.messages))
        return redirect(back)
    if words != note.text:
        put_otherwise(note, words)
    messages.success(request, "Saved.")
    return redirect(back)


@transaction.atomic
def put_otherwise(note: Note, words: str) -> Note:
    """The same line in other words."""
    fields = ("kitchen", "at", "job", "piece", "bowl", "design", "colour", "ingredient", "step", "says")
    same = {name: getattr(note, name) for name in fields}
    return Note.objects.create(text=words, key=uuid.uuid4(), before=note, **same)


def note_here(request: HttpRequest) -> Context:
    """What a note written on this page is about, and the last ones that were."""
    kitchen, about = getattr(request, "kitchen", None), meant(request)
    match = request.resolver_match
    if not kitchen or about is None or match is None or match.view_name in NOT_ON or about[0] not in ABOUT:
        return {}
    what, pk = about
    if what == "layer":
        return {"note_about": what, "note_pk": pk}
    rows = Note.objects.for_kitchen(kitchen).standing().filter(**{what: pk})
    return {"note_about": what, "note_pk": pk, "notes_here": list(rows.order_by("-at", "-pk")[:SHOWN])}
