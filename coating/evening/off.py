"""How a colour came out beside the one that was wanted, in a word."""

from __future__ import annotations

from dataclasses import dataclass

from coating.colour.ciede2000 import CLOSE, VISIBLE, colour_difference
from coating.colour.recipe import Lab
from coating.learning.observations import WORDS, offset_of


@dataclass(frozen=True)
class Off:
    """Which way it is off: "right", "light", "dark", "green", "red", "blue" or "yellow"; and whether by much."""

    word: str
    much: bool = False


def off_by(came: Lab, wanted: Lab) -> Off:
    """How a colour came out, in the words that makers look at a bowl with.

    Parameters
    ----------
    came, wanted : tuple of float
        CIELAB, D65.

    Returns
    -------
    Off
        Up to a close match (CIEDE2000 of 2) it is "right"; beyond, the word whose step from the wanted colour leads
        nearest to what came out, by much from 5 on.

    Examples
    --------
    >>> off_by((60.0, -8.0, -17.0), (66.0, -8.0, -17.0)).word, off_by((66.0, -8.0, -17.0), (66.5, -8.0, -17.0)).word
    ('dark', 'right')
    """
    de00 = float(colour_difference(came, wanted))
    if de00 <= CLOSE:
        return Off("right")
    steps = {}
    for word in WORDS:
        by = offset_of(word, much=de00 > VISIBLE)
        steps[word] = [w + step for w, step in zip(wanted, by, strict=True)]
    word = min((w for w in steps if w != "right"), key=lambda w: float(colour_difference(steps[w], came)))
    return Off(word, de00 > VISIBLE)
