"""Bringing a bowl that went astray to its colour, by adding only and as little as will do."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from itertools import product

import numpy as np
from numpy.typing import NDArray

from coating.colour.mixing import Ingredient, Part, merge
from coating.colour.recipe import Lab, Recipe, parts_of, recipe_of
from coating.colour.search.beam import FINALISTS, best_of_each, candidates
from coating.colour.search.descent import descend
from coating.colour.search.space import Bounds, Space
from coating.colour.search.weights import Weights
from coating.errors import EmptyBowl

Array = NDArray[np.float64]

NEAR = 2.0  # a difference that is let be
NEAR_ENOUGH = 2.02
LEAST = Weights(difference=0.0, colourant=0, base=0, load=0, item=3, gram=1, near=NEAR, beyond=200, pull=0.02)
WORTH_IT = replace(LEAST, beyond=50)  # 50 g more must bring one nearer
MOST_TIMES = 2.0  # the bowl's own mass, added at most
_ROUNDING = 1.0  # dE00 that whole units and a descent may bring
_SCALES = np.linspace(1 / 26, 1.0, 26)


@dataclass(frozen=True)
class Correction:
    """What to add and what the bowl then is; `added_g` in g, `mass_g` of everything after."""

    recipe: Recipe
    added_g: float
    mass_g: float

    @property
    def reachable(self) -> bool:
        """Whether adding alone brings the bowl near enough to the wish."""
        return self.recipe.de00 <= NEAR_ENOUGH


@lru_cache(maxsize=256)
def correct(
    bowl: tuple[Part, ...],
    target_lab: Lab,
    bases: tuple[Ingredient, ...],
    colourants: tuple[Ingredient, ...],
    max_total_g: float | None = None,
    mixed_fats: bool = False,
) -> Correction:
    """The least that brings a bowl within 2 dE00 of a colour; where none does, the most that 50 g a dE00 will buy.

    Parameters
    ----------
    bowl : what is in it. target_lab : wanted, CIELAB under D65. bases, colourants : what may be added.
    max_total_g : bowl and additions, g; three times the bowl where it is not given, and never more.

    Raises EmptyBowl.
    """
    bowl = merge(bowl)
    bowl_g = sum(p.mass_g for p in bowl)
    if bowl_g <= 0:
        raise EmptyBowl("There is nothing in this bowl yet.", field="bowl")
    most_g = MOST_TIMES * bowl_g
    if max_total_g is not None:
        most_g = max(0.0, min(most_g, max_total_g - bowl_g))
    bounds = Bounds(colourants=3, bases=2, items=4, most_g=most_g, mixed_fats=mixed_fats)
    space = Space(target_lab, bases, colourants, bounds=bounds, start=bowl)
    pool = candidates(space, LEAST)
    hopeful = bool((space.measure(pool).de00 <= NEAR + _ROUNDING).any())
    best = _least(space, pool, LEAST if hopeful else WORTH_IT)
    if hopeful and space.measure(best[None]).de00[0] > NEAR_ENOUGH:
        best = _least(space, pool, WORTH_IT)
    parts = parts_of(space, best)
    added_g = sum(p.mass_g for p in parts)
    return Correction(recipe_of(parts, target_lab, bowl), added_g, bowl_g + added_g)


def _least(space: Space, pool: Array, weights: Weights) -> Array:
    """The cheapest of a pool in whole units."""
    rows = best_of_each(space, weights, _shrunk(space, pool, weights), FINALISTS)
    rows = np.concatenate([_roundings(space, row) for row in rows])
    rows = best_of_each(space, weights, rows, FINALISTS)
    rows, costs = descend(space, rows, weights, insert=True)
    return np.asarray(rows[min(np.flatnonzero(costs <= costs.min() + 1e-9), key=lambda i: tuple(rows[i]))])


def _shrunk(space: Space, rows: Array, weights: Weights) -> Array:
    """Each row at the share of itself that costs least."""
    scaled = rows[:, None, :] * _SCALES[None, :, None]
    costs = weights.cost(space, scaled.reshape(-1, rows.shape[1])).reshape(len(rows), _SCALES.size)
    return np.asarray(scaled[np.arange(len(rows)), np.argmin(costs, axis=1)])


def _roundings(space: Space, row: Array) -> Array:
    """A row with each amount rounded down or up to whole units, every combination."""
    used = np.flatnonzero(row > 1e-9)
    units = row[used] / space.unit_g[used]
    ends = [sorted({np.floor(u), np.ceil(u)}) for u in units]
    rows = np.zeros((max(1, int(np.prod([len(e) for e in ends]))), row.size))
    for to, chosen in zip(rows, product(*ends), strict=True):
        to[used] = np.array(chosen) * space.unit_g[used]
    return rows


def bowls_for(mass_g: float, bowl_holds_g: float) -> int:
    """Into how many bowls of a size a mass is split."""
    return max(1, int(np.ceil(mass_g / bowl_holds_g - 1e-9)))


def nearest(lab: Sequence[float], wanted: Sequence[tuple[str, Lab]]) -> tuple[str, float] | None:
    """Of other colours that are wanted the nearest one, by name, and its difference."""
    from coating.colour.ciede2000 import colour_difference

    if not wanted:
        return None
    differences = colour_difference(np.array([w[1] for w in wanted]), np.asarray(lab, dtype=float))
    best = int(np.argmin(differences))
    return wanted[best][0], float(differences[best])
