"""Pale tints: so few whole units that rounding what the continuum found misses the best of them."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from coating.colour.search.space import Space
from coating.colour.search.weights import Weights

Array = NDArray[np.float64]

WIDTH, MOST_UNITS = 80, 5
PALE_UNITS = 8  # of colour in a recipe that is worth looking at so
KEPT = 6  # of each number of units
ROUNDED_BADLY = 0.4  # what rounding may cost before it is worth looking here


def is_pale(space: Space, grams: Array) -> bool:
    """Whether a recipe (n,) of a new bowl has few units of colour."""
    colours = slice(space.n_bases, space.n)
    return space.fresh and float((grams[colours] / space.unit_g[colours]).sum()) <= PALE_UNITS


def few_units(space: Space, weights: Weights) -> Array:
    """Grams (B, n) of the best recipes of one to five units, a unit more a level; none for a bowl that is added to."""
    rows = space.seeds()
    batches = [rows[:0]]
    if not space.fresh:
        return rows[:0]
    steps = np.zeros((space.n - space.n_bases, rows.shape[1]))
    js = np.arange(space.n_bases, space.n)
    steps[np.arange(len(js)), js] = space.unit_g[js]
    for _ in range(MOST_UNITS):
        wider = (rows[:, None, :] + steps[None, :, :]).reshape(-1, rows.shape[1])
        counts = np.round(wider / space.unit_g).astype(np.int64)
        wider = wider[np.unique(counts, axis=0, return_index=True)[1]]
        seen = space.measure(wider)
        de00 = np.where(space.allowed(wider, seen), seen.de00, np.inf)
        rows = wider[np.argsort(de00, kind="stable")[: min(WIDTH, int(np.isfinite(de00).sum()))]]
        if not len(rows):
            break
        batches.append(rows[np.argsort(weights.cost(space, rows), kind="stable")[:KEPT]])
    return np.concatenate(batches)
