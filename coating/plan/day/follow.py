"""A plan that is followed: the same order on hands, heat, bowls and places, everything as early as its waits let it.

Once an order is chosen, what is left are differences between starts, see `network`. A bowl that would be cold is melted
once more; what would run into a night goes on after it.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field, replace

from coating.plan.day.job import HANDS, Day, DayBowl
from coating.plan.day.network import ORIGIN, Arc, Stuck, earliest
from coating.plan.day.plan import Melt, Plan

MOST_REPAIRS = 60
_MELT = "\0"  # begins the names of melts, which no step has
AFTER, WINDOW, LIFE, ORDER, NIGHT = "after", "window", "life", "order", "night"


@dataclass(frozen=True)
class Followed:
    """A plan, and for each start the rule that it cannot be earlier for."""

    plan: Plan
    tight: Mapping[str, Arc]


@dataclass
class _Taken:
    """Places of a resource: from when in which order, from one node's start on until after another's."""

    at: float
    until: float
    first: str
    begins: int
    last: str
    ends: int
    places: int


@dataclass
class _Order:
    """What an order is made of: when each step is to begin, melts by name, who does what; keys are only compared."""

    key: dict[str, float]
    melts: dict[str, tuple[str, float]]
    by: Mapping[str, str]
    bound: dict[str, str] = field(default_factory=dict)  # which melt a step is done from; "" one from before
    melted_for: set[str] = field(default_factory=set)

    def melt_before(self, step: str, at: float, name: str, bowl: DayBowl) -> str:
        melt = f"{_MELT}+{step}"
        self.melts[melt] = (name, at - bowl.off_s())
        return melt

    def once_more(self, day: Day, warm: Mapping[str, int]) -> set[str]:
        """Melts of bowls that were melted before, the same day: they are only warmed."""
        if day.closed:
            return set()
        first: dict[str, str] = {}
        for melt, (name, key) in self.melts.items():
            if name not in first or (key, melt) < (self.melts[first[name]][1], first[name]):
                first[name] = melt
        return {melt for melt, (name, _) in self.melts.items() if name in warm or first[name] != melt}

    def melt_again(self, step: str, day: Day) -> None:
        """Once more, right before a step."""
        name = day.by_name[step].bowl or ""
        self.melted_for.add(step)
        self.melt_before(step, self.key[step], name, day.bowls[name])

    def put_off(self, one: str, day: Day) -> None:
        """It and all that comes after it begin after the night that it ran into."""
        at = self.melts[one][1] if one in self.melts else self.key[one]
        night = next((n for n in day.closed if sum(n) / 2 > at), None)
        if night is None:
            return
        keys = [*self.key.values(), *(key for _, key in self.melts.values())]
        last = max(key for key in keys if key < sum(night) / 2)

        def later(key: float) -> float:
            """What is put off begins the next day; that day's own comes after it."""
            if key < at:
                return key
            return night[1] + key - at if key <= last else key + last - at

        self.key = {name: later(key) for name, key in self.key.items()}
        self.melts = {melt: (of, later(key)) for melt, (of, key) in self.melts.items()}


def follow(
    day: Day,
    keys_s: Mapping[str, float],
    melts: Iterable[Melt],
    *,
    by: Mapping[str, str] | None = None,
    warm: Mapping[str, int] | None = None,
    not_before: Mapping[str, int] | None = None,
) -> Plan | Stuck:
    """The earliest plan in an order.

    Parameters
    ----------
    day : what is done. keys_s : when each step is to begin; only the order of them counts. melts : of its bowls, by
    the same clock; more are put in where a bowl would be cold. by : who does what more than one may do. warm : when
    bowls that are in use were ready, below nought. not_before : the first moment of some steps, s.
    """
    outcome = followed(day, keys_s, melts, by=by, warm=warm, not_before=not_before)
    return outcome if isinstance(outcome, Stuck) else outcome.plan


def tightened(day: Day, plan: Plan) -> Plan:
    """The same order, everything as early as it can be: what was found in a hurry is seldom that."""
    if plan.optimal:
        return plan
    tighter = follow(day, plan.starts_s, plan.melts, by=plan.by)
    if isinstance(tighter, Stuck) or (tighter.makespan_s, len(tighter.melts)) >= (plan.makespan_s, len(plan.melts)):
        return plan
    return replace(tighter, bound_s=plan.bound_s, optimal=tighter.makespan_s <= plan.bound_s)


def followed(
    day: Day,
    keys_s: Mapping[str, float],
    melts: Iterable[Melt],
    *,
    by: Mapping[str, str] | None = None,
    warm: Mapping[str, int] | None = None,
    not_before: Mapping[str, int] | None = None,
) -> Followed | Stuck:
    """The same, with what holds each step back."""
    names = {f"{_MELT}{i}": (m.bowl, float(m.start_s)) for i, m in enumerate(melts)}
    order = _Order({s.name: float(keys_s[s.name]) for s in day.steps}, names, by or {})
    for _ in range(MOST_REPAIRS + len(day.steps)):
        _bind(day, order, warm or {})
        again = order.once_more(day, warm or {})
        arcs = _arcs(day, order, not_before or {}, again)
        starts = earliest([*order.key, *order.melts], arcs)
        if isinstance(starts, Stuck):
            if not _mended(day, order, starts, arcs):
                return starts
            continue
        cold = _cold(day, order, starts, warm or {})
        if cold is None:
            tight = {arc.to: arc for arc in arcs if starts[arc.from_] + arc.seconds == starts[arc.to] > 0}
            return Followed(_plan(day, order, starts, arcs, again), tight)
        order.melt_again(cold, day)
    return Stuck(())


def _arcs(day: Day, order: _Order, not_before: Mapping[str, int], again: set[str]) -> list[Arc]:
    arcs = [Arc(ORIGIN, name, max(0, seconds), ORDER, name) for name, seconds in not_before.items()]
    for lag in day.lags:
        base = 0 if lag.from_start else day.by_name[lag.before].duration_s
        arcs.append(Arc(lag.before, lag.after, base + lag.min_s, AFTER, lag.before))
        if lag.max_s is not None:
            arcs.append(Arc(lag.after, lag.before, -base - lag.max_s, WINDOW, lag.after))
    taken: dict[str, list[_Taken]] = {name: [] for name in day.resources}
    bowls: dict[str, list[_Taken]] = {name: [] for name in day.bowls}
    for step in day.steps:
        at, long = order.key[step.name], step.duration_s
        uses = {**step.uses, **({_whoever(step.by, order.by.get(step.name)): 1} if step.by else {})}
        for name, places in uses.items():
            taken[name].append(_Taken(at, at + long, step.name, 0, step.name, long, places))
        if step.bowl is not None:
            bowls[step.bowl].append(_Taken(at, at + long, step.name, 0, step.name, long, 1))
    for melt, (name, at) in order.melts.items():
        bowl = day.bowls[name]
        hot, ready = bowl.takes_s(again=melt in again)[0], bowl.off_s(again=melt in again)
        taken[bowl.heat_resource].append(_Taken(at, at + hot, melt, 0, melt, hot, 1))
        taken[HANDS].append(_Taken(at + hot, at + ready, melt, hot, melt, ready, 1))
        bowls[name].append(_Taken(at, at + ready, melt, 0, melt, ready, 1))
    for hold in day.holds:
        first, last = hold.steps[0], hold.steps[-1]
        long = day.by_name[last].duration_s
        until = order.key[last] + long
        taken[hold.resource].append(_Taken(order.key[first], until, first, 0, last, long, hold.places))
    for name, used in taken.items():
        arcs += _in_turn(used, day.resources[name])
        if name in day.rests:
            arcs += _nights(day, used)
    for used in bowls.values():
        arcs += _in_turn(used, 1)
    return arcs + _bound(day, order, again)


def _whoever(by: tuple[str, ...], who: str | None) -> str:
    return who if who in by else by[0]


def _in_turn(used: list[_Taken], places: int) -> list[Arc]:
    """Each takes places that were let go last before it; what comes before it on them ends first."""
    arcs: list[Arc] = []
    free: list[_Taken | None] = [None] * places
    for one in sorted(used, key=lambda t: (t.at, t.until)):
        ends = [(-1e18 if t is None else t.until, i) for i, t in enumerate(free)]
        there = sorted((e for e in ends if e[0] <= one.at), reverse=True)
        for _, i in [*there, *sorted(e for e in ends if e[0] > one.at)][: one.places]:
            before, free[i] = free[i], one
            if before is not None and before.last != one.first:
                arcs.append(Arc(before.last, one.first, before.ends - one.begins, ORDER, before.last))
    return arcs


def _nights(day: Day, used: list[_Taken]) -> list[Arc]:
    """What begins before the middle of a night ends before it; the rest begins after it."""
    arcs = []
    for begin, end in day.closed:
        for one in used:
            if one.at < (begin + end) / 2:
                arcs.append(Arc(one.last, ORIGIN, one.ends - begin, NIGHT, one.first))
            else:
                arcs.append(Arc(ORIGIN, one.first, end - one.begins, ORDER, one.first))
    return arcs


def _bound(day: Day, order: _Order, again: set[str]) -> list[Arc]:
    """Each step of a bowl is done from its melt, while that is warm."""
    arcs = []
    for name, melt in order.bound.items():
        if melt:
            bowl = day.bowls[order.melts[melt][0]]
            ready, long = bowl.off_s(again=melt in again), day.by_name[name].duration_s
            arcs.append(Arc(melt, name, ready, AFTER, melt))
            arcs.append(Arc(name, melt, long - bowl.life_s - ready, LIFE, name))
    return arcs


def _bind(day: Day, order: _Order, warm: Mapping[str, int]) -> None:
    """Each step of a bowl to the melt before it; one more where there is none, and none that nothing is done from."""
    order.bound, again = {}, order.once_more(day, warm)
    for name, bowl in day.bowls.items():
        steps = [(order.key[s.name], 1, s.name) for s in day.steps if s.bowl == name]
        melts = [
            (at + bowl.off_s(again=melt in again), 0, melt) for melt, (of, at) in order.melts.items() if of == name
        ]
        now = "" if name in warm else None
        for key, is_step, one in sorted(steps + melts):
            if not is_step:
                now = one
                continue
            if now is None:
                now = order.melt_before(one, key, name, bowl)
            order.bound[one] = now
    used = set(order.bound.values())
    order.melts = {melt: melt_starts for melt, melt_starts in order.melts.items() if melt in used}


def _mended(day: Day, order: _Order, stuck: Stuck, arcs: list[Arc]) -> bool:
    """Melt once more where a bowl would be cold; go on the next day where a night is in the way."""
    for arc in stuck.arcs:
        if arc.why == LIFE:
            cold = _first_cold(order, arc.to, arcs)
            if cold not in order.melted_for:
                order.melt_again(cold, day)
                return True
    for arc in stuck.arcs:
        if arc.why == NIGHT:
            order.put_off(arc.of, day)
            return True
    return False


def _first_cold(order: _Order, melt: str, arcs: list[Arc]) -> str:
    """The first of the steps of a melt that it does not stay warm for."""
    steps = sorted((name for name, of in order.bound.items() if of == melt), key=lambda n: order.key[n])
    for i, name in enumerate(steps[:-1], 1):
        rest = set(steps[i:])
        apart = [arc for arc in arcs if arc.why != LIFE or arc.of not in rest]
        if isinstance(earliest([*order.key, *order.melts], apart), Stuck):
            return name
    return steps[-1]


def _cold(day: Day, order: _Order, start: Mapping[str, int], warm: Mapping[str, int]) -> str | None:
    """The first step that would be done from a bowl of before that is cold by then."""
    late = [
        name
        for name, melt in order.bound.items()
        if not melt
        and start[name] + day.by_name[name].duration_s
        > warm[day.by_name[name].bowl or ""] + day.bowls[day.by_name[name].bowl or ""].life_s
    ]
    return min(late, key=lambda n: order.key[n]) if late else None


def _plan(day: Day, order: _Order, start: dict[str, int], arcs: list[Arc], again: set[str]) -> Plan:
    """Melts as late as they can be: what is melted cools."""
    onto: dict[str, list[Arc]] = {melt: [] for melt in order.melts}
    for arc in arcs:
        if arc.from_ in onto:
            onto[arc.from_].append(arc)
    for melt in sorted(order.melts, key=lambda m: -start[m]):
        start[melt] = max(start[melt], min(start[arc.to] - arc.seconds for arc in onto[melt]))
    melts = sorted(
        (Melt(of, start[melt], melt in again) for melt, (of, _) in order.melts.items()), key=lambda m: m.start_s
    )
    makespan = max(start[s.name] + s.duration_s for s in day.steps)
    by = {s.name: _whoever(s.by, order.by.get(s.name)) for s in day.steps if s.by}
    return Plan({s.name: start[s.name] for s in day.steps}, tuple(melts), makespan, 0, False, by)
