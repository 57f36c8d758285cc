"""Leaf: laid on last."""

from __future__ import annotations

from typing import TYPE_CHECKING

from coating.figures.outlines import Outline
from coating.figures.pen import FILL
from coating.techniques.base import FINISH, NONE, PAINT, TOP, Drawn, Technique
from coating.techniques.measures import nothing_g, plain_thick

if TYPE_CHECKING:
    from coating.stack.layers import Layer


def _draw(outline: Outline, layer: Layer, below: tuple[Layer, ...]) -> Drawn:
    face = outline.face
    s = min(face.half_wide, face.half_high) * 0.34
    x, y = face.x + face.half_wide * 0.2, face.y - face.half_high * 0.15
    corners = ((0.7, -0.8), (0.5, 0.3), (0.8, -0.1), (-0.4, 1.0), (-0.7, 0.1))
    return [(f"M{x - s:.1f} {y:.1f}l" + " ".join(f"{s * a:.1f} {s * b:.1f}" for a, b in corners) + "Z", FILL, 0.0)]


TECHNIQUE = Technique(
    name="leaf",
    title="Leaf",
    shelf=FINISH,
    does="Lay the leaf on {them}",
    did_one="Laid one",
    measure=nothing_g,
    thick=plain_thick,
    draw=_draw,
    measured=NONE,
    on=TOP,
    rank=85,
    hands_s=6.0,
    work=PAINT,
    looks="it clings without a fold",
    extra="leaf",
    coating=False,
    finish=True,
    tint="#c9a24a",
)
