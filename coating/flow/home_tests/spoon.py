"""The spoon: which picture fits. One tap, and the widest range of all tests."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

from coating.errors import UnknownName
from coating.flow.ribbon import WORDS, flow_word
from coating.flow.trade_number import flow_from_number
from coating.limits import BOUNDS

THINNEST, THICKEST = 8.0, 150.0  # what is melted and dipped in kitchens; common practice, no source


@dataclass(frozen=True)
class SpoonRange:
    """The numbers that look like a word, thinnest and thickest, and the middle of them by ratio."""

    number: float
    low: float
    high: float


@lru_cache(maxsize=64)
def number_from_word(word: str, k_per_s: float = 6.0) -> SpoonRange:
    """The trade number as it stands of a coating that falls from the spoon like this.

    Raises
    ------
    UnknownName : no such word.
    """
    if word not in WORDS:
        raise UnknownName("Choose one of the spoons.", field="word", choices=list(WORDS))
    place = WORDS.index(word)
    low, high = _edge(place, k_per_s), _edge(place + 1, k_per_s)
    if low < THICKEST:
        low, high = max(low, THINNEST), min(high, THICKEST)
    return SpoonRange((low * high) ** 0.5, low, high)


def _edge(place: int, k_per_s: float) -> float:
    """The number from which on the words are at least so far along."""
    low, high = BOUNDS["number"].low, BOUNDS["number"].high
    if place == 0:
        return low
    for _ in range(40):
        middle = (low + high) / 2
        further = WORDS.index(flow_word(flow_from_number(middle, k_per_s=k_per_s))) >= place
        low, high = (low, middle) if further else (middle, high)
    return high
