"""Long lists come a page at a time."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from django.core.paginator import Page, Paginator
from django.db.models import QuerySet
from django.http import HttpRequest

PAGE = 24


def page_of(
    request: HttpRequest, rows: QuerySet[Any, Any] | Sequence[Any], *, word: str, many: int = PAGE
) -> Page[Any]:
    """The page of `rows`, so many on one, that the address asks for under `word`; the nearest one when it asks for
    nonsense."""
    return Paginator(rows, many).get_page(request.GET.get(word))
