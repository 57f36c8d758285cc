"""Outline and flood: a dam piped on film, filled, lifted off when it is hard."""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING

from coating.figures.outlines import Outline
from coating.figures.pen import FILL, OVER, plate
from coating.piece.cores import Core
from coating.steps import CLOSED, HALF_SET, Step
from coating.techniques.base import COATS, PIPE, SHARE, SPREAD, TOP, Drawn, Technique, Todo, thickness
from coating.techniques.measures import spread_g, spread_thick
from coating.techniques.ways import released

if TYPE_CHECKING:
    from coating.stack.layers import Layer

SMALL_MM = 50.0  # a face so small is shaken level, from the bowl of its outline; common practice, no source
OUTLINE_S, FLOOD_S = 12.0, 15.0


def _draw(outline: Outline, layer: Layer, below: tuple[Layer, ...]) -> Drawn:
    return [(plate(outline.face), FILL, 0.0), (plate(outline.face), OVER, 2.0)]


def _window_for(kind: str, core: Core) -> str:
    return "small_face" if core.across_mm <= SMALL_MM else "flood"


def _steps(todo: Todo) -> Sequence[Step]:
    dam = todo.touch_min / 3
    return [
        Step(f"Pipe the outlines of {todo.many} on film over the template.", OUTLINE_S * todo.count, looks=CLOSED),
        Step("Fill them and shake them level.", FLOOD_S * todo.count, HALF_SET, dam, max(dam + 10, 20.0), warm=True),
        released(todo, "Lift them off their film."),
    ]


TECHNIQUE = Technique(
    name="flood",
    title="Outline and flood",
    shelf=COATS,
    does="Outline and fill {them} on film",
    did_one="Flooded one",
    measure=spread_g,
    thick=spread_thick,
    draw=_draw,
    measured=SPREAD,
    fields=(SHARE, thickness(3.0)),
    on=TOP,
    window="flood",
    window_for=_window_for,
    bag=True,
    lies_on="any",
    fragile=0.15,
    thickness_mm=3.0,
    rank=10,
    hands_s=27.0,
    work=PIPE,
    looks="level, no bubble, the dam holds",
    faults=("corners", "bubbles", "cracks", "grey"),
    sets_as="slab",
    word="flood",
    covers=True,
    steps=_steps,
)
