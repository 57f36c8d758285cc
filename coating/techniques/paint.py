"""Paint: thin coats, dry between."""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING

from coating.figures.outlines import Outline
from coating.figures.pen import LINE as STROKE
from coating.steps import SET, Step
from coating.techniques.base import COATS_OF, FINISH, PAINT, SHARE, SPREAD, TOP, Drawn, Technique, Todo, thickness
from coating.techniques.measures import spread_g, spread_thick

if TYPE_CHECKING:
    from coating.stack.layers import Layer

COAT_MM, DRIES_MIN = 0.15, 3.0  # common practice, no source


def _draw(outline: Outline, layer: Layer, below: tuple[Layer, ...]) -> Drawn:
    face = outline.face
    w, h = face.half_wide, face.half_high
    strokes = "".join(
        f"M{face.x - w * s:.1f} {face.y + h * t:.1f}q{w * s:.1f} {-h * 0.3:.1f} {2 * w * s:.1f} 0"
        for s, t in ((0.5, -0.38), (0.85, 0.02), (0.7, 0.42))
    )
    return [(strokes, STROKE, max(3.0, h * 0.26))]


def _steps(todo: Todo) -> Sequence[Step]:
    hands_s, coats = todo.layer.kind.hands_s * todo.count, max(1, todo.layer.coats)
    first = Step(f"Paint {todo.many}, a thin coat, the brush barely loaded.", hands_s, warm=True)
    again = [
        Step(f"Coat {k} on {todo.many}, once the last one is dry.", hands_s, SET, DRIES_MIN, warm=True)
        for k in range(2, coats + 1)
    ]
    return [first, *again]


TECHNIQUE = Technique(
    name="paint",
    title="Paint",
    shelf=FINISH,
    does="Paint {them}",
    did_one="Painted one",
    measure=spread_g,
    thick=spread_thick,
    draw=_draw,
    measured=SPREAD,
    fields=(SHARE, thickness(COAT_MM), COATS_OF),
    on=TOP,
    window="flood",
    thickness_mm=COAT_MM,
    rank=70,
    hands_s=15.0,
    work=PAINT,
    looks="dry to the touch underneath, even under the brush",
    faults=("paint_streaky",),
    word="paint",
    finish=True,
    on_bare=True,
    dries_min=(DRIES_MIN, DRIES_MIN),
    steps=_steps,
)
