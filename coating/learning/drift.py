"""Whether the last bowls say otherwise than those before: a new bottle, another bag, another hand?"""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass

import numpy as np

LAST, LEAST_BEFORE = 3, 3
LEAST_SD, LEAST_MOVED = 0.05, 0.1  # of ln: bowls agree no better than that; what is worth a question
SURELY = 3.5  # standard errors; rare by chance, since few bowls say how far bowls differ


@dataclass(frozen=True)
class Drift:
    """So many bowls before said one factor, so many since say another; `since` is the day of the first of these."""

    before: int
    said: float
    last: int
    says: float
    since: float


def changed_of_late(said: Iterable[tuple[str, float, float]]) -> Drift | None:
    """Whether the last bowls say otherwise.

    Parameters
    ----------
    said : iterable of (bowl, day, factor)
        What each record alone would have a factor be, as `fit` tells it.

    Returns
    -------
    Drift, or None where they agree or there are too few bowls to tell.

    Source: Student's comparison of two means with one pooled spread, from memory.
    """
    bowls: dict[str, list[tuple[float, float]]] = {}
    for bowl, day, factor in said:
        bowls.setdefault(bowl, []).append((day, math.log(factor)))
    means = sorted((float(np.mean([d for d, _ in of])), float(np.mean([x for _, x in of]))) for of in bowls.values())
    if len(means) < LAST + LEAST_BEFORE:
        return None
    first, last = (np.array([x for _, x in part]) for part in (means[:-LAST], means[-LAST:]))
    pooled = math.sqrt((first.var() * len(first) + last.var() * len(last)) / (len(means) - 2))
    error = max(LEAST_SD, pooled) * math.sqrt(1 / len(first) + 1 / len(last))
    moved = float(last.mean() - np.median(first))
    if abs(moved) < max(LEAST_MOVED, SURELY * error):
        return None
    since = means[-LAST][0]
    return Drift(len(first), math.exp(float(np.median(first))), LAST, math.exp(float(last.mean())), since)
