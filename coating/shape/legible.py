"""Whether letters block up: the room inside and between their lines against how wide the line settles.

Counters are what lines close in; bays are open on one side and at least half as deep as their mouth. The room in one is
the widest circle that fits. A line leaves it open when it is at least half as wide again as the line, and .4 mm more.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import TYPE_CHECKING

from coating.errors import CoatingError
from coating.limits import check
from coating.shape.lettering import letters
from coating.shape.strokes import Array

if TYPE_CHECKING:
    from shapely import Polygon

_COUNTER, _BAY, _DEEP = 0.004, 0.035, 0.5  # areas over cap2, and depth over mouth
_CAP = 100.0
_READ = "&@%#?"  # beside letters and figures; a comma that runs together is still one
OPEN_TIMES, OPEN_MM = 1.5, 0.4


@dataclass(frozen=True)
class Legible:
    """Which letters block up at this height and line, and from which height on, mm, none of the text does."""

    blocked: tuple[str, ...]
    smallest_cap_mm: float


def room_wanted_mm(line_mm: float) -> float:
    """What has to be free between two lines from middle to middle, so that it stays open."""
    return max(OPEN_TIMES * line_mm, line_mm + OPEN_MM)


def legible(text: str, *, face: str, cap_mm: float, line_mm: float) -> Legible:
    """For a text in a face at a height, with lines that settle so wide. Raises as `letters`."""
    check("bead_mm", line_mm, "line_mm"), check("cap_mm", cap_mm)
    wanted = room_wanted_mm(line_mm)
    narrowest = {c: room_in(c, face) for c in dict.fromkeys(text) if c.isalnum() or c in _READ}
    blocked = tuple(c for c, room in narrowest.items() if room * cap_mm < wanted)
    least = min(narrowest.values(), default=math.inf)
    return Legible(blocked, wanted / least if math.isfinite(least) else 0.0)


@lru_cache(maxsize=1024)
def room_in(character: str, face: str) -> float:
    """The narrowest counter or bay of a letter as a share of the cap height; infinite where it has none."""
    try:
        drawn = letters(character, face=face, cap_mm=_CAP, join=False).drawing
    except CoatingError:
        return math.inf
    return narrowest_mm(drawn.lines, _CAP) / _CAP


def narrowest_mm(lines: Sequence[Array], cap_mm: float) -> float:
    """The widest circle in the narrowest counter or bay of lines, mm; infinite where there is none."""
    from shapely import maximum_inscribed_circle

    rooms = list(_rooms(lines, cap_mm))
    return min((2 * maximum_inscribed_circle(room, tolerance=cap_mm / 400).length for room in rooms), default=math.inf)


def _rooms(lines: Sequence[Array], cap_mm: float) -> Iterator[Polygon]:
    from shapely import LineString, MultiLineString, polygonize, unary_union

    drawn = unary_union([LineString(line) for line in lines if len(line) > 1])
    hull = MultiLineString([LineString(line) for line in lines if len(line) > 1]).convex_hull
    if drawn.is_empty or hull.geom_type != "Polygon":
        return
    near = drawn.buffer(cap_mm * 1e-4)
    for face in polygonize([unary_union([drawn, hull.boundary])]).geoms:
        mouth = face.boundary.difference(near)
        if mouth.length < cap_mm * 0.01:
            if face.area > _COUNTER * cap_mm**2:
                yield face
        elif face.area > _BAY * cap_mm**2 and _depth(face, mouth) >= _DEEP * mouth.length:
            yield face


def _depth(face: Polygon, mouth: object) -> float:
    """How far in it goes from its mouth."""
    from shapely import Point

    return max(Point(p).distance(mouth) for p in face.exterior.coords)
