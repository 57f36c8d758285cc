"""A bowl has done its work: what was left in it, and so what went on what was made."""

from __future__ import annotations

import math

from django import forms

from coating.quantities import TABLESPOON_ML
from coating.techniques import TECHNIQUES
from coating.techniques.base import FILM, LINE, SPREAD
from studio.bowls.adapters import Desk
from studio.bowls.sends import SendForm
from studio.common.forms import MassField
from studio.common.types import Json, Typed
from studio.pieces.reckoned import core_of

SPOON_G = 1.2 * TABLESPOON_ML
# What is left by eye: as a share of what was in the bowl or as g, and how far off that may be, as the same; common
# practice, no source.
LEFT = {
    "nothing": ("nothing", 0.0, 0.0, 5.0),
    "spoon": ("a spoonful", 0.0, SPOON_G, 8.0),
    "quarter": ("a quarter", 0.25, 0.0, 0.06),
    "half": ("half", 0.5, 0.0, 0.08),
}
SEVERAL_G = 1.0  # what a kitchen scale may be off with a bowl on it


class DoneForm(SendForm):
    """What is left, by eye or weighed; nothing said: as reckoned."""

    left = forms.ChoiceField(choices=[(k, v[0]) for k, v in LEFT.items()], required=False)
    left_g = MassField("mass_g", label="What is left weighs", low=0, high=20000, required=False)
    count = forms.IntegerField(label="Pieces that were made", min_value=1, max_value=100_000, required=False)

    def left_over(self, desk: Desk) -> tuple[float, float] | None:
        """What is left, g, and how far off that may be, g; None where nobody looked."""
        weighed, seen, mass_g = self.cleaned_data.get("left_g"), self.cleaned_data.get("left"), desk.now.mass_g
        if weighed is not None:
            return min(weighed, mass_g), SEVERAL_G
        if not seen:
            return None
        _, share, grams, off = LEFT[seen]
        return (share * mass_g, off * mass_g) if share else (min(grams, mass_g), off)


def used_says(desk: Desk, form: DoneForm) -> tuple[float, Json]:
    """What was used, g, and what else is kept with it: what was left, and what was made of it."""
    left = form.left_over(desk)
    if left is None:
        return min(form.cleaned_data["used_g"] or 0.0, desk.now.mass_g), {}
    left_g, off_g = left
    used_g, made = desk.now.mass_g - left_g, _made(desk, form.cleaned_data.get("count"))
    more: Json = {"left_g": round(left_g, 1)}
    if made is not None and used_g - made["lost_g"] > 0:
        made["off"] = round(off_g / (used_g - made["lost_g"]), 4)
        more["made"] = made
    return used_g, more


def planned_count(desk: Desk) -> int:
    """How many pieces its job makes from it, spares too."""
    return sum(line.pieces for line in desk.reckoned.lines) if desk.reckoned else 0


def _made(desk: Desk, count: int | None) -> Json | None:
    """What its job says was made of it with one technique, as it is assumed, of as many as there are (None: all); None
    where that is not one thing: several techniques, what was typed or counted, or something that was taken out."""
    bowl = desk.reckoned
    if bowl is None or desk.portion or desk.now.given_g or desk.now.used_g or not desk.layers:
        return None
    techniques = {line.technique for line in bowl.lines}
    if len(techniques) != 1 or any(line.typed for line in bowl.lines):
        return None
    (name,) = techniques
    measured, known = TECHNIQUES[name].measured, desk.job_goes_by
    if measured not in (FILM, SPREAD, LINE):
        return None
    planned = planned_count(desk)
    share = (count or planned) / planned if planned else 1.0
    made: Typed = {
        "technique": name,
        "how": measured,
        "lost_g": bowl.lost_g,
        "count": count or planned,
    }
    if measured == FILM:
        core, line = core_of(desk.layers[0].piece), bowl.lines[0]
        made["expected_g"] = share * sum(la.made_g / la.thickness_mm for la in bowl.lines)
        made["below_mm"] = max(1.0, min(core.runs_mm, core.length_mm) / 2)
        return made if line.thickness_mm > 0 and math.isfinite(made["expected_g"]) else None
    by_hand = known.hole**2 if measured == LINE else known.coat(name)
    made["expected_g"] = share * bowl.made_g / by_hand
    return made
