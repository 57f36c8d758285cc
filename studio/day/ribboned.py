"""The day as a ribbon: its parts, what each step looks like on it, and what leaves it to wait."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from itertools import groupby, pairwise

from coating.looks.ribbon import RibbonStep, RibbonWait, ribbon_of, waits_of
from coating.plan.day.plan import Plan
from studio.common.types import Context, Json
from studio.day.adapters import Planned
from studio.day.says import part_says, wait_says, window_says

MOST_ROWS, LEAST_ROWS = 18, 6  # of a part
MARKS = 5  # patterns that tell strands apart
NARROW_S = 900  # a window that has to be kept in mind


@dataclass(frozen=True)
class Stretch:
    """A stretch of the day that is read at one go: what it is called, and its lines, each with its row of the ribbon as
    "drawn", the bowls in that as "strands" (pattern, colour, strand), what waits after it as "waits", when it has to be
    done as "window", and the pattern of its bowl as "mark". `is_now`: whether what comes next is in it.
    """

    title: str
    lines: list[Context]
    is_now: bool


def ribbon_parts(
    lines: Sequence[Context], planned: Planned, plan: Plan, begin: datetime, *, days: int, gone_s: int
) -> list[Stretch]:
    """A day's lines, by the clock, as parts: each day by itself, a long one folded at noon. `gone_s`: how long ago it
    began, s."""
    waits, marks = waits_of(planned.day, plan), {key: i % MARKS for i, key in enumerate(planned.bowls)}
    steps = [
        RibbonStep(
            line["name"] or f"melt {line['number']}",
            line["need"].key if line["need"] else None,
            melt="melt" in line,
        )
        for line in lines
    ]
    says, windows = _waits_say(waits, begin), _windows_say(planned, plan, begin)
    full = [
        {
            **line,
            "drawn": row,
            "waits": says.get(line["name"], ()),
            "window": windows.get(line["name"]),
            "mark": marks.get(step.bowl or ""),
            "strands": [(marks[s.bowl], planned.bowls[s.bowl].tone.lab, s) for s in row.strands],
        }
        for line, step, row in zip(lines, steps, ribbon_of(steps, waits), strict=True)
    ]
    parts = _folded(full)
    ahead = (i for i, part in enumerate(parts) for line in part if _is_ahead(line, gone_s))
    now = next(ahead, 0)
    return [
        Stretch(part_says(part[0]["at"], _end(part), len(part), days=days), part, i == now)
        for i, part in enumerate(parts)
    ]


def _is_ahead(line: Json, gone_s: int) -> bool:
    return not line["done"] and bool(line["start_s"] + line["long_s"] > gone_s)


def _end(part: Sequence[Json]) -> datetime:
    end: datetime = max(line["at"] + timedelta(seconds=line["long_s"]) for line in part)
    return end


def _folded(lines: Sequence[Context]) -> list[list[Context]]:
    """Each day by itself; one with many lines at noon, and where that does not do, in stretches of one length."""
    parts: list[list[Context]] = []
    for _, of_day in groupby(lines, key=lambda line: line["at"].date()):
        whole = list(of_day)
        morning = [line for line in whole if line["at"].hour < 12]
        halves = [morning, whole[len(morning) :]]
        if len(whole) <= MOST_ROWS or min(map(len, halves)) < LEAST_ROWS:
            halves = [whole]
        for half in halves:
            count = -(-len(half) // MOST_ROWS)
            ends = [len(half) * k // count for k in range(count + 1)]
            parts += [half[a:b] for a, b in pairwise(ends)]
    return parts


def _waits_say(waits: Sequence[RibbonWait], begin: datetime) -> dict[str, list[str]]:
    """What waits after each step, each thing said once."""
    says: dict[str, list[str]] = {}
    for wait in waits:
        sentence = wait_says(wait.place, begin + timedelta(seconds=wait.ready_s), stands=bool(wait.by))
        if sentence not in says.setdefault(wait.before, []):
            says[wait.before].append(sentence)
    return says


def _windows_say(planned: Planned, plan: Plan, begin: datetime) -> Mapping[str, str]:
    """From when to when what cannot wait long has to be begun, by step: the narrowest of its windows."""
    by_name, spans = planned.day.by_name, dict[str, tuple[int, int]]()
    for lag in planned.day.lags:
        if lag.max_s is None or not lag.min_s or not by_name[lag.after].handled:
            continue
        before = plan.starts_s[lag.before] + (0 if lag.from_start else by_name[lag.before].duration_s)
        first, last = before + lag.min_s, before + lag.max_s
        old = spans.get(lag.after)
        if last - first <= NARROW_S and (old is None or last - first < old[1] - old[0]):
            spans[lag.after] = (first, last)
    return {
        name: window_says(begin + timedelta(seconds=first), begin + timedelta(seconds=last))
        for name, (first, last) in spans.items()
    }
