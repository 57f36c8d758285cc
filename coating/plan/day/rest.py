"""What is left of a day once some of it is done: the waits that run already are counted from when it happened.

A window that cannot be kept any more does not stop the rest: all that hangs together is moved as little as can be.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from coating.plan.day.greedy import Greedy, best_of
from coating.plan.day.job import Day, DayStep, Lag
from coating.plan.day.plan import Melt, Plan

NOW = "now"


@dataclass(frozen=True)
class Rest:
    """Steps still to do with their starts from now on, s; and by how much windows that run are missed, s."""

    plan: Plan
    late_s: int


def rest_of(
    day: Day, planned_s: Mapping[str, int], done_s: Mapping[str, float], melted_s: Mapping[str, float], now_s: float
) -> Rest | None:  # fmt: skip
    """What is left in the order it was planned in; in another where that cannot be kept any more.

    Parameters
    ----------
    day : as it was asked for. planned_s : starts of its plan. done_s : when steps were done. melted_s : when bowls
    were last melted. now_s : on the same clock.

    Returns
    -------
    Rest; None where all is done, or no order was found.
    """
    left = tuple(s for s in day.steps if s.name not in done_s)
    if not left:
        return None
    lags: list[Lag] = []
    for lag in day.lags:
        if lag.after in done_s:
            continue
        if lag.before not in done_s:
            lags.append(lag)
            continue
        gone = now_s - done_s[lag.before] + (0 if not lag.from_start else day.by_name[lag.before].duration_s)
        least = _tens(max(0.0, lag.min_s - gone))
        most = None if lag.max_s is None else max(least, int(max(0.0, lag.max_s - gone)) // 10 * 10)
        lags.append(Lag(NOW, lag.after, least, most))
    anchor = DayStep(NOW, 0)
    asked = Day((anchor, *left), tuple(lags), day.resources, day.bowls)
    warm = {name: int(at - now_s) for name, at in melted_s.items() if name in day.bowls}
    greedy = Greedy(asked, warm)
    placed = greedy.run(None, planned_s)
    if placed is None:
        other = best_of(asked, warm=warm)
        if other is None:
            return None
        greedy, placed = other
    g = greedy.grain
    late = placed.starts[NOW] * g
    melts = []
    for name, ready in placed.ready.items():
        bowl = day.bowls[name]
        new = ready[1:] if name in warm else ready
        melts += [Melt(name, r * g - bowl.heat_s - bowl.stir_s) for r in new]
    starts = {n: s * g for n, s in placed.starts.items() if n != NOW}
    melts.sort(key=lambda m: m.start_s)
    return Rest(Plan(starts, tuple(melts), greedy.ends(placed) * g, 0, False), late)


def _tens(seconds: float) -> int:
    return int(-(-seconds // 10) * 10)
