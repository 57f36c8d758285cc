"""Sentences of the cupboard."""

from __future__ import annotations


def shelf_says(there: int, measured: int, *, scale: bool = True) -> str:
    """How much is there, and how much of it is known; `scale`: there is one to weigh with.

    >>> shelf_says(0, 0)
    'Nothing is said to be in your cupboard yet: tick what you have, or add what you bought.'
    >>> shelf_says(1, 0)
    '1 thing in the cupboard, every value still assumed: weigh 20 drops first.'
    >>> shelf_says(7, 2)
    '7 things in the cupboard, and 2 values you have read or measured.'
    """
    if not there:
        return "Nothing is said to be in your cupboard yet: tick what you have, or add what you bought."
    things = f"{there} thing{'' if there == 1 else 's'} in the cupboard"
    if not measured:
        return f"{things}, every value still assumed{': weigh 20 drops first' if scale else ''}."
    return f"{things}, and {measured} value{'' if measured == 1 else 's'} you have read or measured."
