"""Does it stay in one piece when it is lifted, and where is its thinnest join?

The beads are taken as they lie, each line as wide as it settles. The thinnest join is twice the greatest depth that can
be taken off all round without the piece falling apart. That does not see one line carrying all alone: such threads are
found by breaking the lines, one place after the other.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING, Any

import numpy as np

from coating.shape.strokes import Array, Drawing

if TYPE_CHECKING:
    from shapely import Polygon

ROUND = 16  # segments a quarter
STEPS = 11
SMOOTH_MM = 0.01
TOUCHING_MM = 1e-4
APART = 6.0  # times what was taken off, within which what fell apart lies
SOUND = 0.98  # of the line: a join as wide as that is none
STRIDE, BITE = 4.0, 0.75  # lines from one place that is tried to the next, and what is bitten off there


@dataclass(frozen=True)
class Held:
    """Into how many pieces it falls, its thinnest join in mm and where (None where it is nowhere thinner than its
    line), openings, and where single threads carry more than `thread_mm` of line on either side."""

    pieces: int
    bridge_mm: float
    at: tuple[float, float] | None
    openings: int
    threads: tuple[tuple[float, float], ...] = ()

    @property
    def lifts(self) -> bool:
        """Whether it comes off the paper in one piece."""
        return self.pieces == 1


def beads(drawing: Drawing, line_mm: float, *, quad_segs: int = ROUND) -> Any:
    """What lies there: lines and presses of that width, run together; a shapely polygon or several."""
    from shapely import LineString, Point, unary_union

    half = line_mm / 2
    drawn = [LineString(line).buffer(half, quad_segs=quad_segs) for line in drawing.lines if len(line) > 1]
    drawn += [Point(dot).buffer(half, quad_segs=quad_segs) for dot in drawing.presses]
    return unary_union(drawn).simplify(SMOOTH_MM)


def parts_of(shape: Any) -> list[Polygon]:
    """The polygons of a shape, none where it is empty."""
    return [p for p in getattr(shape, "geoms", [shape]) if not p.is_empty and p.geom_type == "Polygon"]


def held(drawing: Drawing, line_mm: float, *, thread_mm: float = 0.0) -> Held:
    """Whether drawn lines hold together when they are lifted.

    Parameters
    ----------
    drawing : Drawing
    line_mm : float
        How wide a line settles, mm.
    thread_mm : float
        How much must hang on a thread to be told, mm; 0 not to look.

    Returns
    -------
    Held
    """
    parts = parts_of(beads(drawing, line_mm))
    openings = sum(len(p.interiors) for p in parts)
    if len(parts) != 1:
        return Held(len(parts), 0.0, None, openings)
    width, at = thinnest(parts[0], line_mm)
    return Held(1, width, at, openings, threads(parts[0], drawing.lines, line_mm, thread_mm) if thread_mm > 0 else ())


def thinnest(part: Polygon, most_mm: float) -> tuple[float, tuple[float, float] | None]:
    """The thinnest join of one polygon, mm, and its place; `most_mm` where no join is thinner."""
    low, high = 0.0, most_mm / 2 * SOUND
    if len(parts_of(part.buffer(-high, quad_segs=ROUND))) == 1:
        return most_mm, None
    for _ in range(STEPS):
        middle = (low + high) / 2
        low, high = (middle, high) if len(parts_of(part.buffer(-middle, quad_segs=ROUND))) == 1 else (low, middle)
    apart = sorted(parts_of(part.buffer(-high, quad_segs=ROUND)), key=lambda p: -p.area)
    if len(apart) < 2:
        return most_mm, None
    gap = _narrowest(apart, APART * high)
    x, y = gap.interpolate(0.5, normalized=True).coords[0]
    return 2 * low, (float(x), float(y))


def _narrowest(apart: list[Polygon], reach_mm: float) -> Any:
    """Where two polygons of many come nearest, a line; those looked at edge by edge are few: near ones only."""
    import shapely

    tree, pairs = shapely.STRtree(apart), np.zeros((2, 0), dtype=int)
    while True:
        ones, others = tree.query(apart, predicate="dwithin", distance=reach_mm)
        near = ones < others
        if near.any():
            pairs, reach_mm = np.array([ones[near], others[near]]), reach_mm / 2
        if pairs.size and (not near.any() or reach_mm < TOUCHING_MM):
            break
        if not pairs.size:
            reach_mm *= 4
    gaps = [_gap(apart[i], apart[k], 2 * reach_mm) for i, k in zip(*pairs, strict=True)]
    return min(gaps, key=lambda gap: gap.length)


def _gap(one: Polygon, other: Polygon, within_mm: float) -> Any:
    """The shortest line from one polygon to another that is known to be so near."""
    import shapely

    near, far = _edges(one), _edges(other)
    tree = shapely.STRtree(far)
    pairs, gaps = tree.query_nearest(near, max_distance=within_mm, return_distance=True, all_matches=False)
    least = int(np.argmin(gaps))
    return shapely.shortest_line(near[pairs[0][least]], far[pairs[1][least]])


def _rings(part: Polygon) -> list[Array]:
    return [np.asarray(ring.coords) for ring in (part.exterior, *part.interiors)]


def _edges(part: Polygon) -> Any:
    import shapely

    return shapely.linestrings(np.concatenate([np.stack([ring[:-1], ring[1:]], axis=1) for ring in _rings(part)]))


def threads(part: Polygon, lines: Sequence[Array], line_mm: float, least_mm: float) -> tuple[tuple[float, float], ...]:
    """Places where one line alone ties together two parts of more than `least_mm` of line each: where it is broken
    there, the piece falls apart."""
    import shapely

    along = [shapely.LineString(line) for line in lines if len(line) > 1]
    steps = [line.interpolate(at) for line in along for at in np.arange(STRIDE / 2, line.length, STRIDE * line_mm)]
    if not steps:
        return ()
    places = np.array(steps)[_may_break(part, steps, BITE * line_mm)]
    left = shapely.difference(part, shapely.buffer(places, BITE * line_mm, quad_segs=4))
    least = least_mm * line_mm
    broken = [sum(p.area > least for p in parts_of(shape)) > 1 for shape in left]
    return tuple((float(p.x), float(p.y)) for p, parted in zip(places, broken, strict=True) if parted)


def _may_break(part: Polygon, places: Sequence[Any], bite_mm: float) -> Any:
    """Which bites may part it, by their numbers: those that one edge of it runs through twice. Elsewhere a bite runs
    two openings together, or opens one to the outside, and what is left hangs together round them."""
    import shapely

    sizes = np.array([len(ring) - 1 for ring in _rings(part)])
    ring, first = np.repeat(np.arange(len(sizes)), sizes), np.cumsum(sizes) - sizes
    place, edge = shapely.STRtree(_edges(part)).query(places, predicate="dwithin", distance=bite_mm)
    before = first[ring[edge]] + (edge - first[ring[edge]] - 1) % sizes[ring[edge]]
    enters = ~np.isin(place * len(ring) + before, place * len(ring) + edge)
    runs, times = np.unique(np.stack([place[enters], ring[edge[enters]]]), axis=1, return_counts=True)
    return np.unique(runs[0][times > 1])
