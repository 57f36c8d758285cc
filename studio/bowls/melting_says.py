"""Sentences of being led through melting: what to do next, what was done, what to mind."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

from coating.colour.mixing import Part
from coating.heat.melting import TEMPER_LOST_C
from coating.plan.melting_steps import MeltingStep
from coating.simulate.bowl import BowlState
from studio.common.measures import current
from studio.common.templatetags.kitchen import degrees, how_much, lumpy, measured, seconds_in_all, until, warmth
from studio.common.words import lower, number_word, stress
from studio.cupboard.models import Ingredient


class MeltingLook(NamedTuple):
    """A button that says what was done or seen: what it sends, its words, its key, and whether it comes first."""

    seen: str
    says: str
    key: str
    first: bool


def put_in_says(bases: Sequence[tuple[Ingredient, Part]]) -> str:
    """What goes into an empty bowl."""
    if not bases:
        return "Say on the bowl's page what goes in first."
    if len(bases) > 1:
        return f"Put {stress(f'{number_word(len(bases))} things')} into a dry bowl."
    (row, part), *_ = bases
    return f"Put {stress(measured(part))} {lower(row.name)} into a dry bowl."


def melt_says(step: MeltingStep, now: BowlState, white: str, *, looked: bool) -> str:
    """What to do next with what is in it."""
    if not looked:
        return (
            f"Stir, and look: is it {stress('still hard')}, are there {stress('lumps')}, or is it {stress('smooth')}?"
        )
    match step.kind:
        case "burst":
            return _burst_says(step)
        case "bath":
            early = "" if step.again else ", and take it off while a few lumps are left"
            return f"Hold it over warm water, stirring, for {stress(seconds_in_all(step.bath_s))}{early}."
        case "done":
            warm = f", near {stress(degrees(now.temperature_c))}" if current().has_thermometer else ""
            return f"It is melted{warm}: no more heat."
        case "hot":
            return f"{stress('Off the heat.')} It is too hot: stir, and let it cool until {until(step.target_c)}."
        case "little":
            there = how_much(now.mass_g, white)
            return (
                f"{there[:1].upper()}{there[1:]} is {stress('too little')} for this microwave: use "
                f"{how_much(step.least_g, white)} or more, or melt it over warm water."
            )
    return ""


def _burst_says(step: MeltingStep) -> str:
    assert step.plan
    long = stress(f"{step.plan.bursts_s[0]:.0f} s")
    power = " at half power" if step.school.power_fraction < 1 else ""
    less = step.school.fixed_burst_s if step.shorter else None
    why = f", less than your {less:.0f} s because little is left to melt" if less else ""
    mixes = step.school.mixes
    if step.again:
        return f"It has only cooled: warm it for {long}{power}{why}, then {mixes} it well."
    if step.smooth:
        return (
            f"It is smooth, but has to be hot once before it is tempered: heat it for {long}{power}{why}, then {mixes}."
        )
    return f"Heat it for {long}{power}{why}, then {mixes} and look."


def looks_of(step: MeltingStep, *, looked: bool) -> list[MeltingLook]:
    """The buttons under that; none where nothing is to be done."""
    if not looked:
        words = (("hard", "Still hard", "h"), ("lumpy", "Lumps", "l"), ("smooth", "Smooth", "m"))
        return [MeltingLook(seen, says, key, first=True) for seen, says, key in words]
    looks = []
    if step.kind == "bath":
        looks.append(MeltingLook("burst", "Done, off the water", "d", first=True))
    elif step.kind == "burst":
        mixed = "kneaded" if step.school.mixes == "knead" else "stirred"
        looks.append(MeltingLook("burst", f"Heated and {mixed}", "d", first=True))
    if step.kind != "hot":
        seen, says = ("lumpy", "There are lumps in it") if step.smooth else ("smooth", "It is smooth already")
        looks.append(MeltingLook(seen, says, "m", first=False))
    return looks


def burst_rows(step: MeltingStep) -> list[tuple[float, str]]:
    """Each burst, and what the bowl is like after it."""
    rows = step.plan.rows if step.plan and len(step.plan.bursts_s) > 1 else ()
    return [(s, lumpy(solid) + (f", {warmth(warm)}" if lumpy(solid) == "smooth" else "")) for s, warm, solid in rows]


def melt_hints(step: MeltingStep, now: BowlState, white: str) -> list[str]:
    """What to mind, a paragraph each."""
    hints = []
    if step.plan and len(step.plan.bursts_s) > 1:
        glass = (
            ""
            if step.again
            else (
                " A glass bowl straight from the freezer can crack in the heat: let it come to room temperature first."
            )
        )
        hints.append(
            f"Estimated for {how_much(now.mass_g, white)}, likely {step.plan.likely[0]} to {step.plan.likely[1]} times "
            f"in all; each look works out the rest anew. Above "
            f"{degrees(step.ceiling_c)} it is spoilt, so when in doubt stir and wait. Scrape the sides down each time: "
            f"what clings there burns.{glass}"
        )
    if step.kind == "bath":
        off = step.school.name == "boil_and_off"
        way = (
            "Boil a little water in a pan, switch the heat off and set the dry bowl on it."
            if off
            else "Keep a finger of water warm on the lowest heat; it must not touch the bowl."
        )
        hints.append(f"{way} Wipe the bottom dry before you tilt the bowl: a drop of water spoils all of it.")
    if step.again and white == "tempered" and step.kind == "burst":
        lost = degrees(TEMPER_LOST_C)
        hints.append(f"Above {lost} the temper is lost and you have to seed again: rather too short than too long.")
    return hints
