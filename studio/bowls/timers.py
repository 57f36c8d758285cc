"""Start a timer and stop it; they hang under the band of every page."""

from __future__ import annotations

from datetime import timedelta

from django import forms
from django.http import Http404, HttpResponse
from django.shortcuts import redirect
from django.urls import reverse
from django.utils.http import url_has_allowed_host_and_scheme
from django.views.decorators.http import require_POST

from studio.bowls.models import LONGEST_S, Bowl, Timer
from studio.common import clock
from studio.common.forms import WordsField
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required, sent_once


class TimerForm(forms.Form):
    """A timer: what it says, how long, and the page to come back to."""

    says = WordsField(max_length=80)
    seconds = forms.FloatField(min_value=1, max_value=LONGEST_S)
    back = WordsField(required=False, max_length=200)


def _back(path: str) -> HttpResponse:
    """To the page it was pressed on, if that is one of ours."""
    ours = path.startswith("/") and url_has_allowed_host_and_scheme(path, allowed_hosts=None)
    return redirect(path if ours else reverse("bowls:list"))


@kitchen_required
@require_POST
@sent_once
def start(request: KitchenRequest, pk: int) -> HttpResponse:
    """A wait begins now, on the server's clock."""
    bowl, form = Bowl.objects.get_for(request.kitchen, pk=pk), TimerForm(request.POST)
    if not form.is_valid():
        raise Http404("no such wait")
    data = form.cleaned_data
    rings_at = clock.now() + timedelta(seconds=data["seconds"])
    Timer.objects.create(
        kitchen=request.kitchen, bowl=bowl, says=data["says"], seconds=data["seconds"], rings_at=rings_at
    )
    return _back(data["back"])


@kitchen_required
@require_POST
def stop(request: KitchenRequest, pk: int) -> HttpResponse:
    """It has rung and been heard, or is not wanted."""
    timer = Timer.objects.get_for(request.kitchen, pk=pk)
    Timer.objects.filter(pk=timer.pk, stopped_at=None).update(stopped_at=clock.now())
    return _back(request.POST.get("back", ""))
