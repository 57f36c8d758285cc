"""When each step begins, when each bowl is melted, and how good that is."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from coating.plan.day.job import Day


@dataclass(frozen=True)
class Melt:
    """A bowl, when its melting begins, s."""

    bowl: str
    start_s: int


@dataclass(frozen=True)
class Plan:
    """Starts by step, melts in their order, when all is done, what nothing can beat, and whether it is that."""

    starts_s: Mapping[str, int]
    melts: tuple[Melt, ...]
    makespan_s: int
    bound_s: int
    optimal: bool

    @property
    def gap_s(self) -> int:
        """What could be saved at best, as far as is known."""
        return max(0, self.makespan_s - self.bound_s)


def one_by_one_s(day: Day) -> int:
    """How long it takes piece by piece: every step after the other, every wait waited out, every bowl melted once."""
    waited = sum(lag.min_s for lag in day.lags)
    melted = sum(b.heat_s + b.stir_s for b in day.bowls.values())
    return int(sum(s.duration_s for s in day.steps) + waited + melted)
