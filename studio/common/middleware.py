"""When the database is away, say plainly that nothing was saved."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from django.db import InterfaceError, OperationalError
from django.http import HttpRequest, HttpResponse, JsonResponse

_PAGE = Path(__file__).parent / "templates" / "503.html"


class DatabaseAway:
    """Turns lost database connections into a 503 that needs no database itself."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        return self.get_response(request)

    def process_exception(self, request: HttpRequest, exception: Exception) -> HttpResponse | None:
        if not isinstance(exception, OperationalError | InterfaceError):
            return None
        if request.content_type == "application/json":
            return JsonResponse({"message": "The kitchen book is away for a moment. Nothing was saved."}, status=503)
        response = HttpResponse(_PAGE.read_text(), status=503)
        response["Retry-After"] = "5"
        return response
