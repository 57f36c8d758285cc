"""Editing an ingredient: its name and what is known about it, each with where it came from."""

from __future__ import annotations

from typing import Any

from django import forms
from django.core.exceptions import ValidationError

from studio.common.forms import NumberField, VersionedForm
from studio.cupboard.models import Ingredient, Parameter

# parameter -> (bound, label, help)
PARAMETERS = {
    "number": ("number", "Flow number", "On professional labels; melted, 40 °C, not tempered. Higher is thicker."),
    "fat_fraction": ("fat_fraction", "Fat share", "Fat on the label, divided by 100: 33 g in 100 g is 0.33."),
    "bag_g": ("bag_g", "A bag holds, g", ""),
    "drop_g": ("drop_g", "One drop weighs, g", "Weigh 20 drops and divide by 20."),
    "strength": ("strength", "Strength", "1 is as we assume; 2 colours twice as deep."),
}
FAT_OF_COLOURS = ("liquid", "powder", "butter", "white", "fat", "water")


class IngredientForm(VersionedForm):
    name = forms.CharField(label="Name", max_length=80)
    stocked = forms.BooleanField(label="It is in my cupboard", required=False)

    def __init__(self, *args: Any, ingredient: Ingredient, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.ingredient = ingredient
        self.now = {
            n: p
            for n, p in ingredient.current().items()
            if n in PARAMETERS and not (n == "fat_fraction" and ingredient.kind in FAT_OF_COLOURS)
        }
        for name, parameter in self.now.items():
            bound, label, help_text = PARAMETERS[name]
            if name == "drop_g" and ingredient.kind == "powder":
                label, help_text = "One pinch weighs, g", ""
            self.fields[name] = NumberField(bound, label=label, help_text=help_text, initial=f"{parameter.value:.4g}")
            self.fields[f"{name}_from"] = forms.ChoiceField(
                label="Where this came from", choices=Parameter.PROVENANCE[:3], initial=parameter.provenance
            )

    def rows(self) -> list[dict[str, Any]]:
        """Value field, source field and the parameter as it is, for the template."""
        return [{"value": self[n], "source": self[f"{n}_from"], "now": p} for n, p in self.now.items()]

    def past(self) -> list[Parameter]:
        """Every value there was of what is shown, by parameter, oldest first."""
        kept = self.ingredient.history()
        return [p for name in self.now for p in kept[name]]

    def clean(self) -> dict[str, Any]:
        data = super().clean() or {}
        for name, parameter in self.now.items():
            value, source = data.get(name), data.get(f"{name}_from")
            if value is not None and source == "default" and abs(value - float(f"{parameter.value:.4g}")) > 1e-9:
                self.add_error(
                    f"{name}_from", ValidationError("You changed the value: say whether you read or measured it.")
                )
        return data

    def values(self) -> dict[str, tuple[float, float, float, str]]:
        """Value, low, high and source of every parameter; measured values have the narrower range."""
        spread = {"default": 0.2, "label": 0.1, "measured": 0.05}
        result = {}
        for name, parameter in self.now.items():
            value, source = self.cleaned_data[name], self.cleaned_data[f"{name}_from"]
            unchanged = abs(value - float(f"{parameter.value:.4g}")) < 1e-9 and source == parameter.provenance
            if unchanged:
                result[name] = (parameter.value, parameter.low, parameter.high, parameter.provenance)
            else:
                by = spread[source]
                result[name] = (value, value * (1 - by), value * (1 + by), source)
        return result
