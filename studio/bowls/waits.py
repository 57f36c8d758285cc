"""How long until what is made of this bowl can be touched, handled and bent."""

from __future__ import annotations

from typing import Any

from django import forms
from django.contrib import messages
from django.http import HttpResponse
from django.middleware.csrf import get_token
from django.shortcuts import redirect, render

from coating.heat.setting import SETTING_OFF
from coating.heat.times import SHAPES
from coating.learning.names import SET
from coating.plan.keeping import keeping
from coating.plan.waits import waits
from studio.bowls.adapters import Desk
from studio.bowls.views import desk_of
from studio.bowls.waiting_says import wait_shown, waits_says
from studio.common.forms import LengthField
from studio.common.live import LiveView
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required
from studio.common.types import Context, Fields, Typed
from studio.pieces.known_says import goes_by_says


class WaitForm(forms.Form):
    """What waits to set, and how thick it is."""

    shape = forms.ChoiceField(
        label="What sets",
        choices=[(s.name, s.title) for s in SHAPES.values()],
        initial="coat",
        widget=forms.RadioSelect,
    )
    thickness_mm = LengthField("thickness_mm", low=0.2, high=40, label="Thickness")


def _first(desk: Desk) -> Typed:
    """The coat of the bowl's own pieces; without any, an ordinary one."""
    return {"shape": "coat", "thickness_mm": round(desk.coat_mm or SHAPES["coat"].thickness_mm, 1)}


def waits_context(desk: Desk, data: Typed) -> Context:
    """Each place of this kitchen for a shape, the preferred one first."""
    now, shape = desk.now, SHAPES[data["shape"]]
    places = waits(
        shape.name,
        data["thickness_mm"],
        pour_c=now.temperature_c,
        room_c=desk.kitchen.room_c,
        white=now.white,
        places=desk.kitchen.places,
        slower=desk.job_goes_by.set,
    )
    first, keeps = next((w for w in places if w.setting), None), keeping(now)
    below_c = keeps.sets_below_c
    return {
        "bowl": desk.bowl,
        "thickness_mm": data["thickness_mm"],
        "shape": shape,
        "says": waits_says(first, shape, data["thickness_mm"], room_c=desk.kitchen.room_c, below_c=below_c),
        "waits": [wait_shown(w, shape, sets_below_c=below_c, first=w is first) for w in places],
        "off": SETTING_OFF,
        "goes_by": goes_by_says({n: f.value for n, f in desk.job_goes_by.only(SET).of.items()}, {}),
        "result": {w.place: w.setting.release_min for w in places if w.setting},
    }


@kitchen_required
def waits_page(request: KitchenRequest, pk: int) -> HttpResponse:
    """When it can be touched and handled, by place, with a timer for each."""
    desk = desk_of(request, pk)
    if not desk.can_be_used:
        messages.error(request, "There is nothing melted in this bowl that could set.")
        return redirect("bowls:bowl", pk=pk)
    first = _first(desk)
    shape = SHAPES.get(request.GET.get("shape", ""))
    if shape and shape.name != "coat":
        first = {"shape": shape.name, "thickness_mm": shape.thickness_mm}
    form = WaitForm(request.POST or None, initial=first)
    shown = form
    if not form.is_valid():
        shown = WaitForm(first)
        shown.is_valid()
    return render(request, "bowls/waits.html", {"form": form, **waits_context(desk, shown.cleaned_data)})


class WaitsLive(LiveView):
    """The same while it is typed."""

    part_templates = {role: f"bowls/parts/waits_{role}.html" for role in ("answer", "places")}

    def make_form(self, request: KitchenRequest, fields: Fields, **kwargs: Any) -> WaitForm:
        self.desk = desk_of(request, kwargs["pk"])
        return WaitForm(fields)

    def make_context(self, request: KitchenRequest, form: Any, **kwargs: Any) -> Context:
        return {"csrf_token": get_token(request), **waits_context(self.desk, form.cleaned_data)}
