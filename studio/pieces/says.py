"""Sentences of the pages of a job."""

from __future__ import annotations

from collections.abc import Sequence


def listed(words: Sequence[str]) -> str:
    """Words as a sentence has them.

    >>> listed(["blue", "red", "black"]), listed(["blue"]), listed([])
    ('blue, red and black', 'blue', '')
    """
    *first, last = words or [""]
    return f"{', '.join(first)} and {last}" if first else last


def lower(title: str) -> str:
    """A title inside a sentence."""
    return title[:1].lower() + title[1:]


def shopping_says(short: Sequence[str], unknown: int, wanted: int) -> str:
    """What is to be bought, and of how many things nobody said how much there is.

    >>> shopping_says(["Bright white coating"], 2, 4)
    'Buy bright white coating, and look whether 2 more things are enough.'
    >>> shopping_says([], 1, 3)
    'Nothing to buy for certain: look whether 1 thing is enough.'
    >>> shopping_says([], 0, 3)
    'Everything for this job is there.'
    """
    if not wanted:
        return "Every colour of this job has its bowl: nothing more is wanted."
    if short:
        said = f"Buy {listed([lower(title) for title in short])}"
        more = f"{unknown} more thing{'s are' if unknown > 1 else ' is'}"
        return f"{said}, and look whether {more} enough." if unknown else f"{said}."
    if unknown:
        things = f"{unknown} thing{'s are' if unknown > 1 else ' is'}"
        return f"Nothing to buy for certain: look whether {things} enough."
    return "Everything for this job is there."
