"""The colour part of ./bench: searches beside scipy's differential evolution, differences beside colour-science."""

from __future__ import annotations

import statistics
import warnings
from collections.abc import Callable
from functools import partial
from typing import Any

import numpy as np
from numpy.typing import NDArray

from tools.bench_timing import Report, Took, median, took

Array = NDArray[np.float64]

SEARCH_MS, CORRECTION_MS, TIMES_FASTER, CAME_BACK = 40.0, 80.0, 20.0, 55
TARGETS, COMPARED = 200, 12
SPAN = 3.0  # decades of load that evolution looks through


def _took(act: Callable[[], Any]) -> tuple[Took, Any]:
    """How long it took, and what it gave."""
    kept: list[Any] = []
    return took(lambda: kept.append(act())), kept[0]


def _evolved(target: tuple[float, float, float], seed: int) -> float:
    """The objective scipy's differential evolution comes to: two bases and a share, four slots of colour and dose."""
    from scipy.optimize import differential_evolution

    from coating.colour.recipe import PLAIN
    from coating.colour.search.space import Bounds, Space
    from tests.coating.colour.known_bowls import BASE_G, BASES, COLOURS

    space = Space(target, BASES, COLOURS, bounds=Bounds(mixed_fats=True), total_g=BASE_G)

    def rows(x: Array) -> Array:
        grams, at = np.zeros((x.shape[1], len(space.ingredients))), np.arange(x.shape[1])
        second_g = np.clip(np.round(BASE_G * 2 * (x[2] - 0.5)), 0, BASE_G - 1)
        for slot in range(4):
            j = np.minimum(x[3 + 2 * slot].astype(int), len(COLOURS) - 1) + len(BASES)
            dose = (x[4 + 2 * slot] - 0.3) / 0.7
            load = np.where(dose < 0, 0.0, 10 ** (SPAN * (dose - 1)))
            grams[at, j] += np.round(load * BASE_G / space.per_cap[j] / space.unit_g[j]) * space.unit_g[j]
        for x_base, mass_g in ((x[0], BASE_G - second_g), (x[1], second_g)):
            grams[at, np.minimum(x_base.astype(int), len(BASES) - 1)] += mass_g
        return grams

    def cost(x: Array) -> Array:
        values = PLAIN.cost(space, rows(x))
        return np.where(np.isfinite(values), values, 1e3)

    limits = [(0, len(BASES)), (0, len(BASES)), (0, 1), *[(0, len(COLOURS)), (0, 1)] * 4]
    optimum = differential_evolution(
        cost, limits, popsize=15, maxiter=300, vectorized=True, updating="deferred", polish=False, tol=0, rng=seed
    )
    return float(optimum.fun)


def measure_colour(report: Report) -> None:
    """Recipes, corrections and colour differences."""
    from coating.colour.correction import correct
    from coating.colour.recipe import PLAIN, find_recipes
    from coating.colour.search.space import Bounds, Space
    from tests.coating.colour.known_bowls import BASE_G, BASES, COLOURS, overdosed_bowls, reachable_targets

    mixed = Bounds(mixed_fats=True)
    targets = reachable_targets(TARGETS, seed=7)
    find_recipes(targets[-1], BASES, COLOURS, BASE_G, (PLAIN,), (), mixed)
    find_recipes.cache_clear()
    taken, matches = zip(
        *(_took(partial(find_recipes, t, BASES, COLOURS, BASE_G, (PLAIN,), (), mixed)) for t in targets),
        strict=True,
    )
    best = [match[0] for match in matches]
    report.time("recipe_median", median(taken), SEARCH_MS)
    report.line("recipe_de00_median", statistics.median(r.de00 for r in best), "dE00", 0.10)
    report.line("recipe_de00_worst", max(r.de00 for r in best), "dE00", 0.80)

    evolving, theirs = zip(*(_took(partial(_evolved, targets[i], i)) for i in range(COMPARED)), strict=True)
    ours = []
    for target, recipe in zip(targets[:COMPARED], best, strict=False):
        space = Space(target, BASES, COLOURS, bounds=mixed, total_g=BASE_G)
        names = {p.ingredient.name: p.mass_g for p in recipe.parts}
        grams = np.array([[names.get(i.name, 0.0) for i in space.ingredients]])
        ours.append(float(PLAIN.cost(space, grams)[0]))
    report.line(
        "recipe_over_evolution",
        median(taken[:COMPARED]).loops / median(evolving).loops,
        "x",
        1 / TIMES_FASTER,
    )
    report.line("recipe_objective_over_evolution", statistics.mean(ours) / statistics.mean(theirs), "x", 1.0)

    taken, made = zip(
        *(_took(partial(correct, b, t, BASES, COLOURS, None, True)) for b, t in overdosed_bowls()), strict=True
    )
    report.time("correction_median", median(taken), CORRECTION_MS)
    report.line("corrections_missed", len(made) - sum(c.reachable for c in made), "bowls", len(made) - CAME_BACK)
    measure_differences(report)


def measure_differences(report: Report) -> None:
    """A million CIEDE2000 pairs, beside colour-science's."""
    from coating.colour import colour_difference

    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        from colour.difference import delta_E_CIE2000
    rng = np.random.default_rng(0)
    one, other = (np.column_stack([rng.uniform(0, 100, 10**6), rng.normal(0, 40, (10**6, 2))]) for _ in range(2))
    ours = min(_took(lambda: colour_difference(one, other))[0].loops for _ in range(2))
    theirs = min(_took(lambda: delta_E_CIE2000(one, other))[0].loops for _ in range(2))
    report.line("million_differences_over_colour_science", ours / theirs, "x", 1.0)
