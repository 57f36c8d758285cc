"""What a recipe for a colour means for the bowl: how it flows, how hard it sets, what it costs."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from coating.colour.cie import lab_from_reflectance
from coating.colour.ciede2000 import difference_word
from coating.colour.mixing import Part, mix
from coating.colour.recipe import Lab, Recipe
from coating.colour.upsampling import reflectance_from_lab
from coating.errors import NoSuchColour
from coating.flow.firmness import Firmness, firmness
from coating.flow.trade_number import number_from_flow
from coating.simulate.bowl import BowlContext, BowlState

NOTICED = 0.05  # thicker or thinner by less is not worth a word
_FOREIGN = {"chocolate": "palm_flakes", "coating": "cocoa_butter"}


@dataclass(frozen=True)
class Match:
    """A recipe with what follows from it.

    `thicker` : its trade number over that of the plain base, 1 for no change, None when it would not flow at all.
    `cost` : in the maker's money, None when a price of a base is not known; `unpriced` : colours without a price.
    """

    recipe: Recipe
    thicker: float | None
    firmness: Firmness
    cost: float | None
    unpriced: tuple[str, ...] = ()

    @property
    def word(self) -> str:
        """How far it is from the wish, in a word."""
        return difference_word(self.recipe.de00)

    @property
    def flow_word(self) -> str:
        """ "as it is", "thinner", "thicker" or "seizes" beside the plain base."""
        if self.thicker is None:
            return "seizes"
        if abs(self.thicker - 1) < NOTICED:
            return "as it is"
        return "thinner" if self.thicker < 1 else "thicker"


def match(recipe: Recipe, *, white: str, room_c: float, temperature_c: float, prices: Mapping[str, float]) -> Match:
    """What a recipe for a new bowl means, at its working temperature (degC) and set in a room (degC)."""
    context = BowlContext(room_c=room_c, white=white)
    state = BowlState(context, 0.0, recipe.parts, temperature_c, 0.0, 0.0, None)
    bases = tuple(p for p in recipe.parts if p.ingredient.is_base)
    plain = BowlState(context, 0.0, bases, temperature_c, 0.0, 0.0, None)
    after, before = state.flow(), plain.flow()
    thicker = number_from_flow(after) / number_from_flow(before) if after and before else None
    own = "palm" if white == "coating" else "cocoa"
    foreign_g = sum(p.mass_g * p.ingredient.fat_fraction for p in recipe.parts if p.ingredient.family not in ("", own))
    added = {_FOREIGN[state.fat_base]: foreign_g} if foreign_g else {}
    unknown = any(p.ingredient.name not in prices for p in bases)
    cost = None if unknown else sum(p.mass_g * prices.get(p.ingredient.name, 0.0) for p in recipe.parts)
    unpriced = tuple(p.ingredient.title for p in recipe.parts if p.ingredient.name not in prices)
    return Match(recipe, thicker, firmness(state.fat_base, added, state.fat_g, room_c), cost, unpriced)


def under_warm_lamps(parts: tuple[Part, ...], target_lab: Lab) -> tuple[Lab, Lab | None]:
    """Lab of a mix under illuminant A and of the target's likeliest spectrum (None where there is none)."""
    mixed = mix(parts).lab(illuminant="A")
    try:
        lightness, a, b = lab_from_reflectance(reflectance_from_lab(target_lab), illuminant="A")
    except NoSuchColour:
        return mixed, None
    return mixed, (float(lightness), float(a), float(b))
