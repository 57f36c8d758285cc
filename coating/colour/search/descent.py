"""Whole units: the best neighbour again and again, for all finalists at once."""

from __future__ import annotations

from itertools import combinations

import numpy as np
from numpy.typing import NDArray

from coating.colour.search.space import Space
from coating.colour.search.weights import Weights

Array = NDArray[np.float64]

TRANSFERS_G = (1, 3, 10, 40)
STEPS = (1, 2, 4)
MOST_ROUNDS = 40


def whole_units(space: Space, grams: Array) -> Array:
    """Grams rounded to whole units; the main base of a new bowl makes up its total."""
    units = np.maximum(np.round(grams / space.unit_g) * space.unit_g, space.least_g)
    if space.total_g is not None:
        rows, mains = np.arange(len(grams)), space.main_base(grams)
        units[rows, mains] = 0.0
        units[rows, mains] = space.total_g - units[:, : space.n_bases].sum(axis=1)
    return units


def descend(space: Space, grams: Array, weights: Weights, *, insert: bool = False) -> tuple[Array, Array]:
    """Finalists (B, n) in whole units and their costs, until no neighbour of any is better.

    Neighbours: colourants by 1, 2, 4 and out; bases against each other, or by some grams; two colourants at once; one
    with a base; every second round one colourant for another at the same load. `insert`: one unit of what is not there.
    """
    grams, costs = grams.copy(), weights.cost(space, grams)
    open_rows = list(range(len(grams)))
    plans: dict[bytes, Array] = {}
    for turn in range(MOST_ROUNDS):
        blocks, owners = [], []
        for row in open_rows:
            block = _neighbours(space, grams[row], plans, swap=turn % 2 == 1, insert=insert)
            blocks.append(block)
            owners.append(len(block))
        if not blocks:
            break
        tried = np.concatenate(blocks)
        values = np.where((tried >= -1e-9).all(axis=1), weights.cost(space, np.maximum(tried, 0.0)), np.inf)
        still, at = [], 0
        for row, count in zip(open_rows, owners, strict=True):
            best = at + int(np.argmin(values[at : at + count])) if count else -1
            if count and values[best] < costs[row] - 1e-9:
                grams[row], costs[row] = np.maximum(tried[best], 0.0), values[best]
                still.append(row)
            elif turn % 2 == 0:
                still.append(row)  # the next round also swaps
            at += count
        open_rows = _distinct(grams, still)
    return grams, costs


def _distinct(grams: Array, rows: list[int]) -> list[int]:
    """Rows that are not the same as an earlier one."""
    seen: dict[bytes, int] = {}
    for row in rows:
        seen.setdefault(np.round(grams[row], 4).tobytes(), row)
    return list(seen.values())


def _neighbours(space: Space, row: Array, plans: dict[bytes, Array], *, swap: bool, insert: bool) -> Array:
    there = row > 1e-9
    key = there.tobytes()
    if key not in plans:
        plans[key] = _moves(space, there, insert=insert)
    out = [j for j in range(space.n_bases, space.n) if there[j]]
    removals = np.repeat(row[None], len(out), axis=0)
    removals[np.arange(len(out)), out] = 0.0
    blocks = [row + plans[key], removals]
    gone = [j for j in range(space.n_bases) if there[j]]
    if len(gone) > space.fresh:
        dropped = np.repeat(row[None], len(gone), axis=0)
        dropped[np.arange(len(gone)), gone] = 0.0
        if space.total_g is not None:  # one base goes, the other makes up the total
            rows, mains = np.arange(len(gone)), space.main_base(dropped)
            dropped[rows, mains] += space.total_g - dropped[:, : space.n_bases].sum(axis=1)
        blocks.append(dropped)
    if swap and out:
        blocks.append(_swaps(space, row, out))
    return np.concatenate(blocks)


def _moves(space: Space, there: NDArray[np.bool_], *, insert: bool) -> Array:
    """Changes in g among the ingredients of a row."""
    unit, n = space.unit_g, len(space.ingredients)
    colours = [j for j in range(space.n_bases, space.n) if there[j]]
    bases = [j for j in range(space.n_bases) if there[j]]
    shifts: list[dict[int, float]] = []
    if space.fresh:
        for i, j in combinations(bases, 2):
            shifts += [{i: sign * g, j: -sign * g} for g in TRANSFERS_G for sign in (1, -1)]
    else:
        shifts += [{i: sign * g} for i in bases for g in TRANSFERS_G for sign in (1, -1)]
    changes = list(shifts)
    for j in colours:
        changes += [{j: sign * step * unit[j]} for step in STEPS for sign in (1, -1)]
        changes += [{j: sign * unit[j], **shift} for shift in shifts for sign in (1, -1)]
    for i, j in combinations(colours, 2):
        changes += [{i: a * unit[i], j: b * unit[j]} for a in (1, -1) for b in (1, -1)]
        weak, strong = sorted((i, j), key=lambda c: unit[c] * space.per_cap[c])
        as_much = np.ceil(unit[strong] * space.per_cap[strong] / (unit[weak] * space.per_cap[weak]) - 1e-9)
        if as_much > 1:  # where the base is full of colour, a pinch takes the place of some drops
            changes += [{strong: a * unit[strong], weak: -a * as_much * unit[weak]} for a in (1, -1)]
    if insert:
        changes += [{j: unit[j]} for j in range(space.n) if not there[j]]
    rows = np.zeros((len(changes), n))
    for at, change in enumerate(changes):
        rows[at, list(change)] = list(change.values())
    return rows


def _swaps(space: Space, row: Array, out: list[int]) -> Array:
    """One colourant for another at the same load, in whole units."""
    blocks = []
    others = [j for j in range(space.n_bases, space.n) if row[j] <= 1e-9]
    for j in out:
        block = np.repeat(row[None], len(others), axis=0)
        load = row[j] * space.per_cap[j]
        block[:, j] = 0.0
        units = np.maximum(1.0, np.round(load / space.per_cap[others] / space.unit_g[others]))
        block[np.arange(len(others)), others] = units * space.unit_g[others]
        blocks.append(block)
    return np.concatenate(blocks)
