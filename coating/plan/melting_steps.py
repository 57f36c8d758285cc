"""Led through melting: the next burst for a bowl as it is, and what lies ahead.

Worked out anew from the bowl's own state after every burst, every reading and every "still lumpy", so that it is never
the plan of a bowl that behaved otherwise.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

from coating.errors import OutOfBounds, WouldScorch
from coating.heat.bursts import BurstPlan, burst_plan
from coating.heat.melting import COUPLING, TEMPER_LOST_C, melting_energy_j, warmed_temperature_c, warmth_of
from coating.heat.melting_curve import MELTS_AT_C, curve_of
from coating.heat.schools import BATH_C, SCHOOLS, School, bath_rewarm_s, bath_time_s
from coating.heat.tempering import FORGETS_C
from coating.limits import check
from coating.plan.standing import SMOOTH, TOO_COLD_K
from coating.simulate.bowl import BowlState

NEAR_K, NEAR_IN_TEMPER_K = 4.0, 2.0
HALF, SHORTEST_BAG_S = 0.5, 2


@dataclass(frozen=True)
class MeltingStep:
    """What comes next. `kind`: "burst" (see `plan`), "bath" (`bath_s` over warm water), "done", "hot" (too hot: off the
    heat), "little" (so little that it would scorch; `least_g`) or "empty". `again`: it was melted and has only cooled;
    it is warmed to `target_c` in degC, never past `ceiling_c`. `shorter`: the school's own burst is too long for what
    is still to melt. `smooth`: nothing is left to melt, and it only has to get warmer."""

    kind: str
    school: School
    plan: BurstPlan | None = None
    bath_s: float = 0.0
    least_g: float = 0.0
    target_c: float = 0.0
    ceiling_c: float = 0.0
    again: bool = False
    shorter: bool = False
    smooth: bool = False


def melting_step(state: BowlState, *, school: str, power_w: float) -> MeltingStep:
    """The next step of melting a bowl by a school, with an oven of rated `power_w`.

    What is smooth wants no more heat, unless it has cooled below where it is worked, or is to be tempered and has not
    been warm enough to forget its old crystals. A bowl in temper is never warmed past 33 degC.
    """
    way, warmth = SCHOOLS[school], state.warmth
    if state.empty:
        return MeltingStep("empty", way)
    if state.temperature_c > warmth.ceiling_c:
        return MeltingStep("hot", way, target_c=warmth.work_at_c, ceiling_c=warmth.ceiling_c)
    solid = min(1.0, max(0.0, state.solid_fraction))
    smooth = solid <= SMOOTH and not state.has_cooled
    again = smooth and _was_melted(state)
    target_c = warmth.work_at_c if again else min(warmth.melt_to_c, warmth.ceiling_c)
    ceiling_c = TEMPER_LOST_C if again and state.white == "tempered" else warmth.ceiling_c
    step = MeltingStep("done", way, target_c=target_c, ceiling_c=ceiling_c, again=again, smooth=smooth)
    near_k = NEAR_K if not again else NEAR_IN_TEMPER_K if state.white == "tempered" else TOO_COLD_K
    if smooth and state.temperature_c >= target_c - near_k:
        return step
    if way.heat == "hob":
        return replace(step, kind="bath", bath_s=_bath_s(state, solid, target_c, school, again=again))
    try:
        plan = burst_plan(
            state.mass_g,
            start_c=state.temperature_c,
            target_c=target_c,
            power_w=power_w,
            power_fraction=way.power_fraction,
            solid_fraction=solid,
            fixed_s=way.fixed_burst_s,
            ceiling_c=ceiling_c,
            curve=state.curve,
        )
    except WouldScorch as little:
        return replace(step, kind="little", least_g=little.fields["least_g"])
    except OutOfBounds:
        return replace(step, kind="hot")
    if not plan.bursts_s:
        return step
    shorter = way.fixed_burst_s is not None and plan.bursts_s[0] < way.fixed_burst_s
    return replace(step, kind="burst", plan=plan, shorter=shorter)


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


def bag_burst_s(mass_g: float, *, white: str, power_w: float, chocolate: str = "white") -> float | None:
    """Whole seconds at half power that bring a piping bag which stiffens back to where it is worked; None when even
    the shortest takes so little too far. It is kneaded after."""
    power = check("oven_w", power_w, "power_w") * HALF * COUPLING  # the most it may take up
    warmth, curve, mass_g = warmth_of(white, chocolate), curve_of(white), check("mass_g", mass_g)
    start_c, target_c = warmth.floor_c, warmth.work_at_c
    energy = melting_energy_j(mass_g, start_c, target_c, solid_fraction=0.0, curve=curve)
    seconds = max(SHORTEST_BAG_S, round(energy / power))
    reached_c, _ = warmed_temperature_c(mass_g, start_c, seconds * power, solid_fraction=0.0, curve=curve)
    ceiling_c = TEMPER_LOST_C if white == "tempered" else warmth.ceiling_c
    return float(seconds) if reached_c <= ceiling_c else None
