"""What a step looks like once it is done: the piece so far, with rings where its parts go."""

from __future__ import annotations

import re
from dataclasses import replace

from studio.day.adapters import Planned
from studio.day.models import part_of
from studio.pieces.parts import picture_of
from studio.pieces.pictures import Pictured
from studio.pieces.reckoned import as_core_layer, counts_of
from studio.pieces.says import places_says

_FIRST = re.compile(r"^\d+(r\d+)?\.0(\.\d+)?$")  # what is put on; later steps lift it off


def shown_of(planned: Planned, name: str, *, joints_only: bool = False) -> dict[str, object] | None:
    """The picture of a step, where it is one of a layer: of what is put on with where, as "two fins: here and here"."""
    piece = planned.of.get(name)
    if piece is None or name.startswith("bowl:"):
        return None
    place = next((i for i, la in enumerate(piece.stack) if str(la.pk) == part_of(name)), None)
    if place is None or (joints_only and not piece.stack[place].part_id):
        return None
    layer = piece.stack[place]
    so_far = _until(picture_of(piece), place)
    if layer.part is None or not _FIRST.search(name):
        return {"picture": so_far, "says": ""}
    made = counts_of(piece.job)[layer.part.pk][0]
    says = places_says(as_core_layer(layer).count, layer.part.name, made)
    return {"picture": so_far, "rings": so_far.rings(place), "says": says}


def _until(whole: Pictured, place: int) -> Pictured:
    """The same without what is put on later."""
    return replace(
        whole,
        layers=whole.layers[: place + 1],
        labs=whole.labs[: place + 1],
        parts={at: part for at, part in whole.parts.items() if at <= place},
        drawings={at: drawn for at, drawn in whole.drawings.items() if at <= place},
    )
