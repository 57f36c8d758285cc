"""Pieces: what am I making, for when, how many?"""

from __future__ import annotations

from typing import Any

from django.contrib import messages
from django.http import HttpResponse
from django.shortcuts import redirect, render
from django.utils import timezone
from django.views.decorators.http import require_POST

from coating.flow.trade_number import number_from_flow
from coating.flow.windows import window
from coating.plan.which_white import which_white
from studio.accounts.models import Kitchen
from studio.common import clock
from studio.common.forms import changed_meanwhile
from studio.common.live import LiveView
from studio.common.models import ChangedMeanwhile
from studio.common.pages import page_of
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required, sent_once
from studio.pieces.actions import save_piece
from studio.pieces.adapters import colours_of, needs_of
from studio.pieces.forms import JobForm, PieceForm
from studio.pieces.models import WHITES, Job, Layer, Piece
from studio.pieces.techniques import FIRST, TECHNIQUES, technique_of
from studio.pieces.techniques.base import Technique
from studio.pieces.techniques.stacked import VERSION as STACKED_VERSION


@kitchen_required
def jobs(request: KitchenRequest) -> HttpResponse:
    """Every job, the next one first."""
    page = page_of(request, Job.objects.for_kitchen(request.kitchen).with_colours().next_first(), word="jobs")
    return render(request, "pieces/jobs.html", {"page": page, "jobs": [(j, colours_of(j)) for j in page]})


@kitchen_required
@sent_once
def job_new(request: KitchenRequest) -> HttpResponse:
    """A new job."""
    form = JobForm(request.POST or None, fresh=True)
    if request.method == "POST" and form.is_valid():
        job = Job.objects.create(kitchen=request.kitchen, **form.cleaned_data)
        return redirect("pieces:job", pk=job.pk)
    return render(request, "pieces/job_form.html", {"form": form}, status=422 if form.errors else 200)


@kitchen_required
@sent_once
def job_edit(request: KitchenRequest, pk: int) -> HttpResponse:
    """Name, date and note of a job."""
    job = Job.objects.get_for(request.kitchen, pk=pk)
    names = ("name", "due_on", "made_on", "little_ones", "note", "version")
    form = JobForm(request.POST or None, initial={n: getattr(job, n) for n in names})
    status = 200
    if request.method == "POST" and form.is_valid():
        data = dict(form.cleaned_data)
        expected = data.pop("version")
        for name, value in data.items():
            setattr(job, name, value)
        try:
            job.save_over(expected)
            return redirect("pieces:job", pk=job.pk)
        except ChangedMeanwhile:
            status = changed_meanwhile(form, Job.objects.get(pk=pk).version)
    return render(request, "pieces/job_form.html", {"form": form, "job": job}, status=_status(form, status))


@kitchen_required
@sent_once
def piece_new(request: KitchenRequest, pk: int) -> HttpResponse:
    """A new piece in a job."""
    job = Job.objects.get_for(request.kitchen, pk=pk)
    kind = TECHNIQUES.get(request.POST.get("what") or request.GET.get("what") or FIRST, TECHNIQUES[FIRST])
    form = kind.form(request.POST or None, kitchen=request.kitchen)
    if request.method == "POST" and form.is_valid():
        save_piece(job, form.cleaned_data, kind=kind)
        return redirect("pieces:job", pk=job.pk)
    return _piece_page(request, kind, form, job, None, _status(form))


@kitchen_required
@sent_once
def piece_edit(request: KitchenRequest, pk: int) -> HttpResponse:
    """An existing piece."""
    piece = Piece.objects.select_related("job").get_for(request.kitchen, pk=pk)
    if piece.size.get("v") == STACKED_VERSION:
        return redirect("pieces:build", pk=pk)
    layer = piece.layers.get(order=1)
    kind = technique_of(layer)
    initial = {
        "name": piece.name, "count": piece.count, "spares": piece.spares, "version": piece.version,
        "white": layer.white, "colour": layer.colour_id, **kind.initial(piece, layer),
    }  # fmt: skip
    form = kind.form(request.POST or None, kitchen=request.kitchen, initial=initial)
    status = 200
    if request.method == "POST" and form.is_valid():
        try:
            save_piece(piece.job, form.cleaned_data, kind=kind, piece=piece, expected=form.cleaned_data["version"])
            return redirect("pieces:job", pk=piece.job_id)
        except ChangedMeanwhile:
            status = changed_meanwhile(form, Piece.objects.get(pk=pk).version)
    return _piece_page(request, kind, form, piece.job, piece, _status(form, status))


@kitchen_required
@require_POST
@sent_once
def piece_remove(request: KitchenRequest, pk: int) -> HttpResponse:
    """Take a piece off a job; its bowls stay."""
    piece = Piece.objects.get_for(request.kitchen, pk=pk)
    job_id = piece.job_id
    piece.delete()
    messages.success(request, f"{piece.name} is off the list.")
    return redirect("pieces:job", pk=job_id)


class PieceLive(LiveView):
    """What a piece takes while it is typed."""

    part_templates = {role: f"pieces/parts/{role}.html" for role in ("answer", "picture", "which")}

    def make_form(self, request: KitchenRequest, fields: dict[str, Any], **kwargs: Any) -> PieceForm:
        self.kind = TECHNIQUES.get(fields.get("what", ""), TECHNIQUES[FIRST])
        return self.kind.form(fields, kitchen=request.kitchen)

    def make_context(self, request: KitchenRequest, form: Any, **kwargs: Any) -> dict[str, Any]:
        job = Job.objects.for_kitchen(request.kitchen).filter(pk=form.cleaned_data.get("job") or 0).first()
        return {**_need_of(self.kind, form.cleaned_data), **_which(self.kind, form.cleaned_data, request.kitchen, job)}


def _which(kind: Technique, data: dict[str, Any], kitchen: Kitchen, job: Job | None) -> dict[str, Any]:
    """Which white we would take for this piece, and why; the maker chooses."""
    lab = data.get("new_lab") or (data["colour"].lab if data.get("colour") else None)
    days = (job.due_on - timezone.localdate(clock.now())).days if job and job.due_on else None
    advice = which_white(target_lab=lab, room_c=kitchen.room_c, days_left=days, has_thermometer=kitchen.has_thermometer,
                         number_wanted=number_from_flow(window(kind.word).aim))  # fmt: skip
    named = [
        (white, dict(WHITES)[white], advice.speaks(white), advice.speaks(white, against=True)) for white in advice.order
    ]
    return {"advice": advice, "whites": named, "chosen": data["white"]}


def _need_of(kind: Technique, data: dict[str, Any]) -> dict[str, Any]:
    """What the piece on a form takes, for sentence and picture."""
    piece = Piece(name=data["name"], count=data["count"], spares=data["spares"], core=kind.core, size=kind.size(data))
    layer = Layer(piece=piece, technique=kind.word, white=data["white"], parameters=kind.parameters(data))
    amounts = needs_of([layer])
    lab = data.get("new_lab") or (data["colour"].lab if data.get("colour") else None)
    return {
        "piece": piece, "layer": layer, "quantity": amounts, "lab": lab, "colour": data.get("colour"), "kind": kind,
        "colour_name": data.get("new_colour") or (data["colour"].name if data.get("colour") else ""),
        "shown": kind.shown(layer),
        "result": {**kind.result(layer), "goes_on_g": amounts.goes_on_g, "melt_g": amounts.melt_g},
    }  # fmt: skip


def _piece_page(
    request: KitchenRequest, kind: Technique, form: PieceForm, job: Job, piece: Piece | None, status: int
) -> HttpResponse:
    shown = form
    if not form.is_bound or not form.is_valid():
        values = {n: form.get_initial_for_field(f, n) for n, f in form.fields.items()}
        shown = kind.form({k: v for k, v in values.items() if v is not None}, kitchen=request.kitchen)
        shown.is_valid()
    data = shown.cleaned_data
    context = {
        "form": form, "job": job, "piece_row": piece, "kinds": TECHNIQUES.values(), **_need_of(kind, data),
        **_which(kind, data, job.kitchen, job),
    }  # fmt: skip
    return render(request, "pieces/piece_form.html", context, status=status)


def _status(form: Any, status: int = 200) -> int:
    return 422 if form.errors and status == 200 else status
