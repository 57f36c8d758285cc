"""What a job wants against what there is: short, packs to buy, what they cost, and what could be used instead."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace

from coating.colour.mixing import Ingredient, Part
from coating.colour.recipe import Lab, Recipe
from coating.colour.ways import ANY_WAY, ColourWay, recipe_in
from coating.errors import EmptyBowl, OutOfBounds
from coating.limits import check


@dataclass(frozen=True)
class Pack:
    """What is sold: g in it and its price in the maker's money (None when it is not known)."""

    grams: float
    price: float | None = None

    def __post_init__(self) -> None:
        check("bag_g", self.grams, "grams")
        if self.price is not None:
            check("price", self.price)


@dataclass(frozen=True)
class Item:
    """One ingredient, all in g: wanted, there, short; packs to buy, what is over then, and the cost (None: unknown)."""

    ingredient: Ingredient
    wanted_g: float
    have_g: float
    packs: int
    pack: Pack | None

    @property
    def short_g(self) -> float:
        """What is missing, g."""
        return max(0.0, self.wanted_g - self.have_g)

    @property
    def over_g(self) -> float:
        """What is left once everything is made, g."""
        bought = self.packs * self.pack.grams if self.pack else self.short_g
        return self.have_g + bought - self.wanted_g

    @property
    def cost(self) -> float | None:
        """What the packs cost, or None where a price is not known."""
        if not self.short_g:
            return 0.0
        return None if self.pack is None or self.pack.price is None else self.packs * self.pack.price


def shopping(parts: Iterable[Part], stock_g: Mapping[str, float], packs: Mapping[str, Pack]) -> list[Item]:
    """The list, what is short first, then by how much.

    Parameters
    ----------
    parts : everything that goes into every bowl. stock_g : what is there, g by name; what is not named is not there.
    packs : what is sold, by name.
    """
    wanted: dict[str, tuple[Ingredient, float]] = {}
    for part in parts:
        name = part.ingredient.name
        wanted[name] = (part.ingredient, wanted.get(name, (part.ingredient, 0.0))[1] + part.mass_g)
    items = []
    for name, (ingredient, grams) in wanted.items():
        have_g = check("total_g", stock_g.get(name, 0.0), name)
        short_g, pack = max(0.0, grams - have_g), packs.get(name)
        buys = math.ceil(short_g / pack.grams - 1e-9) if pack else 0
        items.append(Item(ingredient, grams, have_g, buys, pack))
    return sorted(items, key=lambda i: (-i.short_g, i.ingredient.name))


def total_cost(items: Iterable[Item]) -> float | None:
    """What all of it costs; None when a price is missing."""
    costs = [i.cost for i in items]
    return None if any(c is None for c in costs) else sum(c for c in costs if c is not None)


def instead_of(
    missing: str,
    target_lab: Lab,
    bases: tuple[Ingredient, ...],
    colourants: tuple[Ingredient, ...],
    base_mass_g: float,
    way: ColourWay = ANY_WAY,
) -> Recipe | None:
    """The recipe for a colour without an ingredient, solved anew; None when there is nothing left to make it from."""
    without = replace(way, forbidden=(*way.forbidden, missing), locked=tuple(n for n in way.locked if n != missing))
    try:
        return recipe_in(target_lab, bases, colourants, base_mass_g, without)
    except (EmptyBowl, OutOfBounds):
        return None


def paid_back(price: float, uses: int, pieces_a_use: int) -> float:
    """What a mould or a sheet costs each piece after so many uses."""
    check("price", price)
    return price / max(1, uses * pieces_a_use)
