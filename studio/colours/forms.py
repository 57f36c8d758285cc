"""How a colour is wanted, as forms."""

from __future__ import annotations

from typing import Any

from django import forms
from django.core.exceptions import ValidationError

from coating.colour.ways import USUAL, WAYS, ColourWay
from coating.errors import Unreadable
from coating.limits import BOUNDS
from studio.bowls.adapters import DEFAULT_MELT_G
from studio.common.forms import KeepsMeasures, MassField, WordsField
from studio.common.names import free_name, plain
from studio.cupboard.models import Ingredient
from studio.cupboard.stock import Stock
from studio.pieces.models import WHITES, Colour

MOST_COLOURS = [("1", "1"), ("2", "2"), ("3", "3"), ("4", "4")]
USES = [("", "may go in"), ("must", "must go in"), ("not", "leave out")]
Lab = tuple[float, float, float]


def read_lab(text: str) -> Lab:
    """Lab written as "68, -8, -17". Raises Unreadable."""
    try:
        said = zip(("lab_lightness", "lab_chroma", "lab_chroma"), text.split(","), strict=True)
        lightness, a, b = (BOUNDS[name].check(float(part), "lab") for name, part in said)
    except Exception as problem:
        raise Unreadable("A colour is three numbers: lightness 0 to 100, a and b.", field="lab") from problem
    return lightness, a, b


class LabField(forms.CharField):
    """CIELAB as three numbers with commas; held as a tuple."""

    def to_python(self, value: Any) -> Any:
        if isinstance(value, tuple):
            return value
        text = super().to_python(value)
        if not text:
            return None
        try:
            return read_lab(text)
        except Unreadable as problem:
            raise ValidationError(problem.message, code="invalid") from problem

    def prepare_value(self, value: Any) -> Any:
        return ",".join(f"{v:.2f}" for v in value) if isinstance(value, tuple) else value


class RecipeForm(KeepsMeasures, forms.Form):
    """A colour, in which white, how much, how it is found, what must and what must not go in."""

    lab = LabField(widget=forms.HiddenInput, max_length=80)
    white = forms.ChoiceField(label="In", choices=WHITES, initial="coating", widget=forms.RadioSelect)
    melt_g = MassField("mass_g", label="How much", low=20, high=5000, initial=DEFAULT_MELT_G)
    colourants = forms.ChoiceField(
        label="Bottles at most", choices=MOST_COLOURS, initial="3", widget=forms.RadioSelect
    )  # fmt: skip
    mixed_fats = forms.BooleanField(label="Coating and real chocolate may mix", required=False)
    way = forms.ChoiceField(
        choices=[(w, w) for w in (USUAL, *WAYS)], initial=USUAL, widget=forms.RadioSelect, required=False
    )

    def __init__(self, data: Any = None, *, stock: Stock, **kwargs: Any) -> None:
        super().__init__(data, **kwargs)
        self.rows = [r for r in stock.rows if r.stocked and r.kind not in ("fat", "water")]
        for row in self.rows:
            self.fields[f"use-{row.pk}"] = forms.ChoiceField(label=row.name, choices=USES, required=False)

    def uses(self) -> list[tuple[Ingredient, forms.BoundField]]:
        """Each ingredient with its choice."""
        return [(row, self[f"use-{row.pk}"]) for row in self.rows]

    def colour_way(self) -> ColourWay:
        data = self.cleaned_data
        said = {row.code: data.get(f"use-{row.pk}") for row in self.rows}
        return ColourWay(
            data.get("way") or USUAL, tuple(c for c, v in said.items() if v == "must"),
            tuple(c for c, v in said.items() if v == "not"), data["mixed_fats"], int(data["colourants"]),
        )  # fmt: skip


class NameForm(forms.Form):
    """A name for the swatch book, and a note."""

    name = WordsField(label="Name", max_length=60)
    note = WordsField(label="Note", max_length=200, required=False)

    def __init__(self, data: Any = None, *, kitchen: Any, colour: Colour | None = None, **kwargs: Any) -> None:
        self.kitchen, self.colour = kitchen, colour
        super().__init__(data, **kwargs)

    def clean_name(self) -> str:
        name: str = self.cleaned_data["name"]
        same = Colour.objects.for_kitchen(self.kitchen).filter(name=name)
        if (same.exclude(pk=self.colour.pk) if self.colour else same).exists():
            raise ValidationError("There is a colour of that name in your book already.")
        return name


def free_colour_name(kitchen: Any, name: str) -> str:
    """The name, or with a number after it when it is taken."""
    name = plain(name)
    return free_name(Colour.objects.for_kitchen(kitchen), name[:1].upper() + name[1:52], most=60)
