"""Say the colour wanted: from a chart, like a photo, from a bowl, by numbers or from a file of readings."""

from __future__ import annotations

from typing import Any
from urllib.parse import urlencode

from django import forms
from django.core.exceptions import ValidationError
from django.http import HttpResponse
from django.shortcuts import redirect, render
from django.urls import reverse

from coating.colour.reach_map import LIGHTNESSES, chart, chart_reach, reach_cloud
from coating.colour.readings import lab_from_hex, read_readings
from coating.colour.words import shade_words
from coating.errors import Unreadable
from coating.plan.proposal import plain_base
from studio.bowls.context import band_items
from studio.bowls.models import Bowl
from studio.common.forms import NumberField, WordsField
from studio.common.measures import refusal_text
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required
from studio.common.throttle import takes_files
from studio.common.types import Context, Typed
from studio.cupboard.stock import Stock
from studio.cupboard.tones import WHITES
from studio.swatches.book import MOST_FILE

WAYS = {"chart": "From the chart", "photo": "Like this photo", "bowl": "From a bowl", "numbers": "By numbers"}
LIGHT_WORDS = ("very light", "light", "middling", "full", "deep", "dark")
BOWLS = 24
HATCHED = "M0 3L3 0M0 6L6 0M0 9L9 0M2 10L10 2M5 10L10 5M8 10L10 8"  # over a cell of the chart that is out of reach


class NumbersForm(forms.Form):
    """A shade by hex or Lab, or a file of readings."""

    hex = WordsField(label="Shade, such as #8fb0c8", max_length=7, required=False)
    lightness = NumberField("lab_lightness", label="Lightness (L)", required=False)
    a = NumberField("lab_chroma", label="Green to red (a)", required=False)
    b = NumberField("lab_chroma", label="Blue to yellow (b)", required=False)
    file = forms.FileField(label="Or a file of readings (CSV or CGATS text)", required=False)

    def clean(self) -> Typed:
        data = super().clean() or {}
        said = [data.get(n) for n in ("lightness", "a", "b")]
        try:
            if data.get("file"):
                if data["file"].size > MOST_FILE:
                    raise Unreadable("That file is over 1 MB. It can have at most 500 readings.", field="file")
                data["found"] = read_readings(data["file"].read().decode("utf-8-sig", errors="replace"))
            elif data.get("hex"):
                data["lab"] = lab_from_hex(data["hex"])
            elif all(v is not None for v in said):
                data["lab"] = tuple(said)
            elif not self.errors:
                self.add_error("hex", ValidationError("Write a shade, or all three of L, a and b, or choose a file."))
        except Unreadable as refusal:
            self.add_error(refusal.fields["field"], ValidationError(refusal_text(refusal)))
        return data


def try_address(lab: Any, came_from: str) -> str:
    """Where a colour without a name is tried out."""
    query = {"lab": ",".join(f"{float(v):.2f}" for v in lab), "from": came_from}
    return f"{reverse('colours:try')}?{urlencode(query)}"


def _chart(request: KitchenRequest) -> Context:
    """The colours of one lightness, and which of them this cupboard reaches."""
    light = request.GET.get("light", "")
    at = int(light) if light.isdecimal() and int(light) in LIGHTNESSES else LIGHTNESSES[2]
    white = request.GET.get("white", "coating")
    white = white if white in dict(WHITES) else "coating"
    cupboard = Stock.of(request.kitchen).cupboard(white, request.kitchen)
    cloud = reach_cloud(plain_base(cupboard, white), cupboard.colourants)
    rows = chart(at)
    reached = chart_reach(cloud, rows)
    cells = [
        [
            {
                "lab": lab,
                "here": reached[lab],
                "says": shade_words(lab) if reached[lab] else f"{shade_words(lab)}, out of reach",
                "hatched": "" if reached[lab] else HATCHED,
                "to": try_address(lab, "chart"),
            }
            if lab
            else None
            for lab in row
        ]
        for row in rows
    ]
    return {
        "cells": cells,
        "light": at,
        "lights": list(zip(LIGHTNESSES, LIGHT_WORDS, strict=True)),
        "white": white,
        "whites": WHITES[:2],
        "reached": sum(reached.values()),
        "all": len(reached),
    }


def _bowls(request: KitchenRequest) -> Context:
    items = band_items(request.kitchen, Bowl.objects.for_kitchen(request.kitchen).newest(BOWLS))
    return {"bowls": [(item, try_address(item.lab, "bowl")) for item in reversed(items) if item.lab and not item.empty]}


def new_page(request: KitchenRequest, way: str, *, status: int = 200, **context: Any) -> HttpResponse:
    """The page for a new colour, one way of finding it open."""
    more = {"chart": _chart, "bowl": _bowls}.get(way, lambda _: {})(request)
    context = {"way": way, "ways": WAYS, "form": NumbersForm(), **more, **context}
    return render(request, "colours/new.html", context, status=status)


@kitchen_required
@takes_files
def new(request: KitchenRequest) -> HttpResponse:
    """Four ways to say a colour."""
    if request.method == "POST":
        form = NumbersForm(request.POST, request.FILES)
        if not form.is_valid():
            return new_page(request, "numbers", form=form, status=422)
        if "lab" in form.cleaned_data:
            return redirect(try_address(form.cleaned_data["lab"], "shade"))
        reading = form.cleaned_data["found"]
        if len(reading) == 1:
            return redirect(try_address(reading[0].lab, "reading"))
        readings = [(r, r.name or shade_words(r.lab), try_address(r.lab, "reading")) for r in reading]
        return new_page(request, "numbers", readings=readings)
    way = request.GET.get("way", "chart")
    return new_page(request, way if way in WAYS else "chart")
