"""Drizzle: threads that fall across the pieces, several side by side."""

from __future__ import annotations

from typing import TYPE_CHECKING

from coating.figures.outlines import Outline
from coating.figures.pen import LINE as STROKE
from coating.techniques.base import BAGGED, LENGTH, LINE, PIPE, TOP, Drawn, Technique, width
from coating.techniques.measures import line_g, line_thick

if TYPE_CHECKING:
    from coating.stack.layers import Layer


MOST_THREADS, THIN = 15, 1.5  # what can be told apart in a picture, and seen in it


def _draw(outline: Outline, layer: Layer, below: tuple[Layer, ...]) -> Drawn:
    face = outline.face
    w, h, n = face.half_wide * 1.25, face.half_high * 0.95, 7
    if layer.length_mm and outline.per_mm:  # as long as it is, as far as that can be seen
        n = max(2, min(MOST_THREADS, round(layer.length_mm * outline.per_mm / (2 * w))))
    step = 2 * h / n
    path = f"M{face.x - w:.1f} {face.y - h + step:.1f}"
    for i in range(n):
        y = face.y - h + i * step
        side = w if i % 2 == 0 else -w
        path += f"Q{face.x + side * 1.15:.1f} {y + step * 0.1:.1f} {face.x + side * 0.9:.1f} {y + step * 0.7:.1f}"
        path += f"T{face.x - side * 0.9:.1f} {y + step * 1.7:.1f}" if i < n - 1 else ""
    return [(path, STROKE, max(THIN, min(3.0, (layer.width_mm or 1.0) * outline.per_mm)))]


TECHNIQUE = Technique(
    name="drizzle",
    title="Drizzle",
    shelf=BAGGED,
    does="Drizzle {them}, several side by side",
    did_one="Drizzled one",
    measure=line_g,
    thick=line_thick,
    draw=_draw,
    measured=LINE,
    fields=(LENGTH, width(1.0)),
    on=TOP,
    window="drizzle",
    bag=True,
    width_mm=1.0,
    rank=60,
    hands_s=6.0,
    pace_mm_s=80.0,
    work=PIPE,
    looks="a thread that does not break before it lies",
    faults=("line_stops", "line_breaks", "line_spreads"),
    sets_as="line",
    word="drizzle",
    over=True,
    widths=4.5,
)
