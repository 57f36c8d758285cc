"""Templates on paper: true size, tiled, with crosses, a map of the pages and a ruler to measure."""

from __future__ import annotations

import io
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path
from typing import Any

from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import TTFont
from reportlab.pdfgen.canvas import Canvas

from coating.figures.sheet import PaperSheet
from coating.shape.tiling import MARGIN_MM, OVERLAP_MM, POINTS_A_MM, Page, Tiling, tiling
from coating.units import MILLIMETRES_PER_INCH
from studio.common.measures import current

HEAD_MM, FOOT_MM = 15.0, 13.0
RULER_MM = 100.0
_BEAD, _CORE, _FILL, _GUIDE, _WORDS = 0.80, 0.15, 0.92, 0.55, 0.25
PLAIN, BOLD = "OliveText", "OliveText-Bold"


@dataclass(frozen=True)
class PageHead:
    """What stands on each page: the design, what it is for, and a line of figures."""

    title: str
    job: str
    figures: str
    film: bool = False


@lru_cache(maxsize=1)
def faces() -> frozenset[int]:
    """Register the faces; the characters they have."""
    folder = Path(__file__).parent / "fonts"
    for name, weight in ((PLAIN, 400), (BOLD, 700)):
        pdfmetrics.registerFont(TTFont(name, folder / f"atkinson-hyperlegible-next-{weight}.ttf"))
    font: Any = pdfmetrics.getFont(PLAIN)
    return frozenset(font.face.charToGlyph)


def writable(text: str) -> str:
    """What the face does not have is a dot."""
    known = faces()
    return "".join(c if ord(c) in known else "·" for c in " ".join(text.split()))


def template_pdf(sheets: Sequence[PaperSheet], head: PageHead, *, paper: str = "A4") -> bytes:
    """Every sheet at true size on as few pages as it takes.

    Parameters
    ----------
    sheets : mm. told : words. paper : "A4" or "Letter".

    Raises
    ------
    UnknownName, OutOfBounds : another paper, or too many pages.
    """
    faces()
    plans = [
        (sheet, tiling(sheet.width_mm, sheet.height_mm, paper=paper, head_mm=HEAD_MM, foot_mm=FOOT_MM))
        for sheet in sheets
    ]
    total, out = sum(plan.pages for _, plan in plans), io.BytesIO()
    canvas = Canvas(out, pageCompression=1, invariant=1)
    canvas.setTitle(writable(head.title))
    canvas.setCreator("Olive Ribbon")
    number = 0
    for sheet, plan in plans:
        shown = sheet.turned_over() if head.film else sheet
        for tile in plan.tiles:
            number += 1
            canvas.setPageSize((plan.page_mm[0] * POINTS_A_MM, plan.page_mm[1] * POINTS_A_MM))
            canvas.scale(POINTS_A_MM, POINTS_A_MM)
            _page(canvas, shown, head, plan, tile, number, total)
            canvas.showPage()
    canvas.save()
    return out.getvalue()


def _page(canvas: Canvas, sheet: PaperSheet, head: PageHead, plan: Tiling, tile: Page, number: int, total: int) -> None:
    """One page, in mm from its lower left corner."""
    wide, high = plan.page_mm
    left, top = MARGIN_MM, high - MARGIN_MM - HEAD_MM
    shown_h = min(tile.height_mm, sheet.height_mm - tile.top_mm)
    canvas.saveState()
    clip = canvas.beginPath()
    clip.rect(left, top - tile.height_mm, tile.width_mm, tile.height_mm)
    canvas.clipPath(clip, stroke=0, fill=0)
    canvas.translate(left - tile.left_mm, top + tile.top_mm)
    canvas.scale(1, -1)
    _draw(canvas, sheet)
    canvas.restoreState()
    _crosses(canvas, plan, tile, left, top, shown_h)
    _head(canvas, sheet, head, left, high - MARGIN_MM, wide - 2 * MARGIN_MM)
    _ruler(canvas, left, MARGIN_MM + 3)
    _map(canvas, plan, tile, wide - MARGIN_MM, MARGIN_MM)
    canvas.setFont(PLAIN, 3.2)
    canvas.setFillGray(_WORDS)
    canvas.drawRightString(wide - MARGIN_MM - 4.5 * plan.columns - 3, MARGIN_MM + 1, f"page {number} of {total}")


def _draw(canvas: Canvas, sheet: PaperSheet) -> None:
    """Areas pale, beads as wide as they settle, and their middle as a dark thread to follow."""
    canvas.setLineCap(1)
    canvas.setLineJoin(1)
    if sheet.areas:
        fill = canvas.beginPath()
        for area in sheet.areas:
            for ring in area:
                _trace(fill, ring)
                fill.close()
        canvas.setFillGray(_FILL)
        canvas.drawPath(fill, stroke=0, fill=1, fillMode=0)
    for width, grey in ((sheet.line_mm, _BEAD), (0.3, _CORE)):
        canvas.setLineWidth(width)
        canvas.setStrokeGray(grey)
        run = canvas.beginPath()
        for line in sheet.lines:
            _trace(run, line)
        canvas.drawPath(run, stroke=1, fill=0)
        canvas.setFillGray(grey)
        for x, y in sheet.dots:
            canvas.circle(x, y, width / 2 if grey == _BEAD else 0.4, stroke=0, fill=1)
    canvas.setLineWidth(0.2)
    canvas.setStrokeGray(_GUIDE)
    canvas.setDash(1.2, 1.2)
    guides = canvas.beginPath()
    for guide in sheet.guides:
        _trace(guides, guide)
    canvas.drawPath(guides, stroke=1, fill=0)
    canvas.setDash()


def _trace(run: Any, line: Sequence[tuple[float, float]]) -> None:
    run.moveTo(*line[0])
    for point in line[1:]:
        run.lineTo(*point)


def _crosses(canvas: Canvas, plan: Tiling, tile: Page, left: float, top: float, high: float) -> None:
    """In the middle of each overlap, to lay one page over the next."""
    canvas.setLineWidth(0.15)
    canvas.setStrokeGray(0)
    half = OVERLAP_MM / 2
    xs = [x for x, there in ((half, tile.column > 0), (tile.width_mm - half, tile.column < plan.columns - 1)) if there]
    ys = [y for y, there in ((half, tile.row > 0), (tile.height_mm - half, tile.row < plan.rows - 1)) if there]
    if not xs and not ys:
        return
    for x in xs or [tile.width_mm / 4, tile.width_mm * 3 / 4]:
        for y in ys or [-2.0, high + 2.0]:
            canvas.line(left + x - 2.5, top - y, left + x + 2.5, top - y)
            canvas.line(left + x, top - y - 2.5, left + x, top - y + 2.5)


def _head(canvas: Canvas, sheet: PaperSheet, head: PageHead, left: float, top: float, wide: float) -> None:
    canvas.setFillGray(0)
    canvas.setFont(BOLD, 4.6)
    title = f"{head.title}: {sheet.title}" if sheet.title else head.title
    canvas.drawString(left, top - 4, _shortened(title, BOLD, 4.6, wide - 75))
    canvas.setFont(PLAIN, 3.3)
    canvas.setFillGray(_WORDS)
    canvas.drawRightString(left + wide, top - 4, _shortened(head.job, PLAIN, 3.3, 72))
    words = " · ".join([*sheet.says, head.figures])
    canvas.drawString(left, top - 9, _shortened(words, PLAIN, 3.3, wide))
    if head.film:
        canvas.setFont(BOLD, 3.3)
        canvas.drawString(left, top - 13.2, "Mirrored for film that is turned over: what lies in front is piped first.")


def _shortened(text: str, font: str, size: float, wide: float) -> str:
    """As much of it as fits."""
    text = writable(text)
    while text and pdfmetrics.stringWidth(text, font, size) > wide:
        text = text[:-2].rstrip() + "…" if len(text) > 2 else ""
    return text


def _ruler(canvas: Canvas, left: float, y: float) -> None:
    """100 mm, or 4 inches where a kitchen reads in inches, to hold a ruler to."""
    inches = current().length == "in"
    long_mm, step_mm, said = (
        (4 * MILLIMETRES_PER_INCH, MILLIMETRES_PER_INCH / 2, "4 inches") if inches else (RULER_MM, 10.0, "100 mm")
    )
    canvas.setLineWidth(0.2)
    canvas.setStrokeGray(0)
    canvas.line(left, y, left + long_mm, y)
    for i in range(round(long_mm / step_mm) + 1):
        x, tall = left + i * step_mm, 3.0 if i % (2 if inches else 5) == 0 else 1.8
        canvas.line(x, y, x, y + tall)
    canvas.setFont(PLAIN, 3.0)
    canvas.setFillGray(_WORDS)
    canvas.drawString(left, y - 3, f"Measure me: {said}. If I am not, print at 100 %, not “fit to page”.")


def _map(canvas: Canvas, plan: Tiling, tile: Page, right: float, y: float) -> None:
    """Which of the pages this is."""
    if plan.pages == 1:
        return
    size = 4.5
    canvas.setLineWidth(0.15)
    canvas.setStrokeGray(_GUIDE)
    for other in plan.tiles:
        x = right - size * (plan.columns - other.column)
        up = y + size * (plan.rows - 1 - other.row)
        canvas.setFillGray(0.35 if other == tile else 1)
        canvas.rect(x, up, size, size, stroke=1, fill=1)
