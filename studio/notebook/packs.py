"""Lots and best-before dates of packs, by a line or a photo; labels follow from what really went in."""

from __future__ import annotations

from django import forms
from django.contrib import messages
from django.http import HttpResponse
from django.shortcuts import redirect
from django.views.decorators.http import require_POST

from coating.errors import CoatingError
from studio.bowls.models import BowlEvent
from studio.common import clock
from studio.common.forms import WordsField
from studio.common.measures import refusal_text
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required, sent_once
from studio.common.throttle import takes_files
from studio.common.types import Typed
from studio.cupboard.models import Ingredient
from studio.notebook.models import OpenedPack
from studio.notebook.photos import keep_photo
from studio.pieces.asks import PackSaid
from studio.pieces.models import Job


class PackForm(forms.Form):
    """What is read off a pack."""

    lot = WordsField(label="Lot number", max_length=40, required=False)
    best_before = forms.DateField(
        label="Best before",
        required=False,
        widget=forms.DateInput(attrs={"type": "date"}, format="%Y-%m-%d"),
        error_messages={"invalid": "A date like 2027-03-31."},
    )

    def clean(self) -> Typed:
        data = super().clean() or {}
        if not self.errors and not (data.get("lot") or data.get("best_before") or self.files.get("photos")):
            raise forms.ValidationError("Write the lot or the date, or take a photo of them.")
        return data


@kitchen_required
@takes_files
@require_POST
@sent_once
def pack_add(request: KitchenRequest, pk: int) -> HttpResponse:
    """A pack was opened: what goes in from now on is of it."""
    row: Ingredient = Ingredient.objects.get_for(request.kitchen, pk=pk)
    form, file = PackForm(request.POST, request.FILES), request.FILES.get("photos")
    try:
        if form.is_valid():
            photo = keep_photo(request.kitchen, file, ingredient=row, words="The pack") if file else None
            OpenedPack.objects.create(
                kitchen=request.kitchen, ingredient=row, photo=photo, at=clock.now(), **form.cleaned_data
            )
            messages.success(request, f"Kept: {row.name} is of this pack from now on.")
    except CoatingError as refusal:
        messages.error(request, refusal_text(refusal))
    for errors in form.errors.values():
        messages.error(request, " ".join(str(e) for e in errors))
    return redirect("cupboard:edit", pk=pk)


def packs_of_job(job: Job) -> dict[int, list[PackSaid]]:
    """The packs that were open when something of them went into the bowls of a job, by bowl."""
    packs: dict[int, list[OpenedPack]] = {}
    for pack in OpenedPack.objects.for_kitchen(job.kitchen_id).select_related("ingredient"):
        packs.setdefault(pack.ingredient_id, []).append(pack)
    if not packs:
        return {}
    events = BowlEvent.objects.for_kitchen(job.kitchen_id).filter(bowl__job=job, kind__in=("added", "received"))
    said: dict[int, dict[int, PackSaid]] = {}
    for bowl, payload, at in events.filter(struck_by=None).values_list("bowl_id", "payload", "happened_at"):
        opened = [p for p in packs.get(payload["ingredient"], ()) if p.at <= at]
        if opened:
            pack = opened[-1]
            said.setdefault(bowl, {})[pack.pk] = PackSaid(pack.ingredient.name, pack.lot, pack.best_before)
    return {bowl: list(of.values()) for bowl, of in said.items()}
