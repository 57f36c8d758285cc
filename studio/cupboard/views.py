"""The cupboard: what there is, and what is known about each thing."""

from __future__ import annotations

from typing import Any

from django.contrib import messages
from django.http import HttpResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_POST

from coating.care import rule_for
from coating.errors import InUse
from studio.common.forms import changed_meanwhile
from studio.common.measures import refusal_text
from studio.common.models import ChangedMeanwhile
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required, sent_once
from studio.cupboard.actions import change_ingredient, have_in_stock, take_off_the_shelf
from studio.cupboard.adapters import core_ingredient
from studio.cupboard.asks import followed, holding, left_g, was_used
from studio.cupboard.forms import IngredientForm
from studio.cupboard.models import KINDS, Ingredient
from studio.cupboard.pictures import pack_of, tint_of
from studio.cupboard.says import COLOURLESS, MEASURES, NAMED, edit_says, shelf_line, shelf_says, tint_says
from studio.cupboard.stock import Stock


@kitchen_required
def shelf(request: KitchenRequest) -> HttpResponse:
    """Everything in the cupboard, by kind."""
    rows = list(Ingredient.objects.for_kitchen(request.kitchen).filter(put_away=False).with_parameters())
    left = left_g(request.kitchen, Stock(rows)) if any(r.made_on for r in rows) else {}
    shelves = [
        (
            title,
            [
                (
                    r,
                    pack_of(r.kind),
                    tint_of(core_ingredient(r)),
                    shelf_line(r, left.get(r.code), scale=request.kitchen.has_scale),
                )
                for r in rows
                if r.kind == kind
            ],
        )
        for kind, title in KINDS
    ]
    measured = sum(1 for r in rows for p in r.current().values() if p.provenance != "default" and not r.made_on)
    says = shelf_says(sum(r.ticked for r in rows), measured, scale=request.kitchen.has_scale)
    context = {"shelves": [s for s in shelves if s[1]], "says": says}
    return render(request, "cupboard/shelf.html", context)


@kitchen_required
@sent_once
def edit(request: KitchenRequest, pk: int) -> HttpResponse:
    """One ingredient; saving a measured value tells which bowls in use follow it."""
    row = Ingredient.objects.with_parameters().get_for(request.kitchen, pk=pk)
    initial = {
        "name": row.name,
        "stocked": row.stocked and row.ticked,
        "version": row.version,
        "allergens": row.allergens if row.allergens_said else [],
        "looked": row.allergens_said,
    }
    form = IngredientForm(request.POST or None, ingredient=row, initial=initial)
    bowls = holding(row)
    status = 200
    if request.method == "POST" and form.is_valid():
        data = form.cleaned_data
        try:
            fresh = change_ingredient(
                row,
                expected=data["version"],
                name=data["name"],
                stocked=data["stocked"],
                values=form.values(),
                allergens=form.contents(),
            )
        except ChangedMeanwhile:
            status = changed_meanwhile(form, Ingredient.objects.get(pk=row.pk).version)
        else:
            changed = followed(row, fresh, False)
            messages.success(request, f"{row.name} is saved. " + _said(changed))
            return redirect("cupboard:shelf")
    status = 422 if form.errors and status == 200 else status
    context = {
        "form": form,
        "row": row,
        "bowls": bowls,
        "says": edit_says(row.name, [b.name for b in bowls]),
        "tint_says": tint_says(row.kind, invented=row.invented),
        "measure_says": MEASURES.get(row.kind, "" if row.kind in COLOURLESS else "Read a tint of yours"),
        "tint": tint_of(core_ingredient(row)),
        "rule": rule_for(core_ingredient(row), request.kitchen.region),
    }
    return render(request, "cupboard/edit.html", context, status=status)


@kitchen_required
@require_POST
@sent_once
def tick(request: KitchenRequest, pk: int) -> HttpResponse:
    """It is there: one tap."""
    row = Ingredient.objects.get_for(request.kitchen, pk=pk)
    have_in_stock(request.kitchen, row.code)
    messages.success(request, f"{row.name} is in the cupboard.")
    return redirect("cupboard:shelf")


@kitchen_required
@require_POST
@sent_once
def take_out(request: KitchenRequest, pk: int) -> HttpResponse:
    """Out of the cupboard, unless a piece is made of it."""
    row = Ingredient.objects.get_for(request.kitchen, pk=pk)
    try:
        take_off_the_shelf(row, used=was_used(row))
    except InUse as refusal:
        messages.error(request, refusal_text(refusal))
        return redirect("cupboard:edit", pk=pk)
    messages.success(request, f"{row.name} is out of the cupboard.")
    return redirect("cupboard:shelf")


def _said(bowls: list[Any]) -> str:
    if not bowls:
        return "No bowl in use changes."
    if len(bowls) > NAMED:
        return f"Worked out anew: the {len(bowls)} bowls it is in."
    return f"Worked out anew: {', '.join(b.name for b in bowls)}."
