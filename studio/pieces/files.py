"""A job out as one file and in from one."""

from __future__ import annotations

from django.contrib import messages
from django.http import HttpResponse
from django.shortcuts import redirect, render
from django.utils.text import slugify

from coating.errors import CoatingError
from studio.common.measures import refusal_text
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required, sent_once
from studio.common.throttle import takes_files
from studio.pieces.carried_in import bring_job
from studio.pieces.carried_out import job_text
from studio.pieces.carry import MOST_BYTES, read_job
from studio.pieces.forms import BringJobForm
from studio.pieces.models import Job


@kitchen_required
def job_file(request: KitchenRequest, pk: int) -> HttpResponse:
    """Everything of a job but its bowls."""
    job = Job.objects.whole(request.kitchen, pk)
    response = HttpResponse(job_text(job), content_type="application/json; charset=utf-8")
    response["Content-Disposition"] = f'attachment; filename="{slugify(job.name) or "job"}.json"'
    return response


@kitchen_required
@takes_files
@sent_once
def bring(request: KitchenRequest) -> HttpResponse:
    """A job from a file becomes a job of this kitchen."""
    form = BringJobForm(request.POST or None, request.FILES or None)
    if request.method == "POST" and form.is_valid():
        try:
            job = bring_job(request.kitchen, read_job(form.cleaned_data["file"].read(MOST_BYTES + 1)))
        except CoatingError as refusal:
            form.add_error("file", refusal_text(refusal))
        else:
            messages.success(request, f"{job.name} is here, with its pieces and colours.")
            return redirect("pieces:job", pk=job.pk)
    return render(request, "pieces/bring.html", {"form": form}, status=422 if form.errors else 200)
