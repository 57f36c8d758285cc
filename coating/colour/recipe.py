"""A recipe for a colour: whole drops in one or two bases of one fat family, or added to what is in the bowl.

A first, plain search: a beam over whole doses, one colourant a level, then integer descent until no single or paired
change helps. Deterministic; every amount is a whole unit, so nothing is lost by rounding.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from coating.colour.cie import lab_from_reflectance
from coating.colour.ciede2000 import colour_difference
from coating.colour.kubelka_munk1931 import reflectance_from_ratio
from coating.colour.mixing import Ingredient, Part, merge, mix
from coating.errors import EmptyBowl
from coating.limits import check

Array = NDArray[np.float64]

REACHABLE = 3.0
DROP_SPREAD = 0.2
BEAM, POLISHED = 24, 8
_DOSES = np.array([1, 2, 3, 5, 8, 12, 18, 27, 40, 60, 90, 135, 200, 300], dtype=float)
_SECOND_BASE = (0.05, 0.1, 0.2, 0.3, 0.4, 0.5, 0.6, 0.7, 0.8, 0.9)
_TOP_UP = (0.05, 0.1, 0.2, 0.4, 0.7, 1.0, 1.5, 2.0)
_PER_COLOURANT, _PER_BASE, _PER_LOAD, _PER_GRAM, _PER_TOP_UP = 0.3, 1.0, 0.2, 0.01, 0.6
_PER_OFF_WHITE = 0.006  # a colour is made from white where white will do


@dataclass(frozen=True)
class Recipe:
    """Parts (in g) to put in, the colour they give and how far it is from the target."""

    parts: tuple[Part, ...]
    lab: tuple[float, float, float]
    de00: float
    load: float

    @property
    def reachable(self) -> bool:
        return self.de00 <= REACHABLE


class _Problem:
    """Ingredients as arrays; a candidate is a row of whole units above what is in the bowl."""

    def __init__(
        self, target_lab: Sequence[float], bases: Sequence[Ingredient], colourants: Sequence[Ingredient],
        start: Sequence[Part], most: int, base_mass_g: float,
    ) -> None:  # fmt: skip
        names = {i.name for i in (*bases, *colourants)}
        others = [p.ingredient for p in start if p.ingredient.name not in names]
        self.ingredients = (*bases, *colourants, *others)
        self.n_bases, self.n_colourants = len(bases), len(colourants)
        self.target = np.asarray(target_lab, dtype=float)
        self.most = most
        self.unit_g = np.array([i.unit_g for i in self.ingredients])
        optics = [i.optics() for i in self.ingredients]
        self.k, self.s = np.array([o[0] for o in optics]), np.array([o[1] for o in optics])
        masses = {p.ingredient.name: p.mass_g for p in start}
        self.start_g = np.array([masses.get(i.name, 0.0) for i in self.ingredients])
        self.is_base = np.array([i.is_base for i in self.ingredients])
        self.cap = np.array([i.cap_share if i.is_colourant else np.inf for i in self.ingredients])
        self.families = [i.family if i.is_base else "" for i in self.ingredients]
        labs = lab_from_reflectance(reflectance_from_ratio(self.k / np.maximum(self.s, 1e-12)))
        dull = 100 - labs[:, 0] + np.hypot(labs[:, 1], labs[:, 2])
        self.off_white = np.where(self.is_base, _PER_OFF_WHITE * dull, 0.0)
        self.fixed_total = not start
        heaviest_g = base_mass_g if self.fixed_total else self.start_g[self.is_base].sum() * (1 + _TOP_UP[-1])
        self.most_units = np.where(np.isfinite(self.cap), self.cap, 0.0) * heaviest_g / self.unit_g

    def score(self, units: Array) -> tuple[Array, Array, Array]:
        """Cost, dE00 and load of candidates (B, n)."""
        grams = self.start_g + units * self.unit_g
        k, s = grams @ self.k, np.maximum(grams @ self.s, 1e-12)
        lab = lab_from_reflectance(reflectance_from_ratio(k / s))
        de00 = colour_difference(lab, self.target)
        base_g = np.maximum(grams[:, self.is_base].sum(axis=1), 1e-12)
        load = (grams / self.cap).sum(axis=1) / base_g
        present = grams > 0
        colours = (present & ~self.is_base & np.isfinite(self.cap)).sum(axis=1)
        bases = (present & self.is_base).sum(axis=1)
        off_white = grams @ self.off_white / base_g
        cost = de00 + _PER_COLOURANT * colours + _PER_BASE * (bases - 1) + _PER_LOAD * load + off_white
        if not self.fixed_total:
            more = (units * self.unit_g)[:, self.is_base]
            cost = cost + _PER_GRAM * more.sum(axis=1) + _PER_TOP_UP * (more > 0).sum(axis=1)
        start_load = float((self.start_g / self.cap).sum() / max(self.start_g[self.is_base].sum(), 1e-12))
        limit = max(1.0, start_load if not self.fixed_total else 1.0)
        over = (load > limit + 1e-9) | (colours > self.most)
        return np.where(over, np.inf, cost), de00, load

    def seeds(self, base_mass_g: float) -> Array:
        """Where the beam begins: every base or pair of one family, or the bowl with more base."""
        n = len(self.ingredients)
        rows: list[Array] = []
        if self.fixed_total:
            for i in range(self.n_bases):
                plain = np.zeros(n)
                plain[i] = base_mass_g
                rows.append(plain)
                for j in range(self.n_bases):
                    if j != i and self.families[i] == self.families[j]:
                        for share in _SECOND_BASE:
                            pair = np.zeros(n)
                            pair[j] = round(share * base_mass_g)
                            pair[i] = base_mass_g - pair[j]
                            rows.append(pair)
        else:
            rows.append(np.zeros(n))
            bowl_g = float(self.start_g.sum())
            for i in range(self.n_bases):
                for share in _TOP_UP:
                    more = np.zeros(n)
                    more[i] = max(1, round(share * bowl_g))
                    rows.append(more)
        return np.array(rows)

    def widen(self, beam: Array) -> Array:
        """Every candidate with every colourant it lacks, at every dose."""
        blocks = [beam]
        for j in range(self.n_bases, self.n_bases + self.n_colourants):
            without = beam[beam[:, j] == 0]
            doses = _DOSES[self.most_units[j] >= _DOSES]
            if len(without) and len(doses):
                block = np.repeat(without, len(doses), axis=0)
                block[:, j] = np.tile(doses, len(without))
                blocks.append(block)
        return np.concatenate(blocks)

    def moves(self, active: NDArray[np.bool_]) -> Array:
        """Changes tried by the descent (M, n), among active ingredients: steps, pairs, base transfers, removals."""
        n = len(self.ingredients)
        colours = [j for j in range(self.n_bases, self.n_bases + self.n_colourants) if active[j]]
        bases = [j for j in range(self.n_bases) if active[j]]
        changes: list[dict[int, float]] = []
        for j in colours:
            changes += [{j: step} for step in (1, 2, 4, 8, -1, -2, -4, -8)]
            for i in colours:
                if i != j:
                    changes += [{j: a, i: b} for a, b in ((1, 1), (1, -1), (1, -2), (2, -1))]
        for i in bases:
            if self.fixed_total:
                changes += [{i: step, j: -step} for j in bases if j != i for step in (1, 4, 15, 40)]
            else:
                changes += [{i: step} for step in (1, 5, 20, -1, -5, -20)]
        rows = np.zeros((len(changes), n))
        for row, change in zip(rows, changes, strict=True):
            row[list(change)] = list(change.values())
        return rows

    def descend(self, units: Array) -> tuple[Array, float]:
        """Best neighbour again and again until none is better. A new ingredient enters only by the beam."""
        cost = float(self.score(units[None])[0][0])
        moves = self.moves((units > 0) | (self.start_g > 0))
        for _ in range(60):
            dropped = [j for j in np.nonzero(units)[0] if not self.is_base[j]]
            removals = np.repeat(units[None], len(dropped), axis=0)
            removals[np.arange(len(dropped)), dropped] = 0.0
            candidates = np.concatenate([units + moves, removals])
            candidates = candidates[(candidates >= 0).all(axis=1)]
            if not len(candidates):
                break
            costs = self.score(candidates)[0]
            best = int(np.argmin(costs))
            if not costs[best] < cost - 1e-9:
                break
            units, cost = candidates[best], float(costs[best])
        return units, cost


def _keep(costs: Array, candidates: Array, limit: int) -> Array:
    """The best candidates, at most three of the same set of ingredients."""
    kept: list[int] = []
    seen: dict[bytes, int] = {}
    for index in np.argsort(costs, kind="stable"):
        if not np.isfinite(costs[index]):
            break
        support = (candidates[index] > 0).tobytes()
        if seen.get(support, 0) < 3:
            seen[support] = seen.get(support, 0) + 1
            kept.append(int(index))
        if len(kept) == limit:
            break
    return candidates[kept]


@lru_cache(maxsize=256)
def find_recipe(
    target_lab: tuple[float, float, float],
    bases: tuple[Ingredient, ...],
    colourants: tuple[Ingredient, ...],
    base_mass_g: float,
    start: tuple[Part, ...] = (),
    max_colourants: int = 3,
) -> Recipe:
    """Parts that come nearest to a colour.

    Parameters
    ----------
    target_lab : wanted, CIELAB under D65. bases, colourants : what is in the cupboard.
    base_mass_g : g of base for a new bowl; of no account when `start` holds a bowl, which is only added to.
    start : what is in the bowl. max_colourants : at most this many in the bowl altogether.

    Returns
    -------
    Recipe: for a new bowl everything to put in, else only the additions (perhaps none).

    Raises
    ------
    EmptyBowl : no base to make it from. OutOfBounds : the base mass.
    """
    base_mass_g = float(round(check("mass_g", base_mass_g)))
    if not start and (not bases or base_mass_g < 1):
        raise EmptyBowl("There is no base to make this colour from.", field="bases")
    coloured = {p.ingredient.name for p in start if p.ingredient.is_colourant}
    problem = _Problem(target_lab, bases, colourants, start, max(max_colourants, len(coloured)), base_mass_g)
    beam = problem.seeds(base_mass_g)
    pools = [beam]
    for _ in range(max_colourants):
        candidates = problem.widen(beam)
        beam = _keep(problem.score(candidates)[0], candidates, BEAM)
        pools.append(beam)
    pool = np.concatenate(pools)
    finalists = [problem.descend(u) for u in _keep(problem.score(pool)[0], pool, POLISHED)]
    units, _cost = min(finalists, key=lambda f: (round(f[1], 9), tuple(f[0])))
    additions = tuple(Part(i, float(u * i.unit_g)) for i, u in zip(problem.ingredients, units, strict=True) if u > 0)
    whole = mix(merge((*start, *additions)))
    lab = whole.lab()
    return Recipe(additions, lab, float(colour_difference(lab, target_lab)), whole.load or 0.0)


def colour_range(
    parts: Sequence[Part], target_lab: Sequence[float], *, spreads: Mapping[str, float] | None = None
) -> tuple[float, float, float]:
    """dE00 to the target: as reckoned, least and most when a drop weighs more or less than it should.

    Parameters
    ----------
    spreads : relative range of a drop by name of the colourant; a fifth where it is not given.

    Raises EmptyBowl.
    """
    known = spreads or {}
    values = []
    for share in (0.0, -1.0, -0.5, 0.5, 1.0):
        scaled = []
        for p in parts:
            by = known.get(p.ingredient.name, DROP_SPREAD) if p.ingredient.is_colourant else 0.0
            scaled.append(Part(p.ingredient, p.mass_g * (1 + share * by)))
        values.append(float(colour_difference(mix(scaled).lab(), target_lab)))
    return values[0], min(values), max(values)
