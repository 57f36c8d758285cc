"""Puts the kitchen of the maker on the request, read once and only when asked for; its time zone holds from then on."""

from __future__ import annotations

from collections.abc import Callable

from django.http import HttpRequest, HttpResponse
from django.utils import timezone
from django.utils.functional import SimpleLazyObject

from studio.accounts.models import Kitchen


def _kitchen(request: HttpRequest) -> Kitchen | None:
    if not request.user.is_authenticated:
        return None
    kitchen = Kitchen.objects.filter(owner=request.user.pk).first()
    if kitchen:
        timezone.activate(kitchen.zone)
    return kitchen


class KitchenOfTheMaker:
    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        request.kitchen = SimpleLazyObject(lambda: _kitchen(request))  # type: ignore[attr-defined]
        try:
            return self.get_response(request)
        finally:
            timezone.deactivate()
