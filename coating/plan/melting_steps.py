"""Led through melting: the next burst for a bowl as it is, and what lies ahead.

Worked out anew from the bowl's own state after every burst, every reading and every "still lumpy", so that it is never
the plan of a bowl that behaved otherwise.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

from coating.errors import OutOfBounds, WouldScorch
from coating.heat.bursts import BurstPlan, burst_plan
from coating.heat.melting import (
    CEILING_C,
    COUPLING,
    MELTS_AT_C,
    TEMPER_LOST_C,
    melting_energy_j,
    warmed_temperature_c,
    working_floor_c,
    working_temperature_c,
)
from coating.heat.schools import BATH_C, LONGEST_BURST_S, SCHOOLS, School, bath_rewarm_s, bath_time_s
from coating.heat.tempering import FORGETS_C
from coating.limits import check
from coating.simulate.bowl import BowlState

NEAR_K, NEAR_AGAIN_K = 4.0, 2.0
HALF, SHORTEST_BAG_S = 0.5, 2
SMOOTH = 0.02


@dataclass(frozen=True)
class MeltingStep:
    """What comes next. `kind`: "burst" (see `plan`), "bath" (`bath_s` over warm water), "done", "hot" (too hot: off the
    heat), "little" (so little that it would scorch; `least_g`) or "empty". `again`: it was melted and has only cooled;
    it is warmed to `target_c` in degC."""

    kind: str
    school: School
    plan: BurstPlan | None = None
    bath_s: float = 0.0
    least_g: float = 0.0
    target_c: float = 0.0
    again: bool = False


def melting_step(state: BowlState, *, school: str, power_w: float, target_c: float) -> MeltingStep:
    """The next step of melting a bowl to a temperature in degC by a school, with an oven of rated `power_w`.

    A bowl that only cooled is warmed to where it is worked; one in temper never past 33 degC.
    """
    way = SCHOOLS[school]
    if state.empty:
        return MeltingStep("empty", way)
    if state.temperature_c > CEILING_C:
        return MeltingStep("hot", way)
    solid = min(1.0, max(0.0, state.solid_fraction))
    again = solid <= SMOOTH and _was_melted(state)
    ceiling_c, near_k = CEILING_C, NEAR_K
    if again:
        target_c, near_k = working_temperature_c(state.white), NEAR_AGAIN_K
        ceiling_c = TEMPER_LOST_C if state.white == "tempered" else CEILING_C
    step = MeltingStep("done", way, target_c=target_c, again=again)
    if solid <= SMOOTH and state.temperature_c >= target_c - near_k:
        return step
    if way.heat == "hob":
        return replace(step, kind="bath", bath_s=_bath_s(state, solid, target_c, school, again=again))
    try:
        plan = burst_plan(
            state.mass_g, start_c=state.temperature_c, target_c=target_c, power_w=power_w,
            power_fraction=way.power_fraction, solid_fraction=solid, longest_s=way.fixed_burst_s or LONGEST_BURST_S,
            ceiling_c=ceiling_c,
        )  # fmt: skip
    except WouldScorch as little:
        return replace(step, kind="little", least_g=little.fields["least_g"])
    except OutOfBounds:
        return replace(step, kind="hot")
    return replace(step, kind="burst", plan=plan) if plan.bursts_s else step


def _bath_s(state: BowlState, solid: float, target_c: float, school: str, *, again: bool) -> float:
    """Seconds over the school's water bath."""
    given = {"target_c": target_c, "bath_c": BATH_C[school]}
    if again:
        return bath_rewarm_s(state.mass_g, start_c=state.temperature_c, **given)
    start_c = min(state.temperature_c, MELTS_AT_C - 0.1)
    return bath_time_s(state.mass_g, start_c=start_c, **given) * max(solid, 0.2)


def _was_melted(state: BowlState) -> bool:
    """Whether it only cooled since it was melted: tempered chocolate must first have forgotten its old crystals."""
    if state.has_cooled:
        return False
    return state.white != "tempered" or state.warmest_c >= FORGETS_C


def bag_burst_s(mass_g: float, *, white: str, power_w: float) -> float | None:
    """Whole seconds at half power that bring a piping bag which stiffens back to where it is worked; None when even
    the shortest takes so little too far. It is kneaded after."""
    power = check("oven_w", power_w, "power_w") * HALF * COUPLING
    mass_g, start_c, target_c = check("mass_g", mass_g), working_floor_c(white), working_temperature_c(white)
    seconds = max(SHORTEST_BAG_S, round(melting_energy_j(mass_g, start_c, target_c, solid_fraction=0.0) / power))
    reached_c, _ = warmed_temperature_c(mass_g, start_c, seconds * power, solid_fraction=0.0)
    ceiling_c = TEMPER_LOST_C if white == "tempered" else CEILING_C
    return float(seconds) if reached_c <= ceiling_c else None
