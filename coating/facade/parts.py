"""Parts in JSON: {"ingredient": NAME, "mass_g": x} or {"ingredient": NAME, "drops": n}."""

from __future__ import annotations

from typing import Any

from coating.colour.mixing import Ingredient, Part
from coating.errors import MissingField, WrongShape
from coating.facade.fields import Choice, Number, Record
from coating.learning.factors import NOTHING, Factors
from coating.stock.ingredients import DEMO_INGREDIENTS, demo_ingredient

INGREDIENT = Choice(tuple(DEMO_INGREDIENTS))
PART = Record({"ingredient": INGREDIENT, "mass_g": Number("mass_g", None), "drops": Number("drops", None, whole=True)})


def part_of(ingredient: Ingredient, mass_g: float | None, drops: float | None, path: str) -> Part:
    """A Part from grams or drops, exactly one of them. Raises MissingField, WrongShape."""
    if drops is not None and mass_g is not None:
        raise WrongShape("Give grams or drops, not both.", field=path)
    if drops is not None:
        if not ingredient.counted_in_drops:
            raise WrongShape(f"{ingredient.title} is weighed, not counted in drops.", field=f"{path}.drops")
        return Part(ingredient, drops * ingredient.unit_g)
    if mass_g is None:
        raise MissingField("An amount is missing: mass_g or drops.", field=f"{path}.mass_g")
    return Part(ingredient, mass_g)


def part_from(given: dict[str, Any], path: str, factors: Factors = NOTHING) -> Part:
    """A Part from a read PART record, of what a kitchen learned of it."""
    ingredient = factors.ingredient(demo_ingredient(given["ingredient"]))
    return part_of(ingredient, given["mass_g"], given["drops"], path)


def part_out(part: Part) -> dict[str, Any]:
    """A part as JSON: liquids carry drops, everything else grams."""
    if part.ingredient.counted_in_drops:
        drops = round(part.units, 6)
        return {"ingredient": part.ingredient.name, "drops": int(drops) if drops == int(drops) else drops}
    return {"ingredient": part.ingredient.name, "mass_g": part.mass_g}
