"""Transfer sheet: spread on the printed side, lifted to clean paper at half-set, cut, set, peeled."""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING

from coating.figures.outlines import Outline
from coating.figures.pen import FILL, OVER, plate, star, strewn
from coating.steps import CUTS, DULL, HALF_SET, KNIFE_AGE, Step
from coating.techniques.base import BUILD, COATS, SHARE, SPREAD, TOP, Drawn, Technique, Todo, thickness
from coating.techniques.measures import spread_g, spread_thick
from coating.techniques.ways import released

if TYPE_CHECKING:
    from coating.stack.layers import Layer

SPREAD_S, LIFT_S, CUT_S = 10.0, 3.0, 5.0


def _draw(outline: Outline, layer: Layer, below: tuple[Layer, ...]) -> Drawn:
    face = outline.face
    size = min(face.half_wide, face.half_high) * 0.16
    stars = "".join(star(x, y, size) for x, y in strewn(face, 7))
    return [(plate(face, 1.1), FILL, 0.0), (stars, OVER, 0.0)]


def _steps(todo: Todo) -> Sequence[Step]:
    soft, firm = todo.touch_min * 0.35, todo.touch_min
    return [
        Step(f"Spread the coating for {todo.many} on the printed side, thin and even.", SPREAD_S * todo.count),
        Step("Lift the strips to clean paper.", LIFT_S * todo.count, HALF_SET, soft, firm, warm=False, looks=DULL),
        Step(
            "Rule and cut while it is soft.",
            CUT_S * todo.count,
            HALF_SET,
            max(0.5, firm - soft),
            firm,
            warm=False,
            looks=CUTS,
            from_age=KNIFE_AGE,
        ),
        released(todo, "Peel off the film.", from_min=firm),
    ]


TECHNIQUE = Technique(
    name="transfer",
    title="Transfer sheet",
    shelf=COATS,
    does="Spread {them} on the printed side of the film",
    did_one="Spread one",
    measure=spread_g,
    thick=spread_thick,
    draw=_draw,
    measured=SPREAD,
    fields=(SHARE, thickness(2.0)),
    on=TOP,
    window="sheet",
    lies_on="any",
    fragile=0.1,
    thickness_mm=2.0,
    rank=10,
    hands_s=18.0,
    work=BUILD,
    looks="thin and even up to the edge, no air under it",
    faults=("no_print", "cracks", "grey", "breaks_out"),
    sets_as="film",
    word="sheet",
    extra="sheet",
    covers=True,
    steps=_steps,
)
