"""Sentences of waiting until something is set: where, how long, and what can be done meanwhile."""

from __future__ import annotations

from dataclasses import dataclass

from coating.heat.times import SettingShape
from coating.plan.waits import Wait
from studio.common.templatetags.kitchen import about_minutes, degrees, minutes_to, sized
from studio.common.words import stress


def where(place: str) -> str:
    """Where it waits, as a heading has it.

    >>> where("room"), where("fridge")
    ('At room temperature', 'In the fridge')
    """
    return "At room temperature" if place == "room" else f"In the {place}"


@dataclass(frozen=True)
class WaitShown:
    """One place: what can be done when (title, how long, why), and the timer for it."""

    where: str
    pairs: tuple[tuple[str, str, str], ...]
    timer_says: str
    timer_min: float
    place: str
    hint: str
    first: bool


def wait_shown(wait: Wait, shape: SettingShape, *, sets_below_c: float, first: bool) -> WaitShown:
    """What a place does to it."""
    if wait.setting is None:
        hint = f"It is too warm here for it to set: it sets below {degrees(sets_below_c)}."
        return WaitShown(where(wait.place), (), "", 0.0, "", hint, first)
    pairs = [("Dry to the touch", about_minutes(wait.setting.touch_min), "")]
    if wait.pliable:
        bends = minutes_to(wait.pliable.from_min, wait.pliable.until_min)
        pairs.append(("Lift and bend it", bends, "sooner it tears, later it breaks"))
    pairs.append(("Turn it out" if shape.name == "mould" else "Handle it", about_minutes(wait.setting.release_min), ""))
    if wait.damp_min:
        pairs.append(("Damp when it comes out", about_minutes(wait.damp_min), ""))
    timer_min = wait.pliable.from_min if wait.pliable else wait.setting.release_min
    does = "lift" if wait.pliable else "look at"
    hint = "Leave it no longer than it needs: it sweats when it comes out." if wait.place == "freezer" else ""
    about = wait.place if shape.name == "coat" else ""  # of a coat it can be learned how long it really takes
    says = f"{does} {shape.title}, {wait.place}"
    return WaitShown(where(wait.place), tuple(pairs), says, timer_min, about, hint, first)


def waits_says(first: Wait | None, shape: SettingShape, thickness_mm: float, *, room_c: float, below_c: float) -> str:
    """When it can be handled, where it sets first."""
    if first is None or first.setting is None:
        return (
            f"{stress('Nothing sets in this kitchen now.')} It is {degrees(room_c)}, it sets only below "
            f"{degrees(below_c)}, and there is no cold place: cool the room, or wait for the evening."
        )
    what = f"{shape.title[:1].upper()}{shape.title[1:]} of {sized(thickness_mm)}"
    there = "at room temperature" if first.place == "room" else f"in the {first.place}"
    after = about_minutes(first.setting.release_min)
    if first.pliable:
        bends = stress(minutes_to(first.pliable.from_min, first.pliable.until_min))
        return f"{what}, {there}, can be lifted and bent {bends} after it is made, and is firm after {after}."
    return f"{what}, {there}, can be handled after {stress(after)}."
