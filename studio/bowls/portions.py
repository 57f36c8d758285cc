"""A portion taken out of a bowl to be thinned: a bowl of its own, mixed and as warm as the one it is from."""

from __future__ import annotations

import uuid

from django.contrib import messages
from django.db import transaction
from django.http import Http404, HttpResponse
from django.shortcuts import redirect
from django.views.decorators.http import require_POST

from coating.job import Portion
from coating.learning.names import STRENGTH
from studio.bowls.actions import BowlChanged, append, begin_bowl
from studio.bowls.adapters import Desk, pins_of
from studio.bowls.models import Bowl
from studio.bowls.sends import SendForm
from studio.bowls.views import CHANGED, desk_of
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required
from studio.common.templatetags.kitchen import mass


@kitchen_required
@require_POST
def take_out(request: KitchenRequest, pk: int) -> HttpResponse:
    """Take a portion out; one that was taken out already is shown again."""
    desk, form = desk_of(request, pk), SendForm(request.POST)
    name = request.POST.get("layer", "")
    portion = next(((p, what) for p, what in desk.portions if name in p.layers), None)
    if portion is None or not form.is_valid():
        raise Http404("no such portion")
    mine = Bowl.objects.in_use().filter(job=desk.bowl.job_id, uses__layer__in=[int(name)])
    there = mine.exclude(pk=pk).first()
    if there is not None:
        return redirect("bowls:bowl", pk=there.pk)
    if desk.now.mass_g < portion[0].mass_g:
        messages.error(request, f"There is less than {mass(portion[0].mass_g)} in the bowl: melt more first.")
        return redirect("bowls:bowl", pk=pk)
    try:
        taken = _taken(desk, *portion, expected_seq=form.cleaned_data["seq"], key=form.cleaned_data["key"])
    except BowlChanged:
        messages.error(request, CHANGED)
        return redirect("bowls:bowl", pk=pk)
    return redirect("bowls:bowl", pk=taken.pk)


@transaction.atomic
def _taken(desk: Desk, portion: Portion, what: str, *, expected_seq: int, key: uuid.UUID) -> Bowl:
    """Both bowls, with a line each. Raises BowlChanged."""
    now, bowl, rows = desk.now, desk.bowl, {r.code: r for r in desk.stock.rows}
    append(
        bowl,
        [("split", {"mass_g": round(portion.mass_g, 2), "for": what})],
        expected_seq=expected_seq,
        key=key,
        sent=f"portion {portion.layers[0]}",
    )
    uses = [(use.layer, use.grams) for use in bowl.uses.all() if str(use.layer_id) in portion.layers]
    taken = begin_bowl(
        desk.kitchen,
        name=f"{bowl.name}, for the {what}"[:80],
        white=bowl.white,
        colour=bowl.colour,
        base=bowl.base,
        job=bowl.job,
        technique=portion.window,
        layers=uses,
        colours=bowl.colours,
        taught={**bowl.taught, **{f"{STRENGTH}.{code}": times for code, times in now.strengths}},
    )
    lines = [
        (
            "received",
            {
                "ingredient": rows[p.ingredient.name].pk,
                "pins": pins_of(rows[p.ingredient.name]),
                "mass_g": p.mass_g * portion.mass_g / now.mass_g,
                "to_c": round(now.temperature_c, 1),
            },
        )
        for p in now.parts
    ]
    append(taken, lines, expected_seq=0, key=uuid.uuid5(key, "taken"))
    return taken
