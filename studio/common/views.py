"""Health, and the pages for what goes wrong."""

from __future__ import annotations

import sys
from pathlib import Path

from django.contrib.auth.views import redirect_to_login
from django.db import connection
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.shortcuts import redirect, render
from django.templatetags.static import static

from studio.common.asks import field_names
from studio.common.middleware import is_away, not_saved
from studio.common.requests import KitchenRequest
from studio.common.sending import PUT_BY, readable, typed_fields

_BROKEN = Path(__file__).parent / "templates" / "500.html"


def healthz(request: HttpRequest) -> JsonResponse:
    """Answers when application and database are up."""
    with connection.cursor() as cursor:
        cursor.execute("SELECT 1")
        cursor.fetchone()
    return JsonResponse({"status": "up"})


def empty(request: HttpRequest) -> HttpResponse:
    """Nothing at all: what the speed figures are set against."""
    return HttpResponse("")


def manifest(request: HttpRequest) -> JsonResponse:
    """What a device needs to put us among its applications; it opens at the day that comes next."""
    icons = [
        {"src": static(f"studio/img/icon-{size}.png"), "sizes": f"{size}x{size}", "type": "image/png", "purpose": use}
        for size in (192, 512)
        for use in ("any", "maskable")
    ]
    return JsonResponse(
        {
            "name": "Olive Ribbon",
            "short_name": "Olive Ribbon",
            "description": "How many drops, how much thinner, how long it stays warm: coloured coatings, reckoned.",
            "start_url": "/day/",
            "scope": "/",
            "display": "standalone",
            "background_color": "#faf7f0",
            "theme_color": "#5b6628",
            "icons": icons,
        },
        content_type="application/manifest+json",
    )


def server_error(request: HttpRequest) -> HttpResponse:
    """Something broke outside a view: 503 when it is the database, else our fault, in a page that needs nothing."""
    if is_away(sys.exc_info()[1]):
        return not_saved(request, sys.exc_info()[1])
    if request.content_type == "application/json":
        message = "That did not work, and it is our fault. What you typed stays; nothing half-done was saved."
        return JsonResponse({"message": message}, status=500)
    return HttpResponse(_BROKEN.read_text(), status=500)


def form_expired(request: HttpRequest, reason: str = "") -> HttpResponse:
    """The form was open too long, or cookies are off. What was typed is shown, and can be sent if the page was ours."""
    if request.content_type == "application/json":
        message = "You logged in anew since this page was opened. What you typed stays: press the button to send it."
        return JsonResponse({"message": message}, status=403)
    fields = typed_fields(request)
    context = {"to": request.path, "fields": fields if _from_here(request) else [], "shown": readable(fields)}
    return render(request, "send_again.html", {**context, "expired": True}, status=403)


def _from_here(request: HttpRequest) -> bool:
    """Whether the form stood on one of our pages, as the browser says."""
    here = f"{request.scheme}://{request.get_host()}"
    return request.headers.get("Origin", "") == here


def send_again(request: KitchenRequest) -> HttpResponse:
    """After logging in: what was typed before, ready to be sent."""
    if not request.kitchen:
        return redirect_to_login(request.path)
    kept = request.session.get(PUT_BY)
    if request.method == "POST" or not kept:
        request.session.pop(PUT_BY, None)
        return redirect("bowls:list")
    shown = readable(kept["fields"], field_names(request.kitchen))
    return render(request, "send_again.html", {"to": kept["to"], "fields": kept["fields"], "shown": shown})
