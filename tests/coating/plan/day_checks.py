"""Whether a plan of a day keeps every rule, found without the solver: used by the tests of plans."""

from __future__ import annotations

import itertools
from collections.abc import Mapping, Sequence
from typing import Any

from coating.plan.day import HANDS, Day, DayBowl, DayStep, Lag, Melt


def broken(
    day: Day, starts_s: Mapping[str, int], melts: Sequence[Melt], by: Mapping[str, str] | None = None
) -> list[str]:
    """Every rule that is broken, in words."""
    long = {s.name: s.duration_s for s in day.steps}
    wrong = [f"{s.name} is not there" for s in day.steps if s.name not in starts_s]
    if wrong:
        return wrong
    for lag in day.lags:
        waited = starts_s[lag.after] - starts_s[lag.before] - (0 if lag.from_start else long[lag.before])
        if waited < lag.min_s or (lag.max_s is not None and waited > lag.max_s):
            wrong.append(f"{lag.after} waits {waited} s after {lag.before}")
    used: dict[str, list[tuple[int, int, int]]] = {name: [] for name in day.resources}
    for step in day.steps:
        for name, places in step.uses.items():
            used[name].append((starts_s[step.name], starts_s[step.name] + step.duration_s, places))
        if step.by:
            who = (by or {}).get(step.name, "nobody")
            if who not in step.by:
                wrong.append(f"{step.name} is done by {who}")
                continue
            used[who].append((starts_s[step.name], starts_s[step.name] + step.duration_s, 1))
    for hold in day.holds:
        last = hold.steps[-1]
        used[hold.resource].append((starts_s[hold.steps[0]], starts_s[last] + long[last], hold.places))
    for melt in melts:
        bowl = day.bowls[melt.bowl]
        hot = melt.start_s + bowl.takes_s(again=melt.again)[0]
        used[bowl.heat_resource].append((melt.start_s, hot, 1))
        used[HANDS].append((hot, melt.ready_s(day), 1))
        if melt.again and not any(m.bowl == melt.bowl and m.ready_s(day) <= melt.start_s for m in melts):
            wrong.append(f"{melt.bowl} is warmed again at {melt.start_s} and was never melted")
    at_rest = {HANDS, *(b.heat_resource for b in day.bowls.values()), *(who for s in day.steps for who in s.by)}
    for name, spans in used.items():
        if name in at_rest:
            wrong += [
                f"{name} at work in the night at {a}"
                for a, b, _ in spans
                for begin, end in day.closed
                if a < end and b > begin and a < b
            ]
        for begin, _, _ in spans:
            if sum(n for a, b, n in spans if a <= begin < b) > day.resources[name]:
                wrong.append(f"too many on {name} at {begin}")
    for name, bowl in day.bowls.items():
        ready = [m.ready_s(day) for m in melts if m.bowl == name]
        spans = [(m.start_s, m.ready_s(day), 0) for m in melts if m.bowl == name]
        for step in day.steps:
            if step.bowl == name:
                begin, end = starts_s[step.name], starts_s[step.name] + step.duration_s
                spans.append((begin, end, 0))
                if not any(r <= begin and end <= r + bowl.life_s for r in ready):
                    wrong.append(f"{step.name} is done from a cold {name}")
        spans.sort()
        wrong += [f"two at once with {name} at {b[0]}" for a, b in itertools.pairwise(spans) if a[1] > b[0]]
    wrong += [
        f"{s.name} ends too late"
        for s in day.steps
        if day.deadline_s is not None and starts_s[s.name] + s.duration_s > day.deadline_s
    ]
    return wrong


def read_day(data: Mapping[str, Any]) -> Day:
    """A day as the scriptable core is asked for it."""
    steps = tuple(DayStep(s["id"], s["duration_s"], s["uses"], s.get("bowl")) for s in data["steps"])
    lags = tuple(
        Lag(la["before"], la["after"], la["min_s"], la["max_s"], la.get("from") == "start") for la in data["lags"]
    )
    bowls = {name: DayBowl(**b) for name, b in (data.get("bowls") or {}).items()}
    return Day(steps, lags, data["resources"], bowls)
