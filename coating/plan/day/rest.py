"""What is left of a day once some of it is done: the waits that run already are counted from when it happened.

A window that cannot be kept any more does not stop the rest: all that hangs together is moved as little as can be.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace

from coating.plan.day.follow import follow
from coating.plan.day.greedy import Greedy, best_of
from coating.plan.day.job import Day, DayStep, Hold, Lag
from coating.plan.day.network import Stuck
from coating.plan.day.plan import Melt, Plan

NOW = "now"


@dataclass(frozen=True)
class Rest:
    """Steps still to do with their starts from now on, s; and by how much windows that run are missed, s."""

    plan: Plan
    late_s: int


def rest_of(
    day: Day,
    planned_s: Mapping[str, int],
    done_s: Mapping[str, float],
    melted_s: Mapping[str, float],
    now_s: float,
    *,
    left_s: Mapping[str, float] | None = None,
    melts: Iterable[Melt] = (),
    by: Mapping[str, str] | None = None,
    closed: tuple[tuple[int, int], ...] = (),
) -> Rest | None:
    """What is left in the order it was planned in; in another where that cannot be kept any more.

    Parameters
    ----------
    day : as it was asked for. planned_s : starts of its plan. done_s : when steps were done. melted_s : when bowls
    were last melted. now_s : on the same clock. left_s : how long steps that were begun still take. melts, by : of the
    plan. closed : nights to come, from now on.

    Returns
    -------
    Rest; None where all is done, or no order was found.
    """
    left = tuple(_shorter(s, left_s or {}) for s in day.steps if s.name not in done_s)
    if not left:
        return None
    rest = replace(
        day,
        steps=(DayStep(NOW, 0), *left),
        lags=_lags(day, done_s, now_s),
        holds=_holds(day, done_s),
        deadline_s=None,
        closed=tuple((_tens(begin), _tens(end)) for begin, end in closed if begin > 0),
    )
    warm = {name: int(at - now_s) for name, at in melted_s.items() if name in day.bowls}
    same = _in_order(rest, planned_s, tuple(melts), by or {}, warm)
    if same is not None and not same.late_s:
        return same
    other = _in_another(rest, planned_s, warm)
    return min((r for r in (same, other) if r is not None), key=lambda r: (r.late_s, r.plan.makespan_s), default=None)


def _in_order(
    rest: Day, planned_s: Mapping[str, int], melts: tuple[Melt, ...], by: Mapping[str, str], warm: Mapping[str, int]
) -> Rest | None:
    """As it was planned; windows that run and are missed are said, they do not stop it."""
    keys = {s.name: float(planned_s.get(s.name, 0)) for s in rest.steps}
    first = min(keys[s.name] for s in rest.steps if s.name != NOW)
    keys = {name: key - first for name, key in keys.items()} | {NOW: -1.0}
    lags = tuple(replace(la, max_s=None) if la.before == NOW else la for la in rest.lags)
    ahead = [Melt(m.bowl, round(m.start_s - first)) for m in melts]
    plan = follow(replace(rest, lags=lags), keys, ahead, by=by, warm=warm)
    if isinstance(plan, Stuck):
        return None
    late = [plan.starts_s[la.after] - la.max_s for la in rest.lags if la.before == NOW and la.max_s is not None]
    starts = {name: at for name, at in plan.starts_s.items() if name != NOW}
    return Rest(replace(plan, starts_s=starts), max(0, plan.starts_s[NOW], *late))


def _in_another(rest: Day, planned_s: Mapping[str, int], warm: Mapping[str, int]) -> Rest | None:
    """What is on the bench first, the rest after it in the order it was planned in, or in any."""
    greedy = Greedy(rest, warm)
    placed = greedy.run(None, planned_s)
    if placed is None:
        plan = best_of(rest, warm=warm)
        if plan is None:
            return None
        greedy, placed = plan
    late = placed.starts.pop(NOW) * greedy.grain
    return Rest(greedy.plan(placed), late)


def _shorter(step: DayStep, left_s: Mapping[str, float]) -> DayStep:
    seconds = left_s.get(step.name)
    return step if seconds is None else replace(step, duration_s=_tens(min(seconds, step.duration_s)))


def _lags(day: Day, done_s: Mapping[str, float], now_s: float) -> tuple[Lag, ...]:
    """Waits that are still to be kept; those that run already from now on."""
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
    return tuple(lags)


def _holds(day: Day, done_s: Mapping[str, float]) -> tuple[Hold, ...]:
    """What is held already is held from now on."""
    holds = []
    for hold in day.holds:
        left = tuple(name for name in hold.steps if name not in done_s)
        if left and hold.steps[-1] not in done_s:
            holds.append(replace(hold, steps=left if len(left) == len(hold.steps) else (NOW, *left)))
    return tuple(holds)


def _tens(seconds: float) -> int:
    return int(-(-seconds // 10) * 10)
