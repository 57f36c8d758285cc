"""Fill a mould solid: to the brim, tapped, topped up, out when it is hard."""

from __future__ import annotations

from collections.abc import Sequence

from coating.figures.outlines import CutOutline, Outline
from coating.figures.pen import FILL
from coating.steps import CLEAN, WET, Step
from coating.techniques.base import INSIDE, INTO, MOULD, VOLUME, VOLUME_ML, Drawn, Technique, Todo
from coating.techniques.measures import filled_thick, volume_g
from coating.techniques.ways import dipped, in_hollow

SCRAPE_S = 2.0


def _draw(outline: Outline, layer: object, below: object) -> Drawn:
    share = getattr(layer, "share", 1.0)
    if isinstance(outline, CutOutline):
        return [(outline.between(0, share), FILL, 0.0)]
    return dipped(outline, share, 1.4)


def _steps(todo: Todo) -> Sequence[Step]:
    hands_s = todo.layer.kind.hands_s * todo.count
    return [
        Step(f"Fill {todo.many} to the brim, tap, top up and tap again.", hands_s),
        Step("Scrape the mould clean.", SCRAPE_S * todo.count, WET, 0.0, 3.0, warm=False, looks=CLEAN),
    ]


TECHNIQUE = Technique(
    name="solid",
    title="Fill a mould solid",
    shelf=INTO,
    does="Fill {them} to the brim, tap, top up",
    did_one="Filled one",
    measure=volume_g,
    thick=filled_thick,
    draw=_draw,
    measured=VOLUME,
    fields=(VOLUME_ML,),
    on=INSIDE,
    window="coarse_mould",
    lies_on="any",
    fragile=0.05,
    rank=10,
    hands_s=8.0,
    work=MOULD,
    looks="level with the brim, no bare patch, no bubble left",
    faults=("stuck", "corners", "bubbles", "breaks_out", "grey", "first_plain"),
    sets_as="mould",
    word="mould",
    extra="mould",
    covers=True,
    objects=in_hollow,
    steps=_steps,
)
