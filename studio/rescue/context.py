"""Where "Something's wrong" leads from a page: it already knows which bowl, job or design is meant."""

from __future__ import annotations

from django.http import HttpRequest
from django.urls import reverse

from studio.common.meant import meant
from studio.common.types import Context

KNOWN = ("bowl", "job", "piece", "layer", "design")
SAYS_ITSELF = ("rescue:see", "rescue:answer", "rescue:after", "day:bench")


def wrong_here(request: HttpRequest) -> Context:
    """The link of every page of a maker."""
    if not getattr(request, "kitchen", None):
        return {}
    match, query = request.resolver_match, ""
    if match is not None and match.view_name in SAYS_ITSELF:
        return {}
    about = meant(request)
    if about is not None:
        query = f"?{about[0]}={about[1]}" if about[0] in KNOWN else ""
    elif match is not None and match.view_name == "designs:new" and request.GET.get("layer", "").isdecimal():
        query = f"?layer={request.GET['layer']}"
    return {"wrong_url": reverse("rescue:see") + query}
