"""The ingredients of a search as arrays: colours of batches, what may not be, and the doses to try."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from coating.colour.cie import WHITE_D65, weights
from coating.colour.mixing import Ingredient, Part
from coating.colour.search.nearness import Nearness

Array = NDArray[np.float64]

OTHER_FAMILY = 0.05  # of the base mass, without the maker's leave
DOSES = np.array([0.01, 0.04, 0.12, 0.35, 0.8])
SECOND_BASE = np.array([0.03, 0.12, 0.3, 0.6, 0.9])
LOCKED_BASE = 0.04  # where a base that must be in begins
TOP_UP = np.array([0.02, 0.08, 0.25, 0.7, 1.6])
_AT_ONCE = 256  # rows whose spectra stay in the cache
_NONE = np.empty((0, 3))
_LINEAR, _CUBE = 841 / 108, (6 / 29) ** 3


@dataclass(frozen=True)
class MeasuredMixes:
    """Of a batch: Lab (B, 3), dE00, colour load, base in g, and how many colourants and bases there are, all (B,)."""

    lab: Array
    de00: Array
    load: Array
    base_g: Array
    colourants: Array
    bases: Array


def _lab_of(t: Array) -> Array:
    """Lab (B, 3) of XYZ over the white."""
    f = np.where(t > _CUBE, np.cbrt(t), t * _LINEAR + 4 / 29)
    return np.stack([116 * f[:, 1] - 16, 500 * (f[:, 0] - f[:, 1]), 200 * (f[:, 1] - f[:, 2])], axis=1)


@dataclass(frozen=True)
class Bounds:
    """What a recipe may be: at most so many colourants and bases put in, g added, load; fats mixed; what must be in."""

    colourants: int = 4
    bases: int = 2
    items: int = 6
    most_g: float = np.inf
    load: float = 1.0
    mixed_fats: bool = False
    locked: tuple[str, ...] = ()


class Space:
    """What there is to search: `bases`, `colourants`, then whatever else is in the bowl already.

    A row of grams is what is put in. For a new bowl its bases add up to `total_g`; else it is added to `start`.
    """

    def __init__(
        self,
        target_lab: Sequence[float],
        bases: Sequence[Ingredient],
        colourants: Sequence[Ingredient],
        *,
        bounds: Bounds,
        start: Sequence[Part] = (),
        total_g: float | None = None,
    ) -> None:
        names = {i.name for i in (*bases, *colourants)}
        others = [p.ingredient for p in start if p.ingredient.name not in names]
        self.ingredients: tuple[Ingredient, ...] = (*bases, *colourants, *others)
        self.n_bases, self.n = len(bases), len(bases) + len(colourants)
        self.near, self.total_g, self.bounds = Nearness(target_lab), total_g, bounds
        optics = [i.optics() for i in self.ingredients]
        self.k, self.s = np.array([o[0] for o in optics]), np.array([o[1] for o in optics])
        self.both = np.concatenate([self.k, self.s], axis=1)
        self.unit_g = np.array([i.unit_g for i in self.ingredients])
        self.is_base = np.array([i.is_base for i in self.ingredients])
        self.is_colour = np.array([i.is_colourant for i in self.ingredients])
        self.per_cap = np.array([1 / i.cap_share if i.is_colourant else 0.0 for i in self.ingredients])
        self.palm = np.array([float(i.is_base and i.family == "palm") for i in self.ingredients])
        # What is summed over every row in one go: base in g and load; and what is counted.
        self.summed: Array = np.stack([self.is_base.astype(float), self.per_cap], axis=1)
        self._counted = np.stack([self.is_colour, self.is_base], axis=1).astype(float)
        held = {p.ingredient.name: p.mass_g for p in start}
        self.start_g = np.array([held.get(i.name, 0.0) for i in self.ingredients])
        self.bowl_g, self.held_base_g = float(self.start_g.sum()), float(self.start_g[self.is_base].sum())
        held_load = float(self.start_g @ self.per_cap) / self.held_base_g if self.held_base_g else 0.0
        self.load_limit = max(bounds.load, held_load)
        self.least_g = np.array([i.unit_g if i.name in bounds.locked else 0.0 for i in self.ingredients])
        self.white_weights = weights() / WHITE_D65
        self.bits = 2 ** np.arange(len(self.ingredients), dtype=np.int64)

    @property
    def fresh(self) -> bool:
        """Whether a new bowl of a given mass is mixed, not one corrected."""
        return self.total_g is not None

    def by_name(self, values: tuple[tuple[str, float], ...]) -> Array:
        """Values by name of ingredient, in the order of the rows; nothing for those not named."""
        known = dict(values)
        return np.array([known.get(i.name, 0.0) for i in self.ingredients])

    def ratio(self, grams: Array) -> tuple[Array, Array]:
        """q = K/S and the sum of S of everything in the bowl with these grams, shapes (B, 31)."""
        sums = (grams + self.start_g) @ self.both
        s = np.maximum(sums[:, 31:], 1e-12)
        return sums[:, :31] / s, s

    def lab_of(self, ratio: Array) -> tuple[Array, Array, Array]:
        """Lab of ratios q (B, 31); R and XYZ over the white besides."""
        r = 1 / (1 + ratio + np.sqrt(ratio * (ratio + 2)))
        t = r @ self.white_weights
        return _lab_of(t), r, t

    def _lab(self, whole: Array) -> Array:
        """Lab of everything in the bowl; in place, for the many rows of a beam."""
        sums = whole @ self.both
        ratio, r = sums[:, :31], sums[:, 31:]
        ratio /= np.maximum(r, 1e-12, out=r)
        np.add(ratio, 2.0, out=r)
        r *= ratio
        np.sqrt(r, out=r)
        r += ratio
        r += 1.0
        t = np.reciprocal(r, out=r) @ self.white_weights
        return np.asarray(_lab_of(t))

    def measure(self, grams: Array) -> MeasuredMixes:
        """Lab, difference and loads of each row of grams (rows by ingredients)."""
        whole = grams + self.start_g
        lab = np.concatenate([self._lab(whole[i : i + _AT_ONCE]) for i in range(0, len(whole), _AT_ONCE)] or [_NONE])
        sums, counts = whole @ self.summed, (whole > 1e-9).astype(float) @ self._counted
        load = sums[:, 1] / np.maximum(sums[:, 0], 1e-9)
        return MeasuredMixes(lab, self.near.de00(lab), load, sums[:, 0], counts[:, 0], counts[:, 1])

    def allowed(self, grams: Array, seen: MeasuredMixes) -> NDArray[np.bool_]:
        """Which rows keep to the load, the counts, the mass and, without leave, one family of fat."""
        there = grams > 1e-9
        counts = there @ self._counted
        fine = (seen.load <= self.load_limit + 1e-9) & (grams >= self.least_g - 1e-9).all(axis=1)
        fine &= (counts[:, 0] <= self.bounds.colourants) & (counts[:, 1] <= self.bounds.bases)
        fine &= counts.sum(axis=1) <= self.bounds.items
        if not self.fresh:
            fine &= grams.sum(axis=1) <= self.bounds.most_g + 1e-9
        if not self.bounds.mixed_fats:
            palm_g = (grams + self.start_g) @ self.palm
            strange_g = np.minimum(palm_g, seen.base_g - palm_g)
            held = float(self.start_g @ self.palm)
            held_share = min(held, self.held_base_g - held) / self.held_base_g if self.held_base_g else 0.0
            fine &= strange_g <= max(OTHER_FAMILY, held_share) * seen.base_g + 1e-9
        return np.asarray(fine)

    def main_base(self, grams: Array) -> NDArray[np.int64]:
        """The base that a new bowl is mostly of, (B,): it makes room for a second one."""
        return np.argmax(grams[:, : self.n_bases], axis=1)

    def seeds(self) -> Array:
        """Where the beam begins: each base alone, or the bowl as it is; with what must be in."""
        if self.total_g is None:
            return self.least_g[None].copy()
        rows = np.repeat(
            np.where(self.is_base, LOCKED_BASE * self.total_g * (self.least_g > 0), self.least_g)[None],
            self.n_bases,
            axis=0,
        )
        mains = np.arange(self.n_bases)
        rows[mains, mains] = 0.0
        rows[mains, mains] = self.total_g - rows[:, : self.n_bases].sum(axis=1)
        return np.asarray(rows[(rows[:, : self.n_bases] > 0).sum(axis=1) <= self.bounds.bases])

    def widen(self, beam: Array) -> Array:
        """Every candidate with each ingredient it was not given yet, at five doses, within the counts and the load."""
        whole = beam + self.start_g
        sums = whole @ self.summed
        room = np.maximum(self.load_limit * sums[:, 0] - sums[:, 1], 0.0)  # g of a colourant of cap 1
        counts = (beam > 1e-9) @ self._counted
        full = counts >= (self.bounds.colourants, self.bounds.bases)
        base, n = np.arange(self.n) < self.n_bases, self.n
        free = (beam[:, :n] == 0) & ~full[:, base.astype(int)]
        free &= base | (room > 1e-9)[:, None]
        free &= (counts.sum(axis=1) < self.bounds.items)[:, None]
        rows, js = np.nonzero(free)
        supports = ((beam > 0) @ self.bits)[rows] | self.bits[js]
        new = np.sort(np.unique(supports, return_index=True)[1])  # each set from the best it can come from
        rows, js = rows[new], js[new]
        is_base = js < self.n_bases
        top_up = TOP_UP * self.bowl_g if self.total_g is None else SECOND_BASE * self.total_g
        doses = np.where(
            is_base[:, None], top_up, DOSES * (room[rows] / np.where(is_base, 1.0, self.per_cap[js]))[:, None]
        )
        block = np.repeat(beam[rows], DOSES.size, axis=0)
        at = np.arange(len(block))
        block[at, np.repeat(js, DOSES.size)] = doses.ravel()
        if self.total_g is not None:
            mains = np.repeat(self.main_base(beam)[rows], DOSES.size)
            block[at, mains] -= np.where(np.repeat(is_base, DOSES.size), doses.ravel(), 0.0)
        return block
