"""Start a timer and stop it; they hang under the band of every page."""

from __future__ import annotations

from datetime import timedelta

from django import forms
from django.http import Http404, HttpResponse
from django.shortcuts import redirect
from django.urls import reverse
from django.utils.http import url_has_allowed_host_and_scheme
from django.views.decorators.http import require_POST

from coating.heat.setting import PLACES_C
from coating.heat.times import SHAPES, around_c
from studio.bowls.adapters import Desk
from studio.bowls.models import LONGEST_S, Bowl, Timer
from studio.common import clock
from studio.common.forms import NumberField, WordsField
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required, sent_once
from studio.common.types import Json, Typed
from studio.cupboard.actions import cupboard_changed

MEASURED_MM = 0.05  # another thickness than was offered was measured


class TimerForm(forms.Form):
    """A timer: what it says, how long, and the page to come back to."""

    says = WordsField(max_length=80)
    seconds = forms.FloatField(min_value=1, max_value=LONGEST_S)
    back = WordsField(required=False, max_length=200)
    place = forms.ChoiceField(choices=[(p, p) for p in ("room", *PLACES_C)], required=False)
    thickness_mm = NumberField("thickness_mm", required=False)


def _back(path: str) -> HttpResponse:
    """To the page it was pressed on, if that is one of ours."""
    ours = path.startswith("/") and url_has_allowed_host_and_scheme(path, allowed_hosts=None)
    return redirect(path if ours else reverse("bowls:list"))


@kitchen_required
@require_POST
@sent_once
def start(request: KitchenRequest, pk: int) -> HttpResponse:
    """A wait begins now, on the server's clock."""
    bowl, form = Bowl.objects.get_for(request.kitchen, pk=pk), TimerForm(request.POST)
    if not form.is_valid():
        raise Http404("no such wait")
    data = form.cleaned_data
    rings_at = clock.now() + timedelta(seconds=data["seconds"])
    Timer.objects.create(
        kitchen=request.kitchen,
        bowl=bowl,
        says=data["says"],
        seconds=data["seconds"],
        rings_at=rings_at,
        about=_about(Desk.of(bowl, request.kitchen), data) if data["place"] and data["thickness_mm"] else {},
    )
    return _back(data["back"])


def _about(desk: Desk, data: Typed) -> Json:
    """What sets, where: a coat that its maker measured, or one of the bowl's own layers, as assumed."""
    line, now, room_c = desk.line, desk.now, desk.kitchen.room_c
    about: Json = {
        "pour_c": now.temperature_c,
        "surround_c": around_c(data["place"], room_c),
        "place": data["place"],
        "white": now.white,
        "sides": SHAPES["coat"].sides,
        "until": "release",
    }
    own_mm = desk.coat_mm
    if line is None or own_mm is None or abs(data["thickness_mm"] - round(own_mm, 1)) > MEASURED_MM:
        return {**about, "thickness_mm": data["thickness_mm"], "measured": True}
    coat = desk.job_goes_by.coat(line.technique)
    return {**about, "thickness_mm": own_mm / coat, "technique": line.technique, "measured": False}


@kitchen_required
@require_POST
def stop(request: KitchenRequest, pk: int) -> HttpResponse:
    """It has rung and been heard, is not wanted, or what was waited for is set."""
    timer, now = Timer.objects.get_for(request.kitchen, pk=pk), clock.now()
    running = Timer.objects.filter(pk=timer.pk, stopped_at=None)
    if timer.about and request.POST.get("what") == "set":
        if running.update(stopped_at=now, set_at=now):
            cupboard_changed(request.kitchen)
    else:
        running.update(stopped_at=now)
    return _back(request.POST.get("back", ""))
