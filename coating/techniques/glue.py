"""Glue: beads of the same coating that hold parts together, piped a short run at a time before they skin."""

from __future__ import annotations

from typing import TYPE_CHECKING

from coating.figures.outlines import Outline
from coating.figures.pen import LINE as STROKE
from coating.techniques.base import BAGGED, BUILD, COUNT, COUNTED, EACH_G, Drawn, Technique
from coating.techniques.measures import counted_g, plain_thick

if TYPE_CHECKING:
    from coating.stack.layers import Layer

SEAT_S, HOLD_S = 3.0, 4.0  # hands for a small part: a dab, set on, held; common practice, no source


def _draw(outline: Outline, layer: Layer, below: tuple[Layer, ...]) -> Drawn:
    face = outline.face
    w, y = face.half_wide * 0.9, face.y + face.half_high * 1.12
    return [(f"M{face.x - w:.1f} {y:.1f}h{2 * w:.1f}", STROKE, 4.5)]


TECHNIQUE = Technique(
    name="glue",
    title="Glue",
    shelf=BAGGED,
    does="Glue {them}, a short bead at a time, and hold each part",
    did_one="Glued one",
    measure=counted_g,
    thick=plain_thick,
    draw=_draw,
    measured=COUNTED,
    fields=(COUNT, EACH_G),
    window="glue",
    bag=True,
    each_g=0.6,
    rank=75,
    hands_s=SEAT_S + HOLD_S,
    work=BUILD,
    looks="the bead still shines when the part is set in",
    faults=("joint_slips",),
    sets_as="line",
    word="glue",
    on_bare=True,
)
