"""Pictures on paper, of pieces and of the day: the same strokes as on the screen."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from reportlab.lib.colors import HexColor
from reportlab.platypus import Flowable
from svgelements import Arc, Close, CubicBezier, Line, Matrix, Move, Path, QuadraticBezier

from coating.looks.ribbon import ROW, WIDE
from studio.common.templatetags.kitchen import hexed
from studio.common.types import Json
from studio.pieces.pictures import Pictured, PictureStroke

_INK = "#2b2a1f"
_OLIVE, _DEEP, _THREAD, _HEAT, _PAPER = "#5b6628", "#3e471b", "#a8431d", "#c2562c", "#ffffff"
_MARKS: tuple[tuple[float, ...], ...] = ((), (6, 6), (0.3, 6), (10, 6, 0.3, 6), (15, 5))  # patterns of strands


class PaperDrawing(Flowable):  # type: ignore[misc]
    """A piece with all that goes on it, so large on paper, in points."""

    def __init__(self, picture: Pictured, side: float) -> None:
        super().__init__()
        self.strokes, self.side = picture.front, side
        self.box = [float(v) for v in picture.box.split()]

    def wrap(self, wide: float, high: float) -> tuple[float, float]:
        return self.side, self.side

    def draw(self) -> None:
        """Put it on the canvas, as reportlab asks."""
        x, y, wide, _ = self.box
        size = self.side / wide
        self.canv.saveState()
        self.canv.transform(size, 0, 0, -size, -x * size, self.side + y * size)
        for stroke in self.strokes:
            _draw(self.canv, stroke)
        self.canv.restoreState()


def _draw(canvas: Any, stroke: PictureStroke) -> None:
    """One path; what is filled has a thin edge, as on the screen."""
    filled, drawn = stroke.fill != "none", stroke.stroke != "none"
    moved = Matrix(stroke.moved) if stroke.moved else Matrix()
    path = Path(stroke.path) * moved
    path.reify()
    on_paper = canvas.beginPath()
    _trace(on_paper, path.segments())
    canvas.setLineCap(1)
    canvas.setLineJoin(1)
    canvas.setStrokeColor(HexColor(stroke.stroke if drawn else _INK), alpha=1.0 if drawn else 0.28)
    canvas.setLineWidth(
        max(0.3, stroke.width * abs(moved.determinant) ** 0.5) if drawn or stroke.kind == "detail" else 0.5
    )
    if filled:
        canvas.setFillColor(HexColor(stroke.fill))
    edged = drawn or stroke.kind in ("fill", "detail")
    canvas.drawPath(on_paper, stroke=int(edged), fill=int(filled), fillMode=0)


def _trace(on_paper: Any, segments: Sequence[Any]) -> None:
    for segment in segments:
        match segment:
            case Move():
                on_paper.moveTo(segment.end.x, segment.end.y)
            case Line():
                on_paper.lineTo(segment.end.x, segment.end.y)
            case CubicBezier():
                one, two, end = segment.control1, segment.control2, segment.end
                on_paper.curveTo(one.x, one.y, two.x, two.y, end.x, end.y)
            case QuadraticBezier():
                a, c, b = segment.start, segment.control, segment.end
                on_paper.curveTo(
                    a.x + 2 / 3 * (c.x - a.x),
                    a.y + 2 / 3 * (c.y - a.y),
                    b.x + 2 / 3 * (c.x - b.x),
                    b.y + 2 / 3 * (c.y - b.y),
                    b.x,
                    b.y,
                )
            case Arc():
                _trace(on_paper, list(segment.as_cubic_curves()))
            case Close():
                on_paper.close()


class PaperRibbon(Flowable):  # type: ignore[misc]
    """The ribbon of one step of the day, as wide and as high as its row, in points."""

    def __init__(self, line: Json, wide: float, high: float) -> None:
        super().__init__()
        self.line, self.wide, self.high = line, wide, high

    def wrap(self, wide: float, high: float) -> tuple[float, float]:
        return self.wide, self.high

    def draw(self) -> None:
        """Put it on the canvas: threads, what runs behind the ribbon, the ribbon, what runs before it, the knot."""
        line, row = self.line, self.line["drawn"]
        self.canv.saveState()
        self.canv.setLineCap(1)
        self._run("".join(row.threads), _THREAD, 1.1, (0.2, 3.4))
        self._strands("behind")
        self.canv.setLineCap(0)
        self._run(row.ribbon, _OLIVE, 15)
        self.canv.setLineCap(1)
        self._strands("before")
        self._run(f"{row.knot}.01", _HEAT if "melt" in line else _DEEP, 12.5)
        self._run(f"{row.knot}.01", _PAPER, 8)
        self.canv.restoreState()

    def _strands(self, side: str) -> None:
        self._run(getattr(self.line["drawn"], side), _DEEP, 5.6)
        for mark, lab, strand in self.line["strands"]:
            self._run(getattr(strand, side), hexed(lab), 3.8, _MARKS[mark])

    def _run(self, drawn: str, colour: str, width: float, dash: tuple[float, ...] = ()) -> None:
        if not drawn:
            return
        canvas, on_paper = self.canv, self.canv.beginPath()
        path = Path(drawn) * Matrix(self.wide / WIDE, 0, 0, -self.high / ROW, 0, self.high)
        path.reify()
        _trace(on_paper, path.segments())
        canvas.setStrokeColor(HexColor(colour))
        canvas.setLineWidth(width)
        canvas.setDash(*(([*dash],) if dash else ()))
        canvas.drawPath(on_paper, stroke=1, fill=0)
