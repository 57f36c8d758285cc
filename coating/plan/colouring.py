"""What to stir in next so that a bowl comes to its colour: drop by drop, or the least that brings it back."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from coating.colour.ciede2000 import colour_difference
from coating.colour.correction import Correction, bowls_for, correct
from coating.colour.drop_plan import DropStep, drop_plan
from coating.colour.mixing import Part, merge, mix
from coating.colour.recipe import Lab, recipe_of
from coating.colour.ways import recipe_in
from coating.learning.observations import WORDS, offset_of
from coating.plan.proposal import Cupboard, Wish, bases_for
from coating.simulate.bowl import BowlState

NEAR = 2.0  # nobody minds
WORTH_A_STEP = 0.4  # dE00 that a further drop must bring
BOWL_HOLDS_G = 800.0  # what can be stirred by hand; common practice, no source


@dataclass(frozen=True)
class Colouring:
    """Where a bowl stands with its colour.

    kind : "empty", "plain" (no colour is wanted), "there", "drops" (`steps` follow) or "correct" (`correction`, which
    may fall short). `de00` from the target now. `bowls` : into how many to split it when it grows.
    """

    kind: str
    de00: float | None = None
    steps: tuple[DropStep, ...] = ()
    correction: Correction | None = None
    bowls: int = 1


def colouring(state: BowlState, wish: Wish, cupboard: Cupboard) -> Colouring:
    """The next step for the colour of a bowl. Only ever adding."""
    if wish.target_lab is None:
        return Colouring("plain")
    if state.empty or not state.base_g:
        return Colouring("empty")
    target = wish.target_lab
    de00 = float(colour_difference(state.mixture().lab(), target))
    bases = bases_for(wish, cupboard)
    drops = recipe_in(target, bases, cupboard.colourants, wish.melt_g, wish.colours, state.parts)
    if any(p.ingredient.is_base for p in drops.parts):
        drops = recipe_in(target, (), cupboard.colourants, 0.0, replace(wish.colours, locked=()), state.parts)
    if drops.parts and drops.de00 <= NEAR and (de00 > NEAR or drops.de00 <= de00 - WORTH_A_STEP):
        steps = drop_plan(drops.parts, target, start=state.parts)
        if steps:
            return Colouring("drops", de00, tuple(steps))
    if de00 <= NEAR:
        return Colouring("there", de00)
    way = wish.colours
    correction = correct(
        state.parts,
        target,
        way.allowed(bases),
        way.allowed(cupboard.colourants),
        None,
        way.mixed_fats,
    )
    if drops.parts and drops.de00 <= correction.recipe.de00 + WORTH_A_STEP:
        steps = drop_plan(drops.parts, target, start=state.parts)
        if steps:
            return Colouring("drops", de00, tuple(steps))
    return Colouring("correct", de00, correction=correction, bowls=bowls_for(correction.mass_g, BOWL_HOLDS_G))


def so_far(additions: Sequence[Sequence[Part]], target_lab: Sequence[float]) -> list[DropStep]:
    """The colour after each of the things that went in, for the strip of what was done."""
    held: tuple[Part, ...] = ()
    steps = []
    for parts in additions:
        held = merge((*held, *parts))
        if any(p.ingredient.is_base for p in held):
            step = recipe_of(held, target_lab)
            steps.append(DropStep(tuple(parts), step.lab, step.de00))
    return steps


EYES = {word: word if word == "right" else f"too {word}" for word in WORDS}  # how a bowl looks beside its swatch


def seen_as(parts: Sequence[Part], word: str, *, much: bool = False) -> Lab:
    """The likely reading of a bowl that looks "too green" and the like beside its swatch. Raises EmptyBowl."""
    lightness, a, b = mix(parts).lab()
    by = offset_of(word, much=much)
    return (min(100.0, max(0.0, lightness + by[0])), a + by[1], b + by[2])
