"""The events of a bowl, folded one by one, as a witness: how it stood before and after each."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from functools import cached_property

from coating.heat.melting import CEILING_C
from coating.simulate.bowl import BowlContext, BowlState, Event
from coating.simulate.fold import carry_on, fold

HEATING = ("warmed", "cooled")
HARMS_C = 50.0  # what white is said to have stood above, where it was too hot
_STEP_S = 15.0


@dataclass(frozen=True)
class Moment:
    """An event, and the bowl just before and just after it."""

    event: Event
    before: BowlState
    after: BowlState


@dataclass(frozen=True)
class Spell:
    """A time above a warmth: from when, s, how long, s, and the warmest, degC."""

    from_s: float
    lasted_s: float
    peak_c: float


@dataclass(frozen=True)
class Log:
    """Moments in their order and the bowl as it is now."""

    moments: tuple[Moment, ...]
    now: BowlState

    @classmethod
    def of(cls, events: Sequence[Event], context: BowlContext, *, at_s: float) -> Log:
        """The events that count until `at_s`, s."""
        struck = {e.target_seq for e in events if e.kind == "struck" and e.at_s <= at_s}
        live = [e for e in events if e.at_s <= at_s and e.kind != "struck" and e.seq not in struck]
        state, moments = fold([], context, at_s=0.0), list[Moment]()
        for event in sorted(live, key=lambda e: (e.at_s, e.seq)):
            before = carry_on(state, at_s=event.at_s)
            state = carry_on(before, [event], at_s=event.at_s)
            moments.append(Moment(event, before, state))
        return cls(tuple(moments), carry_on(state, at_s=at_s))

    @property
    def is_hot(self) -> bool:
        """Whether it is above where it is harmed at this moment."""
        return not self.now.empty and self.now.temperature_c > HARMS_C + self.now.warmth.ceiling_c - CEILING_C

    @property
    def silent(self) -> bool:
        """Whether next to nothing was written down."""
        return len(self.moments) <= 1

    @property
    def was_read(self) -> bool:
        """Whether a warmth was ever said, not only bursts."""
        return any(m.event.kind in HEATING and m.event.to_c is not None for m in self.moments)

    @property
    def was_heated(self) -> bool:
        """Whether anything was ever said of its warmth."""
        return any(m.event.kind in HEATING for m in self.moments)

    def last(self, fits: Callable[[Event], bool]) -> Moment | None:
        """The last moment of a kind."""
        return next((m for m in reversed(self.moments) if fits(m.event)), None)

    @property
    def last_heated(self) -> Moment | None:
        """When it was last warmed or cooled, or looked at for lumps."""
        return self.last(lambda e: e.kind in HEATING or (e.kind == "tested" and e.test == "lumps"))

    def since(self, moment: Moment | None) -> list[Moment]:
        """The moments after one; all of them after none."""
        return list(self.moments[self.moments.index(moment) + 1 :]) if moment else list(self.moments)

    def stretches(self, since: Moment | None = None) -> Iterator[tuple[BowlState, float]]:
        """The times between events: the bowl at the beginning of each, and how long it was left alone, s."""
        chain = [*([since.after] if since else []), *(m.after for m in self.since(since))]
        ends = [m.event.at_s for m in self.since(since)] if since else [m.event.at_s for m in self.moments[1:]]
        for state, end in zip(chain, [*ends, self.now.at_s], strict=False):
            yield state, max(0.0, end - state.at_s)

    def seconds_above(self, warm_c: float, since: Moment | None = None) -> float:
        """How long it stood at a warmth (degC) or above, s."""
        over = 0.0
        for state, lasted in self.stretches(since):
            if not state.empty and state.temperature_c >= warm_c:
                over += min(lasted, state.cooling.time_to_s(state.temperature_c, warm_c))
        return over

    @cached_property
    def hot_spell(self) -> Spell | None:
        """The longest time it stood above where it is harmed."""
        spells = list[Spell]()
        for state, lasted in self.stretches():
            limit = HARMS_C + state.warmth.ceiling_c - CEILING_C
            if state.empty or state.temperature_c <= limit:
                continue
            over = min(lasted, state.cooling.time_to_s(state.temperature_c, limit))
            spells.append(Spell(state.at_s, over, state.temperature_c))
        return max(spells, key=lambda spell: spell.lasted_s, default=None)

    def curve(self, *, points: int = 120) -> list[tuple[float, float]]:
        """Moments, s, and how warm it was, degC, for a picture."""
        filled = [m for m in self.moments if not m.after.empty]
        if not filled:
            return []
        begin, end = filled[0].event.at_s, self.now.at_s
        step = max(_STEP_S, (end - begin) / points)
        line: list[tuple[float, float]] = []
        for state, lasted in self.stretches():
            if state.empty:
                continue
            before = next((m.before for m in self.moments if m.after is state), state)
            if not before.empty:
                line.append((state.at_s, before.temperature_c))
            count = max(1, int(lasted / step))
            for i in range(count + 1):
                after = lasted * i / count
                line.append((state.at_s + after, state.cooling.temperature_c(state.temperature_c, after)))
        return line
