"""Paint and water: coats until a paint hides what is under it, and how much a water-based colour thickens."""

from __future__ import annotations

from typing import Any

from django import forms
from django.http import HttpResponse
from django.shortcuts import render

from coating.colour.hiding import HIDING, coats_to_hide
from coating.colour.mixing import WHITE, Part, mix
from coating.colour.recipe import find_recipe
from coating.colour.upsampling import reflectance_from_lab
from coating.errors import CoatingError
from coating.flow.gel import gel_harm
from coating.plan.proposal import plain_base
from coating.units import DAB_G, WATER_IN_GEL
from studio.colours.models import Colour
from studio.common.forms import MassField, NumberField, ShareField, asked_and_reckoned
from studio.common.live import LiveView
from studio.common.measures import refusal_text
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required
from studio.common.types import Context, Fields
from studio.cupboard.stock import Stock

PAINT_G = 100.0


class CoatsForm(forms.Form):
    """What is painted with, on what, how thick a coat is."""

    paint = forms.ChoiceField(label="Paint colour")
    white_share = ShareField("reflectance", label="White in 100 g of it", low=0, high=0.3, initial=0.0, required=False)
    ground = forms.ChoiceField(label="Colour underneath")
    coat_mm = NumberField("coat_mm", label="Thickness of one coat (mm)", initial=0.15)

    def __init__(self, data: Any = None, *, stock: Stock, colours: list[Colour], **kwargs: Any) -> None:
        super().__init__(data, **kwargs)
        self.stock, self.colours = stock, {f"c{c.pk}": c for c in colours}
        bases = [(f"b{r.pk}", r.name) for r in stock.rows if r.kind == "base"]
        book = [(key, c.name) for key, c in self.colours.items()]
        for name in ("paint", "ground"):
            field = self.fields[name]
            assert isinstance(field, forms.ChoiceField)
            field.choices = [("What is in the cupboard", bases), ("From the swatch book", book)]


def _parts(request: KitchenRequest, form: CoatsForm, key: str) -> tuple[Part, ...]:
    """What a choice is made of, 100 g of it: a base, or the recipe of a colour."""
    stock = form.stock
    if key in form.colours:
        cupboard = stock.cupboard("coating", request.kitchen)
        bases = plain_base(cupboard, "coating")
        return find_recipe(form.colours[key].lab, bases, cupboard.colourants, PAINT_G).parts
    return (Part(stock.cores[int(key[1:])], PAINT_G),)


def _coats(request: KitchenRequest, form: CoatsForm) -> Context:
    """The wedge of the (valid) form. Raises CoatingError."""
    data = form.cleaned_data
    paint = _parts(request, form, data["paint"])
    white_g = PAINT_G * (data.get("white_share") or 0.0)
    white = next((c for c in form.stock.cores.values() if c.kind == WHITE), None)
    if white_g and white is not None:
        paint = (*(Part(p.ingredient, p.mass_g * (1 - white_g / PAINT_G)) for p in paint), Part(white, white_g))
    ground = data["ground"]
    if ground in form.colours:
        under = reflectance_from_lab(form.colours[ground].lab)
    else:
        under = mix(_parts(request, form, ground)).reflectance()
    cover = coats_to_hide(paint, under, coat_mm=data["coat_mm"])
    names = {key: title for _, group in form.fields["ground"].choices for key, title in group}  # type: ignore[attr-defined]
    return {
        "hiding": cover,
        "wedge": list(enumerate(zip(cover.labs, cover.de00, strict=True)))[:16],
        "more": max(0, len(cover.labs) - 16),
        "paint": names[data["paint"]],
        "ground": names[ground],
        "coat_mm": data["coat_mm"],
        "hides": cover.contrast_ratio >= HIDING,
        "no_white": bool(white_g) and white is None,
        "white": white,
        "white_g": white_g,
        "known_by_lab": ground in form.colours,
        "result": {"coats": cover.coats, "contrast_ratio": cover.contrast_ratio},
    }


def _form(request: KitchenRequest, data: Any) -> CoatsForm:
    colours = list(Colour.objects.for_kitchen(request.kitchen).order_by("pk"))
    stock = Stock.of(request.kitchen)
    by_code = {r.code: f"b{r.pk}" for r in stock.rows}
    first = {"paint": by_code.get("bright", ""), "ground": by_code.get("dark", "")}
    return CoatsForm(data, stock=stock, colours=colours, initial=first)


@kitchen_required
def coats(request: KitchenRequest) -> HttpResponse:
    """Coats until this paint hides that ground."""
    data = request.GET if "paint" in request.GET else None
    form, reckoned = asked_and_reckoned(lambda d: _form(request, d), data)
    context: Context = {"form": form}
    try:
        context |= _coats(request, reckoned) if reckoned.is_valid() else {"wrong": "Choose a paint and a ground."}
    except CoatingError as refusal:
        context["wrong"] = refusal_text(refusal)
    return render(request, "colours/coats.html", context, status=422 if form.is_bound and form.errors else 200)


class CoatsLive(LiveView):
    """The wedge while it is changed."""

    part_templates = {role: f"colours/parts/coats_{role}.html" for role in ("answer", "wedge")}

    def make_form(self, request: KitchenRequest, fields: Fields, **kwargs: Any) -> CoatsForm:
        return _form(request, fields)

    def make_context(self, request: KitchenRequest, form: Any, **kwargs: Any) -> Context:
        return _coats(request, form)


class GelForm(forms.Form):
    """A water-based colour in so much coating."""

    mass_g = MassField("mass_g", label="Coating in the bowl", low=10, high=5000, initial=200)
    dabs = NumberField("drops", label="Toothpick dabs", low=0, high=500, initial=3)
    water = ShareField("reflectance", label="Water in 100 g of it", low=0, high=1, initial=WATER_IN_GEL)


def _gel(form: GelForm) -> Context:
    data = form.cleaned_data
    harm = gel_harm(data["mass_g"], data["dabs"] * DAB_G, water_fraction=data["water"])
    return {"harm": harm, "dab_g": DAB_G, **data, "result": {"thicker": harm.thicker, "harmless_g": harm.harmless_g}}


@kitchen_required
def gel(request: KitchenRequest) -> HttpResponse:
    """How much the water of a gel or paste thickens, and the dose that does no harm."""
    form, reckoned = asked_and_reckoned(GelForm, request.GET if "dabs" in request.GET else None)
    status = 422 if form.is_bound and form.errors else 200
    return render(request, "colours/gel.html", {"form": form, **_gel(reckoned)}, status=status)


class GelLive(LiveView):
    """The same while it is changed."""

    part_templates = {"answer": "colours/parts/gel_answer.html"}

    def make_form(self, request: KitchenRequest, fields: Fields, **kwargs: Any) -> GelForm:
        return GelForm(fields)

    def make_context(self, request: KitchenRequest, form: Any, **kwargs: Any) -> Context:
        return _gel(form)
