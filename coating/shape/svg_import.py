"""A maker's own drawing: closed areas and lines of an SVG file, in mm. Nothing of the file is kept but its points.

The file is read with document types, entities and outside references forbidden; only plain shapes are drawn, all else
is named and left out. Limits are checked before paths are parsed.
"""

from __future__ import annotations

import math
import re
from collections.abc import Iterator
from dataclasses import dataclass, field
from functools import partial
from typing import TYPE_CHECKING, Any

import numpy as np

from coating.apart import Limits, apart
from coating.errors import EmptyDrawing, OutOfBounds, Unreadable
from coating.limits import check
from coating.shape.areas import Areas, OutlineRing, areas_of
from coating.shape.strokes import Array
from coating.units import MILLIMETRES_PER_INCH

if TYPE_CHECKING:
    from xml.etree.ElementTree import Element

BYTES, ELEMENTS, DEPTH, SUBPATHS, SEGMENTS = 2_000_000, 5_000, 40, 3_000, 60_000
POINTS, PARTS = 100_000, 1_500  # once curves are drawn out, and once areas have run together
FLAT_MM = 0.005  # how far a line may lie from its curve
PX_MM = MILLIMETRES_PER_INCH / 96
_UNITS_MM = {
    "": PX_MM,
    "px": PX_MM,
    "mm": 1.0,
    "cm": 10.0,
    "in": MILLIMETRES_PER_INCH,
    "pt": MILLIMETRES_PER_INCH / 72,
    "pc": MILLIMETRES_PER_INCH / 6,
    "q": 0.25,
}
_SHAPES = ("path", "rect", "circle", "ellipse", "line", "polyline", "polygon")
_GROUPS = ("svg", "g", "a", "switch")
_SILENT = ("title", "desc", "metadata", "namedview")
_LENGTH = re.compile(r"\s*([-+]?(?:\d+\.?\d*|\.\d+)(?:[eE][-+]?\d+)?)\s*([a-zA-Z]*)\s*")
_NUMBER = re.compile(r"[-+]?(?:\d+\.?\d*|\.\d+)(?:[eE][-+]?\d+)?")
_TRANSFORM = re.compile(r"(?:\s*,?\s*(?:matrix|translate|scale|rotate|skewX|skewY)\s*\([^()]*\))*\s*")
_MOST_MM = 3000.0
LIMITS = Limits(processor_s=5, wall_s=15.0, memory_mb=400)
TOO_HARD = "Working out that drawing takes far too long. Draw it more simply."
_BEGINS = re.compile(r"[\s,]*[Mm]")


@dataclass
class _Reading:
    """What was found on the way."""

    rings: list[OutlineRing] = field(default_factory=list)
    left_out: dict[str, None] = field(default_factory=dict)
    elements: int = 0
    subpaths: int = 0
    segments: int = 0
    points: int = 0
    groups: int = 0


def read_svg(text: str, *, width_mm: float | None = None) -> Areas:
    """Closed areas and open lines of an SVG text.

    Parameters
    ----------
    text : the file. width_mm : of the page (its view box), where the file's own size is not meant.

    Raises
    ------
    Unreadable : no SVG, a document type or entity, a path or transform that says nothing.
    OutOfBounds : more of anything than a template can have, or a size outside its bounds.
    EmptyDrawing : nothing in it can be drawn.
    """
    root = _root(text)
    if _name(root) != "svg":
        raise Unreadable("That is not an SVG drawing.", field="svg")
    reading, box = _Reading(), _view_box(root)
    scale = _scale(root, box, width_mm)
    start = np.array([[scale, 0.0, -scale * box[0]], [0.0, scale, -scale * box[1]], [0.0, 0.0, 1.0]])
    _walk(root, start, {"fill": "", "fill-rule": "nonzero"}, reading, 0)
    areas = areas_of(reading.rings, left_out=tuple(reading.left_out))
    if not areas.parts and not areas.lines:
        raise EmptyDrawing(
            "Nothing in that drawing can be piped: it has no closed area and no line.",
            field="svg",
            left_out=list(areas.left_out),
        )
    if len(areas.parts) > PARTS:
        raise OutOfBounds(f"The drawing falls into {len(areas.parts)} parts. Simplify it.", field="svg", high=PARTS)
    if (most := max(areas.size_mm)) > _MOST_MM:
        refusal = f"It is {most / 1000:.1f} m across. Say how wide the page is."
        raise OutOfBounds(refusal, field="width_mm", high=_MOST_MM)
    return areas


def read_svg_apart(text: str, *, width_mm: float | None = None) -> Areas:
    """`read_svg` in a process of its own: for what comes from outside. It also raises TakesTooMuch."""
    return apart(partial(read_svg, width_mm=width_mm), text, limits=LIMITS, too_much=TOO_HARD, field="svg")


def _root(text: str) -> Element:
    from xml.etree.ElementTree import ParseError

    from defusedxml.common import DefusedXmlException
    from defusedxml.ElementTree import fromstring

    if len(text.encode("utf-8", "surrogatepass")) > BYTES:
        raise OutOfBounds(f"A drawing may have {BYTES / 1e6:.0f} MB at most.", field="svg", high=BYTES)
    try:
        root: Element = fromstring(text, forbid_dtd=True, forbid_entities=True, forbid_external=True)
    except DefusedXmlException:
        raise Unreadable(
            "The drawing has a document type or entities in it. Save it as plain SVG.", field="svg"
        ) from None
    except (ParseError, ValueError, RecursionError):
        raise Unreadable("The drawing cannot be read as SVG.", field="svg") from None
    return root


def _name(element: Any) -> str:
    return element.tag.rpartition("}")[2] if isinstance(element.tag, str) else ""


def _view_box(root: Element) -> tuple[float, float, float, float]:
    box = [float(n) for n in _NUMBER.findall(root.get("viewBox", ""))]
    if len(box) == 4 and all(math.isfinite(v) for v in box) and box[2] > 0 and box[3] > 0:
        return box[0], box[1], box[2], box[3]
    return 0.0, 0.0, 0.0, 0.0


def _length_mm(text: str | None) -> float | None:
    match = _LENGTH.fullmatch(text or "")
    if not match or match[2].lower() not in _UNITS_MM:
        return None
    value = float(match[1]) * _UNITS_MM[match[2].lower()]
    return value if math.isfinite(value) and value > 0 else None


def _scale(root: Element, box: tuple[float, float, float, float], width_mm: float | None) -> float:
    """mm for a unit of the drawing: from the width that is asked for, the file's own, or 96 to the inch."""
    wide, high = _length_mm(root.get("width")), _length_mm(root.get("height"))
    if width_mm is not None:
        whole = box[2] or (wide / PX_MM if wide else 0.0)
        if not whole:
            raise Unreadable(
                "The drawing does not say how wide its page is, so it cannot be scaled to it.", field="width_mm"
            )
        return check("page_mm", width_mm, "width_mm") / whole
    if not box[2] or (wide is None and high is None):
        return PX_MM
    return min(wide / box[2] if wide else math.inf, high / box[3] if high else math.inf)


def _walk(element: Element, matrix: Array, style: dict[str, str], reading: _Reading, depth: int) -> None:
    if depth > DEPTH:
        raise OutOfBounds(f"The drawing has groups more than {DEPTH} deep. Ungroup it.", field="svg", high=DEPTH)
    reading.elements += 1
    if reading.elements > ELEMENTS:
        raise OutOfBounds(f"The drawing has more than {ELEMENTS} elements. Simplify it.", field="svg", high=ELEMENTS)
    name = _name(element)
    if name not in _GROUPS and name not in _SHAPES:
        if name and name not in _SILENT:
            reading.left_out[name[:40]] = None
        return
    for attribute in element.attrib:
        if attribute.lower().startswith("on"):
            reading.left_out[attribute[:40]] = None
    style = {**style, **_style(element)}
    if style.get("display") == "none":
        return
    matrix = matrix @ _transform(element.get("transform"))
    if name in _GROUPS:
        for child in element:
            _walk(child, matrix, {**style, "display": ""}, reading, depth + 1)
        return
    reading.groups += 1
    filled = style["fill"].strip().lower() not in ("none", "transparent")
    rule = style["fill-rule"].strip().lower()
    for points, closed in _subpaths(name, element, matrix, reading):
        if not np.isfinite(points).all():
            raise Unreadable("The drawing has something else where a number should be.", field="svg")
        reading.points += len(points)
        if reading.points > POINTS:
            raise OutOfBounds(
                f"The drawing has more than {POINTS} points once its curves are drawn. Simplify it.",
                field="svg",
                high=POINTS,
            )
        if len(points) > 1:
            reading.rings.append(OutlineRing(points, closed or filled, rule == "evenodd", reading.groups))


def _style(element: Element) -> dict[str, str]:
    style: dict[str, str] = {}
    for key in ("fill", "fill-rule", "display"):
        if key in element.attrib:
            style[key] = element.attrib[key]
    for rule in element.get("style", "").split(";"):
        key, _, value = rule.partition(":")
        if key.strip() in ("fill", "fill-rule", "display"):
            style[key.strip()] = value.strip()
    return style


def _transform(text: str | None) -> Array:
    from svgelements import Matrix

    if not text or not text.strip():
        return np.eye(3)
    if len(text) > 2000 or not _TRANSFORM.fullmatch(text):
        raise Unreadable("The drawing has a transform that cannot be read.", field="svg")
    try:
        m = Matrix(text)
        matrix = np.array([[m.a, m.c, m.e], [m.b, m.d, m.f], [0.0, 0.0, 1.0]], dtype=float)
    except (ValueError, IndexError, AttributeError, TypeError):
        raise Unreadable("The drawing has a transform that cannot be read.", field="svg") from None
    if not np.isfinite(matrix).all():
        raise Unreadable("The drawing has something else where a number should be.", field="svg")
    return matrix


def _subpaths(name: str, element: Element, matrix: Array, reading: _Reading) -> Iterator[tuple[Array, bool]]:
    """Points in mm of each subpath of a shape, and whether it is closed."""

    def number(key: str, other: float = 0.0) -> float:
        match = _LENGTH.fullmatch(element.get(key, ""))
        return float(match[1]) * _UNITS_MM.get(match[2].lower(), PX_MM) / PX_MM if match else other

    if name == "path":
        yield from _path(element.get("d", ""), matrix, reading)
        return
    _count(reading, 1, 8)
    if name == "rect":
        x, y, w, h = number("x"), number("y"), number("width"), number("height")
        rx, ry = number("rx", number("ry")), number("ry", number("rx"))
        rx, ry = min(abs(rx), w / 2), min(abs(ry), h / 2)
        if w > 0 and h > 0:
            yield _moved(_rounded_rect(x, y, w, h, rx, ry), matrix), True
    elif name in ("circle", "ellipse"):
        rx, ry = (number("r"), number("r")) if name == "circle" else (number("rx"), number("ry"))
        if rx > 0 and ry > 0:
            turn = np.linspace(0, 2 * math.pi, 129)
            around = np.column_stack([number("cx") + rx * np.cos(turn), number("cy") + ry * np.sin(turn)])
            yield _moved(around, matrix), True
    elif name == "line":
        yield _moved(np.array([(number("x1"), number("y1")), (number("x2"), number("y2"))]), matrix), False
    else:
        text = element.get("points", "")
        values = [float(n) for n in _NUMBER.findall(text[: 40 * SEGMENTS])]
        _count(reading, 0, len(values) // 2)
        if len(values) >= 4:
            points = np.array(values[: len(values) // 2 * 2]).reshape(-1, 2)
            yield _moved(points, matrix), name == "polygon"


def _rounded_rect(x: float, y: float, w: float, h: float, rx: float, ry: float) -> Array:
    if rx <= 0 or ry <= 0:
        return np.array([(x, y), (x + w, y), (x + w, y + h), (x, y + h), (x, y)])
    corners = []
    for cx, cy, begin in (
        (x + w - rx, y + ry, -90),
        (x + w - rx, y + h - ry, 0),
        (x + rx, y + h - ry, 90),
        (x + rx, y + ry, 180),
    ):
        t = np.radians(np.linspace(begin, begin + 90, 33))
        corners.append(np.column_stack([cx + rx * np.cos(t), cy + ry * np.sin(t)]))
    return np.concatenate([*corners, corners[0][:1]])


def _count(reading: _Reading, subpaths: int, segments: int) -> None:
    reading.subpaths += subpaths
    reading.segments += segments
    if reading.subpaths > SUBPATHS:
        raise OutOfBounds(
            f"The drawing has more than {SUBPATHS} separate lines. Simplify it.", field="svg", high=SUBPATHS
        )
    if reading.segments > SEGMENTS:
        raise OutOfBounds(f"The drawing has more than {SEGMENTS} points. Simplify it.", field="svg", high=SEGMENTS)


def _path(text: str, matrix: Array, reading: _Reading) -> Iterator[tuple[Array, bool]]:
    from svgelements import Arc, Close, CubicBezier, Move, Path, QuadraticBezier

    if not text.strip():
        return
    if not _BEGINS.match(text):
        raise Unreadable("The drawing has a path that does not say where it begins.", field="svg")
    _count(reading, text.count("M") + text.count("m"), sum(1 for _ in _NUMBER.finditer(text)) // 2)
    try:
        path = Path(text)
    except (ValueError, AttributeError, IndexError, TypeError, ZeroDivisionError):
        raise Unreadable("The drawing has a path that cannot be read.", field="svg") from None
    run: list[Array] = []

    def done(closed: bool) -> Iterator[tuple[Array, bool]]:
        if run and len(points := np.concatenate(run)) > 1:
            yield points, closed
        run.clear()

    for part in path:
        if isinstance(part, Move):
            yield from done(False)
            run.append(_moved(np.array([[part.end.x, part.end.y]]), matrix))
        elif isinstance(part, Close):
            if part.end is not None:
                run.append(_moved(np.array([[part.end.x, part.end.y]]), matrix))
            yield from done(True)
        else:
            curves = part.as_cubic_curves() if isinstance(part, Arc) else (part,)
            for curve in curves:
                handles = [curve.start, curve.end]
                if isinstance(curve, CubicBezier):
                    handles = [curve.start, curve.control1, curve.control2, curve.end]
                elif isinstance(curve, QuadraticBezier):
                    handles = [curve.start, curve.control, curve.end]
                if not run:
                    run.append(_moved(np.array([[curve.start.x, curve.start.y]]), matrix))
                run.append(_flat(_moved(np.array([[p.x, p.y] for p in handles]), matrix)))
    yield from done(False)


def _flat(handles: Array) -> Array:
    """Points after the first of a line or a Bezier curve, none further than FLAT_MM from it."""
    order = len(handles) - 1
    if order == 1:
        return handles[1:]
    bend = float(np.hypot(*np.diff(handles, 2, axis=0).T).max())
    wanted = math.sqrt(order * (order - 1) * bend / (8 * FLAT_MM)) if math.isfinite(bend) else 1.0
    t = np.linspace(0, 1, min(400, max(1, math.ceil(wanted))) + 1)[1:, None]
    if order == 2:
        return (1 - t) ** 2 * handles[0] + 2 * t * (1 - t) * handles[1] + t**2 * handles[2]
    a, b, c, d = handles
    return (1 - t) ** 3 * a + 3 * t * (1 - t) ** 2 * b + 3 * t**2 * (1 - t) * c + t**3 * d


def _moved(points: Array, matrix: Array) -> Array:
    with np.errstate(invalid="ignore", over="ignore"):  # what is not finite is refused where it is collected
        return np.asarray(points @ matrix[:2, :2].T + matrix[:2, 2])
