"""A design that is for nothing yet becomes a piece that is made for itself and put on another."""

from __future__ import annotations

from collections import OrderedDict
from dataclasses import replace
from typing import Any

from django.db import transaction
from django.http import Http404

from coating.errors import CoatingError
from coating.piece.kinds import KINDS as CORES
from studio.accounts.models import Kitchen
from studio.common.types import Json
from studio.designs.actions import drawn_anew, form_of
from studio.designs.kinds import KINDS
from studio.designs.models import Design
from studio.designs.place import Place
from studio.pieces.models import Job, Piece
from studio.pieces.stacks import VERSION, LayerPlan, PiecePlan, keep_piece

_KEPT = 200
_looks: OrderedDict[Any, Json] = OrderedDict()


def drawn_plan(plan: PiecePlan, kitchen: Kitchen) -> PiecePlan:
    """A plan whose designed layers, and those of its parts, know how they look."""
    return replace(plan, layers=tuple(_drawn(layer, kitchen) for layer in plan.layers))


def _drawn(layer: LayerPlan, kitchen: Kitchen) -> LayerPlan:
    if isinstance(layer.part, PiecePlan):
        layer = replace(layer, part=drawn_plan(layer.part, kitchen))
    if not layer.design:
        return layer
    key = (repr(sorted(layer.design["asked"].items())), layer.design["kind"], layer.tone.lab)
    if key not in _looks:
        _looks[key] = _worked(layer, kitchen)
        if len(_looks) > _KEPT:
            _looks.popitem(last=False)
    return replace(layer, looks=_looks[key])


def _worked(layer: LayerPlan, kitchen: Kitchen) -> Json:
    """How what is designed looks; nothing where it cannot be drawn here."""
    assert layer.design
    kind, place = KINDS[layer.design["kind"]], Place.of(kitchen, None, layer.tone, layer.white)
    form = form_of(place, kind, layer.design)
    try:
        return dict(kind.work(form.asked(), place).one) if form.is_valid() else {}
    except CoatingError:
        return {}


def goes_as_part(design: Design) -> bool:
    """Whether what it drew is lifted off and put on something."""
    return bool(KINDS[design.kind].lifts_off) and bool(design.one)


def parts_designed(kitchen: Kitchen) -> list[Design]:
    """What was designed for nothing yet and can be put on a piece."""
    return [d for d in Design.objects.for_kitchen(kitchen).filter(layer=None) if goes_as_part(d)]


def piece_designed(job: Job, pk: str) -> Piece:
    """Such a design as a piece of a job. Raises Http404 for what is none."""
    design = Design.objects.get_for(job.kitchen_id, pk=pk)
    if not goes_as_part(design):
        raise Http404("it is not lifted off")
    return piece_of_design(job, design)


@transaction.atomic
def piece_of_design(job: Job, design: Design) -> Piece:
    """A piece of the size of a design that goes as a part, with that design, which stays where it was for the next."""
    kind = KINDS[design.kind]
    size = (float(design.one["wide_mm"]), float(design.one["high_mm"]))
    layer = LayerPlan(kind.techniques[0], design.white, design.colour, None, {"v": VERSION}, design.base)
    piece = keep_piece(job, PiecePlan(design.name, 0, CORES["shape"], size, (layer,)))
    Design.objects.create(
        kitchen_id=job.kitchen_id,
        kind=design.kind,
        name=design.name,
        layer=piece.layers.get(),
        colour=design.colour,
        base=design.base,
        white=design.white,
        asked=design.asked,
        drawn=design.drawn,
        one=design.one,
    )
    drawn_anew(piece)
    return piece
