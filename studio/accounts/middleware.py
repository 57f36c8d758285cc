"""Puts the kitchen of the maker on the request, read once and only when asked for; its time zone holds from then on,
and amounts read in its measures."""

from __future__ import annotations

from collections.abc import Callable

from django.http import HttpRequest, HttpResponse
from django.utils import timezone
from django.utils.functional import SimpleLazyObject

from coating.quantities import Measures
from studio.accounts.models import Kitchen
from studio.common.measures import read_in


def _kitchen(request: HttpRequest) -> Kitchen | None:
    if not request.user.is_authenticated:
        return None
    kitchen: Kitchen | None = getattr(request.user, "kitchen", None)
    if kitchen:
        timezone.activate(kitchen.zone)
    return kitchen


class KitchenOfTheMaker:
    """Puts the kitchen and its measures on the request."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        looked: list[bool] = []

        def find() -> Kitchen | None:
            kitchen = _kitchen(request)
            looked.append(True)
            return kitchen

        kitchen = SimpleLazyObject(find)
        request.kitchen = kitchen  # type: ignore[attr-defined]
        try:
            with read_in(lambda: kitchen.measures if kitchen else Measures()):
                response = self.get_response(request)
        finally:
            timezone.deactivate()
        if looked and kitchen:
            response.headers.setdefault("Cache-Control", "private, no-cache")
        return response
