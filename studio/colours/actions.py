"""Verbs of colours: those a kitchen begins with, and one by its name."""

from __future__ import annotations

from studio.accounts.models import Kitchen
from studio.colours.models import Colour

# Names and shades are our own; CIELAB under D65.
STARTER_COLOURS = {
    "Dusk blue": (68, -8, -17),
    "Sea glass": (82, -15, 3),
    "Young olive": (66, -9, 30),
    "Apricot": (80, 14, 32),
    "Red moon": (64, 30, 22),
    "Lemon ice": (92, -6, 36),
    "Lilac hour": (76, 11, -13),
    "First light": (88, 8, 12),
    "Plum": (48, 24, 2),
    "Storm grey": (66, -1, -3),
    "Midnight": (27, 3, -18),
}


def lay_out_colours(kitchen: Kitchen) -> None:
    """The colours a new kitchen begins with."""
    Colour.objects.bulk_create(
        Colour(kitchen=kitchen, name=name, lightness=lab[0], a=lab[1], b=lab[2], came_from="first")
        for name, lab in STARTER_COLOURS.items()
    )


def colour_called(kitchen: Kitchen, name: str, lab: tuple[float, float, float]) -> Colour:
    """The colour of that name in the kitchen, made if need be."""
    colour, _ = Colour.objects.get_or_create(
        kitchen=kitchen, name=name, defaults={"lightness": lab[0], "a": lab[1], "b": lab[2]}
    )
    return colour
