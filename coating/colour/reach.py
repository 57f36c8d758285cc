"""What to say of a colour that cannot be had: why, how absurd the dose would be, which coating comes nearer."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from coating.colour.mixing import Ingredient, Part, mix
from coating.colour.recipe import REACHABLE, UNBOUND, Lab, Recipe, find_recipes, kitchen_weights
from coating.colour.search.space import Bounds

ABSURD = 10.0  # times what the base carries
MANY = 16  # times the base, in which a drop is no longer much
VIVID, DARK = 20.0, 50.0


@dataclass(frozen=True)
class TooLittle:
    """So little base that a whole drop is too much: `recipe` for the least base that whole drops suit."""

    recipe: Recipe

    @property
    def least_base_g(self) -> float:
        """g of base."""
        return sum(p.mass_g for p in self.recipe.parts if p.ingredient.is_base)

    @property
    def whole(self) -> Part:
        """The one drop or pinch that is too much: of what there is least of."""
        fewest = min((p for p in self.recipe.parts if p.ingredient.is_colourant), key=lambda p: p.units)
        return Part(fewest.ingredient, fewest.ingredient.unit_g)


@dataclass(frozen=True)
class OutOfReach:
    """`reason`: "drop" when a whole drop (or pinch) is too much for so little base, "load" when only the dose stands in
    the way, else "range"; `absurd` what it would take then.

    `ready` : bases that are coloured already, each with the recipe it is softened by, nearest first.
    """

    reason: str
    absurd: Recipe
    ready: tuple[tuple[Ingredient, Recipe], ...]
    too_little: TooLittle | None = None


def is_ready_coloured(base: Ingredient) -> bool:
    """A coating sold in a colour: palm fat, and vivid or dark."""
    lightness, a, b = mix([Part(base, 1.0)]).lab()
    return base.is_base and base.family == "palm" and (float(np.hypot(a, b)) > VIVID or lightness < DARK)


def out_of_reach(
    target_lab: Lab,
    bases: tuple[Ingredient, ...],
    colourants: tuple[Ingredient, ...],
    base_mass_g: float,
    ready: Sequence[Ingredient],
    *,
    bounds: Bounds = UNBOUND,
) -> OutOfReach:
    """Why a colour is out of reach and what comes nearer.

    Parameters
    ----------
    target_lab, bases, colourants, base_mass_g, bounds : as of the search that did not reach it.
    ready : coatings sold in a colour, whether they are in the cupboard or not.
    """
    weights = (kitchen_weights(bases, max(base_mass_g, 1.0)),)
    high = replace(bounds, load=ABSURD)
    absurd = find_recipes(target_lab, bases, colourants, base_mass_g, weights, (), high)[0]
    ways = []
    for base in ready:
        whites = tuple(b for b in bases if b.name != base.name)
        locked = replace(bounds, locked=(base.name,))
        recipe = find_recipes(target_lab, (base, *whites), colourants, base_mass_g, weights, (), locked)[0]
        ways.append((base, recipe))
    ways.sort(key=lambda pair: pair[1].de00)
    too_little = too_little_base(target_lab, bases, colourants, base_mass_g, bounds=bounds)
    if too_little is not None:
        return OutOfReach("drop", absurd, tuple(ways), too_little)
    reason = "load" if absurd.de00 <= REACHABLE and absurd.load > bounds.load else "range"
    return OutOfReach(reason, absurd, tuple(ways))


def too_little_base(
    target_lab: Lab,
    bases: tuple[Ingredient, ...],
    colourants: tuple[Ingredient, ...],
    base_mass_g: float,
    *,
    bounds: Bounds = UNBOUND,
) -> TooLittle | None:
    """The least base, in tens of g, in which whole drops reach a colour that they do not reach in so little.

    Parameters as of `out_of_reach`. None where it is not the drop that stands in the way.
    """

    whites = tuple(b for b in bases if b.sort == "white") or bases  # a gram of a coloured bag is no drop

    def of(mass_g: float) -> Recipe:
        weights = (kitchen_weights(whites, max(mass_g, 1.0)),)
        return find_recipes(target_lab, whites, colourants, mass_g, weights, (), bounds)[0]

    if not of(MANY * base_mass_g).reachable:
        return None
    tens = range(int(base_mass_g // 10) + 1, int(MANY * base_mass_g // 10) + 1)
    low, high = 0, len(tens) - 1  # more base divides a drop further
    while low < high:
        middle = (low + high) // 2
        low, high = (low, middle) if of(10.0 * tens[middle]).reachable else (middle + 1, high)
    shortage = of(10.0 * tens[low])
    return (
        TooLittle(shortage) if shortage.reachable and any(p.ingredient.is_colourant for p in shortage.parts) else None
    )
