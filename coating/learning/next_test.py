"""What to test next: the one test after which recipes are most sure."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from coating.learning.fit import Fitted
from coating.learning.names import DROP, NOISE, PRIORS, kind_of

LOOKED_OFF = 0.1  # of ln, how well one bowl that is read says the product of drop and strength


@dataclass(frozen=True)
class NextTest:
    """Weigh drops (`of` is DROP) or read a bowl of one colour, and by what share the ranges of recipes narrow."""

    of: str
    narrower: float


def what_to_test(fitted: Fitted, strengths: Sequence[str], counted: Mapping[str, bool]) -> NextTest | None:
    """The test with the greatest gain.

    Parameters
    ----------
    fitted : what is known. strengths : names of the colours recipes are made with. counted : whether each is counted in
    drops.

    Returns
    -------
    NextTest, or None without any colour.

    Each recipe's range goes with the sd of its colours' products; what is not known yet is as wide as beforehand.
    """
    if not strengths:
        return None
    names = list(dict.fromkeys([DROP, *strengths, *fitted.names]))
    spread = np.diag([PRIORS[kind_of(name)] ** 2 for name in names])
    known = [names.index(name) for name in fitted.names]
    spread[np.ix_(known, known)] = np.array(fitted.spread).reshape(len(known), len(known))
    products = [_along(names, name, drops=counted.get(name, False)) for name in strengths]
    tests = [(name, along, LOOKED_OFF) for name, along in zip(strengths, products, strict=True)]
    if any(counted.values()):
        tests.insert(0, (DROP, _along(names, DROP, drops=False), NOISE["drops"]))
    gains = [NextTest(name, _narrower(spread, products, along, off)) for name, along, off in tests]
    return max(gains, key=lambda test: round(test.narrower, 9))


def _along(names: Sequence[str], name: str, *, drops: bool) -> NDArray[np.float64]:
    along = np.zeros(len(names))
    along[names.index(name)] = 1.0
    if drops:
        along[names.index(DROP)] = 1.0
    return along


def _narrower(
    spread: NDArray[np.float64], products: Sequence[NDArray[np.float64]], along: NDArray[np.float64], off: float
) -> float:
    """By what share the products' ranges narrow, on the average, once something along a line was measured."""
    pulled = spread @ along
    after = spread - np.outer(pulled, pulled) / (off**2 + float(along @ pulled))
    left = [math.sqrt(max(0.0, float(p @ after @ p)) / max(1e-12, float(p @ spread @ p))) for p in products]
    return 1.0 - sum(left) / len(left)
