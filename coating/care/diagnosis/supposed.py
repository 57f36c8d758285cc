"""The bowl as it would be if a cause were to blame: its log shows what was written down, not the fault."""

from __future__ import annotations

from dataclasses import replace

from coating.care.diagnosis.history_of_bowls import clean, number_of
from coating.colour.mixing import WATER, Ingredient, Part, merge
from coating.flow.casson1959 import Flow
from coating.flow.windows import Window
from coating.simulate.bowl import BowlState

OVERHEATED_MIN = 20.0
LUMPS, LUMPY_C = 0.1, 32.0
COLDER_K, WARMER_K = 5.0, 6.0
WATER_SHARE = 0.008
TOO_THICK, TOO_THIN = 1.25, 0.8
AROUND = (0.8, 1.2)  # what is workable where nobody said what it is for, of the number of the clean bowl
SET = (300.0, 60.0)  # of what does not flow at all, Pa and Pa s
_WATER = Ingredient("water", "Water", WATER, unit_g=0.05, water_fraction=1.0)


def window_around(now: BowlState) -> Window:
    """The window of a bowl of which nobody said what it is for: around how it stands when it is clean."""
    bowl, (low, high) = clean(now), AROUND
    flow, number = bowl.flow() or Flow(*SET), number_of(bowl)
    ends = (low * number, high * number)
    stress = (low * flow.yield_stress_pa, high * flow.yield_stress_pa)
    return Window("", "", stress, (low * flow.viscosity_pa_s, high * flow.viscosity_pa_s), ends, ends, "")


def bowl_under(cause: str, now: BowlState, window: Window) -> BowlState:
    """The bowl under a cause.

    Parameters
    ----------
    cause : str
    now : BowlState
        As its log has it, not empty.
    window : Window

    Returns
    -------
    BowlState
    """
    good = clean(now)
    work_c = good.temperature_c
    if cause == "overheated":
        return replace(good, overheated_minutes=max(OVERHEATED_MIN, now.overheated_minutes))
    if cause == "lumps":
        return replace(good, temperature_c=LUMPY_C, solid_fraction=LUMPS)
    if cause == "cold":
        return replace(good, temperature_c=min(now.temperature_c, work_c - COLDER_K))
    if cause == "too_warm":
        return replace(good, temperature_c=max(now.temperature_c, work_c + WARMER_K))
    if cause in ("water", "water_colour"):
        return _watered(good, max(now.water_fraction, WATER_SHARE))
    if cause == "thick_product":
        return _numbered(good, max(number_of(good), TOO_THICK * window.workable_for(now.white)[1]))
    if cause in ("thin_product", "too_much_fat"):
        return _numbered(good, min(number_of(good), TOO_THIN * window.workable_for(now.white)[0]))
    return good


def _watered(state: BowlState, share: float) -> BowlState:
    water_g = state.mass_g * share / (1 - share)
    return replace(state, parts=merge((*state.parts, Part(_WATER, water_g))))


def _numbered(state: BowlState, stands_at: float) -> BowlState:
    """The same with the label number with which it stands so: the one goes with the other."""
    number = state.label_number * stands_at / number_of(state)
    return replace(state, number=min(400.0, max(1.0, number)))
