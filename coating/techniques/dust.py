"""Dust or pearl: brushed dry on a set coat."""

from __future__ import annotations

from typing import TYPE_CHECKING

from coating.figures.outlines import Outline
from coating.figures.pen import FILL, dot, strewn
from coating.techniques.base import FINISH, NONE, PAINT, TOP, Drawn, Technique
from coating.techniques.measures import nothing_g, plain_thick

if TYPE_CHECKING:
    from coating.stack.layers import Layer


def _draw(outline: Outline, layer: Layer, below: tuple[Layer, ...]) -> Drawn:
    return [("".join(dot(x, y, 0.8) for x, y in strewn(outline.face, 26, 1.0)), FILL, 0.0)]


TECHNIQUE = Technique(
    name="dust",
    title="Dust or pearl",
    shelf=FINISH,
    does="Dust {them} with a dry brush",
    did_one="Dusted one",
    measure=nothing_g,
    thick=plain_thick,
    draw=_draw,
    measured=NONE,
    on=TOP,
    rank=80,
    hands_s=4.0,
    work=PAINT,
    looks="dry to the touch underneath, even under the brush",
    extra="dust",
    coating=False,
    finish=True,
    tint="#d8c78f",
)
