"""Lace: piped on film, laid round while it bends, peeled when it is set."""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING

from coating.figures.outlines import Outline
from coating.figures.pen import LINE as STROKE
from coating.steps import HALF_SET, Step
from coating.techniques.base import BAGGED, LENGTH, LINE, PIPE, Drawn, Technique, Todo, width
from coating.techniques.measures import line_g, line_thick
from coating.techniques.ways import released

if TYPE_CHECKING:
    from coating.stack.layers import Layer

WRAP_S = 30.0


def _draw(outline: Outline, layer: Layer, below: tuple[Layer, ...]) -> Drawn:
    face = outline.face
    w, h, path = face.half_wide, face.half_high, ""
    for row in range(3):
        y, step = face.y - h * 0.7 + row * h * 0.66, w / 2
        path += f"M{face.x - w + (step / 2 if row % 2 else 0):.1f} {y:.1f}"
        path += f"q{step / 2:.1f} {h * 0.85:.1f} {step:.1f} 0" * (4 if row % 2 == 0 else 3)
    return [(path, STROKE, 2.0)]


def _steps(todo: Todo) -> Sequence[Step]:
    lifts, breaks = todo.touch_min * 0.6, todo.touch_min * 1.25  # while it bends, of a line
    return [
        Step(f"Pipe the lace of {todo.many} along its template.", todo.layer.kind.hands(todo.layer, todo.count)),
        Step("Lay it round while it bends.", WRAP_S * todo.count, HALF_SET, lifts, breaks, todo.place, warm=False),
        released(todo, "Peel off the film.", from_min=lifts),
    ]


TECHNIQUE = Technique(
    name="lace",
    title="Lace",
    shelf=BAGGED,
    does="Pipe the lace of {them}",
    did_one="Piped one",
    measure=line_g,
    thick=line_thick,
    draw=_draw,
    measured=LINE,
    fields=(LENGTH, width(2.0)),
    window="lace",
    bag=True,
    fragile=0.25,
    width_mm=2.0,
    rank=65,
    hands_s=60.0,
    work=PIPE,
    looks="a line that stays as wide as it was, joins that touch",
    faults=("lace_breaks", "lace_tears", "line_stops", "line_breaks"),
    sets_as="line",
    word="lace",
    over=True,
    on_bare=True,
    steps=_steps,
    widths=14.0,
)
