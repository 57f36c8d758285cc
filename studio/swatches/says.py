"""Sentences about recipes: what goes in, how close it comes, and what would bring it closer."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from coating.colour.ciede2000 import difference_word
from coating.colour.ladder import Rung
from coating.colour.mixing import Part
from coating.colour.recipe import Recipe
from coating.plan.matches import Match
from studio.bowls.says import whole_says
from studio.common.templatetags.kitchen import amount_text, colour_word, mass, measured, money, percent
from studio.common.templatetags.words import parts_listed
from studio.common.words import close_says, listed, lower, many, stress

GOOD = ("a match", "close")


def _colours(parts: Sequence[Part]) -> list[str]:
    return [f"{amount_text(p)} {colour_word(p.ingredient.title)}" for p in parts if not p.ingredient.is_base]


def recipe_says(rows: Sequence[tuple[Part, float | None]], recipe: Recipe, name: str, *, little: bool = False) -> str:
    """What goes in, in what, and how close that comes; `little` : so small a bowl is why it is out of reach."""
    bases = [
        f"{measured(part, bag_g)} {lower(part.ingredient.title)}" for part, bag_g in rows if part.ingredient.is_base
    ]
    if len(rows) == 1:
        part, bag_g = rows[0]
        made = f"{stress(part.ingredient.title)} as it is, {measured(part, bag_g)}"
    else:
        made = f"{parts_listed(p for p, _ in rows)} in {listed(bases)}"
    if difference_word(recipe.de00) in GOOD:
        return f"{made}: {stress(close_says(recipe.de00))} to {lower(name)}."
    if recipe.reachable:
        return f"{made}: near {lower(name)}, with {stress('a visible difference')}."
    reach = "out of reach in so little" if little else "out of reach"
    return f"{made}: {stress('the closest there is')} to {lower(name)}, which is {reach}."


def why_not_says(why: Any, melt_g: float) -> str:
    """What stands in the way of a colour."""
    if why.reason == "drop":
        return whole_says(why.too_little, melt_g)
    if why.reason == "load":
        times = stress(f"{why.absurd.load:.1f} times")
        return (
            f"Only the amount stands in the way: it would take {times} the colour that this much coating carries "
            f"({listed(_colours(why.absurd.parts))}). You would taste it, and it would not set."
        )
    close = close_says(why.absurd.de00)
    still = f"still be {close}" if close == "another colour" else f"still leave {close}"
    return f"Nothing in this cupboard gets there: even ten times the colour would {still}."


def ready_says(recipe: Recipe, base: str) -> str:
    """How close a bag that is bought in its colour comes, after its name.

    >>> from coating.colour.recipe import Recipe
    >>> ready_says(Recipe((), (50.0, 0.0, 0.0), 1.2, 0.0), "blue_wafers")
    'a close match as it is.'
    """
    more = [p for p in recipe.parts if p.ingredient.name != base]
    with_ = listed([f"{measured(p)} {colour_word(p.ingredient.title)}" for p in more])
    return f"{close_says(recipe.de00)} {f'with {with_}' if more else 'as it is'}."


def flows_says(match: Match) -> str:
    """What follows from a recipe: how much colour it is, how it flows and sets, what it costs."""
    flows = {"as it is": "flows as the plain coating does", "seizes": "no longer flows: it seizes"}
    flow = flows.get(match.flow_word, f"flows {match.flow_word} than the plain coating")
    sets = "sets with a snap" if match.firmness.verdict == "firm" else match.firmness.reason
    sentence = f"Uses {percent(match.recipe.load)} of the colour that the coating can carry; {flow}; {sets}."
    if match.cost is None:
        return sentence
    besides = ", colours without a price not counted" if match.unpriced else ""
    return f"{sentence} Costs {money(match.cost)}{besides}."


def rung_says(rung: Rung, *, first: bool) -> str:
    """How close a shade of a ladder comes, what goes in for it, and how much is taken out; it follows its name."""
    added = _colours(rung.recipe.parts)
    into = "" if first else f"into the {mass(rung.mass_g)} that is left: "
    goes_in = listed(added) or "nothing, it is that colour already"
    parts = into + goes_in
    return f"{close_says(rung.recipe.de00)}. {parts[:1].upper()}{parts[1:]}. Take {mass(rung.shade.grams)}."


def ladder_says(shades: int, bowls: int, fresh_g: float, left_g: float) -> str:
    """The headline of several shades from one melt."""
    made = f"{many(shades, 'shade')} from {stress(many(bowls, 'bowl'))}"
    sentence = f"{made}: the palest first, then the next from what is left."
    if not left_g:
        return sentence
    enough = f"all but {stress(mass(fresh_g))}" if fresh_g else "all of it"
    return f"{sentence} Your leftover white is enough for {enough}."


def shades_says(best: Any, parts: Sequence[Part], colourant: str, base: str, each_g: float, *, stock: bool) -> str:
    """Equal steps from pale to deep: so many drops each, or one deep stock that is weighed out."""
    if stock:
        bases = [p for p in parts if p.ingredient.is_base]
        melted = listed([f"{stress(mass(p.mass_g))} {lower(p.ingredient.title)}" for p in bases])
        return (
            f"Make one deep stock: {parts_listed(parts)} in {melted}, and mix it by weight: whole drops would make "
            "uneven steps."
        )
    drops = listed([stress(str(n)) for n in best.amounts])
    return (
        f"{drops} drops of {colour_word(colourant)}, each in {mass(each_g)} of {lower(base)}: equal steps to the eye."
    )
