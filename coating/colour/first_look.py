"""How far a recipe may miss at the first look: drops and bottles are not what their labels say.

The mass of a drop is one for all colours of a kitchen, the strength of each bottle its own. Both bend what comes of it,
so the range is taken from draws: the same ones every time, spread evenly (Halton 1960).
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray
from scipy.special import ndtri
from scipy.stats import qmc

from coating.beliefs import DROP, PRIORS
from coating.colour.cie import lab_from_reflectance
from coating.colour.ciede2000 import colour_difference
from coating.colour.kubelka_munk1931 import reflectance_from_ratio
from coating.colour.mixing import Part, merge
from coating.errors import EmptyBowl

Array = NDArray[np.float64]
DRAWS, MOST_COLOURS = 200, 12
# Of ln, before anything is weighed or learned; bottles less than the learner begins with. Common practice, no source.
DROP_SD, STRENGTH_SD = PRIORS[DROP], 0.3
LOW, HIGH = 0.05, 0.95


@lru_cache(maxsize=1)
def _draws() -> Array:
    """Standard normal values, the drop first, then each bottle: (DRAWS, 1 + MOST_COLOURS)."""
    even = qmc.Halton(1 + MOST_COLOURS, scramble=False).random(DRAWS + 1)[1:]
    return np.asarray(ndtri(even))


def first_look(
    parts: Sequence[Part],
    target_lab: Sequence[float],
    *,
    known: Mapping[str, float] | None = None,
    drop_sd: float = DROP_SD,
) -> tuple[float, float, float]:
    """dE00 to the target: as reckoned, and the ends of its 90 % range.

    Parameters
    ----------
    parts : of a bowl, g. target_lab : CIELAB under D65.
    known : sd of ln of what one drop or gram of a colour does, by its name, where it was weighed or learned; it then
    stands for drop and bottle together. drop_sd : of the mass of a drop, for the others.

    Returns
    -------
    Reckoned, low and high; the reckoned one lies within.

    Raises
    ------
    EmptyBowl : nothing in it.
    """
    merged = merge(parts)
    if not merged:
        raise EmptyBowl("There is nothing in this bowl yet.", field="parts")
    sure, draws = known or {}, _draws()
    grams = np.tile(np.array([p.mass_g for p in merged]), (DRAWS + 1, 1))
    strong = np.ones_like(grams)
    colours = [j for j, p in enumerate(merged) if p.ingredient.is_colourant][:MOST_COLOURS]
    for place, j in enumerate(colours, start=1):
        ingredient = merged[j].ingredient
        if ingredient.name in sure:
            strong[1:, j] = np.exp(sure[ingredient.name] * draws[:, place])
            continue
        strong[1:, j] = np.exp(STRENGTH_SD * draws[:, place])
        if ingredient.counted_in_drops:
            grams[1:, j] *= np.exp(drop_sd * draws[:, 0])
    optics = [p.ingredient.optics() for p in merged]
    k = (grams * strong) @ np.array([o[0] for o in optics])
    s = np.maximum(grams @ np.array([o[1] for o in optics]), 1e-9)
    misses = colour_difference(lab_from_reflectance(reflectance_from_ratio(k / s)), np.asarray(target_lab, dtype=float))
    reckoned, low, high = float(misses[0]), *map(float, np.quantile(misses[1:], (LOW, HIGH)))
    return reckoned, min(low, reckoned), max(high, reckoned)
