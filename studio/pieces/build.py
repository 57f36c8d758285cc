"""Build a piece: pick what it is made on, put layers on it in order, and hear what it takes and what would go wrong."""

from __future__ import annotations

import uuid
from typing import Any

from django.db import transaction
from django.http import HttpResponse
from django.shortcuts import redirect, render
from django.urls import reverse

from coating.errors import CoatingError, OutOfBounds
from coating.piece.amounts import Amount, Batch, amounts
from coating.piece.cores import KINDS
from coating.piece.layers import TECHNIQUES, on_one_g
from coating.piece.stack import Mistake, mistakes, spares_for
from studio.common.forms import asked_and_reckoned, changed_meanwhile
from studio.common.live import LiveView
from studio.common.models import ChangedMeanwhile
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required, sent_once
from studio.pieces.build_form import BuildForm, changed, fields_of
from studio.pieces.models import Colour, Job, Layer, Piece

SHOWN = 7  # layers drawn
# What can be put on, by what it does.
SHELVES = (
    ("Coats", ("dip", "second_dip", "angled_dip", "rim", "pour", "marbling", "transfer", "flood", "icing")),
    ("In a mould or cup", ("shell", "solid", "insert", "filling", "cap", "stick")),
    ("From a bag", ("lines", "lettering", "dots", "drizzle", "lace", "glue")),
    ("Finish", ("topping", "modelling", "paint", "dust", "leaf", "own")),
)


def _reckon(form: BuildForm) -> dict[str, Any]:
    """What the (valid) form takes and what would go wrong. Raises CoatingError."""
    core, stack = form.the_core(), form.core_layers()
    data = form.cleaned_data
    spares = data["spares"] if data.get("spares") is not None else spares_for(data["count"], form.kind.breaks, stack)
    found = amounts([Batch(core, tuple(stack), data["count"], spares)])
    colours = {str(c.pk): c for c in (data.get(f"{i}-colour") for i in range(len(stack))) if c}
    drawn = []
    for i, layer in enumerate(stack):
        colour = data.get(f"{i}-colour")
        drawn.append({"layer": layer, "lab": colour.lab if colour else None, "one_g": on_one_g(core, layer),
                      "y": 150 - 20 * i, "colour": colour})  # fmt: skip
    wrong: list[Mistake] = mistakes(core, stack)
    needs: list[tuple[Colour | None, Amount]] = [(colours.get(a.colour), a) for a in found]
    return {
        "core": core, "core_kind": form.kind, "drawn": drawn[:SHOWN], "wrong": wrong, "spares": spares, "needs": needs,
        "picture_top": 164 - 20 * min(len(stack), SHOWN),
        "mendable": any(m.reorder for m in wrong), "count": data["count"], "name": data["name"],
        "melt_g": sum(a.melt_g for _, a in needs), "on_g": sum(a.goes_on_g for _, a in needs),
        "result": {"melt_g": sum(a.melt_g for _, a in needs), "spares": spares, "wrong": [m.place for m in wrong]},
    }  # fmt: skip


def _page(
    request: KitchenRequest, job: Job, piece: Piece | None, form: BuildForm, status: int = 200, *, action: str = "",
    **found: Any,
) -> HttpResponse:  # fmt: skip
    context: dict[str, Any] = {
        "action": action, "form": form, "job": job, "piece_row": piece, "kinds": KINDS.values(),
        "send_key": uuid.uuid4(), "shelves": [(title, [TECHNIQUES[n] for n in names]) for title, names in SHELVES],
    }  # fmt: skip
    reckoned = form
    if not form.is_bound:
        _, reckoned = asked_and_reckoned(lambda d: BuildForm(d, kitchen=job.kitchen, initial=form.initial), None)
    try:
        if not found and reckoned.is_valid():
            found = _reckon(reckoned)
    except CoatingError as refusal:
        found = {"refusal": refusal.message}
    context |= found
    return render(request, "pieces/build.html", context, status=status)


def _first(piece: Piece | None) -> dict[str, Any]:
    """What the page begins with: a new piece, or one that was built."""
    if piece is None:
        return {"name": "Something new", "count": 12, "core": "round_biscuit", "layers": 0, "version": 0}
    layers = list(piece.layers.select_related("colour").order_by("order"))
    first: dict[str, Any] = {
        "name": piece.name, "count": piece.count, "spares": piece.spares, "core": piece.core, "layers": len(layers),
        "version": piece.version, **{f"d{i}": mm for i, mm in enumerate(piece.size["mm"])},
    }  # fmt: skip
    for i, layer in enumerate(layers):
        first |= {f"{i}-technique": layer.technique, f"{i}-white": layer.white, f"{i}-colour": layer.colour_id}
        for field in fields_of(layer.technique):
            value = layer.parameters.get(field)
            first[f"{i}-{field}"] = f"{value:.3g}" if field == "share" and value not in (None, 1.0) else value
            if field == "share" and value == 1.0:
                first[f"{i}-{field}"] = "1.0"
    return first


@kitchen_required
@sent_once
def build_new(request: KitchenRequest, pk: int) -> HttpResponse:
    """A new piece of a job."""
    return _build(request, Job.objects.get_for(request.kitchen, pk=pk), None)


@kitchen_required
@sent_once
def build_edit(request: KitchenRequest, pk: int) -> HttpResponse:
    """A piece that was built."""
    piece = Piece.objects.select_related("job").get_for(request.kitchen, pk=pk)
    if piece.size.get("v") != 2:
        return redirect("pieces:piece-edit", pk=pk)
    return _build(request, piece.job, piece)


def _build(request: KitchenRequest, job: Job, piece: Piece | None) -> HttpResponse:
    if request.method != "POST":
        return _page(request, job, piece, BuildForm(kitchen=request.kitchen, initial=_first(piece)))
    deed = request.POST.get("do", "save")
    if deed == "copy" and piece is not None:
        data = {**request.POST.dict(), "version": "0", "name": f"{request.POST.get('name', '')} again"[:80]}
        to = reverse("pieces:build-new", args=[job.pk])
        return _page(request, job, None, BuildForm(data, kitchen=request.kitchen), action=to)
    if deed not in ("save", "anyway"):
        data = changed(request.POST.dict(), deed)
        return _page(request, job, piece, BuildForm(data, kitchen=request.kitchen))
    form = BuildForm(request.POST, kitchen=request.kitchen)
    if not form.is_valid():
        return _page(request, job, piece, form, 422)
    found: dict[str, Any] = {}
    try:
        found = _reckon(form)
        if not form.names or (found["wrong"] and deed != "anyway"):
            raise OutOfBounds("Look at what would go wrong first." if form.names else "Put at least one layer on it.")
        _save(form, job, piece, found["spares"])
    except CoatingError as refusal:
        form.add_error(None, refusal.message)
        return _page(request, job, piece, form, 422, **found)
    except ChangedMeanwhile:
        assert piece is not None
        status = changed_meanwhile(form, Piece.objects.get(pk=piece.pk).version)
        return _page(request, job, piece, form, status)
    return redirect("pieces:job", pk=job.pk)


@transaction.atomic
def _save(form: BuildForm, job: Job, piece: Piece | None, spares: int) -> None:
    """Keep the piece and its layers; a layer that stays keeps its row, and so its bowl. Raises ChangedMeanwhile."""
    data = form.cleaned_data
    kept = {"name": data["name"], "count": data["count"], "spares": spares, "core": form.kind.name,
            "size": {"v": 2, "mm": form.size_mm()}}  # fmt: skip
    if piece is None:
        piece = Piece.objects.create(kitchen_id=job.kitchen_id, job=job, **kept)
    else:
        for name, value in kept.items():
            setattr(piece, name, value)
        piece.save_over(data["version"])
    rows = list(piece.layers.order_by("order"))
    for row in rows[len(form.names) :]:
        row.delete()
    for place, name in enumerate(form.names):
        Layer.objects.update_or_create(
            piece=piece, order=place + 1,
            defaults={
                "kitchen_id": job.kitchen_id, "technique": name, "white": data.get(f"{place}-white") or "coating",
                "colour": data.get(f"{place}-colour"), "parameters": form.parameters(place),
            },
        )  # fmt: skip


class BuildLive(LiveView):
    """What it takes while it is built."""

    part_templates = {role: f"pieces/parts/build_{role}.html" for role in ("answer", "stack", "needs")}

    def make_form(self, request: KitchenRequest, fields: dict[str, Any], **kwargs: Any) -> BuildForm:
        return BuildForm(fields, kitchen=request.kitchen)

    def make_context(self, request: KitchenRequest, form: Any, **kwargs: Any) -> dict[str, Any]:
        return _reckon(form)
