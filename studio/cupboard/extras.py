"""Toppings, fillings and helpers: what goes on or in a piece and is no coating."""

from __future__ import annotations

from typing import Any

from django import forms
from django.contrib import messages
from django.core.exceptions import ValidationError
from django.http import HttpResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_POST

from coating.care.allergens import ALLERGENS
from coating.errors import CoatingError
from coating.piece.extras import batch_of
from coating.quantities import GRAMS_PER_ML
from coating.typed import read_mass
from studio.common.forms import (
    CountField,
    KeepsMeasures,
    MassField,
    NumberField,
    VersionedForm,
    WordsField,
    changed_meanwhile,
)
from studio.common.models import ChangedMeanwhile
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required, sent_once
from studio.common.templatetags.kitchen import mass
from studio.common.types import Json, Typed
from studio.common.words import listed
from studio.cupboard.models import EATEN, EXTRA_KINDS, Extra

BATCHES = ("filling", "icing", "modelling")
COUNTED = ("topping", "insert", "modelling")
REUSED = ("mould",)
STAYS_IN = ("lolly", "stick", "handle")  # words of what is not pulled out
_FIELDS = (
    "name",
    "each_g",
    "allergens",
    "edible",
    "keeps_days",
    "cold",
    "small",
    "comes_out",
    "taste",
    "pack",
    "price",
    "uses",
    "cavities",
)
MOST_PARTS = 20


class ExtraForm(KeepsMeasures, VersionedForm):
    """What is asked depends on what it is."""

    name = WordsField(label="Name", max_length=80)
    each_g = MassField("mass_g", label="Weight of one", required=False)
    allergens = forms.MultipleChoiceField(
        label="What it contains, by its pack",
        choices=[(a, a) for a in ALLERGENS],
        required=False,
        widget=forms.CheckboxSelectMultiple,
    )
    looked = forms.BooleanField(label="I have read the pack: none of the others", required=False)
    edible = forms.ChoiceField(
        label="Edible or not, by its pack", choices=Extra.EDIBLE, widget=forms.RadioSelect, initial="unsaid"
    )
    recipe = WordsField(
        lines=True,
        label="Recipe, a line for each part",
        required=False,
        max_length=2000,
        widget=forms.Textarea(attrs={"rows": 4}),
        help_text="For example 200 g cream. It is scaled to what the pieces take.",
    )
    keeps_days = CountField("keeps_days", label="Days it keeps", required=False)
    taste = forms.ChoiceField(label="Taste", choices=list(Extra._meta.get_field("taste").choices or ()), required=False)
    cold = forms.BooleanField(label="Kept in the fridge only", required=False)
    small = forms.BooleanField(label="Small or hard: not for small children", required=False)
    comes_out = forms.TypedChoiceField(
        label="What happens to it",
        choices=[("yes", "pulled out again and counted"), ("no", "stays in, as a lolly stick")],
        coerce=lambda said: said == "yes",
        empty_value=None,
        required=False,
        widget=forms.RadioSelect,
        help_text="Leave both blank: a pick is pulled out, a lolly stick stays.",
    )
    pack = NumberField("pack", label="Pack size", required=False)
    price = NumberField("price", label="Price of a pack", required=False)
    uses = CountField("uses", label="Number of uses", required=False)
    cavities = CountField("cavities", label="Cavities", required=False)

    def __init__(self, *args: Any, kind: str, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.kind = kind
        unasked = {
            "each_g": kind not in COUNTED,
            "recipe": kind not in BATCHES,
            "comes_out": kind != "stick",
            "uses": kind not in REUSED,
            "cavities": kind not in REUSED,
            "pack": kind in REUSED,
            "allergens": kind not in EATEN,
            "looked": kind not in EATEN,
            "taste": kind in ("mould", "sheet", "stick", "leaf"),
            "cold": kind in ("mould", "sheet", "stick"),
            "small": kind in ("mould", "sheet"),
            "keeps_days": kind in ("mould", "sheet", "stick"),
            "edible": kind in ("mould", "stick"),
        }
        for name, drop in unasked.items():
            if drop:
                del self.fields[name]
        if "pack" in self.fields:
            self.fields["pack"].label = "Pieces in a pack" if kind in ("stick", "sheet") else "Grams in a pack"
        if kind == "mould":
            self.fields["price"].label = "Price"

    def clean_recipe(self) -> list[Json]:
        """The recipe, line by line; the first line that cannot be read is named."""
        lines = []
        for number, line in enumerate(self.cleaned_data["recipe"].splitlines(), 1):
            if line.strip():
                lines.append(_part(line, number))
        if len(lines) > MOST_PARTS:
            raise ValidationError(f"A recipe has {MOST_PARTS} lines at most.")
        return lines

    def keep_in(self, row: Extra) -> None:
        """Write what was said into a row."""
        for name in _FIELDS:
            if name in self.fields:
                setattr(row, name, self.cleaned_data[name])
        if "looked" in self.fields and not self.cleaned_data["allergens"] and not self.cleaned_data["looked"]:
            row.allergens = None  # not said
        if row.kind == "stick" and self.cleaned_data["comes_out"] is None:
            row.comes_out = not any(word in row.name.lower() for word in STAYS_IN)
        if "recipe" in self.fields:
            row.parts = self.cleaned_data["recipe"]


def _part(line: str, number: int) -> Json:
    """A line of a recipe: as much of it as reads as an amount, then the name."""
    words = line.split()
    for split in range(len(words) - 1, 0, -1):
        name = " ".join(words[split:]).lower()
        of = next((of for of in GRAMS_PER_ML if of in name), "pieces")
        try:
            mass_g = read_mass(" ".join(words[:split]), of=of)
        except CoatingError:
            continue
        if mass_g > 0 and any(c.isalpha() for w in words[:split] for c in w):
            return {"name": " ".join(words[split:])[:60], "g": mass_g}
    raise ValidationError(f"Line {number}: write it as 200 g cream.")


def _initial(row: Extra) -> Typed:
    lines = "\n".join(f"{p['g']:g} g {p['name']}" for p in row.parts)
    values = {**{name: getattr(row, name) for name in _FIELDS}, "recipe": lines, "version": row.version}
    out = ("yes" if row.comes_out else "no") if row.pk else ""
    return {**values, "looked": row.pk is not None and row.allergens is not None, "comes_out": out}


@kitchen_required
def extras(request: KitchenRequest) -> HttpResponse:
    """Everything, by kind."""
    rows = list(Extra.objects.for_kitchen(request.kitchen))
    shelves = [(kind, title, [r for r in rows if r.kind == kind]) for kind, title in EXTRA_KINDS]
    return render(request, "cupboard/extras.html", {"shelves": shelves, "count": len(rows)})


@kitchen_required
@sent_once
def extra_new(request: KitchenRequest) -> HttpResponse:
    """One more."""
    kinds = dict(EXTRA_KINDS)
    kind = request.GET.get("kind", "topping")
    kind = kind if kind in kinds else "topping"
    row = Extra(kitchen=request.kitchen, kind=kind, edible="unsaid" if kind in ("dust", "leaf", "topping") else "yes")
    form = ExtraForm(request.POST or None, kind=kind, initial=_initial(row))
    if request.method == "POST" and form.is_valid() and _name_is_free(form, row):
        form.keep_in(row)
        row.save()
        messages.success(request, f"{row.name} is in the cupboard.")
        return redirect("cupboard:extras")
    return _page(request, form, row, kinds[kind], 422 if form.errors else 200)


@kitchen_required
@sent_once
def extra(request: KitchenRequest, pk: int) -> HttpResponse:
    """One of them."""
    row = Extra.objects.get_for(request.kitchen, pk=pk)
    form = ExtraForm(request.POST or None, kind=row.kind, initial=_initial(row))
    status = 200
    if request.method == "POST" and form.is_valid() and _name_is_free(form, row):
        form.keep_in(row)
        try:
            row.save_over(form.cleaned_data["version"])
        except ChangedMeanwhile:
            status = changed_meanwhile(form, Extra.objects.get(pk=pk).version)
        else:
            messages.success(request, f"{row.name} is saved.")
            return redirect("cupboard:extras")
    return _page(request, form, row, row.get_kind_display(), 422 if form.errors and status == 200 else status)


def _name_is_free(form: ExtraForm, row: Extra) -> bool:
    same = Extra.objects.filter(kitchen_id=row.kitchen_id, kind=row.kind, name=form.cleaned_data["name"])
    if same.exclude(pk=row.pk).exists():
        form.add_error("name", "You already have one with that name.")
        return False
    return True


def _page(request: KitchenRequest, form: ExtraForm, row: Extra, title: str, status: int) -> HttpResponse:
    used = list(row.layers.select_related("piece__job").order_by("piece_id")[:20]) if row.pk else []
    pieces = list({la.piece_id: la.piece for la in used}.values())
    batch = batch_of(100.0, [(p["name"], p["g"]) for p in row.parts]) if row.parts else None
    parts = listed([f"{mass(g)} {name}" for name, g in batch.parts]) if batch else ""
    batch_says = f"For 100 g in the pieces, with what stays in pan and bag: {parts}." if batch else ""
    context = {"form": form, "row": row, "title": title, "pieces": pieces, "batch_says": batch_says}
    return render(request, "cupboard/extra.html", context, status=status)


@kitchen_required
@require_POST
@sent_once
def extra_remove(request: KitchenRequest, pk: int) -> HttpResponse:
    """Out of the cupboard, unless a piece is made with it."""
    row = Extra.objects.get_for(request.kitchen, pk=pk)
    layer = row.layers.select_related("piece").first()
    if layer is not None:
        messages.error(request, f"{layer.piece.name} is made with it: pick something else there first.")
        return redirect("cupboard:extra", pk=pk)
    row.delete()
    messages.success(request, f"{row.name} is gone.")
    return redirect("cupboard:extras")
