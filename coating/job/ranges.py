"""How far a job's amounts and times may be off: what is uncertain, by how much, joined in quadrature by its slopes.

A coat is left by one hand, so that all layers of a technique err together; lines go with one hole; what is dipped goes
with the label number of its base too. Where something was learned its own range stands in place of what is believed.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping

from coating.job.reckoning import JobStep, Line
from coating.learning.factors import Factors
from coating.learning.names import COAT, FLOW, HOLE, PACE, PRIORS, RANGE_SD, SET
from coating.techniques import TECHNIQUES
from coating.techniques.base import FILM, LINE, SPREAD

FILM_BY_FLOW = 0.5  # of ln: a film goes with about the root of the flow number
Range = tuple[float, float]


def slopes_of(line: Line) -> Mapping[str, float]:
    """By how much ln of a line's grams goes with ln of each factor; nothing for what was typed or counted."""
    measured = TECHNIQUES[line.technique].measured
    if line.typed or not line.bowl:
        return {}
    if measured == LINE:
        return {HOLE: 2.0}
    if measured == SPREAD:
        return {f"{COAT}.{line.technique}": 1.0}
    if measured == FILM:
        return {f"{COAT}.{line.technique}": 1.0, f"{FLOW}.{line.base or line.white}": FILM_BY_FLOW}
    return {}


def goes_on_range(lines: Iterable[Line], factors: Factors) -> Range:
    """The 90 % range of what goes on, g, of some lines together."""
    whole, along = 0.0, dict[str, float]()
    for line in lines:
        whole += line.goes_on_g
        for name, slope in slopes_of(line).items():
            along[name] = along.get(name, 0.0) + slope * line.goes_on_g
    if whole <= 0:
        return 0.0, 0.0
    off = math.sqrt(sum((grams / whole * factors.sd_of(name)) ** 2 for name, grams in along.items()))
    return _either_way(whole, off)


def money_range(costs: Iterable[tuple[float, float]], lines: Iterable[Line], factors: Factors) -> Range:
    """The 90 % range of what pieces cost: of each kind what its coating costs, which goes with the grams that go on,
    and what does not."""
    both = list(costs)
    lines = [line for line in lines if line.bowl]
    goes_on_g = sum(line.goes_on_g for line in lines)
    low_g, high_g = goes_on_range(lines, factors)
    coating, rest = sum(c for c, _ in both), sum(r for _, r in both)
    if goes_on_g <= 0:
        return coating + rest, coating + rest
    return rest + coating * low_g / goes_on_g, rest + coating * high_g / goes_on_g


def line_range(mass_g: float, factors: Factors) -> Range:
    """The 90 % range of the grams of a piped line."""
    return _either_way(mass_g, 2 * factors.sd_of(HOLE))


def pace_range(hands_s: float, factors: Factors) -> Range:
    """The 90 % range of seconds of hands."""
    return _either_way(hands_s, factors.sd_of(PACE))


def hands_range(step: JobStep, factors: Factors) -> Range:
    """The 90 % range of the seconds of hands of a step."""
    return pace_range(step.hands_s, factors)


def wait_range(step: JobStep, factors: Factors) -> Range:
    """The 90 % range of the minutes that a step waits at least: of what sets, by the setting and by the coat."""
    return _either_way(step.from_min, math.hypot(factors.sd_of(SET), PRIORS[COAT]))


def _either_way(value: float, sd: float) -> Range:
    return value * math.exp(-RANGE_SD * sd), value * math.exp(RANGE_SD * sd)
