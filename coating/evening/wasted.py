"""What was wasted of a bowl, on what, and what would have saved it."""

from __future__ import annotations

from dataclasses import dataclass

from coating.evening.amounts import Came
from coating.plan.leftovers import LEAST_G

SPOILT, TOO_MUCH, KEPT_TOO_LONG = "spoilt", "too_much", "kept_too_long"
SCRAPED_G = 15.0  # what stays in any bowl that is scraped out; common practice, no source
ROUND_G = 5.0


@dataclass(frozen=True)
class Wasted:
    """So much of a bowl was wasted, g; `less_g`: how much less would have done, where less should have been melted."""

    why: str
    mass_g: float
    less_g: float = 0.0


def wasted(came: Came, *, kept_g: float | None = None, gone_g: float = 0.0) -> list[Wasted]:
    """What of a bowl ended nowhere.

    Parameters
    ----------
    came : Came
        What became of it.
    kept_g : float, optional
        What of the rest was put in the cupboard, g; None: all of it that is worth keeping.
    gone_g : float
        What of that was kept until it was past its day, g.

    Returns
    -------
    list of Wasted
        The largest first: "spoilt" (thrown away), "too_much" (left over, and not kept), "kept_too_long".

    Examples
    --------
    >>> wasted(Came(300.0, 180.0, lost_g=20.0, left_g=100.0), kept_g=0.0)
    [Wasted(why='too_much', mass_g=100.0, less_g=85.0), Wasted(why='spoilt', mass_g=20.0, less_g=0.0)]
    """
    kept = (came.left_g if came.left_g >= LEAST_G else 0.0) if kept_g is None else min(kept_g, came.left_g)
    over_g = came.left_g - kept
    less_g = max(0.0, ROUND_G * int((over_g - SCRAPED_G) / ROUND_G))
    each = [
        Wasted(SPOILT, came.lost_g),
        Wasted(TOO_MUCH, over_g if less_g else 0.0, less_g),
        Wasted(KEPT_TOO_LONG, min(gone_g, kept)),
    ]
    return sorted((w for w in each if w.mass_g > 0), key=lambda w: -w.mass_g)
