"""I wrote down the minutes: how long hands really took over a job, for who does not tap at the bench."""

from __future__ import annotations

from django import forms
from django.contrib import messages
from django.http import HttpResponse
from django.shortcuts import redirect
from django.views.decorators.http import require_POST

from studio.common import clock
from studio.common.forms import NumberField
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required, sent_once
from studio.cupboard.actions import cupboard_changed
from studio.day.models import MOST_MIN, DayPlan


class TookForm(forms.Form):
    """Minutes of one's own hands."""

    took_min = NumberField("deadline_min", label="Minutes your hands were at it", low=1, high=MOST_MIN)


def wrote_down(row: DayPlan, minutes: float) -> None:
    """Keep it; how long hands take is known from it."""
    DayPlan.objects.filter(pk=row.pk).update(took_min=minutes, took_at=row.took_at or clock.now())
    cupboard_changed(row.kitchen)


@kitchen_required
@require_POST
@sent_once
def took(request: KitchenRequest, pk: int) -> HttpResponse:
    """So many minutes, noted."""
    row: DayPlan = DayPlan.objects.select_related("kitchen").get_for(request.kitchen, job_id=pk)
    form = TookForm(request.POST)
    if form.is_valid():
        wrote_down(row, form.cleaned_data["took_min"])
        messages.success(request, "Noted. After two jobs, days are planned by it.")
    else:
        messages.error(request, " ".join(str(e) for errors in form.errors.values() for e in errors))
    return redirect("day:day", pk=pk)
