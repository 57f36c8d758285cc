"""Stick or pick: seated in coating and left to set before a dip; pushed into a filled mould after it is tapped."""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING

from coating.figures.outlines import MIDDLE, CutOutline, Outline
from coating.figures.pen import LINE
from coating.piece.cores import Core
from coating.steps import Step
from coating.techniques.base import INTO, NONE, SCATTER, Drawn, Technique, Todo, Wrong
from coating.techniques.measures import nothing_g, plain_thick

if TYPE_CHECKING:
    from coating.stack.layers import Layer

SETS_MIN = {"room": 10.0, "fridge": 3.0, "freezer": 3.0}  # until it can be dipped; common practice, no source


def _draw(outline: Outline, layer: Layer, below: tuple[Layer, ...]) -> Drawn:
    if isinstance(outline, CutOutline):
        return [(f"M{MIDDLE} {outline.level(0.35):.1f}V4", LINE, 5.0)]
    return [(f"M{MIDDLE} 35V97", LINE, 4.0)]  # below it: what is on it is lifted


def _objects(core: Core, layers: Sequence[Layer], place: int) -> Wrong | None:
    before, coming = layers[:place], layers[place + 1 :]
    if not core.holds_ml and any(la.kind.dips for la in before):
        return "The stick is seated and left to set first, or the piece slides off it in the bowl.", True
    if core.holds_ml and any(la.technique == "solid" for la in coming):
        return "The stick goes in after the mould is filled and tapped: tapping tips it.", True
    return None


def _steps(todo: Todo) -> Sequence[Step]:
    hands_s = todo.layer.kind.hands(todo.layer, todo.count)
    if todo.core.holds_ml:
        return [Step(f"Push a stick into each of {todo.many} and turn it.", hands_s, warm=False, kind="stick")]
    seat = f"Seat the sticks of {todo.many}: dip each end in coating, push it half way in, lay it flat."
    return [Step(seat, hands_s, warm=True, kind="stick")]


TECHNIQUE = Technique(
    name="stick",
    title="Stick or pick",
    shelf=INTO,
    does="Put the sticks into {them}",
    did_one="Put one in",
    measure=nothing_g,
    thick=plain_thick,
    draw=_draw,
    measured=NONE,
    lies_on="wet",
    rank=42,
    hands_s=8.0,
    work=SCATTER,
    looks="it sits straight, and deep enough to hold",
    faults=("slides", "cracks"),
    extra="stick",
    coating=False,
    on_bare=True,
    in_mould=True,
    tint="#e6dac0",
    objects=_objects,
    steps=_steps,
)
