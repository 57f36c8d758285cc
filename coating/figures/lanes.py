"""A day as lanes: hands, heat, each bowl, the cold; waiting is seen as waiting."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from coating.plan.day.job import HANDS, Day
from coating.plan.day.plan import Plan

WIDE, LANE, LEFT = 1000.0, 30.0, 120.0
_TICKS_MIN = (5, 10, 15, 30, 60, 120, 240)


@dataclass(frozen=True)
class Bar:
    """A step or a melt in its lane: place and size, its number among the steps (0: a melt), and what it is."""

    x: float
    y: float
    wide: float
    high: float
    number: int
    what: str
    name: str


@dataclass(frozen=True)
class Lanes:
    """Bars, the lanes' titles with where they begin, ticks (x, minutes), and the size of the picture."""

    bars: tuple[Bar, ...]
    titles: tuple[tuple[float, str], ...]
    ticks: tuple[tuple[float, int], ...]
    wide: float
    high: float


def lanes(day: Day, plan: Plan, order: Sequence[str], titles: Mapping[str, str]) -> Lanes:
    """Parameters
    ----------
    day, plan : what is done, and when. order : steps as they are listed, counted from one. titles : of resources and
    bowls.
    """
    total = max(plan.makespan_s, 60)
    scale = (WIDE - LEFT) / total
    number = {name: i for i, name in enumerate(order, 1)}
    rows: list[tuple[str, int]] = [(HANDS, 1)]
    heats = sorted({b.heat_resource for b in day.bowls.values()})
    rows += [(name, 1) for name in (*heats, *day.bowls)]
    rows += [(name, n) for name, n in day.resources.items() if name not in (HANDS, *heats) and n
             and any(name in s.uses for s in day.steps)]  # fmt: skip
    bars, told, y = [], [], 0.0
    for name, places in rows:
        told.append((y, titles.get(name, name)))
        spans = [(plan.starts_s[s.name], s.duration_s, s.name, "step") for s in day.steps
                 if name in s.uses or s.bowl == name]  # fmt: skip
        for melt in plan.melts:
            bowl = day.bowls[melt.bowl]
            if name in (melt.bowl, bowl.heat_resource):
                spans.append((melt.start_s, bowl.heat_s, melt.bowl, "melt"))
            if name in (melt.bowl, HANDS):
                spans.append((melt.start_s + bowl.heat_s, bowl.stir_s, melt.bowl, "stir"))
        free = [0] * max(1, places)
        for start, long, what, kind in sorted(spans):
            row = next((i for i, until in enumerate(free) if until <= start), 0)
            free[row] = start + long
            high = (LANE - 6) / len(free)
            bars.append(Bar(LEFT + start * scale, y + 3 + row * high, max(1.5, long * scale), high - 1,
                            number.get(what, 0), kind, what))  # fmt: skip
        y += LANE
    step_min = next((m for m in _TICKS_MIN if total / 60 / m <= 9), _TICKS_MIN[-1])
    ticks = tuple((LEFT + 60 * m * scale, m) for m in range(0, math.floor(total / 60) + 1, step_min))
    return Lanes(tuple(bars), tuple(told), ticks, WIDE, y + 24)
