"""Whether two techniques can be done from one bowl, or it has to be thinned between them."""

from __future__ import annotations

from dataclasses import dataclass

from coating.flow.windows import Window, window


@dataclass(frozen=True)
class Sharing:
    """`together` : one flow suits both. `first` : else the thicker one, which is done first, as only fat can be added.
    `low`, `high` : trade numbers that suit both, 0 where none does."""

    together: bool
    first: str
    low: float = 0.0
    high: float = 0.0


def sharing(one: str, other: str, white: str = "coating") -> Sharing:
    """For two techniques by their windows, as they are worked in a white.

    >>> sharing("dip", "lace").together, sharing("flood", "outline").first
    (True, 'outline')

    Raises UnknownName.
    """
    a, b = _numbers(window(one), white), _numbers(window(other), white)
    low, high, first = max(a[0], b[0]), min(a[1], b[1]), one if a[1] >= b[1] else other
    return Sharing(True, first, low, high) if low <= high else Sharing(False, first)


def _numbers(of: Window, white: str) -> tuple[float, float]:
    return of.workable_for(white)
