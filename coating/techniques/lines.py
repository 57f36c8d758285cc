"""Piped lines: arcs, stripes and borders on a set coat."""

from __future__ import annotations

from typing import TYPE_CHECKING

from coating.figures.outlines import Outline
from coating.figures.pen import LINE as STROKE
from coating.techniques.base import BAGGED, LENGTH, LINE, PIPE, TOP, Drawn, Technique, width
from coating.techniques.measures import line_g, line_thick

if TYPE_CHECKING:
    from coating.stack.layers import Layer


def _draw(outline: Outline, layer: Layer, below: tuple[Layer, ...]) -> Drawn:
    face = outline.face
    w, h = face.half_wide, face.half_high
    arcs = "".join(
        f"M{face.x - w * s:.1f} {face.y + h * 0.5 * s:.1f}Q{face.x:.1f} {face.y - h * 1.25 * s:.1f} "
        f"{face.x + w * s:.1f} {face.y + h * 0.5 * s:.1f}"
        for s in (0.95, 0.62, 0.3)
    )
    return [(arcs, STROKE, 2.8)]


TECHNIQUE = Technique(
    name="lines",
    title="Piped lines",
    shelf=BAGGED,
    does="Pipe the lines on {them}",
    did_one="Piped one",
    measure=line_g,
    thick=line_thick,
    draw=_draw,
    measured=LINE,
    fields=(LENGTH, width(2.0)),
    on=TOP,
    window="lettering",
    bag=True,
    fragile=0.03,
    width_mm=2.0,
    rank=60,
    hands_s=10.0,
    work=PIPE,
    looks="how it leaves the bag: a line that stays as wide as it was",
    faults=("line_stops", "line_breaks", "line_spreads"),
    sets_as="line",
    word="line",
    over=True,
    stands_mm=3.0,
)
