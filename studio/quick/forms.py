"""The quick card's four taps, and how many."""

from __future__ import annotations

from django import forms

from studio.common.forms import CountField
from studio.pieces.actions import STARTER_COLOURS

SIZES = {"small": (45.0, 6.0, "small"), "ordinary": (60.0, 8.0, "ordinary"), "large": (80.0, 9.0, "large")}
THINNERS = {"coating": "palm_flakes", "untempered": "cocoa_butter"}
DEPTHS = [("third", "a third"), ("half", "half"), ("all", "all over")]
DEPTH_SHARES = {"third": 1 / 3, "half": 0.5, "all": 1.0}
DEPTH_VALUES = {"third": "0.333", "half": "0.5", "all": "1.0"}
WHITES = [("coating", "coating"), ("untempered", "white chocolate")]
COLOURS = {name.lower().replace(" ", "-"): (name, lab) for name, lab in STARTER_COLOURS.items()}


class QuickForm(forms.Form):
    count = CountField(
        "count", label="How many", initial=12, high=500,
        widget=forms.TextInput(attrs={"aria-label": "How many biscuits"}),
    )  # fmt: skip
    size = forms.ChoiceField(
        label="Size", choices=[(k, v[2]) for k, v in SIZES.items()], initial="ordinary", widget=forms.RadioSelect
    )
    depth = forms.ChoiceField(label="Dipped", choices=DEPTHS, initial="half", widget=forms.RadioSelect)
    colour = forms.ChoiceField(
        label="Colour", choices=[(k, v[0]) for k, v in COLOURS.items()], initial="dusk-blue", widget=forms.RadioSelect
    )
    white = forms.ChoiceField(label="From", choices=WHITES, initial="coating", widget=forms.RadioSelect)

    def swatches(self) -> list[tuple[str, str, tuple[float, float, float]]]:
        """Key, name and Lab of every colour offered."""
        return [(key, name, lab) for key, (name, lab) in COLOURS.items()]

    @classmethod
    def plain(cls) -> dict[str, str]:
        """The card as it is before any tap."""
        return {name: str(field.initial) for name, field in cls.base_fields.items()}
