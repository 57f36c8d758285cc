"""Bowls: what goes in this bowl, and is it right now?"""

from __future__ import annotations

import uuid
from typing import Any

from django.contrib import messages
from django.core.exceptions import NON_FIELD_ERRORS
from django.db import transaction
from django.http import Http404, HttpResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_POST

from studio.bowls.actions import BowlChanged, append, begin_bowl, strike_out, was_sent
from studio.bowls.adapters import Desk
from studio.bowls.answers import answer
from studio.bowls.context import band_items
from studio.bowls.finishing import DoneForm, used_says
from studio.bowls.forms import StepForm
from studio.bowls.history import history
from studio.bowls.left import finish_and_keep
from studio.bowls.models import Bowl
from studio.bowls.says import bowls_says
from studio.bowls.sends import SendForm, SpoonForm
from studio.bowls.troubles import troubles_of
from studio.common.forms import sent_again
from studio.common.live import LiveView
from studio.common.pages import page_of
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required, sent_once
from studio.common.templatetags.kitchen import mass
from studio.common.types import Context, Fields, Typed
from studio.common.words import listed
from studio.pieces.adapters import ColourNeed, colour_needs
from studio.pieces.models import Job

JOBS_AHEAD = 12
CHANGED = (
    "Somebody changed this bowl in another window. What you typed is still here: compare it with the bowl as it is now."
)


def desk_of(request: KitchenRequest, pk: int) -> Desk:
    """The bowl of this maker, or 404."""
    bowl = Bowl.objects.with_colour().with_layers().get_for(request.kitchen, pk=pk)
    desk = Desk.of(bowl, request.kitchen)
    request.stock = desk.stock
    return desk


def _waiting(request: KitchenRequest) -> list[tuple[Job, ColourNeed]]:
    """Colours that have no bowl yet in the jobs that come next."""
    jobs = Job.objects.ahead().without_a_bowl().next_first().wholes(request.kitchen, JOBS_AHEAD)
    return [(j, n) for j in jobs for n in colour_needs(j, request.kitchen) if n.bowl is None]


@kitchen_required
def bowls(request: KitchenRequest) -> HttpResponse:
    """The bowls in use, what still wants one, and what is done."""
    mine = Bowl.objects.for_kitchen(request.kitchen)
    done = mine.exclude(finished_at=None).select_related("colour", "base").order_by("-finished_at", "-pk")
    in_use = page_of(request, mine.in_use().with_colour().order_by("-pk"), word="in-use")
    shelf = band_items(request.kitchen, sorted(in_use, key=lambda bowl: bowl.pk))
    if in_use.number == 1:
        request.shelf = shelf, in_use.paginator.count
    waiting = page_of(request, _waiting(request), word="waiting")
    context = {
        "says": bowls_says(in_use.paginator.count, waiting.paginator.count, waiting[0][1].name if waiting else ""),
        "in_use_page": in_use,
        "shelf": shelf,
        "done": page_of(request, done, word="done"),
        "waiting": waiting,
    }
    return render(request, "bowls/bowls.html", context)


@kitchen_required
@require_POST
@sent_once
@transaction.atomic
def begin(request: KitchenRequest, job_pk: int) -> HttpResponse:
    """A bowl for one colour of one white of a job and its technique; two windows that begin it get the same."""
    Job.objects.for_kitchen(request.kitchen).select_for_update().filter(pk=job_pk).first()
    job = Job.objects.whole(request.kitchen, job_pk)
    for need in colour_needs(job, request.kitchen):
        if need.key == request.POST.get("need"):
            bowl = need.bowl if need.bowl and need.bowl.finished_at is None else None
            bowl = bowl or begin_bowl(
                request.kitchen,
                name=need.name,
                white=need.white,
                colour=need.colour,
                base=need.tone.base,
                job=job,
                technique=need.technique,
                layers=need.grams(),
            )
            return redirect("bowls:bowl", pk=bowl.pk)
    raise Http404("no such colour in this job")


@kitchen_required
def bowl_page(request: KitchenRequest, pk: int) -> HttpResponse:
    """One bowl: the sentence, the swatches, the ribbon, what goes in, what was done."""
    return page_of_bowl(request, desk_of(request, pk))


def page_of_bowl(request: KitchenRequest, desk: Desk, form: StepForm | None = None, status: int = 200) -> HttpResponse:
    """The page of a bowl, with what was typed into its form."""
    empty = StepForm(desk=desk)
    shown = StepForm(filled(empty), desk=desk)
    shown.is_valid()
    typed = form is not None and form.is_bound and not set(form.errors) - {NON_FIELD_ERRORS}
    reckoned = form if form is not None and typed else shown
    context = {
        **answer(desk, reckoned),
        "form": form or empty,
        "desk": desk,
        "history": history(desk),
        "troubles": troubles_of(desk.bowl),
        "known_since": [] if desk.bowl.finished_at else listed(desk.known_since),
        "send_key": uuid.uuid4(),
    }
    return render(request, "bowls/bowl.html", context, status=status)


def page_changed(request: KitchenRequest, desk: Desk, form: StepForm) -> HttpResponse:
    """Somebody else changed the bowl: what was typed stays, and the next send goes over what is there now."""
    form.add_error(None, CHANGED)
    sent_again(form, seq=desk.bowl.last_seq, key=uuid.uuid4())
    return page_of_bowl(request, desk, form, 409)


def filled(empty: StepForm) -> Typed:
    """What an untouched page would send."""
    values = {name: empty[name].value() for name in empty.fields}
    return {name: value for name, value in values.items() if value is not None}


class BowlLive(LiveView):
    """The bowl as it would be with what is typed."""

    part_templates = {
        role: f"bowls/parts/{role}.html"
        for role in ("answer", "put_in", "do", "swatches", "ribbon", "vessel", "figures")
    }

    def make_form(self, request: KitchenRequest, fields: Fields, **kwargs: Any) -> StepForm:
        return StepForm(fields, desk=desk_of(request, kwargs["pk"]))

    def make_context(self, request: KitchenRequest, form: Any, **kwargs: Any) -> Context:
        return answer(form.desk, form)


@kitchen_required
@require_POST
def did_this(request: KitchenRequest, pk: int) -> HttpResponse:
    """ "I did this": append what the form says."""
    desk = desk_of(request, pk)
    form = StepForm(request.POST, desk=desk)
    if not form.is_valid():
        return page_of_bowl(request, desk, form, 422)
    send = {"key": form.cleaned_data["key"], "sent": form.sent()}
    if was_sent(desk.bowl, **send):
        return redirect("bowls:bowl", pk=pk)
    if form.nothing_said():
        form.add_error(None, "Nothing was added, warmed or measured, so there is nothing to note.")
        return page_of_bowl(request, desk, form, 422)
    try:
        append(desk.bowl, form.lines(), expected_seq=form.cleaned_data["seq"], **send)
    except BowlChanged:
        return page_changed(request, desk, form)
    messages.success(request, "Noted.")
    return redirect("bowls:bowl", pk=pk)


@kitchen_required
@require_POST
def spoon(request: KitchenRequest, pk: int) -> HttpResponse:
    """The spoon that looks like what falls from theirs: one tap says how it flows."""
    desk, form = desk_of(request, pk), SpoonForm(request.POST)
    if not form.is_valid():
        raise Http404("no such spoon")
    if desk.now.empty or desk.now.is_set:
        messages.error(request, "There is nothing melted in this bowl to try with a spoon.")
        return redirect("bowls:bowl", pk=pk)
    try:
        append(
            desk.bowl,
            [form.line()],
            expected_seq=form.cleaned_data["seq"],
            key=form.cleaned_data["key"],
            sent=f"spoon {form.cleaned_data['word']}",
        )
    except BowlChanged:
        messages.error(request, CHANGED)
    else:
        messages.success(request, "Noted: everything is worked out from your spoon now.")
    return redirect("bowls:bowl", pk=pk)


@kitchen_required
@require_POST
def strike(request: KitchenRequest, pk: int, seq: int) -> HttpResponse:
    """Strike a line of the history out; it stays visible."""
    desk, form = desk_of(request, pk), SendForm(request.POST)
    target = next((e for e in desk.rows if e.seq == seq and e.struck_by_id is None), None)
    if target is None or target.kind == "struck" or not form.is_valid():
        raise Http404("no such line")
    try:
        strike_out(desk.bowl, seq, expected_seq=form.cleaned_data["seq"], key=form.cleaned_data["key"])
    except BowlChanged:
        messages.error(request, CHANGED)
    else:
        messages.success(request, "Struck out. The line stays visible and no longer counts.")
    return redirect("bowls:bowl", pk=pk)


@kitchen_required
@require_POST
def all_dipped(request: KitchenRequest, pk: int) -> HttpResponse:
    """The bowl has done its work: note what was used and take it off the band."""
    desk, form = desk_of(request, pk), DoneForm(request.POST)
    if not form.is_valid():
        wrong = [str(e) for name in ("left_g", "count") for e in form.errors.get(name, [])]
        if wrong:
            messages.error(request, " ".join(wrong))
            return redirect("bowls:bowl", pk=pk)
        raise Http404("unreadable")
    used, more = used_says(desk, form)
    try:
        left = finish_and_keep(desk, used, more, expected_seq=form.cleaned_data["seq"], key=form.cleaned_data["key"])
    except BowlChanged:
        messages.error(request, CHANGED)
        return redirect("bowls:bowl", pk=pk)
    rest = f" {mass(desk.now.mass_g - used)} of it is in your cupboard for the next job." if left else ""
    messages.success(request, f"{desk.bowl.name} is done and off the band. Its history is kept.{rest}")
    return redirect("bowls:list")
