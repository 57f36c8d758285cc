"""What is in a bowl becomes the recipe of its colour in the swatch book."""

from __future__ import annotations

from coating.colour.ciede2000 import colour_difference
from coating.colour.mixing import Part
from coating.simulate.bowl import BowlState
from studio.colours.models import Colour
from studio.common import clock
from studio.common.templatetags.kitchen import UNIT_WORDS
from studio.common.types import Typed


def keep_recipe(colour: Colour, state: BowlState, *, white: str) -> None:
    """Note how a colour was made: what is in the bowl, and how near it came (by the reading, where there is one)."""
    seen = state.reading or state.mixture().lab()
    colour.made = {
        "v": 1,
        "on": clock.now().date().isoformat(),
        "white": white,
        "lab": [round(v, 3) for v in seen],
        "de00": round(float(colour_difference(seen, colour.lab)), 3),
        "parts": [_kept(p) for p in state.parts],
    }
    colour.save(update_fields=["made"])


def _kept(part: Part) -> Typed:
    words = UNIT_WORDS.get(part.ingredient.kind)
    units = round(part.units, 1) if words else round(part.mass_g, 1)
    return {
        "code": part.ingredient.name,
        "name": part.ingredient.title,
        "mass_g": round(part.mass_g, 2),
        "units": units,
        "counted": (words[0] if units == 1 else words[1]) if words else "",
    }
