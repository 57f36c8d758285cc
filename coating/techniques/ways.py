"""Ways that several techniques share: how they are drawn, what goes wrong with them, and steps like others."""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING

from coating.figures.outlines import MIDDLE, CutOutline, FaceArea, Knot, Outline
from coating.figures.pen import FILL, LINE, dot, plate
from coating.steps import HALF_SET, SET, WET, Step
from coating.techniques.base import Drawn, Todo, Wrong

if TYPE_CHECKING:
    from coating.piece.cores import Core
    from coating.stack.layers import Layer

STRING_WIDE = 9.0  # of a knot, in a picture
RELEASE_S, PEEL_S = 5.0, 4.0  # hands for one; assumptions
HOLLOW = "goes into something hollow: a mould or a cup."


def dipped(outline: Outline, share: float, grow: float) -> Drawn:
    """The lower share of it in its coat."""
    if isinstance(outline, Knot):
        return [(outline.below(share), LINE, STRING_WIDE + 2 * grow)]
    return [(outline.below(share, grow), FILL, 0.0)]


def poured(outline: Outline, layer: Layer, below: tuple[Layer, ...]) -> Drawn:
    """Its face covered."""
    return [(plate(outline.face, 1.12), FILL, 0.0)]


def leaned(outline: Outline, layer: Layer, below: tuple[Layer, ...]) -> Drawn:
    """A dot in the middle of the face, or where it is cut open."""
    if isinstance(outline, CutOutline):
        low = (outline.top + outline.bottom) / 2
        return [(dot(MIDDLE, low, min(9.0, (outline.bottom - outline.top) * 0.24)), FILL, 0.0)]
    face: FaceArea = outline.face
    return [(dot(face.x, face.y, min(face.half_wide, face.half_high) * 0.4), FILL, 0.0)]


def names(layers: Sequence[Layer]) -> list[str]:
    """The techniques of some layers."""
    return [layer.technique for layer in layers]


def in_hollow(core: Core, layers: Sequence[Layer], place: int) -> Wrong | None:
    """What goes in wants something hollow."""
    return None if core.holds_ml else (f"{layers[place].kind.title} {HOLLOW}", False)


def released(todo: Todo, says: str, *, from_min: float | None = None) -> Step:
    """Out of its mould, or off its film, once it is hard."""
    rest = todo.release_min if from_min is None else max(0.0, todo.release_min - from_min)
    return Step(says, RELEASE_S * todo.count, SET, rest, None, todo.place, warm=False, kind="release")


__all__ = ["HALF_SET", "SET", "WET", "Step"]
