"""What a page is about, by its address: a bowl, a job, a piece, a layer, a design, a colour or something in the
cupboard."""

from __future__ import annotations

from django.http import HttpRequest

# What the number in an address is of, by how the address begins.
OF = (
    ("bowls/<int:pk>/", "bowl"),
    ("pieces/jobs/<int:pk>/", "job"),
    ("pieces/<int:pk>/", "piece"),
    ("day/<int:pk>/", "job"),
    ("notebook/<int:pk>/", "job"),
    ("studio/layer/<int:pk>/", "layer"),
    ("studio/<int:pk>/", "design"),
    ("colours/<int:pk>/", "colour"),
    ("cupboard/<int:pk>/", "ingredient"),
)


def meant(request: HttpRequest) -> tuple[str, int] | None:
    """What the page is about and its number; None of a page about nothing in particular."""
    match = request.resolver_match
    if match is None or "pk" not in match.kwargs:
        return None
    what = next((name for begins, name in OF if match.route.startswith(begins)), None)
    return (what, match.kwargs["pk"]) if what else None
