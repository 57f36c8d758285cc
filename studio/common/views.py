"""Health, and the pages for what goes wrong."""

from __future__ import annotations

from django.db import connection
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.shortcuts import render


def healthz(request: HttpRequest) -> JsonResponse:
    """Answers when application and database are up."""
    with connection.cursor() as cursor:
        cursor.execute("SELECT 1")
        cursor.fetchone()
    return JsonResponse({"status": "up"})


def empty(request: HttpRequest) -> HttpResponse:
    """Nothing at all: what the speed figures are set against."""
    return HttpResponse("")


def form_expired(request: HttpRequest, reason: str = "") -> HttpResponse:
    """The form was open too long, or cookies are off. What was typed is offered back for copying."""
    typed = [
        (name, value)
        for name, value in request.POST.items()
        if value and name != "csrfmiddlewaretoken" and "password" not in name
    ]
    return render(request, "403_expired.html", {"typed": typed[:40]}, status=403)


def parts(request: HttpRequest) -> HttpResponse:
    """Every part of the look on one page; development only."""
    from studio.common.parts import sample_parts

    return render(request, "parts.html", sample_parts())
