"""A recipe for a colour: whole units in one or two bases, or added to what is in the bowl.

A beam over sets of ingredients, refined in the continuum, then a descent in whole units (`coating.colour.search`), so
that nothing is lost by rounding. Deterministic: the same question has the same answer.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from coating.colour.cie import lab_from_reflectance
from coating.colour.ciede2000 import colour_difference
from coating.colour.kubelka_munk1931 import reflectance_from_ratio
from coating.colour.mixing import Ingredient, Part, merge, mix
from coating.colour.search.beam import candidates, finalists
from coating.colour.search.descent import descend, whole_units
from coating.colour.search.few_units import ROUNDED_BADLY, few_units, is_pale
from coating.colour.search.full_load import FAR, full_load
from coating.colour.search.space import Bounds, Space
from coating.colour.search.weights import Weights
from coating.errors import EmptyBowl, OutOfBounds
from coating.limits import check

Array = NDArray[np.float64]
Lab = tuple[float, float, float]

REACHABLE = 3.0
DROP_SPREAD = 0.2
UNBOUND = Bounds()
PLAIN = Weights()  # difference + .3 a colourant + .2 the second base + .2 the load
_PER_OFF_WHITE = 0.006  # a colour is made from white where white will do
_SECOND_BAG, _FULL_OF_COLOUR, _PER_ITEM_ADDED, _PER_GRAM_ADDED = 1.0, 1.0, 0.15, 0.02


@dataclass(frozen=True)
class Recipe:
    """Parts (in g) to put in, the colour they give and how far it is from the target."""

    parts: tuple[Part, ...]
    lab: Lab
    de00: float
    load: float

    @property
    def reachable(self) -> bool:
        """Whether the shade is close enough to the wish to be called a match."""
        return self.de00 <= REACHABLE


def kitchen_weights(bases: Sequence[Ingredient], total_g: float, *, adding: bool = False) -> Weights:
    """What a maker minds: a second bag, much colour, a base far from white, and in a bowl that is made more grams and
    items."""
    minded = replace(PLAIN, base=_SECOND_BAG, load=_FULL_OF_COLOUR)
    if adding:
        return replace(minded, item=_PER_ITEM_ADDED, gram=_PER_GRAM_ADDED)
    dull = tuple((b.name, _PER_OFF_WHITE * _dullness(b) / total_g) for b in bases)
    return replace(minded, per_g=dull)


@lru_cache(maxsize=256)
def _dullness(base: Ingredient) -> float:
    k, s = base.optics()
    lab = lab_from_reflectance(reflectance_from_ratio(k / np.maximum(s, 1e-12)))
    return float(100 - lab[0] + np.hypot(lab[1], lab[2]))


@lru_cache(maxsize=256)
def find_recipes(
    target_lab: Lab,
    bases: tuple[Ingredient, ...],
    colourants: tuple[Ingredient, ...],
    base_mass_g: float,
    ways: tuple[Weights, ...],
    start: tuple[Part, ...] = (),
    bounds: Bounds = UNBOUND,
) -> tuple[Recipe, ...]:
    """The recipe that costs least by each of several weights; the sets of ingredients are looked through once.

    Parameters
    ----------
    target_lab : wanted, CIELAB under D65. bases, colourants : what may be used.
    base_mass_g : g of base of a new bowl, to the gram; of no account when `start` holds a bowl, which is added to.
    ways : at least one; the first rules which sets are looked at. bounds : counts, load, fats, what must be in.

    Raises
    ------
    EmptyBowl : no base to make it from. OutOfBounds : the base mass, or so little that it cannot hold what must be in.
    """
    base_mass_g = check("mass_g", base_mass_g, "base_mass_g")
    if not start and (not bases or base_mass_g < 1):
        raise EmptyBowl("There is no base to make this colour from.", field="bases")
    total_g = None if start else base_mass_g
    space = Space(target_lab, bases, colourants, bounds=bounds, start=start, total_g=total_g)
    pool = candidates(space, ways[0])
    recipes = []
    if space.near.de00(space.measure(pool).lab).min(initial=np.inf) > FAR:
        pool = np.concatenate([pool, full_load(space, ways[0])])
    for weights in ways:
        rows, costs = descend(space, whole_units(space, finalists(space, weights, pool)), weights)
        best = rows[int(np.argmin(costs))]
        gap = costs.min() - float(weights.cost(space, pool).min())
        if gap > ROUNDED_BADLY and is_pale(space, best):
            more, their_costs = descend(space, few_units(space, weights), weights)
            rows, costs = np.concatenate([rows, more]), np.concatenate([costs, their_costs])
        if not np.isfinite(costs.min()):
            raise OutOfBounds(
                "So little base cannot carry the colours that must go in. Make more, or let one of them be left out.",
                field="melt_g",
            )
        best = rows[min(np.flatnonzero(costs <= costs.min() + 1e-9), key=lambda i: tuple(rows[i]))]
        recipes.append(recipe_of(parts_of(space, best), target_lab, start))
    return tuple(recipes)


def find_recipe(
    target_lab: Lab,
    bases: tuple[Ingredient, ...],
    colourants: tuple[Ingredient, ...],
    base_mass_g: float,
    start: tuple[Part, ...] = (),
    max_colourants: int = 3,
    mixed_fats: bool = False,
) -> Recipe:
    """Parts that come nearest to a colour, as a maker would have it: see `find_recipes`.

    Returns
    -------
    Recipe: for a new bowl everything to put in, else only the additions (perhaps none).
    """
    weights = kitchen_weights(bases, max(base_mass_g, 1.0), adding=bool(start))
    bounds = Bounds(colourants=max_colourants, mixed_fats=mixed_fats)
    base_mass_g = float(round(check("mass_g", base_mass_g)))
    return find_recipes(target_lab, bases, colourants, base_mass_g, (weights,), start, bounds)[0]


def parts_of(space: Space, grams: Array) -> tuple[Part, ...]:
    """What a row of the search puts in."""
    return tuple(Part(i, round(float(g), 6)) for i, g in zip(space.ingredients, grams, strict=True) if g > 1e-9)


def recipe_of(additions: tuple[Part, ...], target_lab: Sequence[float], start: tuple[Part, ...] = ()) -> Recipe:
    """What parts, put into a bowl or mixed by themselves, come to."""
    whole = mix(merge((*start, *additions)))
    lab = whole.lab()
    return Recipe(additions, lab, float(colour_difference(lab, target_lab)), whole.load or 0.0)


BAND = (-1.0, -0.5, 0.0, 0.5, 1.0)


def colour_band(parts: Sequence[Part], *, spreads: Mapping[str, float] | None = None) -> list[Lab]:
    """Lab of a recipe with every drop at its lightest, half way, as reckoned, half way and at its heaviest.

    Parameters
    ----------
    spreads : relative range of a drop by name of the colourant; a fifth where it is not given.

    Raises EmptyBowl.
    """
    known = spreads or {}
    labs = []
    for share in BAND:
        scaled = []
        for p in parts:
            by = known.get(p.ingredient.name, DROP_SPREAD) if p.ingredient.is_colourant else 0.0
            scaled.append(Part(p.ingredient, p.mass_g * (1 + share * by)))
        labs.append(mix(scaled).lab())
    return labs
