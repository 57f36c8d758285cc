"""Batched, projected Levenberg-Marquardt on the doses of a few candidates.

Residual G (Lab - target), so that its square is about that of the colour difference near the target; derivatives by
dR/dq = -R/sqrt(q^2 + 2q) and dq/dm = (k - q s)/sum(m S).
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from coating.colour.search.space import Space

Array = NDArray[np.float64]

_DAMPING, _CUBE = 1e-3, (6 / 29) ** 3
_LAB = np.array([[0.0, 116.0, 0.0], [500.0, -500.0, 0.0], [0.0, 200.0, -200.0]])


def refine(space: Space, grams: Array, *, rounds: int = 3, per_gram: float = 0.0) -> Array:
    """Candidates (B, n) nearer to the target, with the ingredients they have; `per_gram` keeps additions small."""
    grams = grams.copy()
    moving = grams > 0
    moving[:, space.n :] = False
    rows = np.arange(len(grams))
    mains = space.main_base(grams) if space.fresh else None
    if mains is not None:
        moving[rows, mains] = False
    most = max(1, int(moving.sum(axis=1).max(initial=0)))
    order = np.argsort(~moving, axis=1, kind="stable")[:, :most]  # the moving ingredients of each row
    used = np.take_along_axis(moving, order, axis=1)
    k, s = space.k[order], space.s[order]
    if mains is not None:  # a second base takes the place of the main one
        second = space.is_base[order][:, :, None]
        k, s = k - second * space.k[mains][:, None], s - second * space.s[mains][:, None]
    damping = np.full(len(grams), _DAMPING)
    error, jacobian = _linearised(space, grams, k, s)
    cost = (error * error).sum(axis=1) + per_gram * grams.sum(axis=1)
    least = space.least_g[order]
    for _ in range(rounds):
        doses = np.take_along_axis(grams, order, axis=1)
        normal = np.einsum("bvi,bwi->bvw", jacobian, jacobian)
        diagonal = np.einsum("bvv->bv", normal)
        normal = normal + np.eye(most) * (damping[:, None] * diagonal + 1e-12 + 1e6 * ~used)[:, None, :]
        slope = np.einsum("bvi,bi->bv", jacobian, error) + per_gram / 2
        step = np.where(used, np.linalg.solve(normal, slope[:, :, None])[:, :, 0], 0.0)
        tried = grams.copy()
        np.put_along_axis(tried, order, np.where(used, np.maximum(doses - step, least), doses), axis=1)
        tried = within(space, tried, mains)
        new_error, new_jacobian = _linearised(space, tried, k, s)
        new_cost = (new_error * new_error).sum(axis=1) + per_gram * tried.sum(axis=1)
        better = new_cost < cost
        damping = np.where(better, damping / 4, damping * 12)
        grams[better], error[better], jacobian[better] = tried[better], new_error[better], new_jacobian[better]
        cost = np.where(better, new_cost, cost)
    return grams


def within(space: Space, grams: Array, mains: NDArray[np.int64] | None) -> Array:
    """With the bases of a new bowl at its total, no more added than may be, no more colour than the base carries."""
    if mains is not None and space.total_g is not None:
        rows = np.arange(len(grams))
        grams[rows, mains] = 0.0
        others = grams[:, : space.n_bases].sum(axis=1)
        shrink = np.minimum(1.0, 0.95 * space.total_g / np.maximum(others, 1e-9))
        grams[:, : space.n_bases] *= shrink[:, None]
        grams[rows, mains] = space.total_g - grams[:, : space.n_bases].sum(axis=1)
    elif np.isfinite(space.bounds.most_g):
        grams = grams * np.minimum(1.0, space.bounds.most_g / np.maximum(grams.sum(axis=1), 1e-9))[:, None]
    whole = grams + space.start_g
    room = space.load_limit * whole[:, space.is_base].sum(axis=1) - space.start_g @ space.per_cap
    wanted = grams @ space.per_cap
    shrink = np.where(wanted > room, np.maximum(room, 0.0) / np.maximum(wanted, 1e-12), 1.0)
    return np.where(space.is_colour, np.maximum(grams * shrink[:, None], space.least_g), grams)


def _linearised(space: Space, grams: Array, k: Array, s: Array) -> tuple[Array, Array]:
    """Residual (B, 3) and its derivatives (B, V, 3) by the moving doses."""
    ratio, scatter = space.ratio(grams)
    lab, r, t = space.lab_of(ratio)
    slope = -r / np.sqrt(np.maximum(ratio * (ratio + 2), 1e-18)) / scatter
    by_dose = (slope[:, None, :] * (k - ratio[:, None, :] * s)) @ space.white_weights
    root = np.where(t > _CUBE, np.cbrt(t), 1.0)
    by_light = np.where(t > _CUBE, 1 / (3 * root * root), 841 / 108)
    to_root = space.near.root @ _LAB
    jacobian = (by_dose * by_light[:, None, :]) @ to_root.T
    return (lab - space.near.target) @ space.near.root.T, jacobian
