"""Film work: strips, loops, curls and sleeves, bent on the film that carries them."""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING

from coating.figures.outlines import Outline
from coating.figures.pen import LINE as STROKE
from coating.steps import WET, Step
from coating.techniques.base import BUILD, FILMED, SHARE, SPREAD, TOP, Drawn, Technique, Todo, thickness
from coating.techniques.measures import spread_g, spread_thick
from coating.techniques.ways import released

if TYPE_CHECKING:
    from coating.stack.layers import Layer

SPREAD_S, BEND_S = 15.0, 25.0


def _draw(outline: Outline, layer: Layer, below: tuple[Layer, ...]) -> Drawn:
    """Three loops of a strip, as a bow."""
    face = outline.face
    s = min(face.half_wide, face.half_high) * 0.5
    loops = "".join(
        f"M{face.x:.1f} {face.y:.1f}q{s * a:.1f} {s * b:.1f} {s * c:.1f} {s * d:.1f}t{-s * c:.1f} {-s * d:.1f}"
        for a, b, c, d in ((-0.9, -1.3, -1.5, -0.2), (0.9, -1.3, 1.5, -0.2), (-0.5, 0.9, 0.0, 1.2))
    )
    return [(loops, STROKE, max(3.0, s * 0.3))]


def _steps(todo: Todo) -> Sequence[Step]:
    return [
        Step(f"Spread the strips for {todo.many} on film and clean their edges.", SPREAD_S * todo.count),
        Step(
            "Bend each with its film and press the ends together.",
            BEND_S * todo.count,
            WET,
            0.0,
            max(1.0, todo.touch_min),
            warm=False,
        ),
        released(todo, "Peel the film off, touching where it will not show."),
    ]


TECHNIQUE = Technique(
    name="film",
    title="Film work",
    shelf=FILMED,
    does="Spread {them} on film and bend them",
    did_one="Bent one",
    measure=spread_g,
    thick=spread_thick,
    draw=_draw,
    measured=SPREAD,
    fields=(SHARE, thickness(1.8)),
    on=TOP,
    window="sheet",
    lies_on="any",
    fragile=0.15,
    thickness_mm=1.8,
    rank=10,
    hands_s=40.0,
    work=BUILD,
    looks="it bends with its film and does not crack",
    faults=("lace_breaks", "breaks_out", "cracks", "grey"),
    sets_as="film",
    word="sheet",
    covers=True,
    steps=_steps,
)
