"""The day to take along: on paper, in a calendar, as a table."""

from __future__ import annotations

import csv
import io
import uuid
from collections.abc import Sequence
from datetime import datetime, timedelta
from itertools import groupby
from typing import Any
from zoneinfo import ZoneInfo

from reportlab.lib.colors import HexColor
from reportlab.lib.pagesizes import A4, LETTER
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas
from reportlab.platypus import CondPageBreak, Flowable, Paragraph, SimpleDocTemplate, Spacer, Table, TableStyle

from coating.errors import UnknownName
from studio.common.sheets import harmless
from studio.common.templatetags.clocks import clock_text
from studio.common.templatetags.kitchen import how_much, lower_first, seconds_in_all
from studio.common.types import Context, Json
from studio.day.drawn import PaperDrawing, PaperRibbon
from studio.designs.paper import BOLD, PLAIN, faces, writable
from studio.pieces.parts import given, picture_of

PAPERS = {"A4": A4, "Letter": LETTER}
MOST_SHOWN = 6  # pieces whose pictures fit beside each other
_OLIVE, _INK, _LINE, _MUTED = "#3e471b", "#2a2d1c", "#b9b5a7", "#5c5c4c"


def says_of(line: Json) -> str:
    """One line of the day in words."""
    if line.get("melt"):
        need = line["melt"]
        words = lower_first(need.name)
        if line.get("again"):
            return f"Warm {words} again{line['then']}."
        dark = f" After {line['after_dark'].lower()}: clean tools first." if line.get("after_dark") else ""
        return f"Melt {words}: {how_much(need.melt_g, need.white)}{line['then']}.{dark}"
    return str(line["says"])


def _about(line: Json) -> str:
    parts = [seconds_in_all(line["long_s"])]
    parts += [line["who"]] if line.get("who") else []
    parts += [line["piece"].name] if line.get("piece") else []
    parts += [line["need"].name] if line.get("need") and not line.get("melt") else []
    parts += [*line.get("waits", ()), *([line["window"]] if line.get("window") else [])]
    return " · ".join(parts)


def as_csv(lines: Sequence[Json]) -> str:
    """A row a step."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(["day", "at", "minutes", "what", "piece", "bowl", "who"])
    for line in lines:
        piece, need = line.get("whose"), line.get("need")
        writer.writerow(
            [
                f"{line['at']:%Y-%m-%d}",
                f"{line['at']:%H:%M}",
                f"{line['long_s'] / 60:.1f}",
                harmless(says_of(line)),
                harmless(piece.name) if piece else "",
                harmless(need.name) if need else "",
                harmless(line.get("who") or ""),
            ]
        )
    return out.getvalue()


def as_calendar(title: str, lines: Sequence[Json], zone: str, key: str) -> bytes:
    """An event a step; the same step of the same day has the same identity."""
    from icalendar import Calendar, Event

    calendar = Calendar()
    calendar.add("prodid", "-//Olive Ribbon//Day sheet//EN")
    calendar.add("version", "2.0")
    for line in lines:
        begin: datetime = line["at"].replace(tzinfo=ZoneInfo(zone))
        event = Event()
        known = uuid.uuid5(uuid.NAMESPACE_URL, f"{key}:{line['number']}")
        event.add("uid", f"{known}@olive-ribbon")
        event.add("dtstamp", begin)
        event.add("dtstart", begin)
        event.add("dtend", begin + timedelta(seconds=line["long_s"]))
        event.add("summary", says_of(line))
        event.add("description", f"{title}: {_about(line)}")
        calendar.add_component(event)
    return bytes(calendar.to_ical())


def day_pdf(title: str, head: str, context: Context, *, paper: str = "A4") -> bytes:
    """The day sheet on paper: what to lay ready, then the ribbon, every step with a box to tick. Raises UnknownName for
    another paper."""
    if paper not in PAPERS:
        raise UnknownName(f"There is no paper called {paper[:40]!r}.", field="paper", choices=list(PAPERS))
    faces()
    out = io.BytesIO()
    margin = 16 * mm
    doc = SimpleDocTemplate(
        out,
        pagesize=PAPERS[paper],
        leftMargin=margin,
        rightMargin=margin,
        topMargin=14 * mm,
        bottomMargin=margin,
        title=writable(title),
        author="Olive Ribbon",
        invariant=1,
    )
    styles = (
        ("big", BOLD, 17, _OLIVE),
        ("at", BOLD, 14, _INK),
        ("plain", PLAIN, 11.5, _INK),
        ("small", PLAIN, 9.5, _MUTED),
    )
    big, at, plain, small = (
        ParagraphStyle(name, fontName=font, fontSize=size, leading=size * 1.25, textColor=HexColor(colour))
        for name, font, size, colour in styles
    )
    story = [Paragraph(_text(title), big), Spacer(1, 2 * mm), Paragraph(_text(head), plain), Spacer(1, 4 * mm)]
    if shown := given(context["job"])[:MOST_SHOWN]:
        names = [Paragraph(_text(piece.name), small) for piece in shown]
        pieces = Table(
            [[PaperDrawing(picture_of(piece), 24 * mm) for piece in shown], names], colWidths=[29 * mm] * len(shown)
        )
        pieces.hAlign = "LEFT"
        story += [pieces, Spacer(1, 4 * mm)]
    for ready in context["ready"]:
        listed = "; ".join(words for words, _ in ready.things)
        story.append(Paragraph(f"<font name='{BOLD}'>{_text(ready.title)}</font>: {_text(listed)}", plain))
    every = [line for part in context["parts"] for line in part.lines]
    for on, lines in groupby(every, key=lambda line: line["at"].date()):
        if context["days"] > 1:
            story += [CondPageBreak(40 * mm), Spacer(1, 4 * mm), Paragraph(f"{on:%A, %-d %B}", at)]
        story += [Spacer(1, 3 * mm), _rows(list(lines), doc.width, at, plain, small)]
    doc.build(story, onFirstPage=_foot, onLaterPages=_foot)
    return out.getvalue()


def _rows(lines: Sequence[Json], wide: float, at: Any, plain: Any, small: Any) -> Table:
    """The steps of a part: a box to tick, the ribbon, when, what."""
    columns = [9 * mm, 25 * mm, 22 * mm]
    rows, heights = [], []
    for line in lines:
        words = [Paragraph(_text(says_of(line)), plain), Paragraph(_text(_about(line)), small)]
        if line["idle_s"] > 90:
            words.insert(0, Paragraph(f"{seconds_in_all(line['idle_s'])} free before it", small))
        high = max(13 * mm, sum(p.wrap(wide - sum(columns) - 12, 1e4)[1] for p in words) + 3 * mm)
        ribbon = PaperRibbon(line, columns[1], high)
        rows.append([_Box(), ribbon, Paragraph(clock_text(line["at"]), at), words])
        heights.append(high)
    table = Table(rows, colWidths=[*columns, wide - sum(columns)], rowHeights=heights)
    table.setStyle(
        TableStyle(
            [
                ("VALIGN", (0, 0), (-1, -1), "MIDDLE"),
                ("LINEBELOW", (2, 0), (-1, -1), 0.4, HexColor(_LINE)),
                *(((f"{side}PADDING", (0, 0), (-1, -1), 0)) for side in ("TOP", "BOTTOM")),
                ("LEFTPADDING", (0, 0), (1, -1), 0),
            ]
        )
    )
    return table


def _text(text: str) -> str:
    """For a paragraph: its own marks are none of ours."""
    return writable(text).replace("&", "&amp;").replace("<", "&lt;").replace(">", "&gt;")


def _foot(canvas: Canvas, doc: Any) -> None:
    canvas.setFont(PLAIN, 9)
    canvas.setFillColor(HexColor(_MUTED))
    canvas.drawRightString(doc.pagesize[0] - 16 * mm, 9 * mm, f"page {doc.page}")


class _Box(Flowable):  # type: ignore[misc]
    """A box to tick."""

    def wrap(self, wide: float, high: float) -> tuple[float, float]:
        return 5 * mm, 5 * mm

    def draw(self) -> None:
        self.canv.setStrokeColor(HexColor(_OLIVE))
        self.canv.setLineWidth(1)
        self.canv.rect(0, 0.4 * mm, 4.4 * mm, 4.4 * mm)
