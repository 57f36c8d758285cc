"""How far a drip of this bowl runs down a cake."""

from __future__ import annotations

from contextlib import suppress
from typing import Any

from django import forms
from django.contrib import messages
from django.http import HttpResponse
from django.shortcuts import redirect, render

from coating.errors import OutOfBounds
from coating.figures.unrolled import unrolled_side
from coating.flow.drip import Drip, drip_length, squeeze_for
from coating.flow.windows import window
from coating.limits import BOUNDS
from coating.piece.drips import CHILLED, LENGTH_MM, WIDTH_MM
from coating.shape.drips import drips_round
from coating.shape.pieces import CakeTier
from studio.bowls.adapters import Desk
from studio.bowls.home_test_forms import warmth_c
from studio.bowls.views import desk_of
from studio.common.forms import LengthField, VolumeField
from studio.common.live import LiveView
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required
from studio.common.types import Context, Fields, Typed
from studio.pieces.forms import WALLS
from studio.pieces.models import Layer

OTHER_WALL = {"chilled": "room", "room": "chilled"}


class DripForm(forms.Form):
    """A drip on this cake: how wide and how long, or how much."""

    wall = forms.ChoiceField(
        label="Temperature of the cake", choices=WALLS, initial="chilled", widget=forms.RadioSelect
    )
    volume_ml = VolumeField(
        "drip_ml", label="Amount of one squeeze", initial=0.5, help_text="Such as 1/8 tsp, or 0.5 ml."
    )
    width_mm = LengthField("drip_width_mm", label="Width of a drip", initial=9.0)
    diameter_mm = LengthField("tier_mm", label="Cake diameter", initial=150.0)
    height_mm = LengthField("tier_height_mm", label="Cake height", initial=100.0)
    spacing_mm = LengthField("spacing_mm", label="Spacing between drips", initial=28.0)


def drip_context(desk: Desk, data: Typed) -> Context:
    """How far it runs, on this wall and on the other, and the side of the cake with it."""
    now = desk.now
    given = {
        "volume_ml": data["volume_ml"],
        "width_mm": data["width_mm"],
        "temperature_c": warmth_c(desk),
        "number_spread": now.context.number_spread,
    }
    number = now.stands_at() or BOUNDS["number"].high
    drip = drip_length(number, wall=data["wall"], **given)
    other = drip_length(number, wall=OTHER_WALL[data["wall"]], **given)
    around = drips_round(
        CakeTier(data["diameter_mm"], data["height_mm"]),
        fat_fraction=now.fat_fraction,
        **{name: data[name] for name in ("volume_ml", "spacing_mm", "width_mm")},
    )
    side = unrolled_side(around, length_mm=drip.length_mm, low_mm=drip.low_mm, high_mm=drip.high_mm)
    return {
        "bowl": desk.bowl,
        "drip": drip,
        "other": other,
        "side": side,
        "around": around,
        "wall": data["wall"],
        "lab": now.mixture().lab(),
        "says": _says(drip, data["height_mm"]),
        "wanted": _wanted(desk, number),
        "result": {"length_mm": drip.length_mm, "drips": side.drips, "mass_g": around.mass_g},
    }


def _wanted(desk: Desk, number: float) -> tuple[float, float] | None:
    """Length in mm that the bowl's cake asks for, and what to squeeze for it now, ml; None when no squeeze does it."""
    layer = _cake(desk)
    if layer is None:
        return None
    parameters = layer.parameters
    length_mm, width_mm = parameters.get("length_mm") or LENGTH_MM, parameters.get("width_mm") or WIDTH_MM
    with suppress(OutOfBounds):
        squeeze = squeeze_for(
            number,
            length_mm=length_mm,
            wall=parameters.get("wall") or CHILLED,
            width_mm=width_mm,
            temperature_c=warmth_c(desk),
        )
        return length_mm, squeeze.volume_ml
    return None


def _cake(desk: Desk) -> Layer | None:
    """The cake this bowl is for, if it is for one."""
    return next((layer for layer in desk.layers if layer.technique == "cake_drip"), None)


def _first(desk: Desk) -> Typed:
    """What the form shows to begin with: the bowl's own cake, and the squeeze its length takes."""
    layer, shown = _cake(desk), {name: field.initial for name, field in DripForm.base_fields.items()}
    if layer is None:
        return shown
    known = ("wall", "width_mm", "spacing_mm")
    shown |= {
        **{n: layer.parameters[n] for n in known if n in layer.parameters},
        "diameter_mm": layer.piece.size["mm"][0],
        "height_mm": layer.piece.size["mm"][1],
    }
    wanted = _wanted(desk, desk.now.stands_at() or BOUNDS["number"].high)
    return shown | ({"volume_ml": round(wanted[1], 2)} if wanted else {})


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
    first = _first(desk)
    form = DripForm(request.POST or None, initial=first)
    shown = form
    if not form.is_valid():
        shown = DripForm(first)
        shown.is_valid()
    context = {"form": form, "window": window("cake_drip"), **drip_context(desk, shown.cleaned_data)}
    return render(request, "bowls/drip.html", context)


class DripLive(LiveView):
    """The drip while it is typed."""

    part_templates = {role: f"bowls/parts/drip_{role}.html" for role in ("answer", "side")}

    def make_form(self, request: KitchenRequest, fields: Fields, **kwargs: Any) -> DripForm:
        self.desk = desk_of(request, kwargs["pk"])
        return DripForm(fields)

    def make_context(self, request: KitchenRequest, form: Any, **kwargs: Any) -> Context:
        return drip_context(self.desk, form.cleaned_data)
