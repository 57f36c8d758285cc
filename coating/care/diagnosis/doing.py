"""What a move would do to a bowl: what goes in, how warm it gets, how long that takes, and how it stands then."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from types import MappingProxyType

import numpy as np

from coating.care.diagnosis.case import Case, Lab
from coating.care.diagnosis.history_of_bowls import clean, number_of
from coating.care.diagnosis.supposed import window_around
from coating.colour.ciede2000 import colour_difference
from coating.colour.mixing import Ingredient, Part, main_base, merge, mix
from coating.errors import CoatingError
from coating.flow.windows import Window
from coating.heat.bursts import burst_plan
from coating.heat.melting import TEMPER_LOST_C
from coating.plan.colouring import colouring
from coating.plan.proposal import Cupboard, Wish, first_half, thinning_for
from coating.simulate.bowl import BowlState
from coating.stock.ingredients import DEMO_INGREDIENTS

GOOD_ENOUGH = (0.85, 1.15)  # of the ends of what is workable
LEFT_UNMENDED, OUT_OF_REACH = 0.6, 0.4  # what a move is then still worth
MOST_TIMES = 2.0  # of the bowl's own mass, as base, at most
SHADES = 40  # amounts of base that are tried
MIDDLE = 1.1  # of the thin end, to which base is added


@dataclass(frozen=True)
class Done:
    """A move that was made in thought.

    Attributes
    ----------
    after : BowlState
    parts : tuple of Part
        What goes in now: of a dose the first half.
    whole_g : float
        The whole dose, g; 0 where there is none.
    seconds : float or None
        Of heating in all.
    to_c : float or None
        How warm it is to be.
    wait_min : float or None
        How long it then waits, minutes.
    holds : float
        What it is worth by how the bowl stands afterwards, 0 to 1.
    """

    after: BowlState
    parts: tuple[Part, ...] = ()
    whole_g: float = 0.0
    seconds: float | None = None
    to_c: float | None = None
    wait_min: float | None = None
    holds: float = 1.0


def window_for(case: Case) -> Window:
    """What it is for; where nobody said that, the window around the clean bowl."""
    return case.window or window_around(case.log.now)


def _workable(case: Case) -> tuple[float, float]:
    return window_for(case).workable_for(case.log.now.white)


def stands_well(state: BowlState, case: Case) -> bool:
    """Whether a bowl is near enough to what is workable."""
    low, high = _workable(case)
    return state.flow() is not None and GOOD_ENOUGH[0] * low <= number_of(state) <= GOOD_ENOUGH[1] * high


def _held(state: BowlState, case: Case) -> float:
    return 1.0 if stands_well(state, case) else LEFT_UNMENDED


def _warm(bowl: BowlState, case: Case) -> Done:
    work_c = bowl.warmth.work_at_c
    to_c = max(work_c, bowl.temperature_c)
    after = replace(bowl, temperature_c=to_c, solid_fraction=0.0)
    return Done(after, seconds=heating_s(bowl, work_c, case), to_c=work_c, holds=_held(after, case))


def heating_s(bowl: BowlState, to_c: float, case: Case) -> float | None:
    """Seconds of heating in all, in bursts at half power; None where an oven would scorch so little."""
    ceiling = TEMPER_LOST_C if bowl.white == "tempered" else bowl.warmth.ceiling_c
    try:
        plan = burst_plan(
            bowl.mass_g,
            start_c=bowl.temperature_c,
            target_c=to_c,
            power_w=case.power_w,
            solid_fraction=bowl.solid_fraction,
            ceiling_c=ceiling,
            curve=bowl.curve,
        )
    except CoatingError:
        return None
    return plan.all_s


def _cool(bowl: BowlState, case: Case) -> Done:
    work_c = bowl.warmth.work_at_c
    wait_s = bowl.cooling.time_to_s(bowl.temperature_c, work_c)
    after = replace(bowl, temperature_c=min(work_c, bowl.temperature_c))
    return Done(after, to_c=work_c, wait_min=wait_s / 60, holds=_held(after, case))


def _thinner(case: Case) -> Ingredient:
    """What it is thinned with: what was said, else the fat of the bowl's own family."""
    own = "palm_flakes" if case.log.now.white == "coating" else "cocoa_butter"
    return case.thinner or DEMO_INGREDIENTS[own]


def _thin(bowl: BowlState, case: Case) -> Done:
    """Half of the dose that its own page gives; as the fault would have it where its page gives none."""
    window, thinner = window_for(case), _thinner(case)
    work_c = bowl.warmth.work_at_c
    now = case.log.now
    harm_min = max(now.overheated_minutes, bowl.overheated_minutes)
    logged = replace(clean(now), overheated_minutes=harm_min)
    for state in (logged, bowl):
        whole = thinning_for(state, window, thinner, temperature_c=work_c)
        half = first_half(state, whole, thinner)
        if whole is not None and half:
            all_in = replace(bowl, parts=merge((*bowl.parts, Part(thinner, whole.thinner_g))))
            after = replace(bowl, parts=merge((*bowl.parts, *half)))
            return Done(after, half, whole.thinner_g, holds=_held(all_in, case))
    return Done(bowl, holds=LEFT_UNMENDED)


def _base(case: Case) -> Ingredient | None:
    return next(iter(case.bases), None) or main_base(case.log.now.parts)


def _add_base(bowl: BowlState, case: Case) -> Done:
    """So much of its base that it is no longer too thin; of what is too deep in colour, what brings that back."""
    base = _base(case)
    if base is None:
        return Done(bowl, holds=OUT_OF_REACH)
    if case.target_lab is not None and number_of(bowl) >= _workable(case)[0]:
        grams = _lightening_g(bowl, base, case.target_lab)
    else:
        grams = _thickening_g(bowl, base, case)
    if not grams:
        return Done(bowl, holds=LEFT_UNMENDED)
    part = Part(base, float(round(grams)) or grams)
    after = replace(bowl, parts=merge((*bowl.parts, part)))
    return Done(after, (part,), part.mass_g, to_c=bowl.warmth.work_at_c, holds=_held(after, case))


def _lightening_g(bowl: BowlState, base: Ingredient, target: Lab) -> float:
    """Grams of base with which a bowl comes nearest to its colour."""
    tried = [MOST_TIMES * bowl.mass_g * i / SHADES for i in range(SHADES + 1)]
    labs = [mix(merge((*bowl.parts, Part(base, grams)))).lab() for grams in tried]
    return tried[int(np.argmin(colour_difference(np.array(labs), np.asarray(target))))]


def _thickening_g(bowl: BowlState, base: Ingredient, case: Case) -> float:
    """Grams of base after which a bowl is well inside what is workable."""
    wanted, most = MIDDLE * _workable(case)[0], MOST_TIMES * bowl.mass_g

    def number(grams: float) -> float:
        return number_of(replace(bowl, number=None, parts=merge((*bowl.parts, Part(base, grams)))))

    if number(0.0) >= wanted:
        return 0.0
    low, high = 0.0, most
    for _ in range(20):
        middle = (low + high) / 2
        low, high = (low, middle) if number(middle) >= wanted else (middle, high)
    return high


def _correct(bowl: BowlState, case: Case) -> Done:
    """The same as the colour's own page says."""
    base = _base(case)
    if case.target_lab is None or base is None:
        return Done(bowl, holds=OUT_OF_REACH)
    now, cupboard = case.log.now, Cupboard(case.bases or (base,), case.colourants)
    wish = Wish(case.target_lab, case.window, now.white, now.base_g, case.colours, base)
    way = colouring(replace(now, solid_fraction=0.0), wish, cupboard)
    if way.correction is not None:
        parts, reached = way.correction.recipe.parts, way.correction.reachable
    else:
        parts, reached = merge(tuple(p for step in way.steps for p in step.parts)), bool(way.steps)
    after = replace(bowl, parts=merge((*bowl.parts, *parts)))
    return Done(after, parts, sum(p.mass_g for p in parts), holds=1.0 if reached else OUT_OF_REACH)


def _afresh(bowl: BowlState, case: Case) -> Done:
    return Done(clean(case.log.now))


_MOVES: Mapping[str, Callable[[BowlState, Case], Done]] = MappingProxyType(
    {
        "warm": _warm,
        "cool": _cool,
        "thin": _thin,
        "add_base": _add_base,
        "correct": _correct,
        "temper": _afresh,
        "swap": _afresh,
    }
)
LEAVES_IT = ("stir", "keep")


def doing(move: str, bowl: BowlState, case: Case) -> Done | None:
    """A move made on a bowl in thought; None for what is not done to a bowl.

    Parameters
    ----------
    move : str
    bowl : BowlState
        As it is under a cause, not empty.
    case : Case

    Returns
    -------
    Done or None
    """
    if move in LEAVES_IT:
        return Done(bowl)
    make = _MOVES.get(move)
    return make(bowl, case) if make else None
