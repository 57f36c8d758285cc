"""The time that is left for the step at hand, as a ring that is read across the kitchen."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime

from coating.plan.day import Day
from studio.bowls.context import BandItem
from studio.common.types import Json
from studio.day.left import Left

LEAST_S = 5.0  # what is less is over


@dataclass(frozen=True)
class TimeRing:
    """So much is left of so much, s, and what of; `over`: what is said at its end, nothing where that is no matter."""

    left_s: float
    of_s: float
    says: str
    over: str = ""

    @property
    def share(self) -> float:
        """What is left, percent of it."""
        return 100 * min(1.0, self.left_s / self.of_s) if self.of_s > 0 else 0.0


def ring_of(line: Json, day: Day, left: Left, bowl: BandItem | None, now: datetime) -> TimeRing | None:
    """The one time that matters at a step; None where that is over.

    Until it is ready, until it is too late, while its bowl is warm, or as long as is planned for it, in this order.
    `line`: as the bench shows it, with its window where it has one. `bowl`: the one it is done from, where one is kept.
    """
    window = line.get("window")
    if window is not None and window["rings_s"] is not None:
        says = "until it is ready" if window["least_s"] > 0 else "until it is too late"
        return TimeRing(window["rings_s"], max(window["rings_s"], window["of_s"]), says, window["says"])
    warm = _warm(line, day, left, bowl, now)
    if warm is not None:
        return warm
    since = max((at for at in (*left.done.values(), *left.had.melted.values()) if at <= now), default=now)
    left_s = line["long_s"] - max(0.0, (now - since).total_seconds())
    return TimeRing(left_s, line["long_s"], "planned for it") if left_s >= LEAST_S else None


def _warm(line: Json, day: Day, left: Left, bowl: BandItem | None, now: datetime) -> TimeRing | None:
    """While the bowl can be used: as its own page says, or as the day was planned, from when it was melted."""
    step = day.by_name.get(line["step"])
    if step is None or step.bowl is None:
        return None
    life_s = float(day.bowls[step.bowl].life_s)
    left_s = bowl.left_s if bowl is not None else None
    if left_s is None and step.bowl in left.had.melted:
        left_s = life_s - (now - left.had.melted[step.bowl]).total_seconds()
    if left_s is None or left_s < LEAST_S:
        return None
    return TimeRing(left_s, max(life_s, left_s), "while it is warm", "the bowl is getting too thick")
