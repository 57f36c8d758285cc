"""An evening as a ribbon of what was melted, and its steps as they were planned and done."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from studio.day.went import Went
from studio.notebook.record import BowlCame

WIDE, HIGH = 1000.0, 100.0
LEAST = 12.0  # of a bowl of which there was little


@dataclass(frozen=True)
class RibbonPart:
    """A bowl on the ribbon: from where, how wide, and its colour."""

    one: BowlCame
    x: float
    wide: float

    @property
    def lab(self) -> tuple[float, float, float] | None:
        """CIELAB of what came out."""
        return self.one.summary.lab


def ribbon_of(bowls: Sequence[BowlCame], wide: float = WIDE) -> list[RibbonPart]:
    """Bowls side by side, each as long as what was melted in it; nothing of bowls that were never begun."""
    begun = [one for one in bowls if one.summary.melted_g > 0]
    total, room = sum(one.summary.melted_g for one in begun), max(0.0, wide - LEAST * len(begun))
    parts, x = list[RibbonPart](), 0.0
    for one in begun:
        long = LEAST + room * one.summary.melted_g / total
        parts.append(RibbonPart(one, x, long))
        x += long
    return parts


@dataclass(frozen=True)
class StepThread:
    """A step as a thread from when it was planned to when it was done, with its words; `late`: by much."""

    planned_x: float
    done_x: float
    says: str
    late: bool


LATE_S = 600.0


def threads_of(went: Went) -> list[StepThread]:
    """The steps that were tapped, by their moments; nothing of fewer than two."""
    tapped = went.tapped
    moments = [at.timestamp() for step in tapped for at in (step.planned_at, step.done_at) if at]
    if len(tapped) < 2 or max(moments) - min(moments) > 2 * 24 * 3600:
        return []
    first, long = min(moments), max(1.0, max(moments) - min(moments))

    def x(at: float) -> float:
        return 10 + (WIDE - 20) * (at - first) / long

    return [
        StepThread(x(s.planned_at.timestamp()), x(s.done_at.timestamp()), s.says, abs(s.late_s) > LATE_S)
        for s in tapped
        if s.done_at
    ]
