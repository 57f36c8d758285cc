"""Where "Something's wrong" leads from a page: it already knows which bowl, job or design is meant."""

from __future__ import annotations

from django.http import HttpRequest
from django.urls import reverse

from studio.common.types import Context

# What the number in an address of a room is of.
OF = {"bowls": "bowl", "pieces": "job", "day": "job", "designs": "design"}
SAYS_ITSELF = ("rescue:see", "rescue:answer", "rescue:after", "day:bench")


def wrong_here(request: HttpRequest) -> Context:
    """The link of every page of a maker."""
    if not getattr(request, "kitchen", None):
        return {}
    match, query = request.resolver_match, ""
    if match is not None and match.view_name in SAYS_ITSELF:
        return {}
    if match is not None and isinstance(match.kwargs.get("pk"), int) and match.app_name in OF:
        query = f"?{OF[match.app_name]}={match.kwargs['pk']}"
    return {"wrong_url": reverse("rescue:see") + query}
