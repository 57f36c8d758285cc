"""One button opens the demo kitchen, another puts it back as it was."""

from __future__ import annotations

from django.conf import settings
from django.contrib import messages
from django.contrib.auth import login
from django.http import Http404, HttpResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_POST

from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required
from studio.common.throttle import address_of, allowed
from studio.demo.load_demo import delete_kitchen, open_demo_kitchen
from studio.demo.walk import AT

DEMOS_A_MINUTE = 30


def _enter(request: KitchenRequest) -> HttpResponse:
    if not allowed(f"demo:{address_of(request)}", limit=DEMOS_A_MINUTE, window_s=60):
        return render(request, "429.html", status=429)
    kitchen = open_demo_kitchen()
    login(request, kitchen.owner, backend=settings.AUTHENTICATION_BACKENDS[1])
    bowl = kitchen.bowls_to_show[0]  # type: ignore[attr-defined]
    return redirect("bowls:bowl", pk=bowl.pk)


@require_POST
def open_demo(request: KitchenRequest) -> HttpResponse:
    """A private kitchen with Comet night in it, gone after a week."""
    if not settings.DEMO_OFFERED:
        raise Http404("no demo here")
    return _enter(request)


@require_POST
def walk_demo(request: KitchenRequest) -> HttpResponse:
    """A private demo kitchen, at the first stop of the walk through it."""
    if not settings.DEMO_OFFERED:
        raise Http404("no demo here")
    response = _enter(request)
    if response.status_code == 302:
        request.session[AT] = 0
    return response


@kitchen_required
@require_POST
def reset_demo(request: KitchenRequest) -> HttpResponse:
    """A fresh demo kitchen in place of this one; a maker's own kitchen is never touched."""
    if not request.kitchen.is_demo:
        raise Http404("not a demo kitchen")
    old = request.kitchen.owner
    response = _enter(request)
    if response.status_code == 302:
        delete_kitchen(old)
        messages.success(request, "The demo kitchen is as it was.")
    return response
