"""Steps with their windows become steps of a day: what waits in the cold takes a place there, what takes longer than
its bowl stays warm is done in parts."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from coating.errors import OutOfBounds
from coating.plan.day.job import HANDS, DayBowl, DayStep, Lag
from coating.plan.steps import Step

SHORTEST_S, AT_ONCE_S, TO_THE_COLD_S = 10, 30, 60
WARM_AGAIN_S = 120  # from a bowl, at once is when that is ready
OF_A_LIFE = 0.8  # no part of a step takes more of how long its bowl stays warm


@dataclass(frozen=True)
class Chain:
    """What is done to one layer, in order: steps of the day, their waits, and their words by name."""

    steps: tuple[DayStep, ...]
    lags: tuple[Lag, ...]
    says: Mapping[str, str]

    @property
    def last(self) -> str:
        return self.steps[-1].name


def chain(
    name: str, steps: Sequence[Step], *, bowl: str | None = None, bowls: Mapping[str, DayBowl] | None = None,
    of: Mapping[str, str] | None = None, after: Sequence[str] = (), places: Mapping[str, int] | None = None,
) -> Chain:  # fmt: skip
    """One after the other.

    Parameters
    ----------
    name : begins the names of its steps. steps : with their windows. bowl : what it is done from until the first wait.
    bowls : how bowls cool, by name. of : bowls of further colours, by what the steps call these. after : steps that
    have to be done before the first. places : how many there are to wait in, where they are few; any other wait takes
    none.

    Raises
    ------
    OutOfBounds : no step.
    """
    if not steps:
        raise OutOfBounds("There is nothing to do for it.", field="steps")
    made: list[DayStep] = []
    lags: list[Lag] = []
    says: dict[str, str] = {}
    before, waited = tuple(after), False
    for i, step in enumerate(steps):
        from_s, until_s = round(step.from_min * 60), None if step.until_min is None else round(step.until_min * 60)
        waited = waited or step.waits
        poured = step.warm if step.warm is not None else step.of is not None or not waited
        source = None if not poured else bowl if step.of is None else (of or {}).get(step.of, bowl)
        if before and step.waits and (places or {}).get(step.place):
            cold = f"{name}.{i}.cold"
            made.append(DayStep(cold, _tens(from_s), {step.place: 1}))
            says[cold] = f"In the {step.place}"
            lags += [Lag(one, cold, 0, TO_THE_COLD_S) for one in before]
            before, until_s, from_s = (cold,), None if until_s is None else max(0, until_s - from_s), 0
        for k, (part, seconds) in enumerate(_parts(f"{name}.{i}", step, (bowls or {}).get(source or ""))):
            made.append(DayStep(part, seconds, {HANDS: 1} if step.hands_s else {}, source))
            says[part] = step.says if k == 0 else f"Go on: {step.says[0].lower()}{step.says[1:]}"
            if before:
                least = from_s if k == 0 else 0
                soon = WARM_AGAIN_S if source is not None else AT_ONCE_S
                most = None if k or until_s is None else until_s if step.waits else max(until_s, soon)
                most = most if most is None else max(most, least + 10)
                lags += [Lag(one, part, _tens(least) if least else 0, most) for one in before]
            before = (part,)
    return Chain(tuple(made), tuple(lags), says)


def _tens(seconds: float) -> int:
    return 10 * math.ceil(seconds / 10)


def _parts(name: str, step: Step, warm: DayBowl | None) -> list[tuple[str, int]]:
    """A step in as many parts as its bowl takes."""
    seconds = max(SHORTEST_S, _tens(step.hands_s))
    if warm is None or seconds <= OF_A_LIFE * warm.life_s:
        return [(name, seconds)]
    count = math.ceil(seconds / (OF_A_LIFE * warm.life_s))
    return [(f"{name}.{k}", _tens(seconds / count)) for k in range(count)]
