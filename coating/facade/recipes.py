"""colour.recipe, colour.correct, colour.grade, colour.coats."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from typing import Any

from coating.colour.cie import hex_from_lab
from coating.colour.ciede2000 import difference_word
from coating.colour.correction import correct
from coating.colour.first_look import DROP_SD, first_look
from coating.colour.grading import grade
from coating.colour.hiding import COAT_MM, coats_to_hide
from coating.colour.mixing import Ingredient, Part
from coating.colour.reach import is_ready_coloured, out_of_reach
from coating.colour.recipe import PLAIN, find_recipes
from coating.colour.search.space import Bounds
from coating.colour.upsampling import reflectance_from_lab
from coating.errors import WrongShape
from coating.facade.fields import LAB, Choice, Field, ListOf, Number, Record, Vector
from coating.facade.learned import FACTORS
from coating.facade.parts import INGREDIENT, PART, part_from, part_out
from coating.facade.registry import Entry
from coating.learning.factors import NOTHING, Factors
from coating.stock.ingredients import DEMO_INGREDIENTS, demo_ingredient

MIXED_FATS = Choice(("limit", "allow"), default="limit")


def _parts(given: list[dict[str, Any]], field: str, factors: Factors = NOTHING) -> tuple[Part, ...]:
    return tuple(part_from(p, f"{field}[{i}]", factors) for i, p in enumerate(given))


def _named(names: list[str], field: str, *, bases: bool, factors: Factors = NOTHING) -> tuple[Ingredient, ...]:
    """Ingredients by name, each once, as a kitchen's are. Raises WrongShape for one of the wrong kind."""
    by_name: dict[str, Ingredient] = {}
    for i, name in enumerate(names):
        ingredient = demo_ingredient(name)
        if not (ingredient.is_base if bases else ingredient.is_colourant):
            what = "a base" if bases else "a colour"
            raise WrongShape(f"{ingredient.title} is not {what}.", field=f"{field}[{i}]")
        by_name[name] = factors.ingredient(ingredient)
    return tuple(by_name.values())


def _first_look(parts: Iterable[Part], target_lab: Sequence[float], factors: Factors) -> dict[str, float]:
    """The range of the first look; narrower where what was learned of a colour comes with its range."""
    of = {name.partition(".")[2]: factor.sd for name, factor in factors.of.items() if name.startswith("strength.")}
    drop_sd = factors["drop"].sd or DROP_SD
    known = {name: math.hypot(sd, drop_sd) for name, sd in of.items() if sd is not None}
    _, low, high = first_look(tuple(parts), target_lab, known=known, drop_sd=drop_sd)
    return {"low_de00": low, "high_de00": high}


def _recipe(given: dict[str, Any]) -> dict[str, Any]:
    factors = given["factors"]
    bases = _named(given["bases"], "bases", bases=True, factors=factors)
    colourants = _named(given["colourants"], "colourants", bases=False, factors=factors)
    bounds = Bounds(colourants=int(given["max_colourants"]), mixed_fats=given["mixed_fats"] == "allow")
    target, mass_g = given["target_lab"], given["base_mass_g"]
    recipe = find_recipes(target, bases, colourants, mass_g, (PLAIN,), (), bounds)[0]
    result = {
        "parts": [part_out(p) for p in recipe.parts],
        "de00": recipe.de00,
        **_first_look(recipe.parts, target, factors),
        "load": recipe.load,
        "lab": list(recipe.lab),
        "reachable": recipe.reachable,
        "word": difference_word(recipe.de00),
        "hex": hex_from_lab(recipe.lab),
    }
    if not recipe.reachable:
        ready = [i for i in DEMO_INGREDIENTS.values() if i.is_base and is_ready_coloured(i)]
        why = out_of_reach(target, bases, colourants, mass_g, ready, bounds=bounds)
        result |= {
            "reason": why.reason,
            "least_base_g": why.too_little.least_base_g if why.too_little else None,
            "absurd": {"load": why.absurd.load, "de00": why.absurd.de00},
            "ready_coloured": [
                {"base": b.name, "de00": r.de00, "parts": [part_out(p) for p in r.parts]} for b, r in why.ready
            ],
        }
    return result


def _correct(given: dict[str, Any]) -> dict[str, Any]:
    factors = given["factors"]
    bases = _named(given["bases"], "bases", bases=True, factors=factors)
    colourants = _named(given["colourants"], "colourants", bases=False, factors=factors)
    bowl, allow = _parts(given["bowl"], "bowl", factors), given["mixed_fats"] == "allow"
    correction = correct(bowl, given["target_lab"], bases, colourants, given["max_total_g"], allow)
    return {
        "additions": [part_out(p) for p in correction.recipe.parts],
        "added_g": correction.added_g,
        "mass_g": correction.mass_g,
        "de00": correction.recipe.de00,
        **_first_look((*bowl, *correction.recipe.parts), given["target_lab"], factors),
        "lab": list(correction.recipe.lab),
        "load": correction.recipe.load,
        "reachable": correction.reachable,
    }


def _grade(given: dict[str, Any]) -> dict[str, Any]:
    colourant = _named([given["colourant"]], "colourant", bases=False, factors=given["factors"])[0]
    grading = grade(
        _parts(given["base"], "base", given["factors"]), colourant, int(given["steps"]), int(given["max_drops"])
    )
    return {
        "drops": list(grading.amounts),
        "labs": [list(v) for v in grading.labs],
        "step_de00": list(grading.steps),
        "even": grading.even,
    }


def _coats(given: dict[str, Any]) -> dict[str, Any]:
    ground = reflectance_from_lab(given["ground_lab"])
    cover = coats_to_hide(_parts(given["coating"], "coating"), ground, coat_mm=given["coat_mm"])
    return {
        "coats": cover.coats,
        "contrast_ratio": cover.contrast_ratio,
        "lab": list(cover.paint_lab),
        "de00": list(cover.de00),
        "labs": [list(v) for v in cover.labs],
    }


def _names(most: int) -> Field:
    return ListOf(INGREDIENT, most=most)


ENTRIES = (
    Entry(
        "colour.recipe",
        "a recipe for a colour in whole drops and grams, or why there is none",
        Record(
            {
                "target_lab": Vector(LAB),
                "bases": _names(12),
                "colourants": _names(24),
                "base_mass_g": Number("mass_g"),
                "max_colourants": Number("colourants", 4.0, whole=True),
                "mixed_fats": MIXED_FATS,
                "factors": FACTORS,
            }
        ),
        _recipe,
    ),
    Entry(
        "colour.correct",
        "the least to add to a bowl that went astray",
        Record(
            {
                "bowl": ListOf(PART),
                "target_lab": Vector(LAB),
                "bases": _names(12),
                "colourants": _names(24),
                "max_total_g": Number("total_g", None),
                "mixed_fats": MIXED_FATS,
                "factors": FACTORS,
            }
        ),
        _correct,
    ),
    Entry(
        "colour.grade",
        "whole drops for shades that are equal steps to the eye",
        Record(
            {
                "base": ListOf(PART),
                "colourant": INGREDIENT,
                "steps": Number("shades", whole=True),
                "max_drops": Number("drops", whole=True),
                "factors": FACTORS,
            }
        ),
        _grade,
    ),
    Entry(
        "colour.coats",
        "coats of a paint until it hides what is under it; contrast ratio of so many coats",
        Record({"coating": ListOf(PART), "ground_lab": Vector(LAB), "coat_mm": Number("coat_mm", COAT_MM)}),
        _coats,
    ),
)
