"""A round biscuit from the front, dipped: the outline of the dipped part in a 100 by 100 drawing."""

from __future__ import annotations

import math

CENTRE, RADIUS, LIP = 50.0, 44.0, 1.5


def dip_path(depth_share: float) -> str:
    """Closed path of the dipped part, its upper edge slightly bowed as a draining coat is.

    Parameters
    ----------
    depth_share : how much of the height is dipped, 0 to 1.

    >>> dip_path(1.0).startswith("M")
    True
    """
    r = RADIUS + LIP
    share = min(max(depth_share, 0.02), 1.0)
    if share >= 0.999:
        return (
            f"M{CENTRE - r:.1f} {CENTRE} a{r:.1f} {r:.1f} 0 1 0 {2 * r:.1f} 0 a{r:.1f} {r:.1f} 0 1 0 {-2 * r:.1f} 0 Z"
        )
    line = CENTRE + r - 2 * r * share
    half = math.sqrt(max(r * r - (line - CENTRE) ** 2, 0.0))
    large = 1 if share > 0.5 else 0
    x0, x1 = CENTRE - half, CENTRE + half
    bow = 0.06 * half
    return (
        f"M{x0:.1f} {line:.1f} Q{CENTRE - half / 2:.1f} {line + bow:.1f} {CENTRE:.1f} {line:.1f} "
        f"T{x1:.1f} {line:.1f} A{r:.1f} {r:.1f} 0 {large} 1 {x0:.1f} {line:.1f} Z"
    )
