"""Shell: a mould poured full and drained, so that a wall stays."""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING

from coating.figures.outlines import CutOutline, Outline
from coating.figures.pen import FILL, OVER
from coating.steps import WET, Step
from coating.techniques.base import INSIDE, INTO, MOULD, SHARE, SPREAD, Drawn, Technique, Todo, thickness
from coating.techniques.measures import spread_g, spread_thick
from coating.techniques.ways import dipped, in_hollow

if TYPE_CHECKING:
    from coating.stack.layers import Layer

POUR_S, DRAIN_S, RIM_S = 8.0, 8.0, 6.0  # hands for one; assumptions


def _draw(outline: Outline, layer: Layer, below: tuple[Layer, ...]) -> Drawn:
    if not isinstance(outline, CutOutline):
        return dipped(outline, layer.share, 1.4)
    return [(outline.between(0, 1), FILL, 0.0), (outline.between(0.16, 1, 5.0), OVER, 0.0)]


def _steps(todo: Todo) -> Sequence[Step]:
    steps = [
        Step(f"Pour {todo.many} full, tap, turn until every side is covered.", POUR_S * todo.count),
        Step(
            "Turn the mould over, let it drain, scrape the rim.",
            DRAIN_S * todo.count,
            WET,
            0.0,
            2.0,
            looks="no bare patch, a clean rim, drips that have stopped",
        ),
    ]
    if todo.core.length_mm > LARGE_MM:
        steps.append(
            Step(
                "Build up the rim and other weak points with the back of a spoon.",
                RIM_S * todo.count,
                "set",
                todo.touch_min,
                None,
                todo.place,
                warm=True,
            )
        )
    return steps


LARGE_MM = 40.0  # so deep a shell gets a second coat on its rim; common practice, no source
TECHNIQUE = Technique(
    name="shell",
    title="Shell",
    shelf=INTO,
    does="Pour {them} full, tap, drain, scrape the rim",
    did_one="Poured one",
    measure=spread_g,
    thick=spread_thick,
    draw=_draw,
    measured=SPREAD,
    fields=(SHARE, thickness(1.7)),
    on=INSIDE,
    window="shell",
    lies_on="any",
    fragile=0.1,
    thickness_mm=1.7,
    rank=10,
    hands_s=16.0,
    work=MOULD,
    looks="no bare patch, an even rim",
    faults=("stuck", "breaks_out", "bubbles", "grey"),
    sets_as="mould",
    word="shell",
    extra="mould",
    covers=True,
    objects=in_hollow,
    steps=_steps,
)
