"""Keeping a card: a signed cookie before there is a kitchen, a job with its bowl after."""

from __future__ import annotations

from django.contrib import messages
from django.db import transaction
from django.http import HttpRequest, HttpResponseBase, HttpResponseRedirect
from django.shortcuts import redirect

from studio.accounts.models import Kitchen
from studio.bowls.actions import begin_bowl
from studio.bowls.models import Bowl
from studio.colours.actions import colour_called
from studio.common.types import Context, Typed
from studio.cupboard.actions import have_in_stock
from studio.cupboard.models import Ingredient
from studio.cupboard.tones import Tone
from studio.pieces.adapters import colour_needs
from studio.pieces.models import Job
from studio.pieces.stacks import LayerPlan, PiecePlan, keep_piece, parameters_of
from studio.quick.adapters import bags_for, card_context
from studio.quick.forms import COLOURS, PLAIN, WHATS, QuickForm

COOKIE, SALT = "quick_card", "quick-card"
ORDER = ("what", "count", "size", "depth", "colour", "white")


def put_by(response: HttpResponseBase, data: Typed) -> None:
    """Remember the card in a signed cookie; nothing is stored on our side."""
    value = "|".join(str(data[k]) for k in ORDER)
    response.set_signed_cookie(COOKIE, value, salt=SALT, max_age=7 * 86400, httponly=True, samesite="Lax")


def kept_card(request: HttpRequest) -> Context | None:
    """The card put by, as template context, if there is one."""
    value = request.get_signed_cookie(COOKIE, default="", salt=SALT)
    form = QuickForm(dict(zip(ORDER, value.split("|"), strict=False)), bags=bags_for(None)) if value else None
    return card_context(form.cleaned_data) if form and form.is_valid() else None


@transaction.atomic
def job_from_card(kitchen: Kitchen, data: Typed) -> Bowl:
    """A job with the card's piece, and its bowl."""
    what, made = WHATS[data["what"]], COLOURS.get(data["colour"])
    core = what.kind.core(*what.size_mm(data["size"]))
    tone = Tone(colour_called(kitchen, *made)) if made else _bag(kitchen, data["colour"])
    name = tone.name if tone.key else "Plain"
    many = what.one if data["count"] == 1 else what.many
    job = Job.objects.create(kitchen=kitchen, name=f"{data['count']} {many}, {name.lower()}"[:80])
    coat = LayerPlan(
        what.layer(data["depth"]).technique,
        tone.white(data["white"]),
        tone.colour,
        parameters=parameters_of(what.layer(data["depth"]), core),
        base=tone.base,
    )
    keep_piece(job, PiecePlan(what.piece, data["count"], what.kind, what.size_mm(data["size"]), (coat,)))
    need = colour_needs(Job.objects.whole(kitchen, job.pk), kitchen)[0]
    return begin_bowl(
        kitchen,
        name=name,
        white=need.white,
        colour=need.colour,
        job=job,
        base=tone.base,
        technique=need.technique,
        layers=need.grams(),
    )


def _bag(kitchen: Kitchen, code: str) -> Tone:
    """A bag as it was bought, taken into the cupboard as still to be bought where there is none; plain for none."""
    if code == PLAIN:
        return Tone()
    rows = Ingredient.objects.for_kitchen(kitchen).filter(code=code)
    if not rows.filter(put_away=False).exists():
        have_in_stock(kitchen, code, ticked=False)
    return Tone(base=rows.with_parameters().get())


def keep_card(request: HttpRequest, kitchen: Kitchen) -> HttpResponseRedirect:
    """Put the card of the cookie into the kitchen and go to its bowl; without one, to what is made first."""
    card = kept_card(request)
    if card is None:
        return redirect("pieces:first")
    bowl = job_from_card(kitchen, card["choice"])
    messages.success(request, "Your card is kept: here is its bowl, ready to begin.")
    response = redirect("bowls:bowl", pk=bowl.pk)
    response.delete_cookie(COOKIE)
    return response
