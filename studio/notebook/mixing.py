"""A bowl mixed again: for another amount, with everything that was learned or measured since."""

from __future__ import annotations

from typing import Any

from django import forms
from django.db import transaction
from django.http import HttpResponse
from django.shortcuts import redirect, render

from coating.colour.mixing import Part
from studio.accounts.models import Kitchen
from studio.bowls.actions import begin_bowl
from studio.bowls.adapters import Desk, colour_way, colour_way_json
from studio.bowls.models import Bowl
from studio.common.forms import MassField
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required, sent_once
from studio.common.types import Context
from studio.common.words import lower
from studio.cupboard.stock import Stock
from studio.notebook.differs import DiffersLine, recipe_differs, since_bowl
from studio.notebook.record import BowlCame, on_of_bowl
from studio.notebook.summaries import kept_parts_of, summaries_of
from studio.notebook.where import parts_say

LEAST_G, MOST_G, USUAL_G = 20.0, 5000.0, 200.0


class MixAgainForm(forms.Form):
    """How much this time."""

    melt_g = MassField("mass_g", label="How much this time", low=LEAST_G, high=MOST_G)


@kitchen_required
@sent_once
def mix_again(request: KitchenRequest, pk: int) -> HttpResponse:
    """The same once more: what goes in this time and what differs, before anything is begun."""
    bowl: Bowl = Bowl.objects.with_colour().with_layers().get_for(request.kitchen, pk=pk)
    stock = Stock.of(request.kitchen)
    summary = summaries_of(request.kitchen, [bowl], stock)[bowl.pk]
    was = BowlCame(bowl, summary, kept_parts_of(summary, stock), None)
    first_g = min(MOST_G, max(LEAST_G, round(summary.melted_g))) if summary.melted_g else USUAL_G
    sent = request.POST if request.method == "POST" else request.GET if "melt_g" in request.GET else None
    form = MixAgainForm(sent, initial={"melt_g": first_g})
    good = form.is_valid() if sent is not None else True
    melt_g = form.cleaned_data["melt_g"] if sent is not None and good else first_g
    if request.method == "POST" and good:
        return redirect("bowls:bowl", pk=begin_like(bowl, request.kitchen, melt_g).pk)
    parts = previewed_parts(bowl, request.kitchen, melt_g)
    context: Context = {
        "bowl": bowl,
        "form": form,
        "parts": parts,
        "says": parts_say(parts),
        "lines": lines_of(was, parts, request.kitchen),
    }
    return render(request, "notebook/mix_again.html", context, status=200 if good else 422)


def begin_like(bowl: Bowl, kitchen: Kitchen, melt_g: float) -> Bowl:
    """A new bowl of the same colour of the same white, found the same way, for no job."""
    return begin_bowl(
        kitchen,
        name=bowl.name,
        white=bowl.white,
        colour=bowl.colour,
        base=bowl.base,
        technique=bowl.technique,
        colours=colour_way_json(colour_way(bowl.colours), melt_g=melt_g),
    )


def previewed_parts(bowl: Bowl, kitchen: Kitchen, melt_g: float) -> list[Part]:
    """What would go in: the bowl is begun and taken back again, so that nothing is worked out another way."""
    with transaction.atomic():
        new = begin_like(bowl, kitchen, melt_g)
        parts = list(Desk.of(new, kitchen).proposal.additions)
        transaction.set_rollback(True)
    return parts


def lines_of(was: BowlCame, parts: list[Part], kitchen: Kitchen) -> list[DiffersLine]:
    """What differs from last time, and why."""
    lines, now_g = [], sum(p.mass_g for p in parts if p.ingredient.is_base)
    then_g = sum(p.mass_g for p in was.parts if p.ingredient.is_base)
    if then_g and abs(now_g - then_g) > 1.0:
        then, now = parts_say([p for p in was.parts if p.ingredient.is_base]), parts_say(_bases(parts))
        lines.append(DiffersLine(f"Melt for {lower(was.bowl.name)}", then, now, "as you asked", was.summary.lab))
    why = since_bowl(was, on_of_bowl(was.bowl), kitchen)
    recipe = recipe_differs(was.bowl.name, was.parts, parts, why, was.bowl.colour.lab if was.bowl.colour else None)
    return [*lines, *([recipe] if recipe else [])]


def _bases(parts: list[Part]) -> list[Any]:
    return [p for p in parts if p.ingredient.is_base]
