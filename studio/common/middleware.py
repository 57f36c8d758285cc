"""When the database is away, say plainly that nothing was saved.

Views are covered by the middleware; what comes up in other middleware (the visit is read from the database too) ends in
`studio.common.views.server_error`.
"""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from django.conf import settings
from django.db import InterfaceError, OperationalError
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.http.response import HttpResponseBase
from django.middleware.gzip import GZipMiddleware
from django.shortcuts import render

_PAGE = Path(__file__).parent / "templates" / "503.html"


# Cannot connect, gone, lost, shutting down, too many connections, lock not had: it may work in a moment.
_PASSING = {2002, 2003, 2005, 2006, 2013, 2055, 1040, 1053, 1927, 1205, 1213}
# The disk, or a table, is full: it works once there is room.
_NO_ROOM = {1021, 1026, 1030, 1114}

_AWAY_TEXT = ("the kitchen book is away for a moment", "Go back, wait a few seconds, and send it again.")
_FULL_TEXT = ("there is no room left on the disk", "Make room on this machine, then go back and send it again.")


def is_away(exception: BaseException | None) -> bool:
    """Whether the database could not be reached, or had no room, rather than refused what was asked."""
    if isinstance(exception, InterfaceError):
        return True
    return _code(exception) in _PASSING | _NO_ROOM


def _code(exception: BaseException | None) -> int:
    """What the database calls this fault; 0 when it is none of its own."""
    return int(exception.args[0]) if isinstance(exception, OperationalError) and exception.args else 0


class AddressOfTheMaker:
    """Behind so many proxies of ours (OLIVE_PROXIES), who connected is what the outermost of them saw; otherwise what
    a header says about it is not believed."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        if settings.PROXIES:
            passed = [a.strip() for a in request.META.get("HTTP_X_FORWARDED_FOR", "").split(",") if a.strip()]
            if len(passed) >= settings.PROXIES:
                request.META["REMOTE_ADDR"] = passed[-settings.PROXIES][:45]
        return self.get_response(request)


class SmallerPages(GZipMiddleware):
    """Long pages go out compressed, for phones; short ones are not worth the time. The length is blurred by Django, so
    that nothing in them can be guessed from it."""

    LEAST_BYTES = 48 * 1024

    def process_response(self, request: HttpRequest, response: HttpResponseBase) -> HttpResponseBase:
        """Compressed where it is long and can be."""
        is_page = response.headers.get("Content-Type", "").startswith("text/html")
        if not is_page or response.streaming or len(getattr(response, "content", b"")) < self.LEAST_BYTES:
            return response
        return super().process_response(request, response)


class LimitOfABody:
    """What is sent at once has an end, so that nobody fills the disk: 413 before any of it is read."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        length = str(request.META.get("CONTENT_LENGTH") or "0")
        large = getattr(request, "kitchen", None) and request.path == settings.TAKES_ARCHIVES
        most = settings.MOST_ARCHIVE_BYTES + 2**20 if large else settings.MOST_BYTES_AT_ONCE
        if length.isdecimal() and int(length[:20]) <= most:
            return self.get_response(request)
        return render(request, "413.html", {"most_mb": most // 2**20}, status=413)


class DatabaseAway:
    """Turns lost database connections into a 503 that needs no database itself."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        return self.get_response(request)

    def process_exception(self, request: HttpRequest, exception: Exception) -> HttpResponse | None:
        """A page that says so when the database is away, or None."""
        return not_saved(request, exception) if is_away(exception) else None


def not_saved(request: HttpRequest, exception: BaseException | None) -> HttpResponse:
    """503, as a page or as a live answer."""
    what, then = _FULL_TEXT if _code(exception) in _NO_ROOM else _AWAY_TEXT
    if request.content_type == "application/json":
        return JsonResponse({"message": f"Nothing was saved: {what}."}, status=503)
    response = HttpResponse(_PAGE.read_text().replace("WHAT", what).replace("THEN", then), status=503)
    response["Retry-After"] = "5"
    return response
