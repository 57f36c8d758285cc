"""Parts: which pieces of a job go on which, what is to be doubted about them, and how all of it looks."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from typing import Any

from coating.job import Wanted
from coating.piece.kinds import KINDS
from coating.stack.joints import doubts
from coating.stack.layers import Layer as CoreLayer
from coating.stack.order import Mistake
from coating.techniques.part import FRONT, GLUED
from studio.common.templatetags.kitchen import mass, roughly
from studio.cupboard.stock import Stock
from studio.cupboard.tones import Tone
from studio.pieces.models import Job, Layer, Piece
from studio.pieces.pictures import DesignPicture, Pictured
from studio.pieces.reckoned import as_core_layer, core_of, piece_of, wanted_of
from studio.pieces.stacks import PiecePlan

_DEEPEST = 12


def carried(layers: Iterable[Any]) -> dict[int, Piece]:
    """Every piece that goes on what has these layers, and on those, by its number; from a whole job."""
    pieces: dict[int, Piece] = {}
    left = [la.part for la in layers if la.part]
    while left:
        part = left.pop()
        if part.pk not in pieces:
            pieces[part.pk] = part
            left += [la.part for la in part.stack if la.part]
    return pieces


def with_parts(piece: Piece) -> list[Piece]:
    """A piece of a whole job and all that goes on it."""
    return [piece, *carried(piece.stack).values()]


def given(job: Job) -> list[Piece]:
    """The pieces of a whole job that go on nothing else, or of which some do not."""
    return [piece for piece in job.pieces.all() if piece.count]


def parts_first(job: Job) -> list[Piece]:
    """The pieces of a whole job, what goes on another before it."""
    rows = {str(p.pk): p for p in job.pieces.all()}
    return [rows[p.id] for p in Wanted(tuple(map(piece_of, rows.values()))).parts_first()]


def goes_on(pieces: Iterable[Piece]) -> dict[int, list[Piece]]:
    """What the pieces of a whole job are put on, each once, by their numbers."""
    by_part: dict[int, list[Piece]] = {}
    for on in pieces:
        for part in dict.fromkeys(la.part_id for la in on.stack if la.part_id):
            by_part.setdefault(part, []).append(on)
    return by_part


def pictured(layers: Sequence[Any], core_layers: Sequence[CoreLayer], kind: Any, core: Any, deep: int = 0) -> Pictured:
    """A piece with its parts as it is drawn, of rows of a whole job or of a plan."""
    parts, drawings = dict[int, Pictured](), dict[int, DesignPicture]()
    for place, layer in enumerate(layers):
        if layer.part is not None and deep < _DEEPEST:
            part = layer.part
            parts[place] = (
                picture_of_plan(part, deep + 1) if isinstance(part, PiecePlan) else picture_of(part, deep + 1)
            )
        if drawn := drawing_of(layer):
            drawings[place] = drawn
    labs = tuple(la.tone.lab for la in layers)
    return Pictured(kind, core, tuple(core_layers), labs, parts, drawings)


def picture_of(piece: Piece, deep: int = 0) -> Pictured:
    """A piece of a whole job as it is drawn."""
    return pictured(piece.stack, [as_core_layer(la) for la in piece.stack], KINDS[piece.core], core_of(piece), deep)


def picture_of_plan(plan: PiecePlan, deep: int = 0) -> Pictured:
    """A piece that is not kept yet as it is drawn."""
    return pictured(plan.layers, plan.core_layers(), plan.kind, plan.core, deep)


def drawing_of(layer: Any) -> DesignPicture | None:
    """What the design of a layer drew of one, where that is known."""
    one = getattr(layer.design, "one", None) if isinstance(layer, Layer) else layer.looks
    return DesignPicture.of(one) if one else None


def doubts_of(layers: Sequence[Any], core_layers: Sequence[CoreLayer], kind: Any, core: Any) -> list[Mistake]:
    """What is too large, too many or too heavy on a piece."""
    parts = carried(layers)
    if not parts:
        return []
    weights = Wanted(tuple(map(piece_of, parts.values()))).weigh()
    return [
        Mistake(place, why, reorder=False)
        for place, layer in enumerate(layers)
        if layer.part
        for why in doubts(
            kind,
            core,
            core_layers[place],
            core_of(layer.part),
            weights[str(layer.part.pk)],
            layer.part.name.lower(),
            length=roughly,
            mass=mass,
        )
    ]


def glue_of(part: Piece, on: Iterable[Any] = ()) -> tuple[Tone, str]:
    """What a part is glued with to begin with: as it is coated itself, else as what it goes on is; and its white."""
    for layer in (*part.stack, *on):
        known = as_core_layer(layer) if isinstance(layer, Layer) else CoreLayer(layer.technique)
        if known.takes_coating:
            return layer.tone, layer.white
    return Tone(), "coating"


FIRST = {"v": 2, "where": FRONT, "placed": GLUED}


def put_on(job: Job, part: Piece, on: Piece, **values: Any) -> Layer:
    """A part is put on a piece, as its last layer."""
    tone, white = glue_of(part, on.layers.all())
    last = on.layers.order_by("-order").values_list("order", flat=True).first() or 0
    layer: Layer = Layer.objects.create(
        kitchen_id=job.kitchen_id,
        piece=on,
        order=last + 1,
        technique="part",
        part=part,
        colour=tone.colour,
        base=tone.base,
        white=white,
        parameters={**FIRST, **values},
    )
    return layer


def counted_by_others(part: Piece) -> bool:
    """A part that is put on something for the first time is counted by that from now on; whether it had a count."""
    if not part.count:
        return False
    Piece.objects.filter(pk=part.pk).update(count=0, spares=None, family=None, share=1, version=part.version + 1)
    return True


def can_be(job: Job) -> None:
    """Nothing of a job goes on itself. Raises OutOfBounds with the circle."""
    whole = Job.objects.whole(job.kitchen_id, job.pk)
    wanted_of(whole, Stock.of(job.kitchen)).told()
