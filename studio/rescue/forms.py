"""What a maker may add about a piece, what is done, and whether it helped."""

from __future__ import annotations

from typing import Any

from django import forms

from coating.care.diagnosis import TABLES, Piece
from coating.care.diagnosis.looks import CANNOT_TELL
from studio.common.forms import CountField, LengthField, NumberField, TemperatureField
from studio.common.types import Typed
from studio.rescue.models import Rescue

DOES_NOT_KNOW = ("", "I do not know")
PLACES = (DOES_NOT_KNOW, ("room", "in the room"), ("fridge", "in the fridge"), ("freezer", "in the freezer"))
CORES = (DOES_NOT_KNOW, ("dry", "dry"), ("moist", "damp"), ("greasy", "greasy"))
WALLS = (DOES_NOT_KNOW, ("chilled", "chilled"), ("room", "as warm as the room"), ("frozen", "frozen"))
SIDES = (DOES_NOT_KNOW, ("chocolate", "towards the chocolate"), ("away", "away from it"))
YES_NO = (DOES_NOT_KNOW, ("yes", "yes"), ("no", "no"))
DONE = ("shaken", "scraped", "tapped")
# What is asked for each cause; what decides nothing is not asked.
ASKED_FOR = {
    "early_out": ("since_min", "place", "thickness_mm"),
    "lifted_late": ("since_min", "place", "thickness_mm"),
    "lifted_early": ("since_min", "place", "thickness_mm"),
    "toppings_late": ("since_min", "place", "thickness_mm"),
    "toppings_early": ("since_min", "place", "thickness_mm"),
    "bead_set": ("since_min", "place", "thickness_mm"),
    "chilled_hard": ("place",),
    "damp": ("place",),
    "stick_not_set": ("stick_min",),
    "cold_core": ("core_c",),
    "moist_core": ("core",),
    "not_shaken": ("shaken",),
    "not_scraped": ("scraped",),
    "not_tapped": ("tapped",),
    "thin_wall": ("thickness_mm",),
    "hole_small": ("hole_mm", "line_mm"),
    "hole_big": ("hole_mm", "line_mm"),
    "cold_bag": ("bag_min",),
    "wall_warm": ("wall",),
    "wall_cold": ("wall",),
    "print_away": ("printed_side",),
    "thick_paint": ("coats",),
    "water": ("wet",),
}


def _choice(label: str, choices: tuple[tuple[str, str], ...]) -> forms.ChoiceField:
    return forms.ChoiceField(label=label, choices=choices, required=False)


class FactsForm(forms.Form):
    """Only what can tell causes of a symptom apart is asked, and all of it may be left blank."""

    since_min = NumberField("since_min", label="Minutes since you made it", required=False)
    place = _choice("Where it stood", PLACES)
    thickness_mm = LengthField("thickness_mm", label="Thickness", required=False)
    core_c = TemperatureField("temperature_c", label="Temperature of the core", required=False)
    core = _choice("Surface of the core", CORES)
    stick_min = NumberField("since_min", label="Minutes the stick had to set", required=False)
    wall = _choice("Temperature of the cake", WALLS)
    printed_side = _choice("Printed side of the film", SIDES)
    coats = CountField("paint_coats_most", label="Coats painted", required=False)
    hole_mm = LengthField("hole_mm", label="Hole in the bag", required=False)
    line_mm = LengthField("bead_mm", label="Line width", required=False)
    bag_min = NumberField("since_min", label="Minutes the bag lay aside", required=False)
    shaken = _choice("Shaken off", YES_NO)
    scraped = _choice("Base scraped", YES_NO)
    tapped = _choice("Tapped", YES_NO)
    wet = _choice("Steam, wet fruit or a wet spoon", YES_NO)

    def __init__(self, data: Any = None, *, symptom: str, known: Typed) -> None:
        self.known = known
        shown = {name: self._shown(value) for name, value in known.items() if name in self.base_fields}
        super().__init__(data, initial=shown)
        causes = TABLES.showing(symptom)
        wanted = {name for cause in causes for name in ASKED_FOR.get(cause.name, ())}
        self.fields = {name: field for name, field in self.fields.items() if name in wanted}

    @staticmethod
    def _shown(value: Any) -> Any:
        return round(value, 1) if isinstance(value, float) else value

    @property
    def has_fields(self) -> bool:
        """Whether anything is asked."""
        return bool(self.fields)

    def said(self) -> Typed:
        """What was typed, as valid."""
        return {name: value for name, value in getattr(self, "cleaned_data", {}).items() if value not in (None, "")}

    def piece(self) -> Piece:
        """What is known of the piece, what was typed over what the house knew."""
        said = self.said()
        done = {what: said.pop(what) for what in DONE if what in said}
        said.pop("wet", None)
        facts: dict[str, Any] = {k: v for k, v in {**self.known, **said}.items() if k in Piece.__dataclass_fields__}
        if {"place", "thickness_mm"} & {n for n in said if said[n] != self._shown(self.known.get(n))}:
            facts.pop("sets", None)
            facts.pop("pliable", None)
        if done:
            facts["done"] = tuple(what for what in DONE if done.get(what, "yes") == "yes")
        return Piece(**facts)

    def wet_said(self) -> bool | None:
        """Whether something wet came near it; None where nobody said."""
        said = self.said().get("wet", self.known.get("wet"))
        return None if said is None else said == "yes"


def answers_of(data: Typed) -> dict[str, str]:
    """What was looked at and seen, by look, as an address has it; what is no answer is left out."""
    answers = {}
    for name, look in TABLES.by_look.items():
        said = data.get(f"look-{name}")
        if said in (*look.answers, CANNOT_TELL):
            answers[name] = said
    return answers


class DoForm(forms.Form):
    """A move, the bowl as the page knew it, and the name of this send."""

    move = forms.ChoiceField(choices=[(m.name, m.name) for m in TABLES.moves])
    seq = forms.IntegerField(min_value=0, max_value=2**31 - 1, required=False)
    key = forms.UUIDField()


class HelpedForm(forms.Form):
    """One of three answers."""

    helped = forms.ChoiceField(choices=Rescue.HELPED)
