"""The recipe of a colour: one for every page and every size.

It is looked for once, for an ordinary bowl, and scaled from there in whole drops, so that the same bottles are taken
for six pieces and for sixty; or it is the one that was kept. Only where whole drops spoil it at the size at hand is it
looked for anew.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from coating.colour.ciede2000 import colour_difference
from coating.colour.mixing import Ingredient, Part, mix
from coating.colour.recipe import Lab, Recipe, recipe_of
from coating.colour.ways import ANY_WAY, MATCHES, NO_PRICES, ColourWay, recipe_in

ORDINARY_G = 300.0  # of base, for which a recipe is looked for
WORSE = 1.0  # dE00 by which it may lose when it is rounded to whole drops


def recipe_for(
    target_lab: Lab,
    bases: tuple[Ingredient, ...],
    colourants: tuple[Ingredient, ...],
    melt_g: float,
    way: ColourWay = ANY_WAY,
    *,
    kept: Sequence[Part] = (),
    prices: Mapping[str, float] = NO_PRICES,
) -> Recipe:
    """The recipe of a colour for so many g of base.

    Parameters
    ----------
    target_lab : wanted, CIELAB under D65. bases, colourants : what there is. melt_g : g of base. way : how it is to be
    found. kept : how it was made before, from these bases; nothing where it never was.

    Raises
    ------
    EmptyBowl : no base. OutOfBounds : the mass.
    """
    names = {base.name for base in bases}
    mine = kept and way == ANY_WAY and all(p.ingredient.name in names for p in kept if p.ingredient.is_base)
    ordinary = tuple(kept) if mine else recipe_in(target_lab, bases, colourants, ORDINARY_G, way, (), prices).parts
    recipe = scaled(ordinary, melt_g, target_lab)
    if recipe is not None:
        was = float(colour_difference(mix(ordinary).lab(), target_lab))
        if recipe.de00 <= max(MATCHES, was + WORSE):
            return recipe
    return recipe_in(target_lab, bases, colourants, melt_g, way, (), prices)


def scaled(parts: Sequence[Part], melt_g: float, target_lab: Lab) -> Recipe | None:
    """A recipe for another amount of base, g, in whole drops, pinches or grams; None where it has no base."""
    base_g = sum(p.mass_g for p in parts if p.ingredient.is_base)
    if base_g <= 0 or melt_g <= 0:
        return None
    times = melt_g / base_g
    added = [Part(p.ingredient, _units(p, times)) for p in parts if not p.ingredient.is_base]
    return recipe_of((*_bases(parts, melt_g, times), *added), target_lab)


def _bases(parts: Sequence[Part], melt_g: float, times: float) -> list[Part]:
    """In whole grams, and together as much as is melted; the first is what most of it is."""
    first, *others = sorted((p for p in parts if p.ingredient.is_base), key=lambda p: -p.mass_g)
    rest = [Part(p.ingredient, float(round(p.mass_g * times))) for p in others]
    rest = [p for p in rest if p.mass_g > 0]
    return [Part(first.ingredient, melt_g - sum(p.mass_g for p in rest)), *rest]


def _units(part: Part, times: float) -> float:
    """So many times as much of a colour, in whole units, and never none of it."""
    unit_g = part.ingredient.unit_g
    return max(1, round(part.mass_g * times / unit_g)) * unit_g if unit_g else part.mass_g * times
