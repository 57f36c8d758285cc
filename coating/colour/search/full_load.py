"""Deep and dark colours: as much colour as a base carries, shared among two or three colourants.

Far from a target the ellipsoid near it leads a refinement astray; what is best lies on the limit of the load then.
"""

from __future__ import annotations

from itertools import combinations

import numpy as np
from numpy.typing import NDArray

from coating.colour.search.beam import best_of_each
from coating.colour.search.space import Space
from coating.colour.search.weights import Weights

Array = NDArray[np.float64]

FAR = 6.0  # dE00 of the best that was found, from which on it is worth looking here
SHARES, KEPT = 8, 16


def full_load(space: Space, weights: Weights) -> Array:
    """Grams (B, n) of the best full loads of one colourant, of two and of three; none for a bowl that is added to."""
    seeds = space.seeds()
    colours = np.flatnonzero(space.is_colour[: space.n])
    if not space.fresh or not len(colours):
        return seeds[:0]
    alone = np.eye(len(colours))
    rows = _loaded(space, seeds, alone, colours)
    pairs = [
        share / SHARES * alone[i] + (1 - share / SHARES) * alone[j]
        for i, j in combinations(range(len(colours)), 2)
        for share in range(1, SHARES)
    ]
    batches = [best_of_each(space, weights, rows, KEPT)]
    if pairs:
        two = best_of_each(space, weights, _loaded(space, seeds, np.array(pairs), colours), KEPT)
        batches += [two, best_of_each(space, weights, _shared(space, two, colours), KEPT)]
    return np.concatenate(batches)


def _loaded(space: Space, seeds: Array, shares: Array, colours: NDArray[np.intp]) -> Array:
    """Every seed with every share (S, colours) of the load it has room for."""
    sums = seeds @ space.summed
    room = np.maximum(space.load_limit * sums[:, 0] - sums[:, 1], 0.0)
    rows = np.repeat(seeds, len(shares), axis=0)
    rows[:, colours] += (
        np.repeat(room, len(shares))[:, None] * np.tile(shares, (len(seeds), 1)) / space.per_cap[colours]
    )
    return rows


def _shared(space: Space, rows: Array, colours: NDArray[np.intp]) -> Array:
    """Rows with a part of all their colour given up for each colourant in turn."""
    blocks = []
    for j in colours:
        for share in (1 / SHARES, 3 / SHARES):
            block = rows.copy()
            freed = share * (block[:, colours] @ space.per_cap[colours])
            block[:, colours] = np.maximum(block[:, colours] * (1 - share), space.least_g[colours])
            block[:, j] += freed / space.per_cap[j]
            blocks.append(block)
    return np.concatenate(blocks)
