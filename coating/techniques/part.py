"""A part made elsewhere: laid on while the coat is wet or half-set, set inside, or glued on once both are set."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import TYPE_CHECKING

from coating.figures.outlines import Outline
from coating.figures.pen import OVER, dot
from coating.flow.casson1959 import Flow
from coating.piece.cores import Core
from coating.steps import Step
from coating.techniques.base import BUILD, COUNT, COUNTED, Drawn, LayerField, Technique, Todo
from coating.techniques.glue import HOLD_S, SEAT_S
from coating.techniques.measures import counted_g, plain_thick

if TYPE_CHECKING:
    from coating.stack.layers import Layer

GLUED, INSIDE_IT = "glued", "inside"
DRY = ("wet", "half_set", "set", INSIDE_IT)  # it holds by itself, and takes no coating
HOW = (
    ("wet", "while the coat is wet"),
    ("half_set", "while the coat is half-set"),
    ("set", "set on, and it holds by itself"),
    (GLUED, "glued on, once set"),
    (INSIDE_IT, "inside"),
)
FRONT, TOP, STANDING, ROUND, PAIRS = "front", "top", "standing", "round", "pairs"
WHERE = (
    (FRONT, "on the front"),
    (TOP, "lying on top"),
    (STANDING, "standing on top"),
    (ROUND, "all round"),
    (PAIRS, "in pairs, left and right"),
)
_PLACES = {FRONT: "", TOP: ", on top", STANDING: ", standing on top", ROUND: ", all round", PAIRS: ", left and right"}
_WORDS = {
    "wet": "Set {each} on {them}{where}, while the coat is wet",
    "set": "Set {each} on {them}{where}",
    "half_set": "Lay {each} on {them}{where}, while the coat is half-set: lay, do not push",
    INSIDE_IT: "Set {each} into {them}",
    "": "Glue {each} on {them}{where}: a dab, set on, held; prop what leans",
}


def _glue_g(core: Core, layer: Layer, flow: Flow) -> float:
    """What holds it, g; nothing where it holds by itself."""
    return 0.0 if layer.placed in DRY else counted_g(core, layer, flow)


def _steps(todo: Todo) -> Sequence[Step]:
    layer, several = todo.layer, todo.count > 1
    called = layer.note or ("part" if layer.count == 1 else "parts")
    each = f"{layer.count} {called}" if layer.count > 1 else f"one of the {called}" if several else f"the {called}"
    them = f"each of {todo.many}" if several else todo.many
    where = _PLACES.get(layer.where, "")
    says = _WORDS.get(layer.placed, _WORDS[""]).format(each=each, them=them, where=where)
    return [Step(f"{says}.", layer.kind.hands(layer, todo.count))]


def _draw(outline: Outline, layer: Layer, below: tuple[Layer, ...]) -> Drawn:
    """As many spots on its face, in a ring where there are several; what the part looks like is drawn by who knows."""
    face, many = outline.face, min(12, max(1, layer.count))
    wide, high = (0.0, 0.0) if many == 1 else (face.half_wide * 0.6, face.half_high * 0.6)
    turn, size = 2 * math.pi / many, min(face.half_wide, face.half_high) * (0.5 if many == 1 else 0.22)
    spots = [dot(face.x + wide * math.sin(i * turn), face.y - high * math.cos(i * turn), size) for i in range(many)]
    return [("".join(spots), OVER, 2.0)]


TECHNIQUE = Technique(
    name="part",
    title="Part made elsewhere",
    shelf="",
    does="Set the part on {them}",
    did_one="Set one on",
    measure=_glue_g,
    thick=plain_thick,
    draw=_draw,
    measured=COUNTED,
    fields=(
        COUNT,
        LayerField("where", "Where it goes", typed="pills", first=FRONT, choices=WHERE),
        LayerField("placed", "How it is put on", typed="pills", first=GLUED, choices=HOW),
        LayerField(
            "each_g",
            "Coating that glues each of them",
            "mass_g",
            "mass",
            None,
            "Leave blank for a dab, and more for what is heavy.",
        ),
    ),
    window="glue",
    bag=True,
    each_g=0.6,
    rank=76,
    hands_s=SEAT_S + HOLD_S,
    work=BUILD,
    looks="the bead still shines when the part is set in",
    faults=("joint_slips",),
    sets_as="line",
    word="glue",
    on_bare=True,
    dry_when=DRY,
    steps=_steps,
)
