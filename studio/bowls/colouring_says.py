"""Sentences of being led to a colour: the next step, how far it is, and what was learned on the way."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from coating.colour.mixing import Part
from coating.plan.colouring import Colouring
from coating.simulate.bowl import BowlState
from studio.common.templatetags.kitchen import colour_word, mass, measured, percent
from studio.common.templatetags.words import every_part_listed
from studio.common.words import close_says, listed, lower, many, stress


def step_says(plan: Colouring, name: str) -> str:
    """The next step to a colour, or why there is none."""
    match plan.kind:
        case "empty":
            return f"Nothing is in this bowl yet: {stress('melt the white first')}, then colour it."
        case "there":
            return f"It is {stress('there')}: nobody can tell it from {lower(name)}."
        case "drops":
            parts = plan.steps[0].parts
            return f"Stir in {every_part_listed(parts)}, until no streak is left. Then it should look like this."
    parts = plan.correction.recipe.parts if plan.correction else ()
    if not plan.correction or not parts:
        keep = f"{stress('Keep it')} for a darker colour and begin again"
        return f"Nothing you can add brings it closer to {lower(name)}. {keep}."
    if plan.correction.reachable:
        return f"It can come back: stir in {every_part_listed(parts)}."
    return f"It comes closer, but not all the way: stir in {every_part_listed(parts)}."


def progress_says(plan: Colouring, now: BowlState, *, more_ahead: int) -> list[str]:
    """How far it is now and will be then, a sentence each."""
    if plan.de00 is None or plan.kind not in ("drops", "correct"):
        return []
    far = close_says(plan.de00)
    if plan.kind == "drops" and plan.steps:
        after = close_says(plan.steps[-1].de00)
        steps = [f"{many(more_ahead, 'smaller step')} follow{'s' if more_ahead == 1 else ''}."] if more_ahead else []
        return [f"It is {far} now; with {'all of it' if more_ahead else 'these'}, {after}.", *steps]
    if plan.correction is None:
        return []
    after = "a close match" if plan.correction.reachable else close_says(plan.correction.recipe.de00)
    parts = [f"It is {far} now; after this, {after}."]
    grows = f"The bowl goes from {mass(now.mass_g)} to {stress(mass(plan.correction.mass_g))}"
    split = f": split it into {plan.bowls} bowls before you stir" if plan.bowls > 1 else ""
    return [*parts, f"{grows}{split}."]


def learned_says(learned: Sequence[tuple[str, float]], titles: Mapping[str, str]) -> str:
    """What looks have taught about the strength of colours in this bowl; nothing of none."""
    if not learned:
        return ""
    parts = [
        f"{lower(titles.get(name, name))} counts {percent(factor)} of its usual strength" for name, factor in learned
    ]
    return f"From what you saw: {listed(parts)}."


def added_says(parts: Sequence[Part], mark: str) -> str:
    """A step of the strip: a mark, and what went in or goes in."""
    return f"{mark} {listed([f'{measured(p)} {colour_word(p.ingredient.title)}' for p in parts])}"
