"""In what order a recipe goes in, so that no drop goes past the colour: base, white, then the palest first."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from coating.colour.ciede2000 import colour_difference
from coating.colour.mixing import WHITE, Ingredient, Part, merge, mix
from coating.colour.recipe import Lab

SHARES = (0.5, 0.75, 0.9, 1.0)
_TOO_DARK = 0.5  # lightness by which a step may come out under the target


@dataclass(frozen=True)
class DropStep:
    """What goes in now, what the bowl holds and looks like then, and how far that is from the target."""

    parts: tuple[Part, ...]
    lab: Lab
    de00: float


def drop_plan(recipe: Sequence[Part], target_lab: Sequence[float], *, start: Sequence[Part] = ()) -> list[DropStep]:
    """Steps from the base to the target.

    Parameters
    ----------
    recipe : what is to be put in, g. start : what is in the bowl already.

    Bases go in first, then white, then at 50, 75, 90 and 100 % of their counts the colourants, palest first. A step
    that would come out darker than the target is left out, and all that would follow it.
    """
    parts = merge(recipe)
    bases = tuple(p for p in parts if p.ingredient.is_base or not p.ingredient.is_colourant)
    whites = tuple(p for p in parts if p.ingredient.kind == WHITE)
    colours = [p for p in parts if p.ingredient.is_colourant and p.ingredient.kind != WHITE]
    ground = merge((*start, *bases, *whites))
    order = sorted(colours, key=lambda p: (-mix((*ground, p)).lab()[0], p.ingredient.name)) if ground else colours
    groups: list[tuple[Part, ...]] = [g for g in (bases, whites) if g]
    given: dict[str, float] = {}
    for share in SHARES:
        for part in order:
            unit = part.ingredient.unit_g
            due = float(np.floor(share * part.units + 1e-9)) * unit if share < 1 else part.mass_g
            more = due - given.get(part.ingredient.name, 0.0)
            if more > 1e-9:
                given[part.ingredient.name] = due
                groups.append((Part(part.ingredient, round(more, 6)),))
    return _followed(groups, target_lab, start)


def _followed(groups: Sequence[tuple[Part, ...]], target_lab: Sequence[float], start: Sequence[Part]) -> list[DropStep]:
    held, steps = merge(start), list[DropStep]()
    for group in groups:
        held = merge((*held, *group))
        lab = mix(held).lab()
        dark = lab[0] < float(target_lab[0]) - _TOO_DARK
        if dark and steps and all(p.ingredient.is_colourant for p in group):
            before = steps[-1].de00
            if float(colour_difference(lab, target_lab)) >= before:
                break
        steps.append(DropStep(group, lab, float(colour_difference(lab, target_lab))))
    return steps


def past(parts: Sequence[Part], one_more: Ingredient, target_lab: Sequence[float]) -> bool:
    """Whether one more unit would come out darker than the target and further from it."""
    now = mix(parts).lab()
    then = mix((*parts, Part(one_more, one_more.unit_g))).lab()
    return then[0] < float(target_lab[0]) - _TOO_DARK and float(colour_difference(then, target_lab)) > float(
        colour_difference(now, target_lab)
    )
