"""A set of shades of one colour, equal steps to the eye: as whole drops, or as grams of one deep stock."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from coating.colour.cie import lab_from_reflectance
from coating.colour.ciede2000 import colour_difference
from coating.colour.kubelka_munk1931 import reflectance_from_ratio
from coating.colour.mixing import Ingredient, Part, mix
from coating.errors import TooFewDrops

Array = NDArray[np.float64]
Lab = tuple[float, float, float]

FEWEST, MOST = 3, 9
EVEN = 1.6  # greatest step over least, beyond which a stock is worth making
MOST_AMOUNTS = 400


@dataclass(frozen=True)
class Graded:
    """Shades, palest first: how many drops (or g of stock) each, its Lab, and the dE00 from each to the next."""

    amounts: tuple[int, ...]
    labs: tuple[Lab, ...]
    steps: tuple[float, ...]

    @property
    def even(self) -> bool:
        """Whether the largest step is hardly larger than the smallest."""
        return max(self.steps) <= EVEN * max(min(self.steps), 1e-9)


def grade(base: Sequence[Part], colourant: Ingredient, shades: int, max_drops: int) -> Graded:
    """Whole drops for so many shades in the same mass of base, from the palest to `max_drops`.

    Parameters
    ----------
    base : what each shade is made of. colourant : what colours it. shades : 3 to 9. max_drops : of the deepest.

    Raises
    ------
    TooFewDrops : there are not so many different whole numbers. EmptyBowl.

    Of all whole numbers those with the least sum of squared differences, the way from the base counted: that is equal
    steps as nearly as they can be had.
    """
    if max_drops < shades:
        raise TooFewDrops(
            f"{shades} shades need at least {shades} drops in the deepest one. Make more, or mix them from a stock.",
            field="max_drops",
            low=shades,
        )
    mixture = mix(base)
    k_unit, s_unit = (v * colourant.unit_g / mixture.mass_g for v in colourant.optics())
    drops = _thinned(max_drops, shades)
    k = mixture.absorption + drops[:, None] * k_unit
    s = mixture.scattering + drops[:, None] * s_unit
    return _even(drops, _labs(k, s), shades)


def grade_from_stock(base: Sequence[Part], stock: Sequence[Part], shades: int, total_g: int) -> Graded:
    """Whole grams of a deep stock in `total_g` of each shade; the deepest is the stock itself. Raises TooFewDrops."""
    if total_g < shades:
        raise TooFewDrops(f"{shades} shades need at least {shades} g each.", field="total_g", low=shades)
    plain, deep = mix(base), mix(stock)
    grams = _thinned(total_g, shades)
    share = (grams / total_g)[:, None]
    k = plain.absorption * (1 - share) + deep.absorption * share
    s = plain.scattering * (1 - share) + deep.scattering * share
    return _even(grams, _labs(k, s), shades)


def _thinned(most: int, shades: int) -> Array:
    """Whole amounts from none to the most; of very many those spaced geometrically."""
    if most <= MOST_AMOUNTS:
        return np.arange(most + 1, dtype=float)
    spaced = np.unique(np.round(np.geomspace(1, most, MOST_AMOUNTS - shades)))
    return np.unique(np.concatenate([[0.0], spaced, np.arange(1, shades + 1, dtype=float)]))


def _labs(k: Array, s: Array) -> Array:
    return lab_from_reflectance(reflectance_from_ratio(k / np.maximum(s, 1e-12)))


def _even(amounts: Array, labs: Array, shades: int) -> Graded:
    """The way from none to the most in `shades` steps with the least sum of squared differences."""
    squared = colour_difference(labs[:, None, :], labs[None, :, :]) ** 2
    n = len(amounts)
    ahead = np.arange(n)[:, None] < np.arange(n)[None, :]
    squared = np.where(ahead, squared, np.inf)
    best, came_from = squared[0].copy(), []
    for _ in range(shades - 1):
        through = best[:, None] + squared
        came_from.append(np.argmin(through, axis=0))
        best = through[came_from[-1], np.arange(n)]
    way = [n - 1]
    for back in reversed(came_from):
        way.append(int(back[way[-1]]))
    way.reverse()
    chosen = labs[way]
    steps = colour_difference(chosen[:-1], chosen[1:])
    return Graded(
        tuple(int(amounts[i]) for i in way),
        tuple((float(v[0]), float(v[1]), float(v[2])) for v in chosen),
        tuple(float(d) for d in steps),
    )


def stock_for(base: Sequence[Part], colourant: Ingredient, max_drops: int, mass_g: float) -> tuple[Part, ...]:
    """So much of the deepest shade, g, in the proportions of `max_drops` in `base`."""
    base_g = sum(p.mass_g for p in base)
    parts = tuple(replace(p, mass_g=p.mass_g * mass_g / base_g) for p in base)
    drops = max(1, round(max_drops * mass_g / base_g))
    return (*parts, Part(colourant, drops * colourant.unit_g))
