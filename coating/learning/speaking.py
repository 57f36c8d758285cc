"""When something learned is said, in which words, when it may be used, and when it is asked about first.

The limits are proposals, not measured.
"""

from __future__ import annotations

import math

from coating.learning.factors import Factor
from coating.learning.fit import Together
from coating.learning.names import COAT, HOLE, LOSS, PACE, SET

LEAST_BOWLS, LEAST_OFF = 2, 0.08  # bowls that speak, and how far off it must be to be worth a word
TOO_FAR, MOST_ODD = 1.8, 0.25  # times either way, and share of odd records, beyond which it is shown, not used
ASKED_FROM = 0.15  # of grams to melt or of minutes: a change beyond that is asked about the first time
LESS_FROM = 3  # jobs from which less is melted than by default
_WORDS = ((0.15, "a little"), (0.27, "about a fifth"), (0.42, "about a third"), (0.65, "about half"))
_LESS = ((0.85, "a little"), (0.75, "about a fifth"), (0.58, "about a third"), (0.4, "about half"))


def is_worth_saying(product: Together, bowls: int) -> bool:
    """Whether enough bowls speak, the label is out of the range, and it is far enough off."""
    outside = product.low > 1.0 or product.high < 1.0
    return bowls >= LEAST_BOWLS and outside and abs(product.factor - 1.0) >= LEAST_OFF


def may_be_used(product: Together, odd: int, records: int) -> bool:
    """Whether it is near enough to what can be, and its records agree."""
    return abs(math.log(product.factor)) <= math.log(TOO_FAR) and agree(odd, records)


def agree(odd: int, records: int) -> bool:
    """Whether few enough of the records do not fit.

    >>> agree(1, 4), agree(2, 4)
    (True, False)
    """
    return odd <= MOST_ODD * records


def is_asked_first(kind: str, factor: float) -> bool:
    """Whether a maker is asked before it is used: a bowl that would stay usable for longer always, else what moves
    grams to melt or minutes by more than ASKED_FROM.

    >>> is_asked_first("coat", 1.2), is_asked_first("hole", 1.1), is_asked_first("coat", 1.1)
    (True, True, False)
    >>> is_asked_first("loss", 1.4), is_asked_first("loss", 0.95), is_asked_first("strength", 1.6)
    (False, True, False)
    """
    if kind == LOSS:
        return factor < 1.0
    moves = factor**2 if kind == HOLE else factor
    return kind in (COAT, HOLE, SET, PACE) and abs(moves - 1.0) > ASKED_FROM


def is_enough(kind: str, factor: float, bowls: int) -> bool:
    """Whether so many jobs may make it less than by default.

    >>> is_enough("coat", 0.8, 2), is_enough("coat", 0.8, 3), is_enough("coat", 1.2, 2)
    (False, True, True)
    """
    return bowls >= LESS_FROM or kind not in (COAT, HOLE) or factor >= 1.0


def tighter_load(drop: Factor) -> float:
    """By how much less colour may go in where drops are heavier than was thought, at the high end of their range.

    >>> tighter_load(Factor(1.2, 1.1, 1.25)), tighter_load(Factor(1.05, 0.9, 1.2)), tighter_load(Factor(0.8, 0.7, 0.9))
    (0.8, 1.0, 1.0)
    """
    return 1.0 / max(1.0, drop.high or drop.value) if (drop.low or drop.value) > 1.0 else 1.0


def how_much(factor: float) -> str:
    """How much more or less than 1, in words.

    >>> [how_much(f) for f in (1.1, 1.2, 1.3, 1.5, 2.0, 0.9, 0.8, 0.7, 0.5, 0.3)]
    ['a little', 'about a fifth', 'about a third', 'about half', 'far', 'a little', 'about a fifth', 'about a third', \
'about half', 'far']
    """
    if factor >= 1:
        return next((word for limit, word in _WORDS if factor - 1 < limit), "far")
    return next((word for limit, word in _LESS if factor > limit), "far")
