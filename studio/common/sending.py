"""Forms that are sent: only by a maker, only once, and never lost because the log-in had run out.

`kitchen_required` puts by what an unknown sender typed, so that it can be sent after logging in. `sent_once` lets a
form that carries a key act once: a double click, a reload or a repeat after a lost connection ends where the first did.
"""

from __future__ import annotations

import hashlib
import json
import uuid
from collections.abc import Callable, Iterable
from functools import wraps
from typing import Any

from django.contrib.auth.views import redirect_to_login
from django.db import IntegrityError, transaction
from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect
from django.urls import reverse

from studio.common.models import Sent, lone
from studio.common.requests import KitchenRequest

View = Callable[..., HttpResponse]
Fields = list[tuple[str, str]]

PUT_BY = "put_by"
MOST_BYTES = 60_000
_OURS = {"csrfmiddlewaretoken"}
_SILENT = {"key", "seq", "version", "reckoned_c", "next", "onward", "used_g"}


def typed_fields(request: HttpRequest) -> Fields:
    """What a form said, without its token and without passwords."""
    return [
        (name, str(value))
        for name, values in request.POST.lists()
        for value in values
        if name not in _OURS and "password" not in name
    ]


def readable(fields: Iterable[tuple[str, str]], names: dict[str, str] | None = None) -> Fields:
    """Fields as a maker would know them: what is hidden or empty is left out."""
    fields_said = [(n, v) for n, v in fields if n not in _SILENT and v.strip()]
    words = {n: n.removesuffix("_mm").removesuffix("_c").removesuffix("_g").replace("_", " ") for n, _ in fields_said}
    return [((names or {}).get(n) or words[n], v) for n, v in fields_said][:40]


def put_by(request: HttpRequest) -> None:
    """Keep what was typed with the visit, until it is sent or left."""
    fields = typed_fields(request)
    if fields and len(json.dumps(fields)) < MOST_BYTES:
        request.session[PUT_BY] = {"to": request.path, "fields": fields}


def kitchen_required(view: View) -> View:
    """Only for a maker; others log in first, and what they typed waits for them."""

    @wraps(view)
    def asked(request: KitchenRequest, *args: Any, **kwargs: Any) -> HttpResponse:
        if request.kitchen:
            return view(request, *args, **kwargs)
        if request.method != "POST":
            return redirect_to_login(request.get_full_path())
        put_by(request)
        return redirect_to_login(reverse("send-again"))

    return asked


def sent_once(view: View) -> View:
    """A form with a `key` acts once; one without acts as often as it is sent. Only redirects count as done, and pages
    that say they are."""

    @wraps(view)
    def once(request: KitchenRequest, *args: Any, **kwargs: Any) -> HttpResponse:
        key = _key(request)
        if request.method != "POST" or key is None or not request.kitchen:
            return view(request, *args, **kwargs)
        text = json.dumps([request.path, sorted(typed_fields(request))])
        this = {"kitchen": request.kitchen, "key": key, "content": hashlib.sha256(text.encode()).hexdigest()}
        try:
            with transaction.atomic():
                with transaction.atomic():
                    sent = Sent.objects.create(**this)
                response = view(request, *args, **kwargs)
                if response.status_code != 302 and not getattr(response, "acted", False):
                    transaction.set_rollback(True)
                    return response
                to = response["Location"] if response.status_code == 302 else request.get_full_path()
                Sent.objects.filter(pk=sent.pk).update(leads_to=to[:200])
                return response
        except IntegrityError:
            already = lone(Sent.objects.filter(**this))
            if already is None or not already.leads_to:
                raise
            return redirect(already.leads_to)

    return once


def acted(response: HttpResponse) -> HttpResponse:
    """A page that is shown after something was done: what was typed stays on it."""
    response.acted = True  # type: ignore[attr-defined]
    return response


def _key(request: HttpRequest) -> uuid.UUID | None:
    try:
        return uuid.UUID(request.POST.get("key", ""))
    except ValueError:
        return None
