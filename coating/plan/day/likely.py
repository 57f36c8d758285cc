"""How long a day may really take: hands that are slower or quicker than planned, coats that set later or sooner.

The same order is followed once more with each of them one sd longer; what that does to the end is joined in quadrature.
"""

from __future__ import annotations

import math
from dataclasses import replace

from coating.beliefs import COAT, PACE, PRIORS, RANGE_SD, SET
from coating.plan.day.follow import follow
from coating.plan.day.job import Day
from coating.plan.day.network import Stuck
from coating.plan.day.plan import Plan

WAITS_SD = math.hypot(PRIORS[SET], PRIORS[COAT])


def makespan_range(
    day: Day, plan: Plan, *, pace_sd: float = PRIORS[PACE], waits_sd: float = WAITS_SD
) -> tuple[float, float] | None:
    """The 90 % range of how long all of a day takes.

    Parameters
    ----------
    day, plan : what is done, and in which order.
    pace_sd, waits_sd : sd of the logarithm of how many times as long hands take, and what sets.

    Returns
    -------
    (float, float), s; None over several days, where a night takes up what was late.
    """
    if day.closed or not plan.makespan_s:
        return None
    off = math.hypot(
        _moved(day, plan, hands=math.exp(pace_sd), waits=1.0), _moved(day, plan, hands=1.0, waits=math.exp(waits_sd))
    )
    return plan.makespan_s * math.exp(-RANGE_SD * off), plan.makespan_s * math.exp(RANGE_SD * off)


def _moved(day: Day, plan: Plan, *, hands: float, waits: float) -> float:
    """By how much of ln the day is longer; where the order cannot be kept so, by the share of it that is longer."""
    longer = follow(slower(day, hands=hands, waits=waits), plan.starts_s, plan.melts, by=plan.by)
    if not isinstance(longer, Stuck):
        return math.log(longer.makespan_s / plan.makespan_s)
    work_s = sum(s.duration_s for s in day.steps if s.handled) / max(1, day.resources.get("hands", 1))
    share = min(1.0, work_s / plan.makespan_s)
    return share * math.log(hands) + (1 - share) * math.log(waits)


def slower(day: Day, *, hands: float, waits: float) -> Day:
    """The same day with so many times the work of hands, and of what waits; no step longer than its bowl stays warm."""
    steps = []
    for step in day.steps:
        long_s = max(1, round(step.duration_s * (hands if step.handled else waits)))
        bowl = day.bowls.get(step.bowl or "")
        life_s = bowl.life_s if bowl else long_s
        steps.append(replace(step, duration_s=max(step.duration_s, min(long_s, life_s)) if hands > 1 else long_s))
    lags = [
        replace(
            lag,
            min_s=round(lag.min_s * waits),
            max_s=None if lag.max_s is None else max(lag.max_s, round(lag.max_s * waits)),
        )
        for lag in day.lags
    ]
    return replace(day, steps=tuple(steps), lags=tuple(lags), deadline_s=None)
