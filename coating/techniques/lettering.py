"""Lettering: words in one line, or on film to lift off."""

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
    w, h = face.half_wide * 0.9, min(face.half_high * 0.42, 15.0)
    step = 2 * w / 5
    loops = f"M{face.x - w:.1f} {face.y + h * 0.4:.1f}"
    for i in range(4):
        tall = h * (1.5 if i in (0, 2) else 0.9)
        loops += f"c{step * 0.9:.1f} {-tall * 0.3:.1f} {step:.1f} {-tall:.1f} {step * 0.55:.1f} {-tall:.1f}"
        loops += f"s{-step * 0.25:.1f} {tall:.1f} {step * 0.45:.1f} {tall:.1f}"
    return [(loops, STROKE, 2.8)]


TECHNIQUE = Technique(
    name="lettering",
    title="Lettering",
    shelf=BAGGED,
    does="Letter {them}",
    did_one="Lettered one",
    measure=line_g,
    thick=line_thick,
    draw=_draw,
    measured=LINE,
    fields=(LENGTH, width(1.5)),
    on=TOP,
    window="lettering",
    bag=True,
    fragile=0.05,
    width_mm=1.5,
    rank=60,
    hands_s=12.0,
    work=PIPE,
    looks="how it leaves the bag: a line that stays as wide as it was",
    faults=("line_stops", "line_breaks", "line_spreads"),
    sets_as="line",
    word="line",
    over=True,
)
