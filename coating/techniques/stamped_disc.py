"""Stamped disc: a blob on film pressed with a cold stamp, which pops off when it is set."""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING

from coating.figures.outlines import Outline
from coating.figures.pen import DETAIL, FILL, plate, star
from coating.steps import WET, Step
from coating.techniques.base import BUILD, FILMED, SHARE, SPREAD, TOP, Drawn, Technique, Todo, thickness
from coating.techniques.measures import spread_g, spread_thick
from coating.techniques.ways import released

if TYPE_CHECKING:
    from coating.stack.layers import Layer

BLOB_S, PRESS_S = 4.0, 6.0  # hands for one; assumptions
SKINS_MIN = 0.5  # a blob is pressed before it has a skin; common practice, no source


def _draw(outline: Outline, layer: Layer, below: tuple[Layer, ...]) -> Drawn:
    face = outline.face
    return [(plate(face), FILL, 0.0), (star(face.x, face.y, min(face.half_wide, face.half_high) * 0.62), DETAIL, 0.0)]


def _steps(todo: Todo) -> Sequence[Step]:
    return [
        Step(
            f"Drop a blob on film for each of {todo.many}, a few at a time.",
            BLOB_S * todo.count,
            looks="round blobs, alike in size, still shining",
        ),
        Step(
            "Press each with a stamp from the freezer and leave the stamp on until it lets go.",
            PRESS_S * todo.count,
            WET,
            0.0,
            max(SKINS_MIN, todo.touch_min / 3),
            warm=False,
        ),
        released(todo, "Pop them off their film."),
    ]


TECHNIQUE = Technique(
    name="stamped_disc",
    title="Stamped disc",
    shelf=FILMED,
    does="Stamp {them} with a cold stamp",
    did_one="Stamped one",
    measure=spread_g,
    thick=spread_thick,
    draw=_draw,
    measured=SPREAD,
    fields=(SHARE, thickness(3.0)),
    on=TOP,
    window="coarse_mould",
    lies_on="any",
    fragile=0.1,
    thickness_mm=3.0,
    rank=10,
    hands_s=10.0,
    work=BUILD,
    looks="a sharp print, a rim as thick as the middle",
    faults=("corners", "stuck", "cracks", "grey"),
    sets_as="film",
    word="disc",
    covers=True,
    steps=_steps,
)
