"""Knife petals: the blade dipped, laid on film, lifted and pulled back to a point."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import TYPE_CHECKING

from coating.figures.outlines import Outline
from coating.figures.pen import FILL, OVER, dot
from coating.steps import Step
from coating.techniques.base import BUILD, FILMED, SHARE, SPREAD, TOP, Drawn, Technique, Todo, thickness
from coating.techniques.measures import spread_g, spread_thick
from coating.techniques.ways import released

if TYPE_CHECKING:
    from coating.stack.layers import Layer


def _draw(outline: Outline, layer: Layer, below: tuple[Layer, ...]) -> Drawn:
    face = outline.face
    s = min(face.half_wide, face.half_high) * 0.78
    petals = []
    for i in range(8):
        a = math.pi / 4 * i
        x, y = face.x + s * math.cos(a), face.y + s * math.sin(a)
        u, v = -math.sin(a) * s * 0.42, math.cos(a) * s * 0.42
        mx, my = face.x + 0.5 * s * math.cos(a), face.y + 0.5 * s * math.sin(a)
        petals.append(
            f"M{face.x:.1f} {face.y:.1f}Q{mx + u:.1f} {my + v:.1f} {x:.1f} {y:.1f}"
            f"Q{mx - u:.1f} {my - v:.1f} {face.x:.1f} {face.y:.1f}Z"
        )
    return [("".join(petals), FILL, 0.0), (dot(face.x, face.y, s * 0.16), OVER, 0.0)]


def _steps(todo: Todo) -> Sequence[Step]:
    return [
        Step(f"Dip the blade, lay and pull the petals of {todo.many}.", todo.layer.kind.hands_s * todo.count),
        released(todo, "Slide a thin knife under each and lift it off."),
    ]


TECHNIQUE = Technique(
    name="petals",
    title="Knife petals",
    shelf=FILMED,
    does="Pull the petals of {them} with a blade",
    did_one="Pulled one",
    measure=spread_g,
    thick=spread_thick,
    draw=_draw,
    measured=SPREAD,
    fields=(SHARE, thickness(1.2)),
    on=TOP,
    window="petals",
    lies_on="any",
    fragile=0.15,
    thickness_mm=1.2,
    rank=10,
    hands_s=15.0,
    work=BUILD,
    looks="a ridge in the middle, thin towards the edge",
    faults=("breaks_out", "cracks", "grey"),
    sets_as="film",
    word="petal",
    covers=True,
    steps=_steps,
)
