"""How far a drip of this bowl runs down a cake."""

from __future__ import annotations

from typing import Any

from django import forms
from django.contrib import messages
from django.http import HttpResponse
from django.shortcuts import redirect, render

from coating.figures.unrolled import unrolled_side
from coating.flow.additions.fat import density_kg_m3
from coating.flow.drip import Drip, drip_length
from coating.flow.windows import window
from coating.limits import BOUNDS
from studio.bowls.adapters import Desk
from studio.bowls.home_tests import WALLS, warmth_c
from studio.bowls.views import desk_of
from studio.common.forms import LengthField, NumberField
from studio.common.live import LiveView
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required

OTHER_WALL = {"chilled": "room", "room": "chilled"}


class DripForm(forms.Form):
    wall = forms.ChoiceField(label="The cake is", choices=WALLS, initial="chilled", widget=forms.RadioSelect)
    volume_ml = NumberField("drip_ml", label="One squeeze, ml", initial=0.5, help_text="A quarter teaspoon is 1.2 ml.")
    width_mm = LengthField("drip_width_mm", label="A drip is wide", initial=9.0)
    diameter_mm = LengthField("tier_mm", label="The cake, across", initial=150.0)
    height_mm = LengthField("tier_height_mm", label="and high", initial=100.0)
    spacing_mm = LengthField("spacing_mm", label="From drip to drip", initial=28.0)


def drip_context(desk: Desk, data: dict[str, Any]) -> dict[str, Any]:
    """How far it runs, on this wall and on the other, and the side of the cake with it."""
    now = desk.now
    given = {
        "volume_ml": data["volume_ml"], "width_mm": data["width_mm"], "temperature_c": warmth_c(desk),
        "number_spread": now.context.number_spread,
    }  # fmt: skip
    number = now.stands_at() or BOUNDS["number"].high
    drip = drip_length(number, wall=data["wall"], **given)
    other = drip_length(number, wall=OTHER_WALL[data["wall"]], **given)
    side = unrolled_side(
        length_mm=drip.length_mm, low_mm=drip.low_mm, high_mm=drip.high_mm,
        **{name: data[name] for name in ("diameter_mm", "height_mm", "spacing_mm", "width_mm")},
    )  # fmt: skip
    mass_g = side.drips * data["volume_ml"] * density_kg_m3(now.fat_fraction) / 1000
    return {
        "bowl": desk.bowl, "drip": drip, "other": other, "side": side, "mass_g": mass_g, "wall": data["wall"],
        "lab": now.mixture().lab(), "says": _says(drip, data["height_mm"]),
        "result": {"length_mm": drip.length_mm, "drips": side.drips, "mass_g": mass_g},
    }  # fmt: skip


def _says(drip: Drip, height_mm: float) -> str:
    """What to think of it: "board" when it reaches the bottom, "short" when it hardly hangs, else ""."""
    if drip.high_mm >= height_mm:
        return "board"
    return "short" if drip.length_mm < 0.15 * height_mm else ""


@kitchen_required
def drip(request: KitchenRequest, pk: int) -> HttpResponse:
    """The sentence, the side of the cake laid out flat, and what it takes."""
    desk = desk_of(request, pk)
    if not desk.can_be_used:
        messages.error(request, "There is nothing melted in this bowl that could drip.")
        return redirect("bowls:bowl", pk=pk)
    form = DripForm(request.POST or None)
    shown = form
    if not form.is_valid():
        shown = DripForm({name: field.initial for name, field in form.fields.items()})
        shown.is_valid()
    context = {"form": form, "window": window("cake_drip"), **drip_context(desk, shown.cleaned_data)}
    return render(request, "bowls/drip.html", context)


class DripLive(LiveView):
    """The drip while it is typed."""

    part_templates = {role: f"bowls/parts/drip_{role}.html" for role in ("answer", "side")}

    def make_form(self, request: KitchenRequest, fields: dict[str, Any], **kwargs: Any) -> DripForm:
        self.desk = desk_of(request, kwargs["pk"])
        return DripForm(fields)

    def make_context(self, request: KitchenRequest, form: Any, **kwargs: Any) -> dict[str, Any]:
        return drip_context(self.desk, form.cleaned_data)
