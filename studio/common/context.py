"""What every page knows."""

from __future__ import annotations

from django.conf import settings
from django.http import HttpRequest

from studio.common.measures import current
from studio.common.types import Json

# Faces that are fetched before the styles are read: no line moves when they come.
FACES = [
    f"studio/vendor/fonts/{name}.woff2"
    for name in (
        "young-serif-latin-400-normal",
        "atkinson-hyperlegible-next-latin-400-normal",
        "atkinson-hyperlegible-next-latin-700-normal",
    )
]
ABOUT = {
    "quick": "Colour, thin and pipe white chocolate: how much colour, how much fat, how long it stays warm.",
    "pieces": "A job: its pieces and bowls, what to melt, what to buy, what is in it, and which box it fits.",
    "bowls": "A bowl of coating: what to stir in for its colour, how it falls, how many minutes it can be used.",
    "colours": "The swatch book: every colour with its recipe for this kitchen, in daylight and under lamps.",
    "designs": "The studio: lace, drips, lettering, marbling and moulds in their true size, with grams and minutes.",
    "day": "The day sheet: what first, what waits meanwhile, and when everything is done.",
    "cupboard": "The cupboard: coatings, colours and fats, with what their packs say and what you measured.",
    "accounts": "Your kitchen: what it has, how you measure, and how everything reads.",
    "learned": "What your bowls have taught: how strong your own colours are, from what, and how sure it is.",
    "rescue": "Something is wrong: what it is, what mends it now, and how to avoid it next time.",
    "notebook": "The notebook: how each evening went, what it took, and how to make it again.",
    "demo": "A kitchen to look around in: invented, full, and gone after a week.",
}


def house(request: HttpRequest) -> Json:
    """Whether the demo is offered, how amounts read, and the rooms that exist."""
    rooms = [
        ("pieces:jobs", "Pieces", "p"),
        ("colours:book", "Colours", "o"),
        ("bowls:list", "Bowls", "b"),
        ("designs:studio", "Studio", "u"),
        ("day:next", "Day sheet", "y"),
        ("notebook:all", "Notebook", "t"),
        ("cupboard:shelf", "Cupboard", "c"),
    ]
    here = request.resolver_match.app_name if request.resolver_match else ""
    return {
        "demo_offered": settings.DEMO_OFFERED,
        "measures": current(),
        "faces": FACES,
        "room_about": ABOUT.get(here, ABOUT["quick"]),
        "rooms": [(url, name, key, here == url.split(":")[0]) for url, name, key in rooms],
    }
