"""What every page knows."""

from __future__ import annotations

from django.conf import settings
from django.http import HttpRequest

from studio.common.measures import current
from studio.common.types import Json


def house(request: HttpRequest) -> Json:
    """Whether the demo is offered, how amounts read, and the rooms that exist."""
    rooms = [
        ("pieces:jobs", "Pieces", "p"),
        ("colours:book", "Colours", "o"),
        ("bowls:list", "Bowls", "b"),
        ("designs:studio", "Studio", "u"),
        ("day:next", "Day sheet", "y"),
        ("cupboard:shelf", "Cupboard", "c"),
    ]
    here = request.resolver_match.app_name if request.resolver_match else ""
    return {
        "demo_offered": settings.DEMO_OFFERED,
        "measures": current(),
        "rooms": [(url, name, key, here == url.split(":")[0]) for url, name, key in rooms],
    }
