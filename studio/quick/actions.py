"""Keeping a card: a signed cookie before there is a kitchen, a job with its bowl after."""

from __future__ import annotations

from typing import Any

from django.contrib import messages
from django.db import transaction
from django.http import HttpRequest, HttpResponseBase, HttpResponseRedirect
from django.shortcuts import redirect

from studio.accounts.models import Kitchen
from studio.bowls.actions import begin_bowl
from studio.bowls.models import Bowl
from studio.pieces.actions import colour_called
from studio.pieces.adapters import goes_on_g
from studio.pieces.models import Job
from studio.pieces.stacks import dipped, keep_piece
from studio.quick.adapters import card_context, spares_for
from studio.quick.forms import COLOURS, DEPTH_VALUES, SIZES, QuickForm

COOKIE, SALT = "quick_card", "quick-card"
ORDER = ("count", "size", "depth", "colour", "white")


def put_by(response: HttpResponseBase, data: dict[str, Any]) -> None:
    """Remember the card in a signed cookie; nothing is stored on our side."""
    value = "|".join(str(data[k]) for k in ORDER)
    response.set_signed_cookie(COOKIE, value, salt=SALT, max_age=7 * 86400, httponly=True, samesite="Lax")


def kept_card(request: HttpRequest) -> dict[str, Any] | None:
    """The card put by, as template context, if there is one."""
    value = request.get_signed_cookie(COOKIE, default="", salt=SALT)
    form = QuickForm(dict(zip(ORDER, value.split("|"), strict=False))) if value else None
    return card_context(form.cleaned_data) if form and form.is_valid() else None


@transaction.atomic
def job_from_card(kitchen: Kitchen, data: dict[str, Any]) -> Bowl:
    """A job with the card's piece, and its bowl."""
    name, lab = COLOURS[data["colour"]]
    job = Job.objects.create(kitchen=kitchen, name=f"{data['count']} biscuits, {name.lower()}")
    diameter, thickness, _ = SIZES[data["size"]]
    plan = dipped(
        "Dipped biscuits", data["count"], diameter_mm=diameter, thickness_mm=thickness,
        share=float(DEPTH_VALUES[data["depth"]]), white=data["white"], colour=colour_called(kitchen, name, lab),
        spares=spares_for(data["count"]),
    )  # fmt: skip
    piece = keep_piece(job, plan)
    layer = piece.layers.get()
    layer.piece = piece
    return begin_bowl(
        kitchen, name=name, white=data["white"], colour=layer.colour, job=job,
        layers=[(layer, goes_on_g(layer))],
    )  # fmt: skip


def keep_card(request: HttpRequest, kitchen: Kitchen) -> HttpResponseRedirect:
    """Put the card of the cookie into the kitchen and go to its bowl; without one, to the bowls."""
    card = kept_card(request)
    if card is None:
        return redirect("bowls:list")
    bowl = job_from_card(kitchen, card["choice"])
    messages.success(request, "Your card is kept: here is its bowl, ready to begin.")
    response = redirect("bowls:bowl", pk=bowl.pk)
    response.delete_cookie(COOKIE)
    return response
