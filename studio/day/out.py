"""The day to take along: on paper, in a calendar, as a table."""

from __future__ import annotations

import csv
import io
import uuid
from collections.abc import Sequence
from datetime import datetime, timedelta
from typing import Any
from zoneinfo import ZoneInfo

from reportlab.lib.colors import HexColor
from reportlab.lib.pagesizes import A4, LETTER
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas
from reportlab.platypus import Flowable, Paragraph, SimpleDocTemplate, Spacer, Table, TableStyle

from coating.errors import UnknownName
from coating.looks.lanes import Lanes
from studio.common.sheets import harmless
from studio.common.templatetags.clocks import clock_text
from studio.common.templatetags.kitchen import hexed, how_much, lower_first, seconds_in_all
from studio.common.types import Context, Json
from studio.day.drawn import PaperDrawing
from studio.designs.paper import BOLD, PLAIN, faces, writable
from studio.pieces.parts import given, picture_of

PAPERS = {"A4": A4, "Letter": LETTER}
MOST_SHOWN = 6  # pieces whose pictures fit beside each other
_OLIVE, _INK, _LINE, _MUTED, _HEAT, _STIR = "#3e471b", "#2a2d1c", "#b9b5a7", "#5c5c4c", "#ecd0c1", "#c2562c"


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


class _Strip(Flowable):  # type: ignore[misc]
    """The lanes of the day, drawn to the width there is."""

    def __init__(self, picture: Json, labs: Json, bowl_of: Json) -> None:
        super().__init__()
        self.drawn: Lanes = picture["drawn"]
        self.ticks, self.labs, self.bowl_of = picture["ticks"], labs, bowl_of

    def wrap(self, wide: float, high: float) -> tuple[float, float]:
        self.scale = wide / self.drawn.wide
        return wide, self.drawn.high * self.scale

    def draw(self) -> None:
        canvas, drawn = self.canv, self.drawn
        canvas.scale(self.scale, -self.scale)
        canvas.translate(0, -drawn.high)
        canvas.setStrokeColor(HexColor(_LINE))
        canvas.setLineWidth(0.8)
        for y, _ in drawn.titles:
            canvas.line(0, y, drawn.wide, y)
        for bar in drawn.bars:
            bowl = self.bowl_of.get(bar.name)
            step = hexed(self.labs.get(bowl)) if bowl else _OLIVE
            canvas.setFillColor(HexColor({"melt": _HEAT, "stir": _STIR, "held": _LINE}.get(bar.what, step)))
            canvas.rect(bar.x, bar.y, bar.wide, bar.high, stroke=0, fill=1)
        canvas.setFillColor(HexColor(_INK))
        for x, y, text in [
            *((0.0, y + 20, writable(t)[:18]) for y, t in drawn.titles),
            *((x - 14, drawn.high - 4, f"{clock_text(at)}") for x, at in self.ticks),
        ]:
            canvas.saveState()
            canvas.translate(x, y)
            canvas.scale(1, -1)
            canvas.setFont(PLAIN, 15)
            canvas.drawString(0, 0, text)
            canvas.restoreState()


def day_pdf(title: str, head: str, context: Context, *, paper: str = "A4") -> bytes:
    """The day sheet on paper: lanes, then every step with a box to tick, of what was reckoned. Raises UnknownName for
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
    rows: list[list[Any]] = []
    for line in context["lines"]:
        if line["new_day"]:
            rows.append(["", "", Paragraph(f"{line['at']:%A, %-d %B}", at)])
        if line["idle_s"] > 90:
            rows.append(["", "", Paragraph(f"{seconds_in_all(line['idle_s'])} free", small)])
        words = [Paragraph(_text(says_of(line)), plain), Paragraph(_text(_about(line)), small)]
        rows.append([_Box(), Paragraph(f"{clock_text(line['at'])}", at), words])
    table = Table(rows, colWidths=[9 * mm, 17 * mm, None], repeatRows=0)
    ruled: list[Any] = [
        ("VALIGN", (0, 0), (-1, -1), "TOP"),
        ("LINEBELOW", (0, 0), (-1, -1), 0.4, HexColor(_LINE)),
        ("TOPPADDING", (0, 0), (-1, -1), 4),
        ("BOTTOMPADDING", (0, 0), (-1, -1), 5),
    ]
    table.setStyle(TableStyle(ruled))
    story = [Paragraph(_text(title), big), Spacer(1, 2 * mm), Paragraph(_text(head), plain), Spacer(1, 4 * mm)]
    if shown := given(context["job"])[:MOST_SHOWN]:
        names = [Paragraph(_text(piece.name), small) for piece in shown]
        pieces = Table(
            [[PaperDrawing(picture_of(piece), 24 * mm) for piece in shown], names], colWidths=[29 * mm] * len(shown)
        )
        pieces.hAlign = "LEFT"
        story += [pieces, Spacer(1, 4 * mm)]
    for picture in context["pictures"]:
        if len(context["pictures"]) > 1:
            story.append(Paragraph(f"{picture['on']:%A, %-d %B}", small))
        story += [_Strip(picture, context["labs"], context["bowl_of"]), Spacer(1, 5 * mm)]
    for ready in context["ready"]:
        listed = "; ".join(words for words, _ in ready.things)
        story.append(Paragraph(f"<font name='{BOLD}'>{_text(ready.title)}</font>: {_text(listed)}", plain))
    story += [Spacer(1, 3 * mm), table]
    doc.build(story, onFirstPage=_foot, onLaterPages=_foot)
    return out.getvalue()


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
