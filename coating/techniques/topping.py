"""Topping: sprinkles and small parts, while the coat holds what falls on it."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import TYPE_CHECKING

from coating.figures.outlines import Outline
from coating.figures.pen import FILL, star, strewn
from coating.figures.pen import LINE as STROKE
from coating.piece.cores import Core
from coating.steps import SHINES
from coating.techniques.base import COUNT, COUNTED, EACH_G, FINISH, PLACED, SCATTER, TOP, Drawn, Technique, Wrong
from coating.techniques.measures import counted_g, plain_thick
from coating.techniques.ways import names

if TYPE_CHECKING:
    from coating.stack.layers import Layer

HEAVY_G = 3.0


def _draw(outline: Outline, layer: Layer, below: tuple[Layer, ...]) -> Drawn:
    face = outline.face
    few, size = max(1, min(layer.count, 16)), min(3.2, 0.4 * min(face.half_wide, face.half_high))
    if layer.count == 1:
        return [(star(face.x, face.y, size * 3.4), FILL, 0.0)]
    rice = "".join(
        f"M{x:.1f} {y:.1f}l{size * math.cos(i * 2.1):.1f} {size * math.sin(i * 2.1):.1f}"
        for i, (x, y) in enumerate(strewn(face, few))
    )
    return [(rice, STROKE, 3.6)]


def _objects(core: Core, layers: Sequence[Layer], place: int) -> Wrong | None:
    layer = layers[place]
    if layer.placed == "set" and "glue" not in names(layers[:place]):
        return "Nothing sticks to a coat that has set: place it while wet, or glue it.", False
    if layer.placed == "wet" and layer.each_g and layer.each_g > HEAVY_G:
        return "So heavy a topping ploughs a wet coat: place it half-set.", False
    return None


TECHNIQUE = Technique(
    name="topping",
    title="Topping",
    shelf=FINISH,
    does="Put the topping on {them}",
    did_one="Topped one",
    measure=counted_g,
    thick=plain_thick,
    draw=_draw,
    measured=COUNTED,
    fields=(COUNT, EACH_G, PLACED),
    on=TOP,
    lies_on="wet",
    each_g=0.3,
    rank=45,
    hands_s=3.0,
    work=SCATTER,
    looks=SHINES,
    faults=("toppings_fall", "toppings_sink"),
    extra="topping",
    coating=False,
    tint="#c98a2e",
    objects=_objects,
    stands_mm=3.0,
)
