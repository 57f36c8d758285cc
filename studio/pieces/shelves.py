"""The shopping list as it is walked: shelf by shelf, each thing with its pack, what is short first."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import groupby

from django.utils.text import capfirst

from studio.common.measures import current
from studio.common.templatetags.kitchen import mass, money
from studio.common.words import many
from studio.cupboard.pictures import pack_of, tint_of
from studio.pieces.costs import Also
from studio.pieces.shopping_lines import ShoppingLine

BUY, LOOK, THERE = "buy", "look", "there"
_ORDER = {BUY: 0, LOOK: 1, THERE: 2}
_SHELF_OF = {"base": "Coatings and chocolate", "fat": "Thinners"}
COLOURS, BESIDES = "Colours", "Toppings, fillings and what goes on"
_SHELVES = ("Coatings and chocolate", COLOURS, "Thinners", BESIDES)
_SUGAR = "#f0d9a8"
ENOUGH = "look whether there is enough"


@dataclass(frozen=True)
class ShoppingThing:
    """A thing on the list: what is to be done about it ("buy", "look" whether it is enough, "there"), what is said of
    that, how much of it is wanted, how it is packed, its colour, and what does without it."""

    title: str
    do: str
    says: str
    much: str
    pack: str
    tint: str
    shelf: str
    instead: str = ""
    stock: tuple[str, float] | None = None  # the ingredient, and g of it


def by_shelf(lines: Sequence[ShoppingLine], also: Sequence[Also]) -> list[tuple[str, list[ShoppingThing]]]:
    """Every shelf that something is taken from, with its things."""
    things = sorted(
        [*(_of_line(line) for line in lines), *(_of_also(thing) for thing in also)],
        key=lambda w: (_SHELVES.index(w.shelf), _ORDER[w.do]),
    )
    return [(shelf, list(rows)) for shelf, rows in groupby(things, key=lambda w: w.shelf)]


def _of_line(line: ShoppingLine) -> ShoppingThing:
    item, ingredient = line.item, line.item.ingredient
    do = BUY if item.short_g > 0 else LOOK if line.there == "ticked" else THERE
    if do == BUY:
        says = f"buy {line.buy_says}" + (f"; {line.there_says} is there" if item.have_g > 0 else "")
    else:
        says = ENOUGH if do == LOOK else f"enough is there: {line.there_says}"
    return ShoppingThing(
        ingredient.title,
        do,
        says,
        f"about {line.wanted_says}" if do == LOOK and current().has_scale else line.wanted_says,
        pack_of(ingredient.kind),
        tint_of(ingredient),
        _SHELF_OF.get(ingredient.kind, COLOURS),
        line.instead_says,
        (ingredient.name, item.wanted_g),
    )


def _of_also(thing: Also) -> ShoppingThing:
    much = "a little" if not thing.amount else f"{thing.whole}" if thing.counted else mass(thing.amount)
    costs = "" if thing.cost is None else f", {money(thing.cost)}"
    is_ = "is" if thing.packs == 1 else "are"
    says = f"{many(thing.packs, 'pack')} {is_} enough{costs}" if thing.packs else ENOUGH
    says = f"{says}, for {thing.of.lower()}" if thing.of else says
    return ShoppingThing(capfirst(thing.title), LOOK, says, much, thing.pack or "box", _SUGAR, BESIDES)
