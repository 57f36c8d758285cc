"""What a bowl is right for: every technique's window against the bowl as it stands, and what would bring it there."""

from __future__ import annotations

from dataclasses import dataclass, replace

from coating.flow.grades import Grade, grades_for
from coating.flow.windows import WINDOWS, Window
from coating.limits import BOUNDS
from coating.plan.proposal import fat_for
from coating.shape.bead import settled_bead
from coating.simulate.bowl import BowlState

LINES_MM = {"lace": 2.0, "lettering": 1.5, "outline": 2.0}
MARBLES_WITHIN = 1.3  # two flows nearer than that run into each other evenly; common practice, no source
MOST_FAT = 0.08  # g of fat per g; more, and another coating is the answer. Common practice, no source
_WARM_AT_MOST_K = 4.0  # below the ceiling


@dataclass(frozen=True)
class Use:
    """A technique and what it takes. `way`: "right", "warm" or "cool" (to `to_c`), "thin" (`fat_g` of thinner), or
    "no" with `verdict` "thick", "thin" or "uneven"; `buy` the professional grades that would do as they are. Of a line
    the width as pressed and as it settles."""

    window: Window
    way: str
    verdict: str
    to_c: float | None = None
    fat_g: float | None = None
    buy: tuple[Grade, ...] = ()
    line_mm: float | None = None
    settles_mm: float | None = None


def uses(state: BowlState) -> tuple[Use, ...]:
    """Every technique, those it is right for first."""
    answers = [_settled(state, _use(state, window)) for window in WINDOWS]
    order = ("right", "warm", "cool", "thin", "no")
    return tuple(sorted(answers, key=lambda u: order.index(u.way)))


def _settled(state: BowlState, use: Use) -> Use:
    """With the width of its line, for a technique of lines and a bowl that flows."""
    line_mm, flow = LINES_MM.get(use.window.technique), state.flow()
    if line_mm is None or flow is None or state.is_set or flow.yield_stress_pa < BOUNDS["standing_pa"].low:
        return use
    return replace(use, line_mm=line_mm, settles_mm=settled_bead(line_mm, flow.yield_stress_pa).width_mm)


def _use(state: BowlState, window: Window) -> Use:
    flow = state.flow()
    verdict = "thick" if flow is None or state.is_set else window.verdict(flow, state.white)
    if verdict == "right":
        return Use(window, "right", verdict)
    to_c = _warmth_for(state, window)
    if to_c is not None:
        return Use(window, "warm" if to_c > state.temperature_c else "cool", verdict, to_c=to_c)
    buy = grades_for(window, state.white)
    share = fat_for(state, window, state.warmth.work_at_c)
    if share is not None and share <= MOST_FAT:
        return Use(window, "thin", verdict, fat_g=share * state.mass_g, buy=buy)
    return Use(window, "no", verdict, buy=buy)


def _warmth_for(state: BowlState, window: Window) -> float | None:
    """The nearest whole temperature in degC at which it is right; none between where it sets and where it scorches."""
    low, high = int(state.warmth.floor_c) + 1, int(state.warmth.ceiling_c - _WARM_AT_MOST_K)
    if state.white == "tempered":
        high = int(state.warmth.work_at_c) + 2  # warmer, and it is tempered no more
    for to_c in sorted(range(low, high + 1), key=lambda t: abs(t - state.temperature_c)):
        flow = state.flow(temperature_c=float(to_c))
        if flow is not None and window.verdict(flow, state.white) == "right":
            return float(to_c)
    return None


def thicker_by(one: BowlState, other: BowlState) -> float | None:
    """How many times as thick one bowl stands as the other, above or below 1; None when either will not flow."""
    a, b = one.stands_at(), other.stands_at()
    return None if a is None or b is None or one.is_set or other.is_set else a / b
