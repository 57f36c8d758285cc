"""A day to plan: steps, waits between them, what there is of hands and places, bowls that cool, nights between."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property

from coating.errors import Infeasible, MissingField, OutOfBounds, UnknownName
from coating.limits import check

HANDS = "hands"
MOST_STEPS, GRAIN_S = 400, 10
DARKER = 5.0  # L* by which a bowl has to be darker than another before the order of the two matters


@dataclass(frozen=True)
class DayStep:
    """A step: its name, how long, what it takes while it lasts (resource: places), the bowl it is done from, and who
    does it: `by` are resources any one of which will do, the one that is asked first at first."""

    name: str
    duration_s: int
    uses: Mapping[str, int] = field(default_factory=dict)
    bowl: str | None = None
    by: tuple[str, ...] = ()

    @property
    def handled(self) -> bool:
        """Whether somebody is at it."""
        return bool(self.by) or HANDS in self.uses


@dataclass(frozen=True)
class Lag:
    """`after` starts so long after `before` ended (or started): at least, and at most (None: as late as you like)."""

    before: str
    after: str
    min_s: int = 0
    max_s: int | None = None
    from_start: bool = False


@dataclass(frozen=True)
class DayBowl:
    """A melt of it takes heat_s on its heat_resource, then stir_s of hands; then it can be used for life_s. To warm it
    again the same day takes again_heat_s and again_stir_s, at most as long; None: as long as to melt it.
    `lightness`: CIELAB L* of its colour, None where that does not matter."""

    heat_s: int
    heat_resource: str
    stir_s: int
    life_s: int
    lightness: float | None = None
    again_heat_s: int | None = None
    again_stir_s: int | None = None

    def takes_s(self, *, again: bool = False) -> tuple[int, int]:
        """How long it is heated, and stirred, s."""
        if not again:
            return self.heat_s, self.stir_s
        heat_s, stir_s = self.again_heat_s, self.again_stir_s
        return self.heat_s if heat_s is None else heat_s, self.stir_s if stir_s is None else stir_s

    def off_s(self, *, again: bool = False) -> int:
        """How long that is together, s."""
        return sum(self.takes_s(again=again))


@dataclass(frozen=True)
class Hold:
    """Places of a resource that are taken from the start of the first of some steps to the end of the last."""

    resource: str
    steps: tuple[str, ...]
    places: int = 1


@dataclass(frozen=True)
class Day:
    """All of a day; times in s. `resources`: how many places there are of each. `closed`: begins and ends of nights,
    when nobody is at work and nothing is heated; what waits goes on waiting."""

    steps: tuple[DayStep, ...]
    lags: tuple[Lag, ...]
    resources: Mapping[str, int]
    bowls: Mapping[str, DayBowl] = field(default_factory=dict)
    deadline_s: int | None = None
    holds: tuple[Hold, ...] = ()
    closed: tuple[tuple[int, int], ...] = ()

    def __post_init__(self) -> None:
        if not 1 <= len(self.steps) <= MOST_STEPS:
            raise OutOfBounds(f"A day can have between 1 and {MOST_STEPS} steps.", field="steps", high=MOST_STEPS)
        names = [s.name for s in self.steps]
        twice = {n for n in names if names.count(n) > 1}
        if twice:
            raise OutOfBounds(f"Two steps are called {min(twice)!r}.", field="steps")
        for step in self.steps:
            self._known(step)
        for lag in self.lags:
            for name in (lag.before, lag.after):
                if name not in self.by_name:
                    raise UnknownName(f"A wait names {name[:60]!r}, which is no step.", field="lags")
            if lag.max_s is not None and lag.max_s < lag.min_s:
                ends = [lag.before, lag.after]
                raise Infeasible(f"Between {lag.before} and {lag.after} at most is less than at least.", steps=ends)
        for hold in self.holds:
            self._held(hold)
        if any(end <= begin for begin, end in self.closed):
            raise OutOfBounds("A night ends after it begins.", field="closed")

    def _held(self, hold: Hold) -> None:
        if not hold.steps or any(name not in self.by_name for name in hold.steps):
            raise UnknownName(f"What holds {hold.resource!r} names a step that is none.", field="holds")
        if hold.resource not in self.resources:
            raise UnknownName(f"{hold.steps[0]} holds {hold.resource!r}, and there is none.", field="resources")
        if hold.places > self.resources[hold.resource]:
            there = self.resources[hold.resource]
            raise Infeasible(
                f"{hold.steps[0]} holds {hold.places} of {hold.resource}, and there are {there}.",
                steps=list(hold.steps),
            )

    def _known(self, step: DayStep) -> None:
        check("duration_s", step.duration_s)
        for name in step.by:
            if not self.resources.get(name):
                raise UnknownName(f"{step.name} is done by {name!r}, and there is none.", field="resources")
        for name, places in step.uses.items():
            if name not in self.resources:
                raise UnknownName(f"{step.name} takes {name!r}, and there is none.", field="resources")
            if places > self.resources[name]:
                raise Infeasible(
                    f"{step.name} takes {places} of {name}, and there are {self.resources[name]}.", steps=[step.name]
                )
        if step.bowl is None:
            return
        if step.bowl not in self.bowls:
            raise UnknownName(f"{step.name} is done from {step.bowl!r}, and there is no such bowl.", field="bowls")
        bowl = self.bowls[step.bowl]
        for needed in (bowl.heat_resource, HANDS):
            if not self.resources.get(needed):
                raise MissingField(f"To melt {step.bowl} there has to be {needed}.", field="resources")
        if step.duration_s > bowl.life_s:
            raise Infeasible(f"{step.name} takes longer than {step.bowl} stays warm.", steps=[step.name])

    @cached_property
    def by_name(self) -> dict[str, DayStep]:
        """Each step under its name."""
        return {s.name: s for s in self.steps}

    @cached_property
    def rests(self) -> frozenset[str]:
        """What rests at night: hands, whoever else does a step, and what heats."""
        heats = {b.heat_resource for b in self.bowls.values()}
        return frozenset({HANDS, *heats, *(name for s in self.steps for name in s.by)} & set(self.resources))

    @cached_property
    def shades(self) -> tuple[tuple[str, str], ...]:
        """Pairs of bowls, the lighter one first, that are told apart by the eye."""
        known = [(name, b.lightness) for name, b in self.bowls.items() if b.lightness is not None]
        return tuple((a, b) for a, la in known for b, lb in known if la >= lb + DARKER)

    @cached_property
    def grain_s(self) -> int:
        """The longest unit that loses nothing of any duration, 10 s at most."""
        seconds = [s.duration_s for s in self.steps]
        seconds += [v for b in self.bowls.values() for again in (False, True) for v in b.takes_s(again=again)]
        seconds += [lag.min_s for lag in self.lags] + [moment for night in self.closed for moment in night]
        return math.gcd(GRAIN_S, *[int(v) for v in seconds]) if seconds else GRAIN_S

    def only(self, names: Sequence[str]) -> Day:
        """The same with some of its steps, and the waits between these."""
        kept = set(names)
        lags = tuple(la for la in self.lags if la.before in kept and la.after in kept)
        holds = tuple(h for h in self.holds if kept.issuperset(h.steps))
        return replace(self, steps=tuple(s for s in self.steps if s.name in kept), lags=lags, holds=holds)
