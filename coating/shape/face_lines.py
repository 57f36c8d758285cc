"""Lines and dots on the face of a piece: drizzle over a row of them, borders, dots, guides to be scored.

A face is what is seen from above: round, oblong, or a ball whose lines are longer than they look. A dip line is an
edge: what lies beyond it stays free.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from functools import cached_property
from types import MappingProxyType
from typing import TYPE_CHECKING, Any

import numpy as np

from coating.errors import OutOfBounds, UnknownName
from coating.limits import check
from coating.shape.curves import ellipse, star, teardrop
from coating.shape.order import piping_s
from coating.shape.strokes import Array, Drawing

if TYPE_CHECKING:
    from shapely import Polygon

FINGER_MM = 15.0  # between two pieces in a row; common practice, no source
HAND_MM_S, LIFT_S = 60.0, 1.2  # drizzle is drawn from the arm
_ASIDE_MM = 6.0  # how far a drizzle runs over the edge before it turns


@dataclass(frozen=True)
class Face:
    """What is seen of a piece, mm: width and height, whether it is round, whether it is a ball, and how much of its
    length is dipped, from below; its middle is the origin. `stops`: its upper edge is a dip line."""

    width_mm: float
    height_mm: float
    round_: bool = True
    ball: bool = False
    dipped: float = 1.0
    stops: bool = False

    @cached_property
    def outline(self) -> Polygon:
        """The outline of the piece, mm, its middle at the origin."""
        from shapely import Polygon, box

        if self.round_:
            return Polygon(ellipse((0, 0), self.width_mm, self.height_mm, points=96))
        return box(-self.width_mm / 2, -self.height_mm / 2, self.width_mm / 2, self.height_mm / 2)

    @cached_property
    def field(self) -> Any:
        """Where lines may go."""
        from shapely import box

        if self.dipped >= 1:
            return self.outline
        line = self.height_mm * (0.5 - self.dipped)
        return self.outline.intersection(box(-self.width_mm, line, self.width_mm, self.height_mm))


Lines = tuple[list[Array], list[tuple[float, float]]]


def _zigzag(face: Face, line: float, spacing: float, slant: float = 0.3) -> Lines:
    """Back and forth across and past its edges, but not past a dip line; leaning by `slant` of its height."""
    low_x, low_y, high_x, high_y = face.field.bounds
    top, bottom = low_y - (-line / 2 if face.stops else _ASIDE_MM), high_y + _ASIDE_MM
    lean = slant * (bottom - top)
    count = max(3, math.ceil((high_x - low_x + 2 * abs(lean)) / spacing) + 1)
    x = np.linspace(low_x - abs(lean), high_x + abs(lean), count)
    below = np.arange(count) % 2 == 1
    return [np.column_stack([x + np.where(below, -lean, lean) / 2, np.where(below, bottom, top)])], []


def _crossed(face: Face, line: float, spacing: float) -> Lines:
    """One way and then the other."""
    return [_zigzag(face, line, spacing, slant)[0][0] for slant in (0.45, -0.45)], []


def _stripes(face: Face, line: float, spacing: float) -> Lines:
    low_x, low_y, high_x, high_y = face.field.bounds
    ys = np.arange(low_y + spacing / 2, high_y, spacing)
    return [np.array([(low_x - 1, y), (high_x + 1, y)]) for y in ys], []


def _rays(face: Face, line: float, spacing: float) -> Lines:
    """From the middle outwards: guides on a ball or dome."""
    reach = max(face.width_mm, face.height_mm)
    count = max(3, round(math.pi * min(face.width_mm, face.height_mm) / spacing / 2) * 2)
    return [np.array([(0.0, 0.0), (reach * math.cos(a), reach * math.sin(a))])
            for a in np.arange(count) * 2 * math.pi / count], []  # fmt: skip


def _spiral(face: Face, line: float, spacing: float) -> Lines:
    turns = max(1.0, min(face.width_mm, face.height_mm) / 2 / spacing - 0.5)
    t = np.linspace(0, 2 * math.pi * turns, int(48 * turns) + 8)
    r = t / (2 * math.pi * turns)
    half_x, half_y = face.width_mm / 2 - spacing / 2, face.height_mm / 2 - spacing / 2
    return [np.column_stack([r * half_x * np.cos(t), r * half_y * np.sin(t)])], []


def _dots(face: Face, line: float, spacing: float) -> Lines:
    """Along the edge, large ones first and small ones in the gaps; a large dot is a line turned round on itself."""
    edge = _inset(face, 1.6 * line)
    around = edge.length
    count = max(3, round(around / spacing))
    large = [edge.interpolate(k * around / count) for k in range(count)]
    small = [edge.interpolate((k + 0.5) * around / count) for k in range(count)]
    return [ellipse((p.x, p.y), line, line, points=12) for p in large], [(p.x, p.y) for p in small]


def _all_over(face: Face, line: float, spacing: float) -> Lines:
    """Dots as far from each other every way, in rows that are shifted by half."""
    low_x, low_y, high_x, high_y = face.field.bounds
    free, rise = face.field.buffer(-0.8 * line), spacing * math.sqrt(3) / 2
    rows = int((high_y - low_y) / rise / 2) + 1
    across = int((high_x - low_x) / spacing / 2) + 1
    x, y = (low_x + high_x) / 2, (low_y + high_y) / 2
    points = [(x + (i + (k % 2) / 2) * spacing, y + k * rise) for k in range(-rows, rows + 1)
             for i in range(-across - 1, across + 1)]  # fmt: skip
    return [], [dot for dot in points if free.covers(_point(dot))]


def _dip_border(face: Face, line: float, spacing: float) -> Lines:
    """Large dots along the dip line, a small one between each two."""
    if face.dipped >= 1:
        raise OutOfBounds("The piece is dipped all over, so there is no edge to follow.", field="dipped")
    low_x, low_y, high_x, _ = face.field.bounds
    y, room = low_y + line, high_x - low_x - 3 * line
    count = max(2, round(room / spacing) + 1)
    xs = np.linspace(-room / 2, room / 2, count)
    return [ellipse((x, y), line, line, points=12) for x in xs], [(float(x), y) for x in (xs[1:] + xs[:-1]) / 2]


def _scallops(face: Face, line: float, spacing: float) -> Lines:
    """Small swags along the edge."""
    edge = _inset(face, line)
    around = edge.length
    count = max(3, round(around / spacing))
    depth, points = min(0.5 * spacing, 6 * line), list[tuple[float, float]]()
    for s in np.linspace(0, around, 12 * count + 1):
        at, on = edge.interpolate(s % around), edge.interpolate((s + 0.05) % around)
        along = np.array([on.x - at.x, on.y - at.y])
        along /= max(float(np.hypot(*along)), 1e-9)
        u = (s / around * count) % 1
        into = depth * (1 - (2 * u - 1) ** 2)
        points.append((at.x - along[1] * into, at.y + along[0] * into))
    return [np.array(points)], []


def _waves(face: Face, line: float, spacing: float) -> Lines:
    """Loose waves across, against each other."""
    low_x, low_y, high_x, high_y = face.field.bounds
    x = np.linspace(low_x - 1, high_x + 1, 97)
    swing = 0.26 * spacing * np.sin(2 * math.pi * (x - low_x) / max(2.2 * spacing, 6 * line))
    ys = np.arange(low_y + spacing / 2, high_y, spacing)
    return [np.column_stack([x, y + swing * (-1) ** k]) for k, y in enumerate(ys)], []


def _star(face: Face, line: float, spacing: float) -> Lines:
    """A small star in the middle, a dot at each ray."""
    size = 0.5 * min(face.width_mm, face.height_mm)
    low_x, low_y, high_x, high_y = face.field.bounds
    middle = ((low_x + high_x) / 2, (low_y + high_y) / 2)
    size = min(size, 0.7 * (high_y - low_y))
    ends = star(middle, size + 5 * line)[:-1:2]
    return [star(middle, size)], [(float(x), float(y)) for x, y in ends]


def _sprig(face: Face, line: float, spacing: float) -> Lines:
    """A stem with leaves in pairs."""
    low_x, low_y, high_x, high_y = face.field.bounds
    high, x = 0.74 * (high_y - low_y), (low_x + high_x) / 2
    foot, tip = (low_y + high_y) / 2 + high / 2, (low_y + high_y) / 2 - high / 2
    leaf = min(0.34 * (high_x - low_x), 0.42 * high)
    lines = [
        np.array([(x, foot), (x, tip + 0.25 * high)]),
        teardrop((x, tip + 0.28 * high), (x, tip), 0.2 * leaf + 2 * line),
    ]
    for y in (foot - 0.12 * high, foot - 0.4 * high):
        lines += [teardrop((x, y), (x + side * leaf * 0.8, y - 0.6 * leaf), 0.3 * leaf) for side in (-1, 1)]
    return lines, []


def _inset(face: Face, by: float) -> Any:
    """The edge so far inside, anticlockwise."""
    from shapely.geometry.polygon import orient

    inner = face.field.buffer(-by)
    if inner.is_empty:
        raise OutOfBounds("The line is too thick for that piece. Make it thinner.", field="line_mm")
    return orient(max(getattr(inner, "geoms", [inner]), key=lambda p: p.area)).exterior


@dataclass(frozen=True)
class FacePattern:
    """A pattern: what it is called, how it is drawn, the way between its lines, whether it runs over a row, and what is
    done with it beside piping."""

    name: str
    title: str
    draw: Callable[[Face, float, float], Lines]
    spacing_mm: float
    over: bool = False
    then: str = ""


_PULL = "pull a toothpick across, up and down in turn, while all is wet"
FACE_PATTERNS = MappingProxyType({p.name: p for p in (
    FacePattern("zigzag", "Drizzle, back and forth", _zigzag, 8.0, over=True),
    FacePattern("crossed", "Drizzle, crossed", _crossed, 10.0, over=True),
    FacePattern("stripes", "Stripes", _stripes, 7.0),
    FacePattern("feathered", "Feathered lines", _stripes, 7.0, then=_PULL),
    FacePattern("waves", "Waves", _waves, 9.0),
    FacePattern("spiral", "Spiral", _spiral, 6.0),
    FacePattern("dots", "Dots along the edge", _dots, 9.0),
    FacePattern("all_over", "Dots all over", _all_over, 9.0),
    FacePattern("dip_border", "A border along the dip line", _dip_border, 6.0),
    FacePattern("scallops", "Scallops along the edge", _scallops, 10.0),
    FacePattern("star", "A star", _star, 8.0),
    FacePattern("sprig", "A sprig", _sprig, 8.0),
    FacePattern("rays", "Rays from the middle", _rays, 14.0, then="or score them lightly as guides"),
)})  # fmt: skip


@dataclass(frozen=True, eq=False)
class FaceLines:
    """Lines on a row of pieces: the drawing of the row, what of it lies on one piece, and where the pieces lie."""

    pattern: FacePattern
    face: Face
    line_mm: float
    row: Drawing
    one: Drawing
    places: tuple[float, ...]
    speed_mm_s: float

    @property
    def pieces(self) -> int:
        """How many pieces lie in the row."""
        return len(self.places)

    @cached_property
    def length_mm(self) -> float:
        """On one piece; longer on a ball than it looks from above."""
        return sum(_over_ball(line, self.face) for line in self.one.lines) if self.face.ball else self.one.length_mm

    def one_g(self) -> float:
        """On one piece, g."""
        flat = self.one.mass_g(self.line_mm)
        return flat * self.length_mm / self.one.length_mm if self.one.length_mm else flat

    def row_g(self) -> float:
        """All that leaves the bag for a row: what falls beside the pieces too."""
        return max(self.row.mass_g(self.line_mm), self.one_g() * self.pieces)

    @property
    def lost_share(self) -> float:
        """Which share of the lines falls between the pieces."""
        return 1 - self.one_g() * self.pieces / self.row_g() if self.row_g() > 0 else 0.0

    @property
    def row_s(self) -> float:
        """Seconds to pipe over the whole row."""
        return piping_s(self.row, self.speed_mm_s, LIFT_S)


def face_lines(
    pattern: str, face: Face, *, line_mm: float, spacing_mm: float | None = None, pieces: int = 1,
    apart_mm: float = FINGER_MM, speed_mm_s: float = HAND_MM_S,
) -> FaceLines:  # fmt: skip
    """A pattern on a row of like pieces.

    Parameters
    ----------
    pattern : a key of FACE_PATTERNS. face : one piece. line_mm : settled. spacing_mm : from line to line. pieces : in a
    row, `apart_mm` from each other. speed_mm_s : of the hand.

    Raises
    ------
    UnknownName, OutOfBounds : no such pattern, lines that run together, or a value outside its bounds.
    """
    if pattern not in FACE_PATTERNS:
        raise UnknownName(f"There is no pattern called {pattern[:40]!r}.", field="pattern", choices=list(FACE_PATTERNS))
    known = FACE_PATTERNS[pattern]
    for bound, value, name in (
        ("bead_mm", line_mm, "line_mm"), ("core_mm", face.width_mm, "width_mm"),
        ("core_mm", face.height_mm, "height_mm"), ("count", pieces, "pieces"), ("shred_mm", apart_mm, "apart_mm"),
    ):  # fmt: skip
        check(bound, value, name)
    spacing = known.spacing_mm if spacing_mm is None else check("pitch_mm", spacing_mm, "spacing_mm")
    if spacing < 1.5 * line_mm:
        raise OutOfBounds("Lines that close run together. Leave at least {least_mm} from middle to middle.",
                          field="spacing_mm", low=1.5 * line_mm, least_mm=1.5 * line_mm)  # fmt: skip
    step = face.width_mm + apart_mm
    places = tuple(k * step for k in range(pieces))
    if known.over:
        low_x, low_y, high_x, high_y = face.field.bounds
        long = Face(high_x - low_x + places[-1], high_y - low_y, round_=False, stops=face.dipped < 1)
        drawn, dots = known.draw(long, line_mm, spacing)
        lines = [np.add(line, (low_x + long.width_mm / 2, (low_y + high_y) / 2)) for line in drawn]
        row = Drawing(tuple(lines), tuple(dots), long.width_mm)
        one = Drawing(tuple(_within(lines, face.field)), (), face.width_mm)
    else:
        lines, dots = known.draw(face, line_mm, spacing)
        inside = [dot for dot in dots if face.field.buffer(1e-6).covers(_point(dot))]
        one = Drawing(tuple(_within(lines, face.field)), tuple(inside), face.width_mm)
        row = Drawing(
            tuple(np.add(line, (x, 0.0)) for x in places for line in one.lines),
            tuple((a + x, b) for x in places for a, b in one.presses), places[-1] + face.width_mm,
        )  # fmt: skip
    if not one.lines and not one.presses:
        raise OutOfBounds("None of the lines falls on that piece. Bring them closer together.", field="spacing_mm")
    return FaceLines(known, face, line_mm, row, one, places, speed_mm_s)


def _point(dot: tuple[float, float]) -> Any:
    from shapely import Point

    return Point(dot)


def _within(lines: list[Array], field: Any) -> list[Array]:
    """What of lines lies within a field."""
    from shapely import LineString

    within = []
    for line in lines:
        cut = LineString(line).intersection(field)
        within += [np.asarray(part.coords) for part in getattr(cut, "geoms", [cut])
                  if part.geom_type == "LineString" and part.length > 0.2]  # fmt: skip
    return within


def _over_ball(line: Array, face: Face) -> float:
    """The length of a line on a ball that is seen from above as drawn."""
    from shapely import LineString, segmentize

    fine = np.asarray(segmentize(LineString(line), 0.5).coords)
    radius = face.width_mm / 2
    high = np.sqrt(np.maximum(0.0, radius**2 - (fine**2).sum(axis=1)))
    return float(np.sqrt((np.diff(fine, axis=0) ** 2).sum(axis=1) + np.diff(high) ** 2).sum())
