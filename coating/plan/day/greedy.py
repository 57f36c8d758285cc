"""A good order at once, no solving: steps joined by a longest wait are placed together, the most urgent first.

Step by step a hand would break such waits: a block is shifted until all of them hold. Several orders are tried.
"""

from __future__ import annotations

import bisect
import math
from collections.abc import Mapping
from dataclasses import dataclass, field

import numpy as np

from coating.plan.day.job import HANDS, Day, DayStep, Lag
from coating.plan.day.plan import Melt, Plan

MOST_SHIFTS, MOST_MELTS, AGAIN, TRIES = 400, 12, 6, 12
FOREVER = 1 << 40
LIGHT = 0.4  # how much sooner white is taken than black, as a share of how much hangs on it
AT_ONCE, LONGER = 1_000_000, 20_000_000  # steps cubed times orders: what a page waits for, what a solver starts from


class Busy:
    """What of a resource is taken when; times in whole units."""

    def __init__(self, places: int) -> None:
        self.places = places
        self.taken: list[tuple[int, int, int]] = []  # begin, end, places; by begin

    def hold(self, begin: int, places: int) -> None:
        """Taken from then on: until when is not known yet."""
        bisect.insort(self.taken, (begin, FOREVER, places))

    def let_go(self, begin: int, end: int, places: int) -> None:
        """What was held from `begin` is free again from `end` on."""
        self.taken.remove((begin, FOREVER, places))
        self.take(begin, end, places)

    def copy(self) -> Busy:
        """The same, to be changed apart."""
        copy = Busy(self.places)
        copy.taken = self.taken.copy()
        return copy

    def take(self, begin: int, end: int, places: int) -> None:
        """Mark places as taken from a minute to another."""
        if end > begin:
            bisect.insort(self.taken, (begin, end, places))

    def free_from(self, at: int, long: int, places: int) -> int:
        """The first moment from `at` on from which so many places are free for so long."""
        if long <= 0:
            return at
        moved = True
        while moved:
            moved = False
            near = [t for t in self.taken if t[1] > at and t[0] < at + long]
            if self.places == 1:
                if near:
                    at, moved = max(t[1] for t in near[:1]), True
                continue
            for moment in sorted({at, *(t[0] for t in near if t[0] > at)}):
                used = sum(t[2] for t in near if t[0] <= moment < t[1])
                if used + places > self.places:
                    at = min(t[1] for t in near if t[0] <= moment < t[1] and t[1] > at)
                    moved = True
                    break
        return at


@dataclass
class DayInMaking:
    """A plan in the making: resources, bowls, starts, melts (when ready) by bowl, and who does what; in whole units."""

    busy: dict[str, Busy]
    bowls: dict[str, Busy]
    starts: dict[str, int] = field(default_factory=dict)
    ready: dict[str, list[int]] = field(default_factory=dict)
    by: dict[str, str] = field(default_factory=dict)
    again: set[tuple[str, int]] = field(default_factory=set)  # which of these were only warmed

    def copy(self) -> DayInMaking:
        """The same, to be changed apart."""
        return DayInMaking(
            {k: b.copy() for k, b in self.busy.items()},
            {k: b.copy() for k, b in self.bowls.items()},
            self.starts.copy(),
            {k: r.copy() for k, r in self.ready.items()},
            self.by.copy(),
            self.again.copy(),
        )


class Greedy:
    """Orders of one day, in units of its grain."""

    def __init__(self, day: Day, warm: Mapping[str, int] | None = None) -> None:
        """`warm`: when bowls that are in use were ready, s; before the day begins they are below nought."""
        g = day.grain_s
        self.warm = {name: int(ready) // g for name, ready in (warm or {}).items()}
        self.day, self.grain = day, g
        self.long = {s.name: -(-int(s.duration_s) // g) for s in day.steps}
        self.into: dict[str, list[Lag]] = {s.name: [] for s in day.steps}
        self.out: dict[str, list[Lag]] = {s.name: [] for s in day.steps}
        for lag in day.lags:
            self.into[lag.after].append(lag)
            self.out[lag.before].append(lag)
        self.begins = {s.name: [h for h in day.holds if h.steps[0] == s.name] for s in day.steps}
        self.last_of = {s.name: [h for h in day.holds if h.steps[-1] == s.name] for s in day.steps}
        self.blocks = self._blocks()
        self.block_of = {name: i for i, names in enumerate(self.blocks) for name in names}
        self.tail = self._tails()

    def least(self, lag: Lag) -> int:
        """How many grains must pass at least."""
        return -(-int(lag.min_s) // self.grain)

    def most(self, lag: Lag) -> int | None:
        """How many grains may pass at most, or None."""
        return None if lag.max_s is None else int(lag.max_s) // self.grain

    def _blocks(self) -> list[list[str]]:
        root = {s.name: s.name for s in self.day.steps}

        def find(name: str) -> str:
            while root[name] != name:
                name = root[name]
            return name

        for lag in self.day.lags:
            if lag.max_s is not None:
                root[find(lag.after)] = find(lag.before)
        blocks: dict[str, list[str]] = {}
        for step in self.day.steps:
            blocks.setdefault(find(step.name), []).append(step.name)
        return [self._in_order(names) for names in blocks.values()]

    def _in_order(self, names: list[str]) -> list[str]:
        left, done = list(names), list[str]()
        while left:
            ready = [n for n in left if all(la.before in done or la.before not in names for la in self.into[n])]
            if not ready:
                return names  # waits that go round in a circle: left to the solver
            done.append(ready[0])
            left.remove(ready[0])
        return done

    def _tails(self) -> dict[str, int]:
        """How much follows a step at least, itself included."""
        tails: dict[str, int] = {}

        def tail(name: str, above: frozenset[str]) -> int:
            if name in tails:
                return tails[name]
            if name in above:
                return 0
            longest = max((self.least(la) + tail(la.after, above | {name}) for la in self.out[name]), default=0)
            tails[name] = self.long[name] + longest
            return tails[name]

        for step in self.day.steps:
            tail(step.name, frozenset())
        return tails

    # -- one order -----------------------------------------------------------------------------------------------
    def run(self, draw: np.random.Generator | None, planned: Mapping[str, float] | None = None) -> DayInMaking | None:
        """One order; None where a block finds no place. `planned`: starts to keep the order of, what is joined
        together by its first step; else the most urgent first, or by the draw."""
        placed = self._nothing()
        left = set(range(len(self.blocks)))
        weight = {i: self._weight(names, draw, planned) for i, names in enumerate(self.blocks)}
        while left:
            ready = [
                i
                for i in left
                if all(
                    la.before in placed.starts or self.block_of[la.before] == i
                    for n in self.blocks[i]
                    for la in self.into[n]
                )
            ]
            ready.sort(key=lambda i: (-weight[i], i))
            for i in ready if self.day.holds else ready[:1]:  # what waits for a place to be let go is put off
                after = self._place(placed, self.blocks[i])
                if after is not None:
                    placed = after
                    left.remove(i)
                    break
            else:
                return None
        return placed

    def _nothing(self) -> DayInMaking:
        """A plan with nothing in it yet but the nights."""
        busy, bowls = {name: Busy(n) for name, n in self.day.resources.items()}, list(self.day.bowls)
        for begin, end in self.day.closed:
            for name in self.day.rests:
                busy[name].take(begin // self.grain, -(-end // self.grain), busy[name].places)
        ready = {name: [self.warm[name]] if name in self.warm else [] for name in bowls}
        return DayInMaking(busy, {name: Busy(1) for name in bowls}, {}, ready)

    def _weight(self, names: list[str], draw: np.random.Generator | None, planned: Mapping[str, float] | None) -> float:
        if planned is not None:
            return -min((planned[n] for n in names if n in planned), default=0.0)
        urgent = max(self.tail[n] for n in names)
        if draw is None:
            return urgent
        lightness = [self.day.bowls[b].lightness for n in names if (b := self.day.by_name[n].bowl) is not None]
        light = max((v for v in lightness if v is not None), default=0.0) / 100
        return urgent * (draw.uniform(0.6, 1.4) + LIGHT * light)

    def _place(self, placed: DayInMaking, names: list[str]) -> DayInMaking | None:
        at = 0
        for _ in range(MOST_SHIFTS):
            tried = placed.copy()
            late = self._try(tried, names, at)
            if late == 0:
                return tried
            if late is not None and late >= FOREVER:
                return None
            at += AGAIN if late is None else late
        return None

    def _try(self, placed: DayInMaking, names: list[str], at: int) -> int | None:
        """Place a block from a moment on; by how much it has to begin later, 0 where all is well."""
        first = True
        for name in names:
            begin = at if first else 0
            latest = math.inf
            for lag in self.into[name]:
                if lag.before not in placed.starts:
                    continue
                base = placed.starts[lag.before] + (0 if lag.from_start else self.long[lag.before])
                begin = max(begin, base + self.least(lag))
                most = self.most(lag)
                if most is not None:
                    latest = min(latest, base + most)
            begin = max(begin, at) if first else begin
            start = self._fit(placed, self.day.by_name[name], begin)
            if start is None or start >= FOREVER:
                return start
            if start > latest:
                return max(1, int(start - latest))
            placed.starts[name] = start
            first = False
        return 0

    def _fit(self, placed: DayInMaking, step: DayStep, begin: int) -> int | None:
        """The first moment that a step fits, and take it; a bowl is melted for it where none is warm. FOREVER: not
        before something else is let go."""
        long = self.long[step.name]
        at = self._free(placed, step, begin, long)
        if at >= FOREVER:
            return at
        if step.bowl is not None and not self._warm(placed, step.bowl, at, long):
            melted = self._melted_for(placed, step, at, long)
            if melted is None:
                return None
            at = melted
        for name, places in step.uses.items():
            placed.busy[name].take(at, at + long, places)
        if step.bowl is not None:
            placed.bowls[step.bowl].take(at, at + long, 1)
        if step.by:
            placed.by[step.name] = next(who for who in step.by if placed.busy[who].free_from(at, long, 1) == at)
            placed.busy[placed.by[step.name]].take(at, at + long, 1)
        for hold in self.begins[step.name]:
            placed.busy[hold.resource].hold(at, hold.places)
        for hold in self.last_of[step.name]:
            begun = at if hold.steps[0] == step.name else placed.starts[hold.steps[0]]
            placed.busy[hold.resource].let_go(begun, at + long, hold.places)
        return at

    def _melted_for(self, placed: DayInMaking, step: DayStep, at: int, long: int) -> int | None:
        """Melt its bowl as late as it helps; when the step begins then."""
        assert step.bowl is not None
        bowl, before = self.day.bowls[step.bowl], placed.ready[step.bowl]
        again = bool(before) and min(before) <= at and not self.day.closed
        heat, stir = (-(-long_s // self.grain) for long_s in bowl.takes_s(again=again))
        begin = max(0, min(before) if again else 0, at - heat - stir)
        for _ in range(MOST_MELTS):
            begin = self._free_to_melt(placed, step.bowl, begin, heat, stir)
            ready = begin + heat + stir
            later = self._free(placed, step, max(at, ready), long)
            if later + long <= ready + bowl.life_s // self.grain:
                placed.busy[bowl.heat_resource].take(begin, begin + heat, 1)
                placed.busy[HANDS].take(begin + heat, ready, 1)
                placed.bowls[step.bowl].take(begin, ready, 1)
                before.append(ready)
                if again:
                    placed.again.add((step.bowl, ready))
                return later
            begin = max(begin + 1, later - heat - stir)
        return None

    def _free(self, placed: DayInMaking, step: DayStep, at: int, long: int) -> int:
        while True:
            moved = at
            for name, places in step.uses.items():
                moved = placed.busy[name].free_from(moved, long, places)
            if step.bowl is not None:
                moved = placed.bowls[step.bowl].free_from(moved, long, 1)
            if step.by:
                moved = min(placed.busy[who].free_from(moved, long, 1) for who in step.by)
            for hold in self.begins[step.name]:
                moved = placed.busy[hold.resource].free_from(moved, FOREVER, hold.places)
            if moved == at or moved >= FOREVER:
                return moved
            at = moved

    def _warm(self, placed: DayInMaking, bowl: str, at: int, long: int) -> bool:
        life = self.day.bowls[bowl].life_s // self.grain
        return any(ready <= at and at + long <= ready + life for ready in placed.ready[bowl])

    def _free_to_melt(self, placed: DayInMaking, name: str, at: int, heat: int, stir: int) -> int:
        """The first moment from then on that a bowl can be melted."""
        oven, hands, bowl = placed.busy[self.day.bowls[name].heat_resource], placed.busy[HANDS], placed.bowls[name]
        while True:
            moved = oven.free_from(at, heat, 1)
            moved = hands.free_from(moved + heat, stir, 1) - heat
            moved = bowl.free_from(moved, heat + stir, 1)
            if moved == at:
                return at
            at = moved

    def ends(self, placed: DayInMaking) -> int:
        """When the last step is over, in grains."""
        return max(placed.starts[n] + self.long[n] for n in placed.starts)

    def worth(self, placed: DayInMaking) -> tuple[int, int]:
        """The less the better: when all is done; how many bowls are melted after a darker one."""
        first = {name: min(ready) for name, ready in placed.ready.items() if ready}
        after = sum(light in first and dark in first and first[dark] < first[light] for light, dark in self.day.shades)
        return self.ends(placed), after

    def plan(self, placed: DayInMaking) -> Plan:
        """In seconds, with the melts that are still to be made."""
        g, melts = self.grain, []
        for name, ready in placed.ready.items():
            bowl = self.day.bowls[name]
            for r in ready[1:] if name in self.warm else ready:
                again = (name, r) in placed.again
                off = sum(-(-long_s // g) for long_s in bowl.takes_s(again=again))
                melts.append(Melt(name, (r - off) * g, again))
        starts = {n: s * g for n, s in placed.starts.items()}
        melts.sort(key=lambda m: m.start_s)
        return Plan(starts, tuple(melts), self.ends(placed) * g, 0, False, placed.by)


def best_of(
    day: Day, *, work: float = AT_ONCE, seed: int = 1, warm: Mapping[str, int] | None = None
) -> tuple[Greedy, DayInMaking] | None:
    """The best of as many orders as the work allows; None where none was found. `warm` as for `Greedy`."""
    greedy, draw = Greedy(day, warm), np.random.default_rng(seed)
    best = greedy.run(None)
    for _ in range(int(min(TRIES + TRIES * len(day.steps), work / max(1, len(day.steps)) ** 3))):
        day_made = greedy.run(draw)
        if day_made is not None and (best is None or greedy.worth(day_made) < greedy.worth(best)):
            best = day_made
    return (greedy, best) if best is not None else None
