"""A day as a ribbon that runs down the page: warm bowls wound round it, a knot a step, what waits beside it."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

from coating.plan.day.job import Day
from coating.plan.day.plan import Plan

WIDE, ROW = 120.0, 100.0
_CENTRE, _SWAY, _PERIOD = 84.0, 3.5, 1.1  # of the ribbon: where it runs, how far it sways, radians a row
_NEAREST, _FARTHEST = 21.0, 32.0  # how far strands swing out of it
_LANES = (52.0, 6.0)  # of threads: the innermost, and as far out as they may be
_BETWEEN = 11.0
_SHORTEST_S = 60  # a wait that is drawn
_END = 0.82  # where the ribbon begins and ends in the first and last row, of the row


@dataclass(frozen=True)
class RibbonStep:
    """What a knot is for: a step by its name, or the melt of a bowl."""

    name: str
    bowl: str | None = None
    melt: bool = False


@dataclass(frozen=True)
class RibbonWait:
    """What waits after a step until another (None: until the end): from when, until when at least, s, and where; `by`
    is the step of the day that stands for it, "" where none does."""

    before: str
    after: str | None
    from_s: int
    ready_s: int
    place: str = ""
    by: str = ""


@dataclass(frozen=True)
class Strand:
    """A warm bowl within a row: what runs behind the ribbon and what runs before it, as paths, and its slot."""

    bowl: str
    slot: int
    behind: str
    before: str


@dataclass(frozen=True)
class RibbonRow:
    """One step, drawn in a box of WIDE x ROW that may be stretched upright, as paths; the knot's is a point."""

    ribbon: str
    strands: tuple[Strand, ...]
    threads: tuple[str, ...]
    knot: str

    @property
    def behind(self) -> str:
        """All that runs behind the ribbon."""
        return "".join(s.behind for s in self.strands)

    @property
    def before(self) -> str:
        """All that runs before it."""
        return "".join(s.before for s in self.strands)


def waits_of(day: Day, plan: Plan) -> list[RibbonWait]:
    """What waits on a planned day, in the order in which it begins to.

    Parameters
    ----------
    day, plan : what is done, and when.

    Returns
    -------
    list of RibbonWait
        One for every step that only stands somewhere, and one for every wait between two steps of hands that lasts a
        minute or longer. Of several waits between the same two steps the longest.
    """
    ends = {s.name: plan.starts_s[s.name] + s.duration_s for s in day.steps}
    before: dict[str, list[str]] = {}
    after: dict[str, list[str]] = {}
    for lag in day.lags:
        before.setdefault(lag.after, []).append(lag.before)
        after.setdefault(lag.before, []).append(lag.after)
    waits = [
        RibbonWait(lag.before, lag.after, began[lag.before], began[lag.before] + lag.min_s)
        for lag in day.lags
        for began in [plan.starts_s if lag.from_start else ends]
        if lag.min_s >= _SHORTEST_S and day.by_name[lag.before].handled and day.by_name[lag.after].handled
    ]
    for step in (s for s in day.steps if not s.handled):
        place = next(iter(step.uses), "")
        until: list[str | None] = [*after.get(step.name, ())]
        for first in before.get(step.name, ()):
            for last in until or [None]:
                waits.append(RibbonWait(first, last, plan.starts_s[step.name], ends[step.name], place, step.name))
    longest: dict[tuple[str, str | None], RibbonWait] = {}
    for wait in sorted(waits, key=lambda w: (w.ready_s, bool(w.place))):
        longest[wait.before, wait.after] = wait
    return sorted(longest.values(), key=lambda w: (w.from_s, w.ready_s))


def ribbon_of(steps: Sequence[RibbonStep], waits: Sequence[RibbonWait]) -> list[RibbonRow]:
    """The ribbon of a day, row by row: each ends where the next begins.

    Parameters
    ----------
    steps : in the order in which they are done.
    waits : what waits between them; those of steps that are not among `steps` are left out.

    Returns
    -------
    list of RibbonRow
        As many as there are steps. A bowl is wound round the ribbon from its melt to its last use before it is warmed
        again. A thread leaves the knot after which something waits and comes back at the first one that needs it; a
        wait within another's lies further in. What nothing needs any more has no thread.
    """
    rows = {step.name: i for i, step in enumerate(steps) if not step.melt}
    strands = _strands(steps)
    slots = _slots([(first, last) for _, first, last in strands])
    back: dict[int, int] = {}  # where a thread comes back, by where it leaves
    for wait in waits:
        if wait.before in rows and wait.after in rows and rows[wait.before] < rows[wait.after]:
            first, last = rows[wait.before], rows[wait.after]
            back[first] = min(last, back.get(first, last))
    spans = sorted(back.items(), key=lambda span: (span[1] - span[0], span))
    lanes = _slots(spans)
    lane_x = _lane_places(max(lanes, default=-1) + 1)
    most = max(slots, default=0)
    made = []
    for i in range(len(steps)):
        made.append(
            RibbonRow(
                _ribbon(i, first=i == 0, last=i == len(steps) - 1),
                tuple(
                    _strand(bowl, slot, most, i, first, last)
                    for (bowl, first, last), slot in zip(strands, slots, strict=True)
                    if first <= i <= last
                ),
                tuple(_thread(lane_x[lane], i, span) for span, lane in zip(spans, lanes, strict=True) if _in(i, span)),
                f"M{_centre(i + 0.5):.2f} {ROW / 2:.0f}h0",
            )
        )
    return made


def _in(row: int, span: tuple[int, int]) -> bool:
    return span[0] <= row <= span[1]


def _strands(steps: Sequence[RibbonStep]) -> list[tuple[str, int, int]]:
    """Of each bowl the rows in which it is warm: from a melt to the last step from it before the next one."""
    begun: dict[str, int] = {}
    used: dict[str, int] = {}
    strands = []
    for i, step in enumerate(steps):
        if step.bowl is None:
            continue
        if step.melt and step.bowl in used:
            strands.append((step.bowl, begun[step.bowl], used.pop(step.bowl)))
        if step.melt or step.bowl not in used:
            begun[step.bowl] = i
        used[step.bowl] = i
    strands += [(bowl, begun[bowl], last) for bowl, last in used.items()]
    return sorted((s for s in strands if s[1] < s[2]), key=lambda s: s[1])


def _slots(spans: Sequence[tuple[int, int]]) -> list[int]:
    """For each span the first slot in which none of those before it is at the same time; ends may touch."""
    taken: list[list[tuple[int, int]]] = []
    slots = []
    for first, last in spans:
        slot = next((k for k, s in enumerate(taken) if all(b <= first or last <= a for a, b in s)), len(taken))
        if slot == len(taken):
            taken.append([])
        taken[slot].append((first, last))
        slots.append(slot)
    return slots


def _lane_places(count: int) -> list[float]:
    """Where threads run, from the ribbon outwards."""
    near, far = _LANES
    between = min(_BETWEEN, (near - far) / max(1, count - 1))
    return [near - between * k for k in range(count)]


def _centre(t: float) -> float:
    return _CENTRE + _SWAY * math.sin(_PERIOD * t)


def _slope(t: float) -> float:
    return _SWAY * _PERIOD * math.cos(_PERIOD * t)


def _cubic(x0: float, dx0: float, x1: float, dx1: float, y0: float, y1: float) -> str:
    """A piece of a curve with these slopes, x a row, as a path that goes on from where it is."""
    h = (y1 - y0) / ROW / 3
    third = (y1 - y0) / 3
    return f"C{x0 + dx0 * h:.2f} {y0 + third:.2f} {x1 - dx1 * h:.2f} {y1 - third:.2f} {x1:.2f} {y1:.2f}"


def _ribbon(i: int, *, first: bool, last: bool) -> str:
    """The ribbon itself in a row."""
    t0 = i + (1 - _END if first else 0.0)
    t2 = i + (_END if last else 1.0)
    at = [t0, i + 0.5, t2]
    path = f"M{_centre(t0):.2f} {(t0 - i) * ROW:.2f}"
    for a, b in pairwise(at):
        path += _cubic(_centre(a), _slope(a), _centre(b), _slope(b), (a - i) * ROW, (b - i) * ROW)
    return path


def _strand(bowl: str, slot: int, most: int, row: int, first: int, last: int) -> Strand:
    """A bowl winds round the ribbon: through every knot, out on one side and back on the other side of the cloth."""
    far = _NEAREST + (_FARTHEST - _NEAREST) * (slot // 2 * 2) / max(2, most)
    side = 1.0 if (row + slot) % 2 else -1.0

    def half(t0: float, t1: float, s0: float, s1: float) -> str:
        """From knot to border or back; it leaves the knot slantwise and turns at the border."""
        x0, x1 = _centre(t0) + s0, _centre(t1) + s1
        dx0 = _slope(t0) + (math.pi * s1 if s0 == 0 else 0.0)
        dx1 = _slope(t1) - (math.pi * s0 if s1 == 0 else 0.0)
        y0, y1 = (t0 - row) * ROW, (t1 - row) * ROW
        return f"M{x0:.2f} {y0:.2f}{_cubic(x0, dx0, x1, dx1, y0, y1)}"

    into = half(row, row + 0.5, -side * far, 0.0) if row > first else ""
    out = half(row + 0.5, row + 1, 0.0, side * far) if row < last else ""
    return Strand(bowl, slot, into if slot % 2 == 0 else out, out if slot % 2 == 0 else into)


def _thread(x: float, row: int, span: tuple[int, int]) -> str:
    """A thread leaves the knot of its first row, runs down, and comes back at its last."""
    knot, half = _centre(row + 0.5), ROW / 2
    if row == span[0]:
        return f"M{knot:.2f} {half:.0f}C{x + 4:.2f} {half:.0f} {x:.2f} {half + 12:.0f} {x:.2f} {ROW:.0f}"
    if row == span[1]:
        return f"M{x:.2f} 0C{x:.2f} {half - 12:.0f} {x + 4:.2f} {half:.0f} {knot:.2f} {half:.0f}"
    return f"M{x:.2f} 0V{ROW:.0f}"
