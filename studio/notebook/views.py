"""The notebook: every evening as it went."""

from __future__ import annotations

from django.http import HttpResponse
from django.shortcuts import render
from django.utils import timezone

from studio.common import clock
from studio.common.pages import page_of
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required
from studio.notebook.compare import before
from studio.notebook.evenings import A_PAGE, every_evening, one_evening, whole_evenings
from studio.notebook.find import FindForm, swatches
from studio.notebook.record import record_of, records_of
from studio.notebook.says import all_says
from studio.notebook.shown import line_of, page_of_evening


@kitchen_required
def notebook(request: KitchenRequest) -> HttpResponse:
    """Every evening, the newest first."""
    page = page_of(request, every_evening(request.kitchen), word="evenings", many=A_PAGE)
    jobs = whole_evenings(request.kitchen, page)
    today = timezone.localdate(clock.now())
    records = records_of(jobs, request.kitchen)
    context = {
        "says": all_says(page.paginator.count, records if page.number == 1 else [], today),
        "lines": [line_of(record, today) for record in records],
        "page": page,
        "form": FindForm(kitchen=request.kitchen),
        "swatches": swatches(request.kitchen),
    }
    return render(request, "notebook/notebook.html", context)


@kitchen_required
def evening(request: KitchenRequest, pk: int) -> HttpResponse:
    """One of them."""
    record = record_of(one_evening(request.kitchen, pk), request.kitchen)
    return render(request, "notebook/evening.html", {**page_of_evening(record), "before": before(record)})
