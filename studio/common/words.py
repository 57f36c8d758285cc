"""How words are put together, wherever a sentence is made."""

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


def many(count: int, one: str, more: str = "") -> str:
    """So many of something.

    >>> many(1, "bowl"), many(3, "bowl"), many(2, "leaf", "leaves"), many(0, "bowl")
    ('1 bowl', '3 bowls', '2 leaves', 'no bowls')
    """
    return f"{count or 'no'} {one if count == 1 else more or one + 's'}"


def stress(words: str) -> str:
    """Words of a sentence that are to be seen first; the filter `stressed` marks them on the page."""
    return f"*{words}*"
