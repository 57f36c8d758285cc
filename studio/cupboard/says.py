"""Sentences of the cupboard."""

from __future__ import annotations

from collections.abc import Sequence

from studio.common.templatetags.kitchen import UNIT_WORDS, mass
from studio.common.words import listed, lower, stress
from studio.cupboard.models import Ingredient

NAMED = 4  # bowls that a sentence names
COLOURLESS = ("fat", "water")
MEASURES = {"base": "Read it from yours", "liquid": "Read a tint of yours, weigh 20 drops"}


def shelf_says(there: int, measured: int, *, scale: bool = True) -> str:
    """How much is there, and how much of it is known; `scale`: there is one to weigh with.

    >>> shelf_says(0, 0)
    'Nothing is said to be in your cupboard yet: tick what you have, or add what you bought.'
    >>> shelf_says(1, 0)
    '1 thing in the cupboard, every value still assumed: weigh 20 drops first.'
    >>> shelf_says(7, 2)
    '7 things in the cupboard, and 2 values you have read or measured.'
    """
    if not there:
        return "Nothing is said to be in your cupboard yet: tick what you have, or add what you bought."
    things = f"{there} thing{'' if there == 1 else 's'} in the cupboard"
    if not measured:
        return f"{things}, every value still assumed{': weigh 20 drops first' if scale else ''}."
    return f"{things}, and {measured} value{'' if measured == 1 else 's'} you have read or measured."


def edit_says(name: str, bowls: Sequence[str]) -> str:
    """What a change of an ingredient changes besides.

    >>> edit_says("Blue oil colour", [])
    'What is known about blue oil colour, and where it came from.'
    >>> edit_says("Blue oil colour", ["Plum", "Dusk blue"])
    'What you change here about blue oil colour also changes *Plum* and *Dusk blue*.'
    >>> edit_says("Shortening", list("ABCDE"))
    'What you change here about shortening also changes the *5 bowls* it is in.'
    """
    if not bowls:
        return f"What is known about {lower(name)}, and where it came from."
    changed = (
        f"the {stress(f'{len(bowls)} bowls')} it is in" if len(bowls) > NAMED else listed([stress(b) for b in bowls])
    )
    return f"What you change here about {lower(name)} also changes {changed}."


def tint_says(kind: str, *, invented: bool) -> str:
    """What its swatch shows.

    >>> tint_says("base", invented=True), tint_says("fat", invented=False)
    ('As melted. Its shade is invented.', 'It has no colour of its own.')
    """
    if kind in COLOURLESS:
        sentence = "It has no colour of its own."
    else:
        sentence = "As melted." if kind == "base" else "A light tint of it in bright white coating."
    return f"{sentence} Its shade is invented." if invented else sentence


def shelf_line(row: Ingredient, left_g: float | None, *, scale: bool) -> str:
    """What is known of a thing on the shelf, under its name; `left_g` of what was kept of a bowl."""
    now, parts = row.current(), list[str]()
    if row.made_on and row.keep_until:
        left = f"{mass(left_g)}, " if now.get("stock_g") else ""
        parts.append(f"{left}made on {row.made_on:%-d %B}, keeps until {row.keep_until:%-d %B}")
    elif not row.stocked:
        parts.append("not in the cupboard")
    elif not row.ticked:
        parts.append("do you have it?")
    if number := now.get("number"):
        parts.append(f"flow number {number.value:g} ({number.get_provenance_display()})")
        parts.append(row.get_family_display())
    elif drop := now.get("drop_g"):
        parts.append(f"{_drop_says(row.kind, drop.value, scale=scale)} ({drop.get_provenance_display()})")
    else:
        parts.append(row.get_family_display())
    return " · ".join(parts)


def _drop_says(kind: str, drop_g: float, *, scale: bool) -> str:
    if not scale:
        return f"counted in {UNIT_WORDS.get(kind, UNIT_WORDS['gel'])[1]}"
    return f"a drop weighs {drop_g:.3f} g" if kind == "liquid" else f"{drop_g:.2g} g at a time"
