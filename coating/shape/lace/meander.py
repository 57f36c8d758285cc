"""A wandering line that never crosses itself: the outline of a random tree (a tree has no ring, so its outline is one
closed line). The tree grows over a loose triangular grid, its branches bend, and the outline is drawn round at all
corners. Where the grid meets the upper and lower edge the line touches them."""

from __future__ import annotations

import math

import numpy as np

from coating.shape.curves import rounded
from coating.shape.strokes import Array

_SPACING = 4.8  # lines from one knot of the tree to the next
_THICK = 0.24  # of the spacing: from a branch to the line round it
_LOOSE = 0.13  # of the spacing: how far a knot lies from its grid
_BULGE = 0.2  # of its length: how far a branch bends
_SOFT = 0.35  # of the thickness: how round an inner corner is
_FORKS = 3


def meander_lines(width: float, top: float, bottom: float, *, line: float, roomy: float, seed: int) -> list[Array]:
    """The closed line that wanders between x 0 and `width`, y `top` and `bottom`, in mm.

    `roomy` widens it; `seed` draws another.
    """
    from shapely import LineString, MultiLineString, Polygon

    draw = np.random.default_rng(seed)
    spacing = _SPACING * line * roomy
    thick = _THICK * spacing
    knots, columns = _knots(draw, width, top + thick, bottom - thick, thick, spacing)
    if len(knots) < 2:
        return [np.array([(0.0, (top + bottom) / 2), (width, (top + bottom) / 2)])]
    branches = [_bent(draw, knots[a], knots[b]) for a, b in _tree(draw, knots, columns, spacing)]
    round_ = MultiLineString(branches).buffer(thick, quad_segs=2)
    soft = round_.buffer(_SOFT * thick, quad_segs=2).buffer(-_SOFT * thick, quad_segs=2)
    soft = round_ if getattr(soft, "interiors", ()) else soft
    widest = Polygon(max(getattr(soft, "geoms", [soft]), key=lambda p: p.area).exterior)
    outline = rounded(np.asarray(widest.exterior.simplify(0.35 * thick).coords)[:-1], 2, closed=True)
    outline = np.concatenate([outline, outline[:1]])
    if not LineString(outline).is_simple:
        outline = np.asarray(widest.exterior.simplify(0.02).coords)
    return [np.column_stack([outline[:, 0], np.clip(outline[:, 1], top, bottom)])]


def _knots(
    draw: np.random.Generator, width: float, low: float, high: float, inset: float, spacing: float
) -> tuple[Array, int]:
    """Rows of points, every other row half a step along; the outermost rows stay on their edges."""
    rows = max(1, round((high - low) / (spacing * math.sqrt(3) / 2))) + 1 if high > low else 1
    columns = max(2, round((width - 2 * inset) / spacing) + 1)
    step = (width - 2 * inset) / max(columns - 0.5, 1)
    points = []
    for row in range(rows):
        y = low + (high - low) * (row / (rows - 1) if rows > 1 else 0.5)
        for column in range(columns):
            x = inset + step * (column + 0.5 * (row % 2))
            off = draw.uniform(-1, 1, 2) * _LOOSE * spacing
            edge = row in (0, rows - 1)
            points.append((np.clip(x + off[0], inset, width - inset), y if edge else y + off[1]))
    return np.array(points), columns


def _tree(draw: np.random.Generator, knots: Array, columns: int, spacing: float) -> list[tuple[int, int]]:
    """A spanning tree of few forks: the newest tip goes on, until it finds no room. Branches lie along the triangles
    between the knots (Delaunay 1934), so that they never cross."""
    from scipy.spatial import Delaunay, QhullError

    beside: dict[int, set[int]] = {i: set() for i in range(len(knots))}
    try:
        corners = Delaunay(knots).simplices
    except QhullError:  # all in one row
        corners = np.array([(i, i + 1, i) for i in range(len(knots) - 1)])
    for a, b in np.concatenate([corners[:, [0, 1]], corners[:, [1, 2]], corners[:, [2, 0]]]).tolist():
        if a != b and np.hypot(*(knots[a] - knots[b])) < 1.5 * spacing:
            beside[a].add(b)
            beside[b].add(a)
    tips, forks = [int(draw.integers(columns))], dict[int, int]()
    seen, edges = set(tips), list[tuple[int, int]]()
    while tips:
        place = -1 if draw.random() < 0.85 else int(draw.integers(len(tips)))
        at = tips[place]
        free = sorted(b for b in beside[at] if b not in seen)
        if not free or forks.get(at, 0) >= _FORKS:
            tips.pop(place)
            continue
        chosen = free[int(draw.integers(len(free)))]
        edges.append((at, chosen))
        seen.add(chosen)
        tips.append(chosen)
        for end in (at, chosen):
            forks[end] = forks.get(end, 0) + 1
    return edges


def _bent(draw: np.random.Generator, start: Array, end: Array) -> Array:
    t = np.linspace(0, 1, 5)[:, None]
    along = end - start
    across = np.array([-along[1], along[0]]) * _BULGE * draw.uniform(-1, 1)
    return np.asarray(start + t * along + np.sin(math.pi * t) * across)
