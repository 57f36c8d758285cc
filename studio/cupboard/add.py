"""What a maker bought: a bag of any sort, a bottle, a jar, a fat. What it is and its shade; the rest stays assumed."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

from django import forms
from django.contrib import messages
from django.core.exceptions import ValidationError
from django.http import Http404, HttpResponse
from django.shortcuts import redirect, render
from django.utils.http import url_has_allowed_host_and_scheme
from django.views.decorators.http import require_POST

from coating.colour.cie import hex_from_lab, srgb_from_lab
from coating.colour.mixing import BASE, FAT, Ingredient, Part, mix
from coating.colour.readings import lab_from_hex
from coating.colour.words import shade_words
from coating.errors import CoatingError, Unreadable
from coating.stock.ingredients import DEMO_INGREDIENTS, demo_ingredient
from coating.stock.own import TINTED_G, TINTS, own_base, own_colour
from studio.colours.forms import LabField
from studio.common.forms import KeepsMeasures, MassField, NumberField, WordsField
from studio.common.measures import refusal_text
from studio.common.names import free_name
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required, sent_once
from studio.common.types import Json, Typed
from studio.cupboard.actions import have_in_stock, put_on_the_shelf
from studio.cupboard.models import Ingredient as Row
from studio.cupboard.pictures import tint_of

Lab = tuple[float, float, float]


@dataclass(frozen=True)
class Addable:
    """Something that can be added: `kind` of ingredient; of a bag whose fat and which sort."""

    name: str
    title: str
    kind: str
    family: str = ""
    sort: str = ""

    @property
    def is_bag(self) -> bool:
        """Whether it is a coating, bought in bags."""
        return self.kind == BASE

    @property
    def needs_shade(self) -> bool:
        """Whether its colour must be said."""
        return not self.is_bag or self.sort == "coloured"

    @property
    def hex(self) -> str:
        """How it looks on its tile."""
        if self.is_bag:
            lab = _TILE_LAB if self.sort == "coloured" else None
            return tint_of(own_base("tile", "", self.family, self.sort, lab))
        return tint_of(demo_ingredient(TINTS[self.kind].like))


_TILE_LAB = (52.0, 42.0, 20.0)
_SORTS = (("white", "White"), ("milk", "Milk"), ("dark", "Dark"), ("coloured", "Coloured"))
_BOTTLES = (
    ("liquid", "Oil colour, in a bottle"),
    ("powder", "Powder, oil-dispersible"),
    ("butter", "Coloured cocoa butter"),
    ("gel", "Water-based gel or paste"),
)
BAGS = {
    family: tuple(Addable(f"{family}-{sort}", f"{word} {called}", BASE, family, sort) for sort, word in _SORTS)
    for family, called in (("palm", "coating"), ("cocoa", "chocolate"))
}
BOTTLES = tuple(Addable(kind, title, kind) for kind, title in _BOTTLES)
WHATS = {w.name: w for w in (*BAGS["palm"], *BAGS["cocoa"], *BOTTLES)}
FATS = tuple(i for i in DEMO_INGREDIENTS.values() if i.kind == FAT)


@lru_cache(maxsize=4)
def chart(*, pale: bool) -> tuple[Lab, ...]:
    """Shades to tap: twelve hues, deep to pale, and greys; `pale`: as tints of white look."""
    rows = ((84.0, 22.0), (74.0, 38.0)) if pale else ((82.0, 24.0), (62.0, 48.0), (40.0, 40.0))
    shades: list[Lab] = []
    for lightness, chroma in rows:
        for hue in range(0, 360, 30):
            angle, wide = math.radians(hue), chroma
            lab = (lightness, wide * math.cos(angle), wide * math.sin(angle))
            while not srgb_from_lab(lab)[1] and wide > 4:
                wide -= 2
                lab = (lightness, wide * math.cos(angle), wide * math.sin(angle))
            shades.append((lab[0], round(lab[1], 2), round(lab[2], 2)))
    greys = () if pale else ((14.0, 0.0, 0.0), (30.0, 12.0, 14.0), (60.0, 0.0, 0.0))
    return (*shades, *greys)


class AddForm(KeepsMeasures, forms.Form):
    """Its shade, and what is wanted to be said besides. A shade is tapped, or written, or read from a photo."""

    shade = WordsField(required=False, max_length=60)
    hex = WordsField(label="Shade in six digits", max_length=7, required=False, help_text="Such as #8fb0c8.")
    name = WordsField(label="Name", max_length=80, required=False, help_text="Leave blank to name it by its shade.")
    bag_g = MassField("bag_g", label="Pack size", required=False)
    price = NumberField("price", label="Price of a pack", required=False, help_text="In your own money.")
    there = forms.ChoiceField(
        label="Where it is",
        choices=[("yes", "in my cupboard"), ("buy", "still to buy")],
        initial="yes",
        required=False,
        widget=forms.RadioSelect,
    )

    def __init__(self, *args: Any, what: Addable, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.what = what
        self.fields["bag_g"].label = "Bag size" if what.is_bag else "Bottle or jar size"

    def clean(self) -> Typed:
        data = super().clean() or {}
        try:
            data["lab"], data["like"] = self._shade(data)
        except Unreadable as refusal:
            self.add_error("hex", ValidationError(refusal_text(refusal)))
        return data

    def _shade(self, data: Typed) -> tuple[Lab | None, Ingredient | None]:
        """What was tapped or written. Raises Unreadable."""
        if data.get("hex"):
            return lab_from_hex(data["hex"]), None
        text = data.get("shade") or ""
        if text in DEMO_INGREDIENTS:
            return None, DEMO_INGREDIENTS[text]
        if text:
            try:
                return LabField(required=False).clean(text), None
            except ValidationError as problem:
                raise Unreadable("That is no shade: tap one, or write six digits.", field="hex") from problem
        if self.what.needs_shade:
            raise Unreadable("Tap the shade that is most like it, or write it.", field="hex")
        return None, None

    def core(self) -> Ingredient:
        """The (valid) form as the core knows it. Raises CoatingError."""
        what, data = self.what, self.cleaned_data
        lab, like = data["lab"], data["like"]
        if what.is_bag:
            if like is not None:
                lab = mix([Part(like, 1.0)]).lab()
            core = own_base("own", "", what.family, what.sort, lab)
            seen = mix([Part(core, 1.0)]).lab()
        else:
            core = own_colour("own", "", what.kind, like=like, tint=lab)
            seen = mix([Part(demo_ingredient("bright"), TINTED_G), Part(core, TINTS[what.kind].grams)]).lab()
        title = data["name"] or self._called(seen, like)
        return Ingredient(**{**core.__dict__, "title": title})

    def _called(self, lab: Lab, like: Ingredient | None) -> str:
        noun = {"palm": "coating", "cocoa": "chocolate"}.get(self.what.family) or {
            "liquid": "oil colour",
            "powder": "powder",
            "gel": "gel colour",
            "butter": "cocoa butter",
        }[self.what.kind]
        if self.what.is_bag and self.what.sort != "coloured":
            return f"My {self.what.sort} {noun}"
        word = like.title.split()[0].lower() if like is not None and not self.what.is_bag else shade_words(lab)
        return f"My {word} {noun}"

    def told(self) -> Json | None:
        """Where its shade is from; None while it is only like one of ours."""
        lab = self.cleaned_data["lab"]
        return None if lab is None else {"how": "base" if self.what.is_bag else "shade", "lab": list(lab)}


def offered(kitchen: Any) -> list[tuple[Ingredient, str]]:
    """Bases and fats of ours that this kitchen has not, each with how it looks."""
    mine = set(Row.objects.for_kitchen(kitchen).filter(put_away=False, ticked=True).values_list("code", flat=True))
    return [(i, tint_of(i)) for i in DEMO_INGREDIENTS.values() if i.kind in (BASE, FAT) and i.name not in mine]


@kitchen_required
def add(request: KitchenRequest) -> HttpResponse:
    """What was bought, by picture."""
    context = {
        "bags": [("Coating", "sets by itself", BAGS["palm"]), ("Chocolate", "tempered to shine", BAGS["cocoa"])],
        "bottles": BOTTLES,
        "offered": offered(request.kitchen),
    }
    return render(request, "cupboard/add.html", context)


@kitchen_required
@sent_once
def add_what(request: KitchenRequest, what: str) -> HttpResponse:
    """Its shade, and it is in the cupboard."""
    if what not in WHATS:
        raise Http404("nothing like that is added")
    one = WHATS[what]
    first = {"shade": request.GET.get("read", "")[:60]}
    form = AddForm(request.POST if request.method == "POST" else None, what=one, initial=first)
    if request.method == "POST" and form.is_valid():
        data = form.cleaned_data
        try:
            core = form.core()
            rows = Row.objects.for_kitchen(request.kitchen)
            if rows.filter(name=core.title, put_away=False).exists():
                core = Ingredient(**{**core.__dict__, "title": free_name(rows, core.title, most=80)})
            row = put_on_the_shelf(
                request.kitchen,
                core,
                bag_g=data["bag_g"],
                price=data["price"],
                ticked=data["there"] != "buy",
                reading=form.told(),
            )
        except CoatingError as refusal:
            form.add_error("hex", refusal_text(refusal))
        else:
            where = "on the list to buy" if data["there"] == "buy" else "in the cupboard"
            messages.success(
                request, f"{row.name} is {where}. All but its shade is assumed: say more when you know it."
            )
            return redirect(_back(request) or "cupboard:shelf")
    text = form["shade"].value() or ""
    shades = [
        (",".join(f"{v:g}" for v in lab), shade_words(lab), hex_from_lab(lab)) for lab in chart(pale=not one.is_bag)
    ]
    likes = [i for i in DEMO_INGREDIENTS.values() if i.kind == one.kind and (not one.is_bag or i.family == one.family)]
    context = {
        "what": one,
        "form": form,
        "shades": shades,
        "told": text,
        "read": request.GET.get("read", "")[:60],
        "likes": [(i, tint_of(i)) for i in likes],
        "tint": TINTS.get(one.kind),
        "back": _back(request),
    }
    return render(request, "cupboard/add_what.html", context, status=422 if form.errors else 200)


@kitchen_required
@require_POST
@sent_once
def have(request: KitchenRequest, code: str) -> HttpResponse:
    """One of ours, with one tap: it is there, or to be bought."""
    if code not in DEMO_INGREDIENTS:
        raise Http404("nothing of ours is called so")
    buy = request.POST.get("buy") == "yes"
    have_in_stock(request.kitchen, code, ticked=not buy)
    title = DEMO_INGREDIENTS[code].title
    messages.success(
        request, f"{title} is {'on the list to buy' if buy else 'in the cupboard'}, and recipes may use it."
    )
    return redirect(_back(request) or "cupboard:shelf")


def _back(request: KitchenRequest) -> str:
    """The page of this site that it was asked from."""
    to = request.POST.get("next") or request.GET.get("next") or ""
    return to if url_has_allowed_host_and_scheme(to, allowed_hosts=None) else ""
