"""Modelling chocolate: shaped by hand and set on."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

from coating.figures.outlines import Outline
from coating.figures.pen import FILL, OVER, dot
from coating.techniques.base import BUILD, COUNT, COUNTED, EACH_G, FINISH, Drawn, Technique
from coating.techniques.measures import counted_g, plain_thick

if TYPE_CHECKING:
    from coating.stack.layers import Layer


def _draw(outline: Outline, layer: Layer, below: tuple[Layer, ...]) -> Drawn:
    face = outline.face
    s = min(face.half_wide, face.half_high) * 0.36
    petals = "".join(
        dot(face.x + s * math.cos(a), face.y + s * math.sin(a), s * 0.62)
        for a in (math.pi * 2 / 5 * i - 1.57 for i in range(5))
    )
    return [(petals, FILL, 0.0), (dot(face.x, face.y, s * 0.42), OVER, 0.0)]


TECHNIQUE = Technique(
    name="modelling",
    title="Modelling chocolate",
    shelf=FINISH,
    does="Shape the modelling chocolate for {them}",
    did_one="Shaped one",
    measure=counted_g,
    thick=plain_thick,
    draw=_draw,
    measured=COUNTED,
    fields=(COUNT, EACH_G),
    each_g=8.0,
    rank=66,
    hands_s=12.0,
    work=BUILD,
    looks="smooth, no cracks at the edges",
    extra="modelling",
    coating=False,
    on_bare=True,
    tint="#e8cfae",
    stands_mm=3.0,
    dries_min=(30.0, 240.0),
)
