"""Dots: pressed one by one, in a border or all over."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

from coating.figures.outlines import MIDDLE, Outline, Oval
from coating.figures.pen import FILL, dot, strewn
from coating.techniques.base import BAGGED, COUNT, COUNTED, EACH_G, PIPE, TOP, Drawn, Technique
from coating.techniques.measures import counted_g, plain_thick

if TYPE_CHECKING:
    from coating.stack.layers import Layer


def _draw(outline: Outline, layer: Layer, below: tuple[Layer, ...]) -> Drawn:
    dip = next((la for la in below if la.technique == "dip"), None)
    if dip is not None and dip.share < 1 and isinstance(outline, Oval):
        y = outline.level(dip.share) + 3.4
        return [("".join(dot(x, y, r) for x, r in _along(outline, dip.share)), FILL, 0.0)]
    if layer.count == 1 and layer.each_g:  # a dollop
        return [
            (dot(outline.face.x, outline.face.y, 0.7 * min(outline.face.half_wide, outline.face.half_high)), FILL, 0.0)
        ]
    few = max(1, min(layer.count, 14)) if layer.count > 1 else 9
    size = min(3.4, 0.5 * min(outline.face.half_wide, outline.face.half_high))
    return [("".join(dot(x, y, size) for x, y in strewn(outline.face, few)), FILL, 0.0)]


def _along(oval: Oval, share: float) -> list[tuple[float, float]]:
    """Where dots lie along a dip line, and how large they are: a small one between each two."""
    half = oval.half_wide * math.sqrt(max(0.0, 1 - ((oval.level(share) - MIDDLE) / oval.half_high) ** 2)) - 5
    return [(MIDDLE + half * (k / 5 - 1), 1.4 if k % 2 else 2.8) for k in range(11)]


TECHNIQUE = Technique(
    name="dots",
    title="Dots",
    shelf=BAGGED,
    does="Dot {them}",
    did_one="Dotted one",
    measure=counted_g,
    thick=plain_thick,
    draw=_draw,
    measured=COUNTED,
    fields=(COUNT, EACH_G),
    on=TOP,
    window="lettering",
    bag=True,
    each_g=0.05,
    rank=60,
    hands_s=1.0,
    work=PIPE,
    looks="how it leaves the bag: dots that stay round",
    faults=("line_stops", "line_spreads"),
    sets_as="bits",
    word="line",
    over=True,
    stands_mm=3.0,
)
