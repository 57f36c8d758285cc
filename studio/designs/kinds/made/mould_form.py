"""What is asked of a mould."""

from __future__ import annotations

from typing import Any

from django import forms

from coating.piece.cores import Hollow
from coating.shape.moulds.presets import PRESETS
from studio.common.forms import CountField, LengthField, MassField, NumberField, VolumeField
from studio.designs.kinds.base import DesignForm
from studio.designs.kinds.film.base import WHERE

WAYS = [
    ("solid", "solid"),
    ("hollow", "hollow"),
    ("filled", "filled, with a lid"),
    ("layers", "in layers"),
    ("insert", "something inside"),
    ("colours", "details first"),
]
MADE_OF = [("plastic", "thin plastic"), ("silicone", "silicone"), ("hard", "hard, clear")]
OF_PIECE = "own:piece"


class MouldForm(DesignForm):
    """What is asked about a mould."""

    preset = forms.ChoiceField(label="Mould", choices=[(p.name, p.title) for p in PRESETS.values()], initial="praline")
    way = forms.ChoiceField(label="How it is filled", choices=WAYS, initial="filled", widget=forms.RadioSelect)
    made_of = forms.ChoiceField(
        label="Material of the mould", choices=MADE_OF, initial="plastic", widget=forms.RadioSelect
    )
    count = CountField("count", label="Number of pieces", initial=24, high=1000)
    cavities = CountField(
        "cavities",
        label="Cavities in one mould",
        required=False,
        high=200,
        help_text="Leave blank to use the mould in the picture.",
    )
    moulds = CountField("cavities", label="Number of moulds", initial=1, high=40)
    each_ml = VolumeField(
        "layer_ml", label="Cavity volume", required=False, help_text="Leave blank to use the mould in the picture."
    )
    water_g = MassField("mass_g", label="Water that fills the whole mould", required=False, low=1)
    wall_mm = LengthField("film_mm", label="Wall thickness", initial=1.7, low=0.5, high=8)
    lid_mm = LengthField("film_mm", label="Lid or cap thickness", initial=2.0, low=0.5, high=8)
    base_mm = LengthField("film_mm", label="Thickness of the base", initial=3.0, low=0.5, high=9)
    filling_ml = VolumeField(
        "layer_ml", label="Filling in each piece", required=False, help_text="Leave blank to fill it."
    )
    insert_mm = LengthField("core_mm", label="Insert width", initial=10.0, high=200)
    insert_high_mm = LengthField("core_mm", label="Insert height", initial=8.0, high=200)
    detail = NumberField("marbled_share", label="Share of the details", initial=0.05, low=0.01, high=0.5)
    sticks = forms.BooleanField(label="Set on sticks", required=False)
    smash = forms.BooleanField(label="Made to be broken at the table", required=False)
    where = forms.ChoiceField(label="Place to set", choices=WHERE, initial="fridge", widget=forms.RadioSelect)
    places = CountField("cavities", label="Moulds that fit there at once", required=False, high=40)
    main = ("way", "count", "cavities", "moulds", "each_ml", "wall_mm")
    more = (
        "water_g",
        "lid_mm",
        "base_mm",
        "filling_ml",
        "insert_mm",
        "insert_high_mm",
        "detail",
        "sticks",
        "smash",
        "made_of",
        "where",
        "places",
    )
    pills = ("way", "made_of", "where")

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        for name in ("line_mm", "hole_mm", "speed_mm_s"):
            del self.fields[name]
        if isinstance(self.place.core, Hollow):
            preset = self.fields["preset"]
            assert isinstance(preset, forms.ChoiceField)
            preset.choices = [(OF_PIECE, "As large as the piece"), *((p.name, p.title) for p in PRESETS.values())]
