"""Which colours a cupboard can reach at all, quickly and roughly, for a chart to choose from."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache
from itertools import combinations

import numpy as np
from numpy.typing import NDArray

from coating.colour.cie import lab_from_reflectance, srgb_from_lab
from coating.colour.kubelka_munk1931 import reflectance_from_ratio
from coating.colour.mixing import Ingredient

Array = NDArray[np.float64]
Lab = tuple[float, float, float]

NEAR = 5.0  # Lab units within which a mix counts as there
_LOADS = np.array([0.0, 0.01, 0.025, 0.06, 0.13, 0.25, 0.45, 0.7, 1.0])
LIGHTNESSES = (92, 84, 74, 62, 48, 34)
GRID = 10  # Lab units from cell to cell
_WIDEST = 80


@lru_cache(maxsize=32)
def reach_cloud(bases: tuple[Ingredient, ...], colourants: tuple[Ingredient, ...]) -> Array:
    """Lab (N, 3) of every base with every pair of colourants at nine loads each, and of pairs of bases."""
    if not bases:
        return np.empty((0, 3))
    optics = {i.name: i.optics() for i in (*bases, *colourants)}
    grounds = [optics[b.name] for b in bases]
    for one, other in combinations(bases, 2):
        if one.family == other.family:
            for share in (0.25, 0.5, 0.75):
                grounds.append(tuple(optics[one.name][i] * share + optics[other.name][i] * (1 - share) for i in (0, 1)))  # type: ignore[arg-type]
    k_base, s_base = (np.array([g[i] for g in grounds]) for i in (0, 1))
    doses = [(a, b) for a in _LOADS for b in _LOADS if a + b <= 1 + 1e-9]
    labs = [lab_from_reflectance(reflectance_from_ratio(k_base / s_base))]
    pairs: list[tuple[Ingredient, ...]] = list(combinations(colourants, 2))
    for one, other in pairs or [(c, c) for c in colourants]:
        a, b = (np.array(v)[:, None] for v in zip(*doses, strict=True))
        k, s = (
            ground[:, None, :] + a * one.cap_share * optics[one.name][i] + b * other.cap_share * optics[other.name][i]
            for i, ground in enumerate((k_base, s_base))
        )
        labs.append(lab_from_reflectance(reflectance_from_ratio(k / s)).reshape(-1, 3))
    return np.unique(np.round(np.concatenate(labs) / 2) * 2, axis=0)


def within_reach(cloud: Array, labs: Sequence[Sequence[float]]) -> list[bool]:
    """Whether a mix of the cloud comes near each colour."""
    wanted = np.asarray(labs, dtype=float).reshape(-1, 3)
    if not len(cloud):
        return [False] * len(wanted)
    distances = ((wanted[:, None, :] - cloud[None, :, :]) ** 2).sum(axis=2)
    return [bool(d) for d in (distances.min(axis=1) <= NEAR**2)]


def chart(lightness: float) -> list[list[Lab | None]]:
    """Rows of the colours of one lightness, yellow above and blue below, green left and red right; None where no
    screen shows it."""
    steps = range(-_WIDEST, _WIDEST + 1, GRID)
    rows: list[list[Lab | None]] = []
    for b in reversed(steps):
        labs = [(float(lightness), float(a), float(b)) for a in steps]
        shown = srgb_from_lab(labs)[1]
        row = [lab if on else None for lab, on in zip(labs, shown, strict=True)]
        if any(row):
            rows.append(row)
    used = [i for i in range(len(steps)) if any(row[i] for row in rows)]
    return [[row[i] for i in used] for row in rows]


def chart_reach(cloud: Array, rows: Sequence[Sequence[Lab | None]]) -> dict[Lab, bool]:
    """Which colours of a chart are within reach. What lies between two that are is reached by pouring those together,
    even where no pair of bottles comes near it."""
    flat = [lab for row in rows for lab in row if lab]
    reach = dict(zip(flat, within_reach(cloud, flat), strict=True))

    def there(row: int, column: int) -> bool:
        inside = 0 <= row < len(rows) and 0 <= column < len(rows[row])
        lab = rows[row][column] if inside else None
        return lab is not None and reach[lab]

    between = {
        lab
        for r, row in enumerate(rows)
        for c, lab in enumerate(row)
        if lab and ((there(r, c - 1) and there(r, c + 1)) or (there(r - 1, c) and there(r + 1, c)))
    }
    return {lab: here or lab in between for lab, here in reach.items()}
