"""A day as lanes: hands, who else helps, heat, each bowl, the cold, what is few; waiting is seen as waiting."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from coating.plan.day.job import HANDS, Day
from coating.plan.day.plan import Plan

WIDE, LANE, LEFT = 1000.0, 30.0, 120.0
_TICKS_MIN = (5, 10, 15, 30, 60, 120, 240)


@dataclass(frozen=True)
class LaneBar:
    """A step, a melt or a place that is held, in its lane: place and size, its number among the steps (0: none), what
    it is ("step", "melt", "stir", "held"), and whose."""

    x: float
    y: float
    wide: float
    high: float
    number: int
    what: str
    name: str


@dataclass(frozen=True)
class Lanes:
    """Bars, the lanes' titles with where they begin, ticks (x, minutes), the size of the picture, how much of it a
    second is, and where the first begins."""

    bars: tuple[LaneBar, ...]
    titles: tuple[tuple[float, str], ...]
    ticks: tuple[tuple[float, int], ...]
    wide: float
    high: float
    a_second: float
    left: float = LEFT


def lanes(
    day: Day, plan: Plan, order: Sequence[str], titles: Mapping[str, str], first_s: int = 0, last_s: int | None = None
) -> Lanes:
    """Parameters
    ----------
    day, plan : what is done, and when. order : steps as they are listed, counted from one. titles : of resources and
    bowls. first_s, last_s : what of it is shown, s; all of it where nothing is said.
    """
    last = plan.makespan_s if last_s is None else last_s
    total = max(last - first_s, 60)
    scale = (WIDE - LEFT) / total
    number = {name: i for i, name in enumerate(order, 1)}
    bars: list[LaneBar] = []
    lane_rows, y = [], 0.0
    for name in _rows(day, plan):
        free, here = list[int](), list[LaneBar]()
        spans = sorted(_spans(day, plan, name))
        rows = [_row(free, start, end) for start, end, _, _ in spans]
        for row, (start, end, what, kind) in zip(rows, spans, strict=True):
            begin, until = max(start, first_s) - first_s, min(end, last) - first_s
            if until <= begin:
                continue
            high = (LANE - 6) / len(free)
            here.append(
                LaneBar(
                    LEFT + begin * scale,
                    y + 3 + row * high,
                    max(1.5, (until - begin) * scale),
                    high - 1,
                    number.get(what, 0),
                    kind,
                    what,
                )
            )
        if here or name == HANDS:
            lane_rows.append((y, titles.get(name, name)))
            bars += here
            y += LANE
    step_min = next((m for m in _TICKS_MIN if total / 60 / m <= 9), _TICKS_MIN[-1])
    ticks = tuple((LEFT + 60 * m * scale, m) for m in range(0, math.floor(total / 60) + 1, step_min))
    return Lanes(tuple(bars), tuple(lane_rows), ticks, WIDE, y + 24, scale)


def _row(free: list[int], start: int, end: int) -> int:
    """The first row of a lane that is free by then; one more where none is."""
    row = next((i for i, until in enumerate(free) if until <= start), len(free))
    free[row : row + 1] = [end]
    return row


def _rows(day: Day, plan: Plan) -> list[str]:
    """Lanes from above."""
    heats = sorted({b.heat_resource for b in day.bowls.values()})
    helpers = [name for name in dict.fromkeys(who for s in day.steps for who in s.by) if name != HANDS]
    rows = [HANDS, *helpers, *heats, *day.bowls]
    held = {hold.resource for hold in day.holds}
    return rows + [
        name
        for name, n in day.resources.items()
        if name not in rows and n and (name in held or any(name in s.uses for s in day.steps))
    ]


def _spans(day: Day, plan: Plan, name: str) -> list[tuple[int, int, str, str]]:
    """What is in a lane: begin, end, whose, what."""
    ends = {s.name: plan.starts_s[s.name] + s.duration_s for s in day.steps}
    spans = [
        (plan.starts_s[s.name], ends[s.name], s.name, "step")
        for s in day.steps
        if name in s.uses or s.bowl == name or plan.by.get(s.name) == name
    ]
    spans += [
        (plan.starts_s[h.steps[0]], ends[h.steps[-1]], h.steps[0], "held") for h in day.holds if h.resource == name
    ]
    for melt in plan.melts:
        bowl = day.bowls[melt.bowl]
        hot = melt.start_s + bowl.takes_s(again=melt.again)[0]
        if name in (melt.bowl, bowl.heat_resource):
            spans.append((melt.start_s, hot, melt.bowl, "melt"))
        if name in (melt.bowl, HANDS):
            spans.append((hot, melt.ready_s(day), melt.bowl, "stir"))
    return spans
