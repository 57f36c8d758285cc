"""Several shades from one melt: the palest first, what is left deepened into the next, in as few bowls as can be."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from coating.colour.mixing import Ingredient, Part, merge
from coating.colour.recipe import Lab, Recipe, find_recipe

MOST_SHADES = 9
CLOSE = 2.0
BOWL_LOSS_G = 8.0  # stays on bowl and spatula; common practice, no source


@dataclass(frozen=True)
class Shade:
    """A shade that is wanted, and how many g of it."""

    name: str
    lab: Lab
    grams: float


@dataclass(frozen=True)
class Rung:
    """A shade, what goes in for it, what it comes to, and the mass of the bowl before any of it is used, g."""

    shade: Shade
    recipe: Recipe
    mass_g: float


@dataclass(frozen=True)
class Bowlful:
    """One bowl: the base it begins with, g, and its shades from the palest to the deepest."""

    base_g: float
    rungs: tuple[Rung, ...]


def tint_ladder(
    shades: Sequence[Shade], bases: tuple[Ingredient, ...], colourants: tuple[Ingredient, ...]
) -> list[Bowlful]:
    """Bowls that make every shade, each next one from what is left of the one before.

    A shade follows another if adding colour alone brings the rest of that bowl within 2 dE00 of it (or as near as a
    fresh bowl comes). The fewest bowls that cover all shades, found as an assignment; what stays in a bowl is lost
    once a bowl, so fewer bowls waste less. Raises EmptyBowl.
    """
    from scipy.optimize import linear_sum_assignment

    order = sorted(shades, key=lambda s: (-s.lab[0], s.name))
    total_g = sum(s.grams for s in order) + BOWL_LOSS_G
    fresh = [find_recipe(s.lab, bases, colourants, total_g) for s in order]
    n = len(order)
    cost = np.full((n, n), 1.0)
    for i in range(n):
        for j in range(i + 1, n):
            follows = find_recipe(order[j].lab, (), colourants, 0.0, fresh[i].parts)
            if follows.de00 <= max(CLOSE, fresh[j].de00 + 0.5):
                cost[i, j] = follows.de00 / 100
    after = {int(i): int(j) for i, j in zip(*linear_sum_assignment(cost), strict=True) if cost[i, j] < 1.0}
    first = [i for i in range(n) if i not in after.values()]
    return [_bowlful([order[k] for k in _chain(i, after)], bases, colourants) for i in first]


def _chain(first: int, after: dict[int, int]) -> list[int]:
    chain = [first]
    while chain[-1] in after:
        chain.append(after[chain[-1]])
    return chain


def _bowlful(shades: Sequence[Shade], bases: tuple[Ingredient, ...], colourants: tuple[Ingredient, ...]) -> Bowlful:
    base_g = float(round(sum(s.grams for s in shades) + BOWL_LOSS_G))
    held: tuple[Part, ...] = ()
    rungs = []
    for shade in shades:
        if held:
            recipe = find_recipe(shade.lab, (), colourants, 0.0, held)
        else:
            recipe = find_recipe(shade.lab, bases, colourants, base_g)
        held = merge((*held, *recipe.parts))
        mass_g = sum(p.mass_g for p in held)
        rungs.append(Rung(shade, recipe, mass_g))
        left = max(0.0, 1 - shade.grams / mass_g)
        held = tuple(Part(p.ingredient, p.mass_g * left) for p in held)
    return Bowlful(base_g, tuple(rungs))
