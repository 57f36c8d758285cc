"""What to begin a piece with: pictures of whole pieces, what the maker kept, or a bare core."""

from __future__ import annotations

from django.http import HttpResponse
from django.shortcuts import render

from coating.errors import CoatingError
from coating.piece.kinds import KINDS
from coating.stack.starts import STARTS
from studio.common.requests import KitchenRequest
from studio.common.types import Typed
from studio.pieces.asks import drawn_plan
from studio.pieces.build_fields import fields_of
from studio.pieces.build_form import typed_share
from studio.pieces.carry import plan_from
from studio.pieces.models import Job, Piece, Template
from studio.pieces.parts import picture_of_plan
from studio.pieces.pictures import strokes_of
from studio.pieces.stacks import PiecePlan, first_extras, palette, plans_of


def initial_of(plan: PiecePlan) -> Typed:
    """What the builder shows of a piece to begin with."""
    first: Typed = {
        "name": plan.name,
        "count": plan.count,
        "spares": plan.spares,
        "core": plan.kind.name,
        "layers": len(plan.layers),
        "version": 0,
        "looked": plan.contains is not None,
        **{f"contains-{a}": True for a in plan.contains or ()},
        **{f"d{i}": mm for i, mm in enumerate(plan.size_mm)},
    }
    for i, layer in enumerate(plan.layers):
        first |= {
            f"{i}-technique": layer.technique,
            f"{i}-white": layer.white,
            f"{i}-colour": layer.tone.key,
            f"{i}-extra": layer.extra.pk if layer.extra else "",
            f"{i}-part": layer.part_id or "",
        }
        for field in fields_of(layer.technique):
            value = layer.parameters.get(field)
            if field == "share" and value is not None:
                value = typed_share(value)
            if field == "flooded":
                value = "yes" if value else ""
            if value is not None:
                first[f"{i}-{field}"] = value
    return first


def begin_page(request: KitchenRequest, job: Job, on: Piece | None = None) -> HttpResponse:
    """Pick by picture; for a part that goes on a piece what can be one, and no whole starts."""
    colours, extras = palette(job), first_extras(request.kitchen)
    starts = []
    for start in STARTS.values():
        if on and (len(start.parts) > 1 or not start.parts[0].kind.can_be_part):
            continue
        plans = [drawn_plan(p, job.kitchen) for p in plans_of(start, colours, extras)]
        starts.append((start, [picture_of_plan(p) for p in plans]))
    kept = []
    for template in Template.objects.for_kitchen(request.kitchen):
        try:
            plan = drawn_plan(plan_from(template.piece, request.kitchen), job.kitchen)
            kept.append((template, picture_of_plan(plan), any(la.part for la in plan.layers)))
        except CoatingError:
            continue
    cores = [(k, strokes_of(k, k.core(*k.usual), [], [])) for k in KINDS.values() if k.can_be_part or not on]
    context = {
        "made_for": on,
        "query": f"&for={on.pk}" if on else "",
        "job": job,
        "starts": starts,
        "kept": kept,
        "cores": cores,
    }
    return render(request, "pieces/begin.html", context)
