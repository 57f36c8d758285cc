"""Closed areas and open lines, from rings by the even-odd or the nonzero rule."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import TYPE_CHECKING, Any

import numpy as np

from coating.errors import OutOfBounds
from coating.shape.strokes import Array

if TYPE_CHECKING:
    from shapely import Polygon

LEAST_MM2 = 0.01  # an area below that is none
MOST_CROSSINGS = 10_000  # of the lines of one shape
MOST_LOOKS = 150_000_000  # how many stretches of a line are looked at to tell inside from outside
_AT_ONCE = 500_000  # of them


@dataclass(frozen=True, eq=False)
class OutlineRing:
    """A line of points in mm, whether it closes, by which rule, and of which shape it is a part."""

    points: Array
    closed: bool
    even_odd: bool
    shape: int


@dataclass(frozen=True, eq=False)
class Areas:
    """Closed parts (shapely polygons, mm), open lines, and what was left out."""

    parts: tuple[Polygon, ...]
    lines: tuple[Array, ...] = ()
    left_out: tuple[str, ...] = ()

    @property
    def area_mm2(self) -> float:
        """All parts together, mm2."""
        return sum(part.area for part in self.parts)

    @property
    def outline_mm(self) -> float:
        """All edges, those of holes too, and the open lines."""
        drawn = sum(float(np.hypot(*np.diff(line, axis=0).T).sum()) for line in self.lines)
        return sum(part.length for part in self.parts) + drawn

    @cached_property
    def box_mm(self) -> tuple[float, float, float, float]:
        """Least x and y, greatest x and y."""
        boxes = [part.bounds for part in self.parts]
        boxes += [(*line.min(axis=0), *line.max(axis=0)) for line in self.lines]
        if not boxes:
            return 0.0, 0.0, 0.0, 0.0
        low, high = np.array(boxes)[:, :2].min(axis=0), np.array(boxes)[:, 2:].max(axis=0)
        return float(low[0]), float(low[1]), float(high[0]), float(high[1])

    @property
    def size_mm(self) -> tuple[float, float]:
        """Width and height of the box around all parts, mm."""
        low_x, low_y, high_x, high_y = self.box_mm
        return high_x - low_x, high_y - low_y

    def sized(self, width_mm: float) -> Areas:
        """The same, so wide, from the origin."""
        from shapely.affinity import affine_transform

        wide, _ = self.size_mm
        scale = width_mm / wide if wide > 0 else 1.0
        low_x, low_y, *_ = self.box_mm
        moves = [scale, 0, 0, scale, -scale * low_x, -scale * low_y]
        parts = tuple(affine_transform(part, moves) for part in self.parts)
        lines = tuple((line - (low_x, low_y)) * scale for line in self.lines)
        return Areas(parts, lines, self.left_out)


def areas_of(rings: Sequence[OutlineRing], *, left_out: Iterable[str] = ()) -> Areas:
    """Areas that rings close in, overlapping ones run together; open lines by themselves."""
    from shapely import unary_union

    shapes: dict[int, list[OutlineRing]] = {}
    for ring in rings:
        if ring.closed:
            shapes.setdefault(ring.shape, []).append(ring)
    faces: list[Any] = []
    missing = dict.fromkeys(left_out)
    for group in shapes.values():
        areas = _faces(group)
        if not areas:
            missing["a shape without an area"] = None
        faces += areas
    whole = unary_union(faces) if faces else None
    parts = [p for p in getattr(whole, "geoms", [whole]) if p is not None and p.geom_type == "Polygon" and p.area > 0]
    lines = tuple(r.points for r in rings if not r.closed and float(np.ptp(r.points, axis=0).max()) > 0)
    return Areas(tuple(sorted(parts, key=lambda p: -p.area)), lines, tuple(missing))


def _faces(group: Sequence[OutlineRing]) -> list[Any]:
    """The faces of one shape that count as inside."""
    from shapely import LinearRing, Polygon, get_coordinates, point_on_surface, polygonize, unary_union

    rings = [_closed(ring.points) for ring in group]
    rings = [points for points in rings if len(points) > 3]
    if not rings:
        return []
    if len(rings) == 1 and (alone := Polygon(rings[0])).is_valid:
        return [alone] if alone.area > LEAST_MM2 else []
    _few_crossings(rings)
    lines = unary_union([LinearRing(points) for points in rings])
    cells = [face for face in polygonize([lines]).geoms if face.area > LEAST_MM2]
    if not cells:
        return []
    inside = get_coordinates(point_on_surface(np.array(cells)))
    turns = _windings(rings, inside)
    keep = turns % 2 == 1 if group[0].even_odd else turns != 0
    return [cell for cell, kept in zip(cells, keep, strict=True) if kept]


def _closed(points: Array) -> Array:
    keep = np.r_[True, np.hypot(*np.diff(points, axis=0).T) > 1e-9]
    points = points[keep]
    return points if len(points) < 2 or np.allclose(points[0], points[-1]) else np.concatenate([points, points[:1]])


def _few_crossings(rings: Sequence[Array]) -> None:
    """Every crossing parts an area in two: refused before it is worked out. Raises OutOfBounds."""
    from shapely import STRtree, linestrings

    ends = np.concatenate([np.stack([ring[:-1], ring[1:]], axis=1) for ring in rings])
    stretches = linestrings(ends)
    tree, crossings, step = STRtree(stretches), 0, max(1, _AT_ONCE // len(stretches))
    for begin in range(0, len(stretches), step):
        one, other = tree.query(stretches[begin : begin + step])
        crossings += _crossing(ends[begin + one], ends[other])
        if crossings > MOST_CROSSINGS:
            raise OutOfBounds(
                "Its lines cross each other thousands of times. Draw it more simply.", field="svg", high=MOST_CROSSINGS
            )


def _crossing(one: Array, other: Array) -> int:
    """How many of these pairs of stretches cross, each pair being there both ways round."""

    def sides(of: Array, points: Array) -> Array:
        (x, y), (dx, dy) = of[:, 0].T, (of[:, 1] - of[:, 0]).T
        return np.sign(dx[:, None] * (points[..., 1] - y[:, None]) - dy[:, None] * (points[..., 0] - x[:, None]))

    apart = (sides(one, other).prod(axis=1) < 0) & (sides(other, one).prod(axis=1) < 0)
    return int(np.count_nonzero(apart)) // 2


def _windings(rings: Sequence[Array], places: Array) -> Any:
    """How often the rings turn round each place: only those are looked at whose box it lies in. Raises OutOfBounds."""
    turns, looks = np.zeros(len(places), dtype=int), 0
    for ring in rings:
        near = np.flatnonzero(((places >= ring.min(axis=0)) & (places <= ring.max(axis=0))).all(axis=1))
        looks += len(near) * len(ring)
        if looks > MOST_LOOKS:
            raise OutOfBounds(
                "It has too many outlines inside each other. Draw it more simply.", field="svg", high=MOST_LOOKS
            )
        step = max(1, _AT_ONCE // len(ring))
        for begin in range(0, len(near), step):
            some = near[begin : begin + step]
            turns[some] += _winding(ring, places[some])
    return turns


def _winding(ring: Array, places: Array) -> Any:
    """How often a ring turns round each place: the stretches that pass a ray to the right, up less down."""
    x, y = places[:, :1], places[:, 1:]
    above = ring[:, 1] > y
    up, down = ~above[:, :-1] & above[:, 1:], above[:, :-1] & ~above[:, 1:]
    (x1, y1), (x2, y2) = ring[:-1].T, ring[1:].T
    left = (x2 - x1) * (y - y1) - (x - x1) * (y2 - y1)  # above 0 where the place is left of the stretch
    return (up & (left > 0)).sum(axis=1) - (down & (left < 0)).sum(axis=1)
