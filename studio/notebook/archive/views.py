"""The whole kitchen in one file: written, taken along, brought in."""

from __future__ import annotations

import uuid
from typing import Any

from django import forms
from django.conf import settings
from django.contrib import messages
from django.db import transaction
from django.http import FileResponse, Http404, HttpResponse, JsonResponse
from django.shortcuts import redirect, render
from django.template.loader import render_to_string
from django.utils import timezone
from django.utils.text import slugify
from django.views.decorators.http import require_POST

from studio.accounts.models import Kitchen
from studio.common import clock
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required, sent_once
from studio.common.throttle import takes_files
from studio.common.types import Context
from studio.notebook.archive.tasks import carry_in, carry_out
from studio.notebook.models import Carrying


class BringForm(forms.Form):
    """An archive from this device."""

    file = forms.FileField(
        label="Archive of a kitchen",
        widget=forms.FileInput(attrs={"accept": ".zip,application/zip"}),
        error_messages={"required": "Choose the file first."},
    )

    def clean_file(self) -> Any:
        """No larger than may be, and a zip by its first letters."""
        file = self.cleaned_data["file"]
        if file.size > settings.MOST_ARCHIVE_BYTES:
            raise forms.ValidationError(f"That file is over {settings.MOST_ARCHIVE_BYTES // 2**30} GB.")
        head = file.read(4)
        file.seek(0)
        if not head.startswith(b"PK"):
            raise forms.ValidationError("That file is no archive of a kitchen.")
        return file


def _context(request: KitchenRequest) -> Context:
    rows = list(Carrying.objects.for_kitchen(request.kitchen)[: 2 * Carrying.MOST])
    return {"rows": rows, "under_way": any(row.under_way for row in rows)}


@kitchen_required
def archives(request: KitchenRequest) -> HttpResponse:
    """What was written and brought in of late, and how to do either."""
    return render(request, "notebook/archives.html", {**_context(request), "form": BringForm()})


@kitchen_required
def archives_progress(request: KitchenRequest) -> JsonResponse:
    """How far it is."""
    context = _context(request)
    parts = {"archives": render_to_string("notebook/parts/archives.html", context, request)}
    return JsonResponse({"parts": parts, "over": not context["under_way"]})


@kitchen_required
@require_POST
@sent_once
def archive_write(request: KitchenRequest) -> HttpResponse:
    """Ask for one; one that is under way is enough."""
    mine = Carrying.objects.for_kitchen(request.kitchen)
    if mine.filter(way=Carrying.OUT, state__in=[Carrying.ASKED, Carrying.AT_IT]).exists():
        messages.info(request, "One is being written already.")
        return redirect("notebook:archives")
    ask_for(request.kitchen, Carrying.OUT)
    forget_old(request.kitchen)
    return redirect("notebook:archives")


def ask_for(kitchen: Kitchen, way: str) -> Carrying:
    """A worker writes an archive, or brings one in whose file lies at its path."""
    with transaction.atomic():
        row = Carrying.objects.create(kitchen=kitchen, way=way, at=clock.now())
        of = carry_out if way == Carrying.OUT else carry_in
        row.task = uuid.UUID(of.enqueue(row.pk).id)
        row.save(update_fields=["task"])
    return row


def forget_old(kitchen: Kitchen) -> None:
    """Only the last archives are kept."""
    old = list(Carrying.objects.for_kitchen(kitchen).filter(way=Carrying.OUT)[Carrying.MOST :])
    Carrying.objects.filter(pk__in=[row.pk for row in old]).delete()


@kitchen_required
@takes_files
@require_POST
@sent_once
def archive_bring(request: KitchenRequest) -> HttpResponse:
    """Take a file in; a worker reads it."""
    form = BringForm(request.POST, request.FILES)
    if not form.is_valid():
        return render(request, "notebook/archives.html", {**_context(request), "form": form}, status=422)
    row = Carrying(kitchen=request.kitchen, way=Carrying.IN, at=clock.now())
    row.save()
    row.path.parent.mkdir(mode=0o700, parents=True, exist_ok=True)
    with open(row.path, "wb") as out:
        for chunk in form.cleaned_data["file"].chunks():
            out.write(chunk)
    row.task = uuid.UUID(carry_in.enqueue(row.pk).id)
    row.save(update_fields=["task"])
    return redirect("notebook:archives")


@kitchen_required
def archive_file(request: KitchenRequest, pk: int) -> Any:
    """One that is written, to take along."""
    row: Carrying = Carrying.objects.get_for(request.kitchen, pk=pk, way=Carrying.OUT, state=Carrying.DONE)
    try:
        file = open(row.path, "rb")  # noqa: SIM115 (closed by the response)
    except OSError as gone:
        raise Http404("its file is gone") from gone
    name = f"{slugify(request.kitchen.name) or 'kitchen'}-{timezone.localtime(row.at):%Y-%m-%d}.zip"
    return FileResponse(file, as_attachment=True, filename=name, content_type="application/zip")
