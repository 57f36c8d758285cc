"""Bags as they were bought, in the file of a job or a template, and put on the shelf of another kitchen."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any

from coating.care.allergens import ALLERGENS
from coating.errors import Unreadable
from coating.limits import check
from coating.stock.own import own_base
from studio.accounts.models import Kitchen
from studio.common.types import Json
from studio.cupboard.actions import change_ingredient, put_on_the_shelf
from studio.cupboard.adapters import core_ingredient
from studio.cupboard.models import SORTS, Ingredient
from studio.cupboard.pictures import lab_of

ALIKE = 0.5  # shades nearer than that in every coordinate are the same
FAMILIES = ("cocoa", "palm")


@dataclass(frozen=True)
class CarriedBag:
    """What a file says of a bag: its name, whose fat, what sort, CIELAB, flow number, fat fraction, what it contains
    where that was said."""

    name: str
    family: str
    sort: str
    lab: tuple[float, float, float]
    number: float
    fat_fraction: float
    allergens: tuple[str, ...] | None


def bag_json(row: Ingredient) -> Json:
    """A bag for a file."""
    core = core_ingredient(row)
    return {
        "name": row.name,
        "family": row.family,
        "sort": row.sort,
        "lab": [round(v, 2) for v in lab_of(row)],
        "number": core.number,
        "fat_fraction": core.fat_fraction,
        "allergens": row.allergens if row.allergens_said else None,
    }


def read_bag(data: Mapping[str, Any]) -> CarriedBag:
    """Checked. Raises CoatingError, or KeyError, TypeError, ValueError for what is no bag at all."""
    name, allergens = data["name"], data.get("allergens")
    if not isinstance(name, str) or not name.strip() or len(name) > 80:
        raise Unreadable("a bag has a name of up to 80 letters.")
    if data["family"] not in FAMILIES or data["sort"] not in dict(SORTS):
        raise Unreadable("a bag is of coating or chocolate: white, milk, dark or coloured.")
    if allergens is not None and not set(allergens) <= set(ALLERGENS):
        raise Unreadable("a bag contains something that is not known here.")
    lightness, a, b = (float(v) for v in data["lab"])
    lab = check("lab_lightness", lightness), check("lab_chroma", a), check("lab_chroma", b)
    bag = CarriedBag(
        name.strip(),
        data["family"],
        data["sort"],
        lab,
        check("number", float(data["number"])),
        check("fat_fraction", float(data["fat_fraction"])),
        None if allergens is None else tuple(allergens),
    )
    own_base("bag", bag.name, bag.family, bag.sort, bag.lab)
    return bag


def bag_here(kitchen: Kitchen, bag: CarriedBag) -> Ingredient | None:
    """The bag of this kitchen that is the same."""
    alike = Ingredient.objects.for_kitchen(kitchen).filter(
        kind="base", family=bag.family, sort=bag.sort, name=bag.name, put_away=False
    )
    same = (row for row in alike.with_parameters() if _near(lab_of(row), bag.lab))
    return next(same, None)


def settle_bag(kitchen: Kitchen, bag: CarriedBag) -> Ingredient:
    """The bag of this kitchen that is the same, or a new one, still to be bought."""
    row_here = bag_here(kitchen, bag)
    if row_here is not None:
        return row_here
    core = own_base("bag", bag.name, bag.family, bag.sort, bag.lab)
    core = replace(core, number=bag.number, fat_fraction=bag.fat_fraction)
    row = put_on_the_shelf(kitchen, core, ticked=False, reading={"how": "brought", "lab": list(bag.lab)})
    if bag.allergens is not None:
        change_ingredient(
            row, expected=row.version, name=row.name, stocked=True, values={}, allergens=list(bag.allergens)
        )
        Ingredient.objects.filter(pk=row.pk).update(ticked=False)
    row_here = Ingredient.objects.with_parameters().get(pk=row.pk)
    return row_here


def _near(one: tuple[float, float, float], other: tuple[float, float, float]) -> bool:
    return max(abs(p - q) for p, q in zip(one, other, strict=True)) < ALIKE
