"""Put something on a piece: what the job has, what was kept or designed, or a new one begun from here and come back."""

from __future__ import annotations

from urllib.parse import urlencode

from django.contrib import messages
from django.db import transaction
from django.http import Http404, HttpResponse
from django.shortcuts import redirect
from django.urls import reverse

from coating.errors import CoatingError
from coating.piece.kinds import KINDS
from studio.common.measures import refusal_text
from studio.common.requests import KitchenRequest
from studio.common.types import Context
from studio.pieces.asks import parts_designed, piece_designed
from studio.pieces.build_form import BuildForm
from studio.pieces.carry import plan_from
from studio.pieces.models import Job, Piece, Template
from studio.pieces.parts import picture_of, pictured, put_on
from studio.pieces.stacks import keep_piece

MOST_SHOWN = 24


def back_to(piece: Piece) -> str:
    """The builder of a piece, with what was put on it last open."""
    return reverse("pieces:build", args=[piece.pk]) + "?open=last#open"


def shelf_of_parts(form: BuildForm) -> Context:
    """What could be put on: pieces of the job, what was kept to begin with, what was designed for nothing yet."""
    on = str((form.data if form.is_bound else form.initial).get("piece") or "")
    above = _above(form, int(on)) if on.isdecimal() else set()
    mine = [p for p in form.others if p.pk not in above and KINDS[p.core].can_be_part]
    kept = []
    for template in Template.objects.for_kitchen(form.kitchen)[:MOST_SHOWN]:
        try:
            plan = plan_from(template.piece, form.kitchen)
        except CoatingError:
            continue
        if plan.kind.can_be_part:
            kept.append((template, pictured(plan.layers, plan.core_layers(), plan.kind, plan.core)))
    return {
        "parts_here": [(p, picture_of(p)) for p in mine[:MOST_SHOWN]],
        "parts_kept": kept,
        "parts_designed": parts_designed(form.kitchen)[:MOST_SHOWN],
    }


def _above(form: BuildForm, pk: int) -> set[int]:
    """What a piece goes on, and that on: none of these can go on it."""
    above, left = set[int](), [pk]
    while left:
        this = left.pop()
        more = [p.pk for p in form.whole if p.pk not in above and any(la.part_id == this for la in p.stack)]
        above |= set(more)
        left += more
    return above


@transaction.atomic
def put_something_on(request: KitchenRequest, piece: Piece, what: str) -> HttpResponse:
    """After the piece was kept: begin something new for it ("new"), or put on what was kept or designed ("design:5").

    Raises Http404 for what is not of this kitchen.
    """
    job: Job = piece.job
    word, _, pk = what.partition(":")
    if word == "new":
        return redirect(f"{reverse('pieces:build-new', args=[job.pk])}?{urlencode({'for': piece.pk})}")
    if word == "kept":
        return keep_kept(request, job, piece, pk)
    if word != "design":
        raise Http404("nothing of that kind is put on")
    put_on(job, piece_designed(job, pk), piece)
    return redirect(back_to(piece))


@transaction.atomic
def keep_kept(request: KitchenRequest, job: Job, on: Piece | None, pk: str) -> HttpResponse:
    """What was kept to begin with goes into a job with all its parts, and on a piece where it is for one."""
    template = Template.objects.get_for(request.kitchen, pk=pk)
    try:
        piece = keep_piece(job, plan_from(template.piece, request.kitchen, count=0 if on else None))
    except CoatingError as refusal:
        messages.error(request, refusal_text(refusal))
        return redirect(back_to(on) if on else reverse("pieces:build-new", args=[job.pk]))
    if on is None:
        return redirect("pieces:build", pk=piece.pk)
    put_on(job, piece, on)
    return redirect(back_to(on))
