"""When the database is away, say plainly that nothing was saved.

Views are covered by the middleware; what comes up in other middleware (the visit is read from the database too) ends in
`studio.common.views.server_error`.
"""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from django.db import InterfaceError, OperationalError
from django.http import HttpRequest, HttpResponse, JsonResponse

_PAGE = Path(__file__).parent / "templates" / "503.html"


# Cannot connect, gone, lost, shutting down, too many connections, disk full, lock not had: it may work in a moment.
_PASSING = {2002, 2003, 2005, 2006, 2013, 2055, 1040, 1053, 1927, 1021, 1114, 1205, 1213}


def is_away(exception: BaseException | None) -> bool:
    """Whether the database could not be reached, or had no room, rather than refused what was asked."""
    if isinstance(exception, InterfaceError):
        return True
    return isinstance(exception, OperationalError) and bool(exception.args) and exception.args[0] in _PASSING


class DatabaseAway:
    """Turns lost database connections into a 503 that needs no database itself."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        return self.get_response(request)

    def process_exception(self, request: HttpRequest, exception: Exception) -> HttpResponse | None:
        return not_saved(request) if is_away(exception) else None


def not_saved(request: HttpRequest) -> HttpResponse:
    """503, as a page or as a live answer."""
    if request.content_type == "application/json":
        return JsonResponse({"message": "The kitchen book is away for a moment. Nothing was saved."}, status=503)
    response = HttpResponse(_PAGE.read_text(), status=503)
    response["Retry-After"] = "5"
    return response
