"""Whether two techniques can be done from one bowl, or it has to be thinned between them."""

from __future__ import annotations

from dataclasses import dataclass

from coating.flow.windows import window


@dataclass(frozen=True)
class Sharing:
    """`together` : one flow suits both. `first` : else the thicker one, which is done first, as only fat can be added.
    `low`, `high` : trade numbers that suit both, 0 where none does."""

    together: bool
    first: str
    low: float = 0.0
    high: float = 0.0


def sharing(one: str, other: str) -> Sharing:
    """For two techniques by their windows.

    >>> sharing("dip", "lace").together, sharing("flood", "outline").first
    (True, 'outline')

    Raises UnknownName.
    """
    a, b = window(one), window(other)
    fits = all(
        max(p[0], q[0]) <= min(p[1], q[1])
        for p, q in ((a.yield_stress_pa, b.yield_stress_pa), (a.viscosity_pa_s, b.viscosity_pa_s), (a.number, b.number))
    )
    first = one if a.number[1] >= b.number[1] else other
    if not fits:
        return Sharing(False, first)
    return Sharing(True, first, max(a.number[0], b.number[0]), min(a.number[1], b.number[1]))
