"""Led through melting: the next burst for a bowl as it is, and what lies ahead.

Worked out anew from the bowl's own state after every burst, every reading and every "still lumpy", so that it is never
the plan of a bowl that behaved otherwise.
"""

from __future__ import annotations

from dataclasses import dataclass

from coating.errors import OutOfBounds, WouldScorch
from coating.heat.bursts import BurstPlan, burst_plan
from coating.heat.melting import CEILING_C, MELTS_AT_C
from coating.heat.schools import BATH_C, LONGEST_BURST_S, SCHOOLS, School, bath_time_s
from coating.simulate.bowl import BowlState

NEAR_K = 4.0
SMOOTH = 0.02


@dataclass(frozen=True)
class MeltingStep:
    """What comes next. `kind`: "burst" (see `plan`), "bath" (`bath_s` over warm water), "done", "hot" (too hot: off the
    heat), "little" (so little that it would scorch; `least_g`) or "empty"."""

    kind: str
    school: School
    plan: BurstPlan | None = None
    bath_s: float = 0.0
    least_g: float = 0.0


def melting_step(state: BowlState, *, school: str, power_w: float, target_c: float) -> MeltingStep:
    """The next step of melting a bowl to a temperature in degC by a school, with an oven of rated `power_w`."""
    way = SCHOOLS[school]
    if state.empty:
        return MeltingStep("empty", way)
    if state.temperature_c > CEILING_C:
        return MeltingStep("hot", way)
    solid = min(1.0, max(0.0, state.solid_fraction))
    if solid <= SMOOTH and state.temperature_c >= target_c - NEAR_K:
        return MeltingStep("done", way)
    if way.heat == "hob":
        start_c = min(state.temperature_c, MELTS_AT_C - 0.1)
        time_s = bath_time_s(state.mass_g, start_c=start_c, target_c=target_c, bath_c=BATH_C[school])
        return MeltingStep("bath", way, bath_s=time_s * max(solid, 0.2))
    try:
        plan = burst_plan(
            state.mass_g, start_c=state.temperature_c, target_c=target_c, power_w=power_w,
            power_fraction=way.power_fraction, solid_fraction=solid, longest_s=way.fixed_burst_s or LONGEST_BURST_S,
        )  # fmt: skip
    except WouldScorch as little:
        return MeltingStep("little", way, least_g=little.fields["least_g"])
    except OutOfBounds:
        return MeltingStep("hot", way)
    return MeltingStep("burst", way, plan) if plan.bursts_s else MeltingStep("done", way)
