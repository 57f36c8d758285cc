"""Fill, chill, release, again: how often the moulds that there are go round, and how long that takes one pair of
hands."""

from __future__ import annotations

import math
from dataclasses import dataclass

from coating.limits import check


@dataclass(frozen=True)
class Cycles:
    """How often, cavities at a time, and how long it takes in all, s, hands and waits."""

    rounds: int
    at_once: int
    seconds: float


def cycles(
    pieces: int,
    *,
    cavities: int,
    moulds: int,
    fill_s: float,
    chill_s: float,
    release_s: float,
    places: int | None = None,
) -> Cycles:
    """Parameters
    ----------
    pieces : wanted. cavities : in one mould. moulds : there are. fill_s, release_s : hands for one cavity. chill_s :
    one mould in the cold. places : moulds that go into the cold at once; None: all.

    One mould is filled while the others chill; a mould is emptied as soon as it is hard and hands are free.
    """
    wanted = int(check("count", pieces))
    each, have = int(check("cavities", cavities)), int(check("cavities", moulds, "moulds"))
    go = have if places is None else max(1, min(have, int(check("cavities", places, "places"))))
    ready = [0.0] * go  # when each mould is hard
    holding = [0] * go
    now, left, rounds = 0.0, wanted, 0
    while left or any(holding):
        i = (
            min(range(go), key=lambda k: (ready[k] if holding[k] else -1.0, k))
            if left
            else min((k for k in range(go) if holding[k]), key=lambda k: ready[k])
        )
        if holding[i]:
            now = max(now, ready[i]) + release_s * holding[i]
            holding[i] = 0
        if left:
            holding[i] = min(each, left)
            left -= holding[i]
            now += fill_s * holding[i]
            ready[i] = now + chill_s
            rounds += 1
    return Cycles(math.ceil(rounds / go), min(wanted, each * go), now)
