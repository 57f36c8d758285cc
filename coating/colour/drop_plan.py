"""In what order a recipe goes in: base, white, the colour that makes it, those that correct it, drops at the end."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from coating.colour.ciede2000 import colour_difference
from coating.colour.mixing import WHITE, Ingredient, Part, merge, mix
from coating.colour.recipe import Lab

MOST, CORRECTS = (0.5, 0.75, 0.9), (0.5, 0.9)  # shares of the colour that makes it, and of the others
SINGLY = 2  # at the end, one drop at a time; common practice, no source
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

    Bases go in first, then white, then most of the colour without which it would be furthest off, then most of those
    that correct it, and at the end what is left of each, the last drops one at a time. A step that would come out
    darker than the target is left out, and all that would follow it.
    """
    parts = merge(recipe)
    bases = tuple(p for p in parts if p.ingredient.is_base or not p.ingredient.is_colourant)
    whites = tuple(p for p in parts if p.ingredient.kind == WHITE)
    order = dominant_first([p for p in parts if p.ingredient.is_colourant and p.ingredient.kind != WHITE], parts, start)
    groups: list[tuple[Part, ...]] = [g for g in (bases, whites) if g]
    given = dict.fromkeys((p.ingredient.name for p in order), 0.0)

    def give(part: Part, units: float) -> None:
        had = given[part.ingredient.name]
        if units > had + 1e-9:
            given[part.ingredient.name] = units
            groups.append((Part(part.ingredient, round((units - had) * part.ingredient.unit_g, 6)),))

    for i, part in enumerate(order):
        for share in CORRECTS if i else MOST:
            give(part, math.floor(share * part.units + 1e-9))
    for part in order:
        for left in range(SINGLY, -1, -1):
            give(part, part.units - left)
    return _followed(groups, target_lab, start)


def dominant_first(colours: Sequence[Part], parts: Sequence[Part], start: Sequence[Part] = ()) -> list[Part]:
    """Colours of a recipe, the one first without which it would be furthest from what it is."""
    whole = merge((*start, *parts))
    if len(colours) < 2 or not any(p.ingredient.is_base for p in whole):
        return list(colours)
    lab = mix(whole).lab()

    def without(part: Part) -> float:
        return float(colour_difference(mix(merge((*start, *(p for p in parts if p is not part)))).lab(), lab))

    return sorted(colours, key=lambda p: (-without(p), p.ingredient.name))


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
