"""Bold, fine, or stop: how much of the light colour still lies where it is a millimetre wide or more.

Two to four passes are prettiest, eight are past it: common practice, no source.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from coating.shape.marbling.surface import Surface

WIDE_MM = 1.0
BOLD, FINE = 0.85, 0.5


@dataclass(frozen=True)
class Verdict:
    """Share of the second colour in the slab, share of that which lies a millimetre wide, and the word for it."""

    light_share: float
    bold_share: float
    word: str


def verdict(surface: Surface, colour: int = 1) -> Verdict:
    """How one colour of a surface looks.

    Parameters
    ----------
    surface : Surface
    colour : int
        Its number.

    Returns
    -------
    Verdict
        "bold" also where there is none of it.
    """
    from scipy.ndimage import distance_transform_edt

    light = surface.colours == colour
    share = float(light.mean())
    if not light.any():
        return Verdict(0.0, 1.0, "bold")
    # What a disc of that radius can cover without leaving the colour; an edge lies half a dot before the next middle.
    reach = WIDE_MM / 2 / surface.dot_mm + 0.5
    around = np.pad(light, 1, mode="edge")
    kept = distance_transform_edt(around) >= reach
    opened = distance_transform_edt(~kept) <= reach if kept.any() else np.zeros_like(around)
    bold = float(np.count_nonzero(opened[1:-1, 1:-1] & light) / np.count_nonzero(light))
    return Verdict(share, bold, "bold" if bold > BOLD else "fine" if bold >= FINE else "stop")
