"""A number that was typed with a nought too few or too many."""

from __future__ import annotations

import math

NEAR = 0.35  # of ln, how near what was meant must then be to what the others say
TIMES = (10.0, 0.1)


def slip_of(value: float, expected: float) -> float | None:
    """What was likely meant, where a nought explains it; None where it does not.

    >>> slip_of(10, 104), slip_of(1000, 104), slip_of(60, 104)
    (100.0, 100.0, None)
    """
    for times in TIMES:
        if value > 0 and expected > 0 and abs(math.log(value * times / expected)) < NEAR:
            return value * times
    return None
