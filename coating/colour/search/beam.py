"""Candidates for a target: one more ingredient a level, the best sets of ingredients kept and refined."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from coating.colour.search.refine import refine
from coating.colour.search.space import Space
from coating.colour.search.weights import Weights

Array = NDArray[np.float64]

BEAM, KEEP, ROUNDS = 20, 12, 2
ROUNDING = 0.2  # about what whole units cost
FINALISTS, PER_COUNT = 12, 2


def candidates(space: Space, weights: Weights) -> Array:
    """Grams (B, n) of every level's best, not yet in whole units, over all sets of ingredients within the bounds."""
    beam = space.seeds()
    levels = [beam]
    lowest = np.inf
    for level in range(min(space.bounds.colourants + space.bounds.bases, space.bounds.items)):
        wider = space.widen(beam)
        if not len(wider):
            break
        beam = best_of_each(space, weights, wider, BEAM)
        beam = best_of_each(space, weights, refine(space, beam, rounds=ROUNDS, per_gram=weights.pull), KEEP)
        if not len(beam):
            break
        levels.append(beam)
        lowest = min(lowest, float(weights.cost(space, beam[:1])[0]))
        if lowest + ROUNDING <= weights.least(level + 2):
            break  # nothing with one more could be worth it
    return np.concatenate(levels)


def finalists(space: Space, weights: Weights, pool: Array, *, limit: int = FINALISTS) -> Array:
    """The best of a pool by cost, and the two best of every count of colourants."""
    order = np.argsort(weights.cost(space, pool), kind="stable")
    chosen = list(order[:limit])
    counts = (pool[order][:, space.is_colour] > 0).sum(axis=1)
    for count in np.unique(counts):
        chosen += [row for row in order[counts == count][:PER_COUNT] if row not in chosen]
    return np.asarray(pool[chosen])


def best_of_each(space: Space, weights: Weights, rows: Array, limit: int) -> Array:
    """The best rows that are allowed, one of each set of ingredients."""
    costs = weights.cost(space, rows)
    order = np.argsort(costs, kind="stable")
    order = order[: np.searchsorted(costs[order], np.inf)]
    supports = (rows[order] > 0) @ space.bits
    first = np.sort(np.unique(supports, return_index=True)[1])[:limit]
    return np.asarray(rows[order[first]])
