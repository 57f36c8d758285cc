"""Marbling: a second colour in blobs on a wet ground, and a skewer through."""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING

from coating.figures.outlines import Outline
from coating.figures.pen import FILL, OVER, plate
from coating.figures.pen import LINE as STROKE
from coating.steps import KNIFE_AGE, WET, Step
from coating.techniques.base import COATS, DIP, SHARE, SPREAD, TOP, Drawn, Technique, Todo, thickness
from coating.techniques.measures import spread_g, spread_thick

if TYPE_CHECKING:
    from coating.stack.layers import Layer

SKEWER_S = 20.0


def _draw(outline: Outline, layer: Layer, below: tuple[Layer, ...]) -> Drawn:
    """On a ground only what is drawn through it."""
    face = outline.face
    w, h = face.half_wide, face.half_high
    swirls = "".join(
        f"M{face.x - w * 0.8:.1f} {face.y + h * y:.1f}c{w * 0.5:.1f} {-h * 0.5:.1f} {w * 0.6:.1f} {h * 0.45:.1f} "
        f"{w * 0.9:.1f} {h * 0.05:.1f}s{w * 0.4:.1f} {-h * 0.35:.1f} {w * 0.7:.1f} {-h * 0.08:.1f}"
        for y in (-0.5, 0.0, 0.5)
    )
    if any((la.kind.measured == SPREAD and la.kind.on == TOP) or la.technique == "pour" for la in below):
        return [(swirls, STROKE, 7.0)]
    return [(plate(face, 1.16), FILL, 0.0), (swirls, OVER, 3.2)]


def _steps(todo: Todo) -> Sequence[Step]:
    wet = max(2.0, todo.touch_min / 3)
    return [
        Step(f"Pour the second colour on {todo.many} in blobs.", todo.layer.kind.hands_s * todo.count),
        Step(
            "Draw a skewer through, and stop early.",
            SKEWER_S * todo.count,
            WET,
            0.0,
            wet,
            warm=False,
            from_age=KNIFE_AGE,
        ),
    ]


TECHNIQUE = Technique(
    name="marbling",
    title="Marbling",
    shelf=COATS,
    does="Marble {them}",
    did_one="Marbled one",
    measure=spread_g,
    thick=spread_thick,
    draw=_draw,
    measured=SPREAD,
    fields=(SHARE, thickness(6.0)),
    on=TOP,
    window="marbling",
    lies_on="any",
    fragile=0.05,
    thickness_mm=6.0,
    rank=11,
    hands_s=30.0,
    work=DIP,
    looks="bold veins, no muddy patch",
    faults=("muddy", "coat_thick", "grey"),
    sets_as="slab",
    word="pour",
    covers=True,
    steps=_steps,
)
