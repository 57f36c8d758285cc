"""The cupboard: what there is, and what is known about each thing."""

from __future__ import annotations

from django.contrib import messages
from django.http import HttpResponse
from django.shortcuts import redirect, render

from coating.care import rule_for
from studio.bowls.actions import follow_new_values
from studio.bowls.models import Bowl
from studio.common.forms import changed_meanwhile
from studio.common.models import ChangedMeanwhile
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required, sent_once
from studio.cupboard.actions import change_ingredient
from studio.cupboard.adapters import core_ingredient
from studio.cupboard.forms import IngredientForm
from studio.cupboard.models import KINDS, Ingredient
from studio.cupboard.pictures import tint_of

NAMED = 4  # bowls are told by name up to here


@kitchen_required
def shelf(request: KitchenRequest) -> HttpResponse:
    """Everything in the cupboard, by kind."""
    rows = list(Ingredient.objects.for_kitchen(request.kitchen).with_parameters())
    shelves = [
        (title, [{"row": r, "tint": tint_of(core_ingredient(r)), "now": r.current()} for r in rows if r.kind == kind])
        for kind, title in KINDS
    ]
    measured = sum(1 for r in rows for p in r.current().values() if p.provenance != "default")
    context = {"shelves": [s for s in shelves if s[1]], "measured": measured, "count": sum(r.stocked for r in rows)}
    return render(request, "cupboard/shelf.html", context)


@kitchen_required
@sent_once
def edit(request: KitchenRequest, pk: int) -> HttpResponse:
    """One ingredient; saving a measured value tells which bowls in use follow it."""
    row = Ingredient.objects.with_parameters().get_for(request.kitchen, pk=pk)
    initial = {"name": row.name, "stocked": row.stocked, "version": row.version}
    form = IngredientForm(request.POST or None, ingredient=row, initial=initial)
    holding = list(Bowl.objects.for_kitchen(request.kitchen).in_use().holding(row.pk).order_by("pk"))
    status = 200
    if request.method == "POST" and form.is_valid():
        data = form.cleaned_data
        try:
            fresh = change_ingredient(
                row, expected=data["version"], name=data["name"], stocked=data["stocked"], values=form.values()
            )
        except ChangedMeanwhile:
            status = changed_meanwhile(form, Ingredient.objects.get(pk=row.pk).version)
        else:
            changed = follow_new_values(row, fresh, holding)
            messages.success(request, f"{row.name} is saved. " + _said(changed))
            return redirect("cupboard:shelf")
    status = 422 if form.errors and status == 200 else status
    context = {
        "form": form,
        "row": row,
        "bowls": holding,
        "many": len(holding) > NAMED,
        "tint": tint_of(core_ingredient(row)),
        "rule": rule_for(core_ingredient(row), request.kitchen.region),
    }
    return render(request, "cupboard/edit.html", context, status=status)


def _said(bowls: list[Bowl]) -> str:
    if not bowls:
        return "No bowl in use changes."
    if len(bowls) > NAMED:
        return f"Worked out anew: the {len(bowls)} bowls it is in."
    return f"Worked out anew: {', '.join(b.name for b in bowls)}."
