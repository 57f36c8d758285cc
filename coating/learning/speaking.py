"""When something learned is said, in which words, and when it may be used. The limits are proposals, not measured."""

from __future__ import annotations

import math

from coating.learning.fit import Together

LEAST_BOWLS, LEAST_OFF = 2, 0.08  # bowls that speak, and how far off it must be to be worth a word
TOO_FAR, MOST_ODD = 1.8, 0.25  # times either way, and share of odd records, beyond which it is shown, not used
_WORDS = ((0.15, "a little"), (0.27, "about a fifth"), (0.42, "about a third"), (0.65, "about half"))
_LESS = ((0.85, "a little"), (0.75, "about a fifth"), (0.58, "about a third"), (0.4, "about half"))


def is_worth_saying(product: Together, bowls: int) -> bool:
    """Whether enough bowls speak, the label is out of the range, and it is far enough off."""
    outside = product.low > 1.0 or product.high < 1.0
    return bowls >= LEAST_BOWLS and outside and abs(product.factor - 1.0) >= LEAST_OFF


def may_be_used(product: Together, odd: int, records: int) -> bool:
    """Whether it is near enough to what can be, and its records agree."""
    return abs(math.log(product.factor)) <= math.log(TOO_FAR) and odd <= MOST_ODD * records


def how_much(factor: float) -> str:
    """How much more or less than 1, in words.

    >>> [how_much(f) for f in (1.1, 1.2, 1.3, 1.5, 2.0, 0.9, 0.8, 0.7, 0.5, 0.3)]
    ['a little', 'about a fifth', 'about a third', 'about half', 'far', 'a little', 'about a fifth', 'about a third', \
'about half', 'far']
    """
    if factor >= 1:
        return next((word for limit, word in _WORDS if factor - 1 < limit), "far")
    return next((word for limit, word in _LESS if factor > limit), "far")
