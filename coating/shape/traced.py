"""A picture becomes areas: what is darker (or lighter) than a threshold, traced along its edge, without specks.

The threshold is where the two classes of grey differ most (Otsu 1979), unless it is told.
"""

from __future__ import annotations

import math
from itertools import pairwise
from typing import Any

import numpy as np
from numpy.typing import NDArray

from coating.errors import EmptyDrawing, OutOfBounds, WrongShape
from coating.limits import check
from coating.shape.areas import Areas
from coating.shape.lace.holds import parts_of

MOST_PIXELS, LEAST_PIXELS = 1200, 8  # along a side
SPECK, SMOOTH_MM = 0.0004, 0.12  # of the whole area; how far the line may leave the edge
MOST_PARTS = 300


def otsu(grey: NDArray[np.float64]) -> float:
    """The grey between 0 and 1 that parts a picture best."""
    counts, edges = np.histogram(grey, bins=256, range=(0, 1))
    middles = (edges[:-1] + edges[1:]) / 2
    below = np.cumsum(counts)
    above = below[-1] - below
    sum_below = np.cumsum(counts * middles)
    with np.errstate(divide="ignore", invalid="ignore"):
        apart = below * above * (sum_below / below - (sum_below[-1] - sum_below) / above) ** 2
    apart = np.nan_to_num(apart)
    best = np.flatnonzero(apart >= apart.max() * (1 - 1e-12))
    return float(middles[best].mean())


def traced(
    grey: Any, *, width_mm: float, threshold: float | None = None, light: bool = False, smooth_px: float = 1.0
) -> Areas:
    """Areas of a picture, `width_mm` from its left to its right edge.

    Parameters
    ----------
    grey : rows of grey, 0 black to 1 white. threshold : None: found. light : trace what is lighter, not darker.
    smooth_px : how much is smoothed first.

    Raises
    ------
    WrongShape : no picture. OutOfBounds : too small or too large, or a threshold outside 0 to 1. EmptyDrawing : all of
    it is one side of the threshold.
    """
    from contourpy import FillType, contour_generator
    from scipy.ndimage import gaussian_filter
    from shapely import Polygon

    picture = np.asarray(grey, dtype=float)
    if picture.ndim != 2 or not np.isfinite(picture).all():
        raise WrongShape("That is not a picture in grey.", field="picture")
    high, wide = picture.shape
    if min(high, wide) < LEAST_PIXELS or max(high, wide) > MOST_PIXELS:
        raise OutOfBounds(
            f"Each side of the picture needs between {LEAST_PIXELS} and {MOST_PIXELS} dots.",
            field="picture",
            high=MOST_PIXELS,
        )
    check("page_mm", width_mm, "width_mm")
    smooth = gaussian_filter(picture, smooth_px) if smooth_px > 0 else picture
    level = otsu(smooth) if threshold is None else check("reflectance", threshold, "threshold")
    side = smooth - level if light else level - smooth
    framed = np.pad(side, 1, constant_values=-1.0)  # what runs over the edge ends there
    filled: Any = contour_generator(z=framed, fill_type=FillType.OuterOffset).filled(0.0, 2.0)
    scale = width_mm / wide
    least = SPECK * high * wide * scale**2
    parts = []
    for points, offsets in zip(*filled, strict=True):
        rings = [(points[a:b] - 0.5) * scale for a, b in pairwise(offsets)]
        shape = Polygon(rings[0], [r for r in rings[1:] if Polygon(r).area > least]).simplify(SMOOTH_MM)
        parts += [p for p in parts_of(shape.buffer(0)) if p.area > least]
    if not parts:
        raise EmptyDrawing("Nothing stands out in that picture. Try another threshold.", field="threshold")
    if len(parts) > MOST_PARTS:
        raise OutOfBounds(
            f"The picture falls into {len(parts)} parts. Use a simpler one, or try another threshold.",
            field="threshold",
            high=MOST_PARTS,
        )
    return Areas(tuple(sorted(parts, key=lambda p: -p.area)))


def fitted_pixels(wide: int, high: int) -> tuple[int, int]:
    """The size a picture is brought to before it is traced."""
    shrink = min(1.0, MOST_PIXELS / 2 / max(wide, high))
    return max(1, math.floor(wide * shrink)), max(1, math.floor(high * shrink))
