"""Colours near a colour, among many."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from coating.colour.ciede2000 import VISIBLE, colour_difference
from coating.colour.recipe import Lab


def nearest(
    lab: Lab, among: Sequence[Lab], *, within: float = VISIBLE, most: int | None = None
) -> list[tuple[int, float]]:
    """Which of some colours are near one, the nearest first.

    Parameters
    ----------
    lab : tuple of float
        CIELAB, D65.
    among : sequence of tuple of float
        CIELAB of each, shape (N, 3).
    within : float
        CIEDE2000 up to which one counts as near.
    most : int, optional
        How many at most; None: all of them.

    Returns
    -------
    list of (int, float)
        The places of those, and the CIEDE2000 of each. Equally near ones keep their order.

    Examples
    --------
    >>> [place for place, _ in nearest((50, 0, 0), [(70, 0, 0), (51, 0, 0), (50, 0, 0)])]
    [2, 1]
    """
    if not len(among):
        return []
    off = np.atleast_1d(colour_difference(np.asarray(lab, float), np.asarray(among, float)))
    order = np.argsort(off, kind="stable")
    near = [(int(i), float(off[i])) for i in order if off[i] <= within]
    return near if most is None else near[:most]
