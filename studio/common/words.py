"""How words are put together, wherever a sentence is made."""

from __future__ import annotations

from collections.abc import Sequence

from coating.colour.ciede2000 import difference_word

FARTHEST = "another colour"
_CLOSE = {"close": "a close match", "visible": "a visible difference"}


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


_NUMBERS = ("no", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten")


def number_word(count: int) -> str:
    """A small number as a word, a larger one in figures.

    >>> number_word(0), number_word(3), number_word(24)
    ('no', 'three', '24')
    """
    return _NUMBERS[count] if count < len(_NUMBERS) else str(count)


def stress(words: str) -> str:
    """Words of a sentence that are to be seen first; the filter `stressed` marks them on the page."""
    return f"*{words}*"


def close_says(de00: float, high: float | None = None) -> str:
    """How close a colour comes; `high` is the most it may be off, said where that is another word.

    >>> close_says(0.4), close_says(1.6), close_says(3.1), close_says(12)
    ('a match', 'a close match', 'a visible difference', 'another colour')
    >>> close_says(0.4, 0.9), close_says(1.6, 3.1), close_says(0.4, 7.0)
    ('a match', 'a close match, at worst a visible difference', 'a match by the labels, at worst another colour')
    """
    word = difference_word(de00)
    word = _CLOSE.get(word, word)
    worst = word if high is None else close_says(high)
    if worst == word:
        return word
    return f"{word}{' by the labels' if worst == FARTHEST else ''}, at worst {worst}"
