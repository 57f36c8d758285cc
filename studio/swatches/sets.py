"""Several shades: one colour from pale to deep, and several colours from one melt."""

from __future__ import annotations

from typing import Any

from django import forms
from django.core.exceptions import ValidationError
from django.http import HttpResponse
from django.shortcuts import render

from coating.colour.grading import FEWEST, MOST, grade, grade_from_stock, stock_for
from coating.colour.ladder import BOWL_LOSS_G, MOST_SHADES, Shade, tint_ladder
from coating.colour.mixing import Part, colour_load
from coating.colour.recipe import find_recipe
from coating.errors import CoatingError, TooFewDrops
from coating.plan.proposal import plain_base
from studio.colours.models import Colour
from studio.common.forms import CountField, KeepsMeasures, MassField, asked_and_reckoned
from studio.common.live import LiveView
from studio.common.measures import refusal_text
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required
from studio.common.templatetags.kitchen import UNIT_WORDS
from studio.common.types import Context, Fields, Typed
from studio.cupboard.stock import Stock
from studio.cupboard.tones import WHITES
from studio.swatches.says import ladder_says, rung_says, shades_says

LADDER_ASKS = "Say how much you want of which colour, and what is left of each becomes the next."

STOCK_EXTRA = 1.1  # a little more stock than is taken out of it


class ShadesForm(KeepsMeasures, forms.Form):
    """A set of shades: of what, how many, how much of each, how deep the deepest."""

    white = forms.ChoiceField(label="Kind of chocolate", choices=WHITES, initial="coating", widget=forms.RadioSelect)
    colourant = forms.ChoiceField(label="Colour to use", widget=forms.Select)
    shades = CountField("shades", label="Number of shades", initial=5)
    each_g = MassField("mass_g", label="How much of each", low=10, high=2000, initial=100)
    deepest = CountField("drops", label="Drops in the deepest", low=1, high=2000, initial=20)

    def __init__(self, data: Any = None, *, stock: Stock, **kwargs: Any) -> None:
        super().__init__(data, **kwargs)
        self.stock = stock
        rows = [r for r in stock.rows if r.stocked and r.kind in UNIT_WORDS]
        field = self.fields["colourant"]
        assert isinstance(field, forms.ChoiceField)
        field.choices = [(r.code, r.name) for r in rows]


def _shades(request: KitchenRequest, form: ShadesForm) -> Context:
    """The set of the (valid) form, as drops and, where those are uneven, from a stock. Raises CoatingError."""
    data, stock = form.cleaned_data, form.stock
    bases = plain_base(stock.cupboard(data["white"], request.kitchen), data["white"])
    if not bases:
        raise TooFewDrops("There is no such white in your cupboard.", field="white")
    colourant = next(c for c in stock.cores.values() if c.name == data["colourant"])
    base, count, deepest = [Part(bases[0], data["each_g"])], int(data["shades"]), int(data["deepest"])
    load = colour_load([*base, Part(colourant, deepest * colourant.unit_g)]) or 0.0
    if load > 1:
        most = int(deepest / load)
        raise TooFewDrops(
            f"So much colour that it tastes of it and may not set: {most} drops at most in {data['each_g']:.0f} g.",
            field="deepest",
        )
    drops, refusal = None, ""
    try:
        drops = grade(base, colourant, count, deepest)
    except TooFewDrops as few:
        refusal = refusal_text(few)
    deep = stock_for(base, colourant, deepest, data["each_g"])
    by_stock = grade_from_stock(base, deep, count, round(data["each_g"]))
    stock_g = sum(by_stock.amounts) * STOCK_EXTRA
    made = stock_for(base, colourant, deepest, stock_g)
    wants_stock = drops is None or not drops.even
    best = by_stock if drops is None or wants_stock else drops
    return {
        "drops": drops,
        "by_stock": by_stock,
        "wants_stock": wants_stock,
        "refusal": refusal,
        "best": best,
        "base": base[0],
        "colourant": colourant,
        "each_g": data["each_g"],
        "says": shades_says(best, made, colourant.title, base[0].ingredient.title, data["each_g"], stock=wants_stock),
        "load": load,
        "rows": list(zip(best.amounts, best.labs, (None, *best.steps), strict=True)),
        "white": data["white"],
        "result": {"amounts": list(best.amounts), "even": best.even, "steps": list(best.steps)},
    }


def _first(request: KitchenRequest, colour: Colour, stock: Stock) -> Typed:
    """Begins with the bottle that comes nearest to the colour by itself, as deep as it is."""
    cupboard = stock.cupboard("coating", request.kitchen)
    liquids = tuple(c for c in cupboard.colourants if c.kind in UNIT_WORDS)
    recipe = None
    if liquids and plain_base(cupboard, "coating"):
        recipe = find_recipe(colour.lab, plain_base(cupboard, "coating")[:1], liquids, 100.0, max_colourants=1)
    part = next((p for p in recipe.parts if not p.ingredient.is_base), None) if recipe else None
    if part is None:
        return {}
    return {"colourant": part.ingredient.name, "deepest": max(5, round(part.units))}


@kitchen_required
def shades(request: KitchenRequest, pk: int) -> HttpResponse:
    """One colour from pale to deep, equal steps to the eye."""
    colour = Colour.objects.get_for(request.kitchen, pk=pk)
    stock = Stock.of(request.kitchen)
    first = _first(request, colour, stock)
    data = request.GET if "shades" in request.GET else None
    form, reckoned = asked_and_reckoned(lambda d: ShadesForm(d, stock=stock, initial=first), data)
    context: Context = {"form": form, "colour": colour, "fewest": FEWEST, "most": MOST}
    try:
        context |= _shades(request, reckoned) if reckoned.is_valid() else {"wrong": "There is no colour to drop in."}
    except CoatingError as refusal:
        context["wrong"] = refusal_text(refusal)
    return render(request, "colours/shades.html", context, status=422 if form.is_bound and form.errors else 200)


class ShadesLive(LiveView):
    """The set while it is changed."""

    part_templates = {role: f"colours/parts/shades_{role}.html" for role in ("answer", "row")}

    def make_form(self, request: KitchenRequest, fields: Fields, **kwargs: Any) -> ShadesForm:
        self.colour = Colour.objects.get_for(request.kitchen, pk=kwargs["pk"])
        return ShadesForm(fields, stock=Stock.of(request.kitchen))

    def make_context(self, request: KitchenRequest, form: Any, **kwargs: Any) -> Context:
        return {"colour": self.colour, **_shades(request, form)}


class LadderForm(KeepsMeasures, forms.Form):
    """Which colours, and how much of each; what white is left over."""

    white = forms.ChoiceField(label="Kind of chocolate", choices=WHITES, initial="coating", widget=forms.RadioSelect)
    left_g = MassField("mass_g", label="Melted white left over", low=0, high=5000, initial=0, required=False)

    def __init__(self, data: Any = None, *, colours: list[Colour], **kwargs: Any) -> None:
        super().__init__(data, **kwargs)
        self.colours = colours
        for colour in colours:
            self.fields[f"g-{colour.pk}"] = MassField("mass_g", label=colour.name, low=5, high=2000, required=False)

    def amounts(self) -> list[tuple[Colour, forms.BoundField]]:
        """Each colour with its field."""
        return [(c, self[f"g-{c.pk}"]) for c in self.colours]

    def wanted(self) -> list[Shade]:
        """The shades that an amount was given for."""
        shades = [(c, self.cleaned_data.get(f"g-{c.pk}")) for c in self.colours]
        return [Shade(c.name, c.lab, float(g)) for c, g in shades if g]

    def clean(self) -> Typed:
        data = super().clean() or {}
        count = sum(1 for c in self.colours if data.get(f"g-{c.pk}"))
        if not self.errors and count > MOST_SHADES:
            raise ValidationError(f"Take at most {MOST_SHADES} shades at a time.")
        if not self.errors and count < 2:
            raise ValidationError("Give amounts of at least two colours.")
        return data


@kitchen_required
def ladder(request: KitchenRequest) -> HttpResponse:
    """Several colours from one melt, the palest first."""
    colours = list(Colour.objects.for_kitchen(request.kitchen).order_by("pk"))
    any_grams = any(name.startswith("g-") for name in request.GET)
    form = LadderForm(request.GET if any_grams else None, colours=colours)
    context: Context = {"form": form, "loss_g": BOWL_LOSS_G, "says": LADDER_ASKS}
    if any_grams and form.is_valid():
        stock, white = Stock.of(request.kitchen), form.cleaned_data["white"]
        cupboard = stock.cupboard(white, request.kitchen)
        try:
            bowls = tint_ladder(form.wanted(), plain_base(cupboard, white)[:1], cupboard.colourants)
        except CoatingError as refusal:
            context["says"] = refusal_text(refusal)
        else:
            left_g = form.cleaned_data.get("left_g") or 0.0
            needed_g = sum(b.base_g for b in bowls)
            context |= {
                "bowls": [(b, [(rung, rung_says(rung, first=not i)) for i, rung in enumerate(b.rungs)]) for b in bowls],
                "needed_g": needed_g,
                "says": ladder_says(len(form.wanted()), len(bowls), max(0.0, needed_g - left_g), left_g),
                "apart_g": len(form.wanted()) * BOWL_LOSS_G,
            }
    return render(request, "colours/ladder.html", context, status=422 if any_grams and form.errors else 200)
