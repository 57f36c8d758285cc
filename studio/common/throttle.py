"""So many a second, or an hour, of each maker and each address.

What is counted over a minute or longer is a row that all workers share. What is counted by the second (live answers,
where a row each would cost more than the answer) each worker counts for itself.
"""

from __future__ import annotations

import time
from collections.abc import Callable
from functools import wraps
from typing import Any

from django.core.cache import cache
from django.http import HttpRequest, HttpResponse
from django.shortcuts import render

from studio.common.models import Tally
from studio.common.requests import KitchenRequest

SHARED_FROM_S, HOUR_S = 60, 3600
FILES_AN_HOUR, FILES_AN_HOUR_AN_ADDRESS = 120, 240


def allowed(who: str, *, limit: int, window_s: int = 1) -> bool:
    """Count one request of `who`; False when more than `limit` came within the window."""
    if window_s >= SHARED_FROM_S:
        return Tally.counted(who, window_s) <= limit
    key = f"throttle:{who}:{int(time.time() // window_s)}"
    cache.add(key, 0, timeout=window_s * 2)
    try:
        return int(cache.incr(key)) <= limit
    except ValueError:
        return True


def address_of(request: HttpRequest) -> str:
    """Where a request came from; `AddressOfTheMaker` has looked behind the proxies in front."""
    return str(request.META.get("REMOTE_ADDR", ""))


def too_often(request: HttpRequest) -> HttpResponse:
    """The page that asks for patience."""
    return render(request, "429.html", status=429)


def takes_files(view: Callable[..., HttpResponse]) -> Callable[..., HttpResponse]:
    """A view that reads files takes so many an hour, of a kitchen and of an address."""

    @wraps(view)
    def taken(request: KitchenRequest, *args: Any, **kwargs: Any) -> HttpResponse:
        if request.FILES:
            mine = allowed(f"file:{request.kitchen.pk}", limit=FILES_AN_HOUR, window_s=HOUR_S)
            here = allowed(f"file:{address_of(request)}", limit=FILES_AN_HOUR_AN_ADDRESS, window_s=HOUR_S)
            if not (mine and here):
                return too_often(request)
        return view(request, *args, **kwargs)

    return taken
