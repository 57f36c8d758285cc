"""Editing an ingredient: its name and what is known about it, each with where it came from."""

from __future__ import annotations

from typing import Any

from django import forms
from django.core.exceptions import ValidationError

from coating.care.allergens import ALLERGENS
from coating.flow.grades import GRADES
from studio.common.forms import (
    FlowNumberField,
    KeepsMeasures,
    MassField,
    MeasuredField,
    NumberField,
    ShareField,
    VersionedForm,
    WordsField,
)
from studio.common.templatetags.kitchen import UNIT_WORDS
from studio.common.types import Context, Typed
from studio.common.words import lower
from studio.cupboard.models import Ingredient, Parameter

# parameter -> (field, bound, label, help)
PARAMETERS: dict[str, tuple[Any, str, str, str]] = {
    "number": (
        FlowNumberField,
        "number",
        "Flow number",
        "On professional labels; higher is thicker. An older scale reads about 3.5 times as high: write 130 old.",
    ),
    "fat_fraction": (ShareField, "fat_fraction", "Fat in 100 g", "On the back of the bag, under fat."),
    "bag_g": (MassField, "bag_g", "Bag size", ""),
    "piece_g": (NumberField, "piece_g", "Weight of one wafer or square (g)", "Weigh ten and divide by ten."),
    "drop_g": (NumberField, "drop_g", "Weight of one drop (g)", "Weigh 20 drops and divide by 20."),
    "strength": (NumberField, "strength", "Strength", "1 is as we assume; 2 colours twice as deep."),
    "stock_g": (MassField, "total_g", "Amount you have", "It goes down as bowls are made."),
    "pack_price": (NumberField, "price", "Price of a pack", "In your own money."),
}
# What can be said of a kind besides what is assumed of it.
PACK = ("bag_g", "pack_price", "stock_g")
BOTTLED = ("liquid", "powder", "gel", "butter", "white")
CAN_BE_SAID = {"base": ("piece_g", "pack_price", "stock_g"), "fat": PACK, **dict.fromkeys(BOTTLED, PACK)}
SAID = ("pack_price", "stock_g")  # known or not: nobody measures it
_SAME = 1e-9
FAT_OF_COLOURS = (*BOTTLED, "fat", "water")


def _same(typed: float, kept: float) -> bool:
    """Whether a field still says what is kept: to the last digit, or to the four that are shown."""
    return abs(typed - kept) < _SAME or abs(typed - float(f"{kept:.4g}")) < _SAME


class IngredientForm(KeepsMeasures, VersionedForm):
    """One thing in the cupboard."""

    name = WordsField(label="Name", max_length=80)
    stocked = forms.BooleanField(label="It is in my cupboard", required=False)
    allergens = forms.MultipleChoiceField(
        label="What it contains, by its pack",
        choices=[(a, a) for a in ALLERGENS],
        required=False,
        widget=forms.CheckboxSelectMultiple,
    )
    looked = forms.BooleanField(label="I have read the pack: none of the others", required=False)

    def __init__(self, *args: Any, ingredient: Ingredient, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.ingredient = ingredient
        self.now = {
            n: p
            for n, p in ingredient.current().items()
            if n in PARAMETERS and not (n == "fat_fraction" and ingredient.kind in FAT_OF_COLOURS)
        }
        self.unsaid = [n for n in CAN_BE_SAID.get(ingredient.kind, ()) if n not in self.now]
        if ingredient.kind != "base":
            del self.fields["allergens"], self.fields["looked"]
        for name in (*self.now, *self.unsaid):
            self._add(name, self.now.get(name))

    def _add(self, name: str, parameter: Parameter | None) -> None:
        kind, bound, label, help_text = PARAMETERS[name]
        if name == "drop_g" and self.ingredient.kind in ("powder", "gel"):
            label, help_text = f"One {UNIT_WORDS[self.ingredient.kind][0]} weighs, g", ""
        if name == "bag_g" and self.ingredient.kind in BOTTLED:
            label = "Bottle or jar size"
        kept: Any = None
        if parameter is not None:
            kept = parameter.value if issubclass(kind, MeasuredField) else f"{parameter.value:.4g}"
        self.fields[name] = kind(bound, label=label, help_text=help_text, required=parameter is not None)
        self.initial[name] = kept  # a field that still shows it keeps it to the last digit
        if parameter is not None and name not in SAID:
            self.fields[f"{name}_from"] = forms.ChoiceField(
                label=f"Where {lower(label)} came from", choices=Parameter.PROVENANCE[:3], initial=parameter.provenance
            )

    def rows(self) -> list[Context]:
        """Value field and source field, if it has one, for the template."""
        return [
            {
                "value": self[n],
                "source": self[f"{n}_from"] if f"{n}_from" in self.fields else None,
                "grades": GRADES if n == "number" else (),
            }
            for n in (*self.now, *self.unsaid)
        ]

    def contents(self) -> list[str] | None:
        """The allergens on its pack; None where nobody has looked."""
        said = self.cleaned_data.get("allergens")
        return list(said or []) if said or self.cleaned_data.get("looked") else None

    def past(self) -> list[Parameter]:
        """Every value there was of what is shown, by parameter, oldest first."""
        kept = self.ingredient.history()
        return [p for name in self.now for p in kept[name]]

    def clean(self) -> Typed:
        data = super().clean() or {}
        for name, parameter in self.now.items():
            value, source = data.get(name), data.get(f"{name}_from")
            changed = value is not None and not _same(value, parameter.value)
            if changed and name == "number" and any(value == grade.number for grade in GRADES):
                data[f"{name}_from"] = source = "label"  # what its label says was tapped
            if changed and source == "default":
                self.add_error(
                    f"{name}_from", ValidationError("You changed the value: say whether you read or measured it.")
                )
        return data

    def values(self) -> dict[str, tuple[float, float, float, str]]:
        """Value, low, high and source of every parameter; measured values have the narrower range."""
        spread = {"default": 0.2, "label": 0.1, "measured": 0.05}
        result = {}
        for name in self.unsaid:
            if (said := self.cleaned_data[name]) is not None:
                result[name] = (said, said, said, "label")
        for name, parameter in self.now.items():
            value, source = self.cleaned_data[name], self.cleaned_data.get(f"{name}_from", "label")
            if _same(value, parameter.value) and source == parameter.provenance:
                result[name] = (parameter.value, parameter.low, parameter.high, parameter.provenance)
            else:
                by = 0.0 if name in SAID else spread[source]
                result[name] = (value, value * (1 - by), value * (1 + by), source)
        return result
