"""A step of one's own: whatever else is done to a piece."""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING

from coating.figures.outlines import Outline
from coating.figures.pen import LINE as STROKE
from coating.figures.pen import plate
from coating.steps import Step
from coating.techniques.base import BUILD, FINISH, NONE, NOTE, Drawn, Technique, Todo
from coating.techniques.measures import nothing_g, plain_thick

if TYPE_CHECKING:
    from coating.stack.layers import Layer


def _draw(outline: Outline, layer: Layer, below: tuple[Layer, ...]) -> Drawn:
    return [(plate(outline.face, 0.5), STROKE, 1.4)]


def _steps(todo: Todo) -> Sequence[Step]:
    what = todo.layer.note or "A step of your own"
    return [Step(f"{what}: {todo.many}.", todo.layer.kind.hands_s * todo.count, warm=False)]


TECHNIQUE = Technique(
    name="own",
    title="A step of my own",
    shelf=FINISH,
    does="Your own step on {them}",
    measure=nothing_g,
    thick=plain_thick,
    draw=_draw,
    measured=NONE,
    fields=(NOTE,),
    lies_on="any",
    rank=50,
    hands_s=4.0,
    work=BUILD,
    looks="as you want it",
    coating=False,
    tint="#5c5c4c",
    steps=_steps,
)
