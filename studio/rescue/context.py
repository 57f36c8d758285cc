"""Where "Something's wrong" leads from a page: it already knows which bowl, job or design is meant."""

from __future__ import annotations

from django.http import HttpRequest
from django.urls import reverse

from studio.common.types import Context

# What the number in an address is of, by how the address begins.
OF = (
    ("bowls/<int:pk>/", "bowl"),
    ("pieces/jobs/<int:pk>/", "job"),
    ("pieces/<int:pk>/", "piece"),
    ("day/<int:pk>/", "job"),
    ("studio/layer/<int:pk>/", "layer"),
    ("studio/<int:pk>/", "design"),
)
SAYS_ITSELF = ("rescue:see", "rescue:answer", "rescue:after", "day:bench")


def wrong_here(request: HttpRequest) -> Context:
    """The link of every page of a maker."""
    if not getattr(request, "kitchen", None):
        return {}
    match, query = request.resolver_match, ""
    if match is not None and match.view_name in SAYS_ITSELF:
        return {}
    if match is not None and "pk" in match.kwargs:
        named = next((name for begins, name in OF if match.route.startswith(begins)), "")
        query = f"?{named}={match.kwargs['pk']}" if named else ""
    elif match is not None and match.view_name == "designs:new" and request.GET.get("layer", "").isdecimal():
        query = f"?layer={request.GET['layer']}"
    return {"wrong_url": reverse("rescue:see") + query}
