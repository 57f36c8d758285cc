"""Pieces: what am I making, for when, how many?"""

from __future__ import annotations

from typing import Any

from django.contrib import messages
from django.http import HttpResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_POST

from studio.common.forms import changed_meanwhile
from studio.common.models import ChangedMeanwhile
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required, sent_once
from studio.common.words import listed, lower
from studio.pieces.counting import leave
from studio.pieces.forms import JobForm
from studio.pieces.models import Job, Piece, Template


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
@require_POST
@sent_once
def piece_remove(request: KitchenRequest, pk: int) -> HttpResponse:
    """Take a piece off a job, and off what it was put on; its bowls stay."""
    piece = Piece.objects.select_related("family").get_for(request.kitchen, pk=pk)
    job_id = piece.job_id
    on = list(dict.fromkeys(la.piece.name for la in piece.put_on.select_related("piece")))
    leave(piece)
    piece.delete()
    off = f", and off {listed([lower(name) for name in on])}" if on else ""
    messages.success(request, f"{piece.name}: off the list{off}.")
    return redirect("pieces:job", pk=job_id)


@kitchen_required
@require_POST
@sent_once
def template_forget(request: KitchenRequest, pk: int) -> HttpResponse:
    """A piece that was kept to begin with is not offered any more."""
    template = Template.objects.get_for(request.kitchen, pk=pk)
    template.delete()
    messages.success(request, f"{template.name} is forgotten; pieces made from it stay.")
    return redirect("pieces:jobs")


def _status(form: Any, status: int = 200) -> int:
    return 422 if form.errors and status == 200 else status
