"""What one thing more would do for a day that is too long, or that cannot be done."""

from __future__ import annotations

from dataclasses import dataclass, replace

from coating.plan.day.greedy import best_of
from coating.plan.day.job import Day

WORTH_S = 60


@dataclass(frozen=True)
class Remedy:
    """One place more of a resource, and how long the day then is at most, s."""

    resource: str
    makespan_s: int


def remedies(day: Day, than_s: int | None = None) -> list[Remedy]:
    """What there is, one more of which makes it possible (`than_s` None), or at least a minute shorter than `than_s`.

    Found by orders at once, without solving: the day may be shorter still. The shortest first.
    """
    ways = []
    for name, places in day.resources.items():
        if not places:
            continue
        more = replace(day, resources={**day.resources, name: places + 1}, deadline_s=None)
        order = best_of(more)
        if order is None:
            continue
        long = order[0].ends(order[1]) * order[0].grain
        if than_s is None or long <= than_s - WORTH_S:
            ways.append(Remedy(name, long))
    return sorted(ways, key=lambda r: r.makespan_s)
