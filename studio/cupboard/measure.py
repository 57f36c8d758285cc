"""Characterise an ingredient once: a base from one reading, a colour from one tint, a drop from twenty."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

from django import forms
from django.contrib import messages
from django.core.exceptions import ValidationError
from django.http import HttpResponse
from django.shortcuts import redirect, render

from coating.colour.fitting import fit_colourant
from coating.colour.mixing import Part, mix
from coating.colour.readings import lab_from_hex
from coating.colour.recipe import recipe_of
from coating.colour.spectra import Curve
from coating.colour.upsampling import absorption_from_lab
from coating.errors import CoatingError, Unreadable
from studio.colours.forms import LabField
from studio.common.forms import CountField, MassField, NumberField, WordsField
from studio.common.measures import refusal_text
from studio.common.models import ChangedMeanwhile
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required, sent_once
from studio.common.templatetags.kitchen import UNIT_WORDS
from studio.common.types import Context, Typed
from studio.common.words import close_says
from studio.cupboard.actions import change_ingredient, keep_reading
from studio.cupboard.adapters import core_ingredient
from studio.cupboard.asks import followed
from studio.cupboard.models import Ingredient

TWENTY = 20
DOUBTFUL = 2.0  # dE00 by which a tint reckoned anew is off its reading
WEIGHED_OFF = 0.05  # a kitchen scale and a steady hand


class ReadingForm(forms.Form):
    """The colour of a base as melted, or of a tint: by shade, by Lab or from a photo."""

    lab = LabField(widget=forms.HiddenInput, required=False, max_length=80)
    hex = WordsField(label="Shade, such as #f4eee0", max_length=7, required=False)

    def __init__(self, data: Any = None, *, bases: list[Ingredient], row: Ingredient, **kwargs: Any) -> None:
        super().__init__(data, **kwargs)
        self.bases = {b.code: b for b in bases}
        if row.kind != "base":
            whites = sorted(bases, key=lambda b: -mix([Part(core_ingredient(b), 1.0)]).lab()[0])
            self.fields["into"] = forms.ChoiceField(label="Stirred into", choices=[(b.code, b.name) for b in whites])
            self.fields["base_g"] = MassField("mass_g", label="Amount of the coating", low=5, high=5000, initial=100)
            words = UNIT_WORDS.get(row.kind)
            if words:
                self.fields["units"] = CountField("drops", label=f"{words[1].capitalize()} of it", low=1, initial=6)
            else:
                self.fields["grams"] = MassField("mass_g", label="Grams of it", low=0.1, initial=2)

    def clean(self) -> Typed:
        data = super().clean() or {}
        if data.get("hex"):
            try:
                data["lab"] = lab_from_hex(data["hex"])
            except Unreadable as refusal:
                self.add_error("hex", ValidationError(refusal_text(refusal)))
        elif not data.get("lab") and not self.errors:
            self.add_error("hex", ValidationError("Write its shade, or take a photo of it beside white paper."))
        return data


class WeighForm(forms.Form):
    """What twenty drops weigh together."""

    twenty_g = NumberField("mass_g", label="Weight of 20 drops (g)", low=0.1, high=10)


def _read_base(row: Ingredient, form: ReadingForm) -> str:
    core = core_ingredient(row)
    lab = form.cleaned_data["lab"]
    absorption = absorption_from_lab(lab, core.scattering)
    keep_reading(row, absorption=absorption, scattering=core.scattering, how={"how": "base", "lab": list(lab)})
    return f"{row.name} has the colour you read."


def _read_tint(row: Ingredient, form: ReadingForm) -> str:
    data, core = form.cleaned_data, core_ingredient(row)
    into = core_ingredient(form.bases[data["into"]])
    grams = float(data["units"]) * core.unit_g if "units" in data else float(data["grams"])
    fitted = fit_colourant([Part(into, data["base_g"])], grams, data["lab"], scattering=core.scattering)
    how = {
        "how": "tint",
        "lab": list(data["lab"]),
        "into": into.name,
        "base_g": data["base_g"],
        "grams": grams,
        "family": fitted.family,
        "de00": round(fitted.de00, 3),
    }
    # What was read holds for the strength assumed then, so the strength is taken out of the curve.
    absorption = _by(fitted.absorption, 1 / core.strength)
    keep_reading(row, absorption=absorption, scattering=core.scattering, how=how)
    doubt = " Was the white the one you named, and read in the same light?" if fitted.de00 > DOUBTFUL else ""
    return f"{row.name} is known by your tint and worked out again: {close_says(fitted.de00)}.{doubt}"


def _by(curve: Curve, factor: float) -> Curve:
    bands = tuple((a * factor, nm, sigma) for a, nm, sigma in curve.bands)
    return replace(curve, constant=curve.constant * factor, bands=bands)


def _weigh(row: Ingredient, form: WeighForm) -> tuple[str, list[Any]]:
    drop_g = form.cleaned_data["twenty_g"] / TWENTY
    value = (drop_g, drop_g * (1 - WEIGHED_OFF), drop_g * (1 + WEIGHED_OFF), "measured")
    fresh = change_ingredient(row, expected=row.version, name=row.name, stocked=row.stocked, values={"drop_g": value})
    return f"A drop of {row.name[:1].lower()}{row.name[1:]} weighs {drop_g:.3f} g.", fresh


@kitchen_required
@sent_once
def measure(request: KitchenRequest, pk: int) -> HttpResponse:
    """The page of one ingredient's colour; a post keeps a reading, a tint or the weight of twenty drops."""
    row = Ingredient.objects.with_parameters().get_for(request.kitchen, pk=pk)
    if row.kind in ("fat", "water"):
        return redirect("cupboard:edit", pk=pk)
    bases = list(Ingredient.objects.for_kitchen(request.kitchen).filter(kind="base").with_parameters())
    what = request.POST.get("what", "")
    lab_field = LabField(required=False)
    try:
        lab = lab_field.clean(request.GET.get("read", "")[:80])
    except ValidationError:
        lab = None
    first = {"lab": lab} if lab else {}
    reading = ReadingForm(request.POST if what == "colour" else None, bases=bases, row=row, initial=first)
    weigh = WeighForm(request.POST if what == "weigh" else None)
    status = 200
    if request.method == "POST":
        status = 422
        form: forms.Form = weigh if what == "weigh" else reading
        if form.is_valid():
            fresh: list[Any] = []
            try:
                if what == "weigh":
                    said, fresh = _weigh(row, weigh)
                else:
                    said = _read_base(row, reading) if row.kind == "base" else _read_tint(row, reading)
            except CoatingError as refusal:
                reading.add_error("hex", refusal_text(refusal))
            except ChangedMeanwhile:
                weigh.add_error(None, "Somebody changed this in another window. Send it again.")
            else:
                changed = followed(row, fresh, what != "weigh")
                names = ", ".join(b.name for b in changed[:4])
                messages.success(request, said + (f" Worked out anew: {names}." if changed else ""))
                return redirect("cupboard:edit", pk=pk)
    core = core_ingredient(row)
    last = row.read_last()
    context: Context = {
        "row": row,
        "reading": reading,
        "weigh": weigh if row.kind == "liquid" else None,
        "told": lab,
        "last": last,
        "now_lab": mix([Part(core, 1.0)]).lab() if core.is_base else None,
        "readings": list(row.readings.all()),
    }
    if last and last.told.get("how") == "tint" and last.told.get("into") in {b.code for b in bases}:
        into = next(b for b in bases if b.code == last.told["into"])
        parts = (Part(core_ingredient(into), last.told["base_g"]), Part(core, last.told["grams"]))
        context["again"] = recipe_of(parts, last.told["lab"])
    return render(request, "cupboard/measure.html", context, status=status)
