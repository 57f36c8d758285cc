"""What goes wrong is made once more: when all is done then."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from coating.plan.day.job import Day
from coating.plan.day.plan import Plan
from coating.plan.day.rest import rest_of


def once_more(day: Day, plan: Plan, parts: Mapping[str, Sequence[str]]) -> dict[str, int]:
    """When all is done if one part of it turns out spoilt at its last step, and is made again from its first, s.

    Parameters
    ----------
    day, plan : as they are. parts : names of steps that are made again together. Parts for which no order is found
    are left out.
    """
    ends = {s.name: plan.starts_s[s.name] + s.duration_s for s in day.steps}
    ready = [(m.bowl, m.ready_s(day), m) for m in plan.melts]
    starts = {}
    for part, names in parts.items():
        now = max(ends[name] for name in names)
        now = next((end for begin, end in day.closed if begin <= now < end), now)  # nobody looks at night
        done = {name: float(end) for name, end in ends.items() if end <= now and name not in names}
        melted = {bowl: float(at) for bowl, at, _ in sorted(ready, key=lambda r: r[1]) if at <= now}
        nights = tuple((begin - now, end - now) for begin, end in day.closed)
        rest = rest_of(
            day,
            plan.starts_s,
            done,
            melted,
            now,
            melts=[m for _, at, m in ready if at > now],
            by=plan.by,
            closed=nights,
        )
        if rest is not None:
            starts[part] = now + rest.plan.makespan_s
    return starts
