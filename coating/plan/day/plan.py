"""When each step begins, when each bowl is melted, and how good that is."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from coating.plan.day.job import Day


@dataclass(frozen=True)
class Melt:
    """A bowl, when its melting begins, s; `again`: it was melted before that day and is only warmed."""

    bowl: str
    start_s: int
    again: bool = False

    def ready_s(self, day: Day) -> int:
        """When it can be used, s."""
        return self.start_s + day.bowls[self.bowl].off_s(again=self.again)


@dataclass(frozen=True)
class Plan:
    """Starts by step, melts in their order, when all is done, what nothing can beat, and whether it is that; `by`: who
    does the steps that more than one may do."""

    starts_s: Mapping[str, int]
    melts: tuple[Melt, ...]
    makespan_s: int
    bound_s: int
    optimal: bool
    by: Mapping[str, str] = field(default_factory=dict)

    @property
    def gap_s(self) -> int:
        """What could be saved at best, as far as is known."""
        return max(0, self.makespan_s - self.bound_s)

    def dark_first(self, day: Day) -> list[tuple[str, str]]:
        """Pairs of bowls of which the darker one, named first, is melted before the lighter one."""
        first: dict[str, int] = {}
        for melt in self.melts:
            first[melt.bowl] = min(melt.start_s, first.get(melt.bowl, melt.start_s))
        return [
            (dark, light)
            for light, dark in day.shades
            if light in first and dark in first and first[dark] < first[light]
        ]


def one_by_one_s(day: Day) -> int:
    """How long it takes piece by piece: every step after the other, every wait waited out, every bowl melted once."""
    waited = sum(lag.min_s for lag in day.lags)
    melted = sum(b.off_s() for b in day.bowls.values())
    return int(sum(s.duration_s for s in day.steps) + waited + melted)
