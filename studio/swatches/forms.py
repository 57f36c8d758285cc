"""How a recipe is wanted, as a form."""

from __future__ import annotations

from typing import Any

from django import forms

from coating.colour.ways import USUAL, WAYS, ColourWay
from studio.bowls.adapters import DEFAULT_MELT_G
from studio.colours.forms import LabField
from studio.common.forms import KeepsMeasures, MassField
from studio.cupboard.models import Ingredient
from studio.cupboard.stock import Stock
from studio.cupboard.tones import WHITES

MOST_COLOURS = [("1", "1"), ("2", "2"), ("3", "3"), ("4", "4")]
USES = [("", "may go in"), ("must", "must go in"), ("not", "leave out")]


class RecipeForm(KeepsMeasures, forms.Form):
    """A colour, in which white, how much, how it is found, what must and what must not go in."""

    lab = LabField(widget=forms.HiddenInput, max_length=80)
    white = forms.ChoiceField(label="Kind of chocolate", choices=WHITES, initial="coating", widget=forms.RadioSelect)
    melt_g = MassField("mass_g", label="How much", low=20, high=5000, initial=DEFAULT_MELT_G)
    colourants = forms.ChoiceField(
        label="Most bottles to use", choices=MOST_COLOURS, initial="3", widget=forms.RadioSelect
    )
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
        """Which colours must and may go in, as the core takes it."""
        data = self.cleaned_data
        said = {row.code: data.get(f"use-{row.pk}") for row in self.rows}
        return ColourWay(
            data.get("way") or USUAL,
            tuple(c for c, v in said.items() if v == "must"),
            tuple(c for c, v in said.items() if v == "not"),
            data["mixed_fats"],
            int(data["colourants"]),
        )
