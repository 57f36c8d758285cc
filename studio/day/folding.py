"""What the events of a day come to."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from datetime import datetime, timedelta
from types import MappingProxyType

from studio.day.models import DayEvent, part_of

MELT = "melt:"
LONGER_MIN = 5


@dataclass(frozen=True)
class MadePieces:
    """So many of a piece are made, spares among them, in so many layers."""

    made: int
    spares: int
    layers: frozenset[str]


@dataclass
class Happened:
    """When steps were done, bowls last melted, and how often; how many pieces of a step are; what troubles it. `broke`:
    how many of a piece broke, by the layer that was tapped; `more`: how many of a layer are made once more for that.

    `longer`: until when it needs longer. `order`: what was tapped and still holds, for taking the last one back.
    `troubles`: how often something was wrong.
    """

    done: dict[str, datetime] = field(default_factory=dict)
    melted: dict[str, datetime] = field(default_factory=dict)
    melts: dict[str, int] = field(default_factory=dict)
    ones: dict[str, int] = field(default_factory=dict)
    order: list[str] = field(default_factory=list)
    broke: dict[str, int] = field(default_factory=dict)
    more: dict[str, int] = field(default_factory=dict)
    longer: datetime | None = None
    troubles: int = 0


def fold(
    events: Iterable[DayEvent], counts: Mapping[str, int], parts: Mapping[str, MadePieces] = MappingProxyType({})
) -> Happened:
    """The events in their order. `counts`: how many pieces a step is for; the last one of them ends it. `parts`: of
    which layers there are spares."""
    happened = Happened()
    for event in events:
        step, at = event.step, event.happened_at
        if event.kind == "done":
            _done(happened, step, at)
            happened.order.append(step)
        elif event.kind == "one" and step not in happened.done:
            happened.ones[step] = happened.ones.get(step, 0) + 1
            if happened.ones[step] >= counts.get(step, 1):
                _done(happened, step, at)
            happened.order.append(step)
        elif event.kind == "undone":
            _undone(happened, step, counts)
        elif event.kind == "longer":
            happened.longer = at + timedelta(minutes=LONGER_MIN)
        elif event.kind == "mended":
            happened.longer = at + timedelta(minutes=event.minutes)
            happened.troubles += 1
        elif event.kind == "wrong":  # as it was said before there was a page for it
            happened.troubles += 1
        elif event.kind == "anew":
            happened = Happened()
        elif event.kind == "again":
            _again(happened, part_of(step))
        elif event.kind == "broke" and part_of(step) in parts:
            _broke(happened, part_of(step), parts[part_of(step)])
    return happened


def _done(happened: Happened, step: str, at: datetime) -> None:
    if step.startswith(MELT):
        bowl = step.removeprefix(MELT)
        happened.melted[bowl], happened.melts[bowl] = at, happened.melts.get(bowl, 0) + 1
    else:
        happened.done[step] = at
    happened.longer = None


def _again(happened: Happened, part: str) -> None:
    """A layer is made once more, from its first step on."""
    happened.done = {name: at for name, at in happened.done.items() if part_of(name) != part}
    happened.ones = {name: n for name, n in happened.ones.items() if part_of(name) != part}
    happened.order = [name for name in happened.order if part_of(name) != part]


def _broke(happened: Happened, layer: str, many: MadePieces) -> None:
    """One broke: a spare is there for it, or all its layers are made once more for one."""
    happened.broke[layer] = happened.broke.get(layer, 0) + 1
    if sum(n for name, n in happened.broke.items() if name in many.layers) <= many.spares:
        return
    for each in many.layers:
        over = any(part_of(name) == each for name in happened.done)
        happened.more[each] = 1 if over else happened.more.get(each, 0) + 1
        _again(happened, each)


def _undone(happened: Happened, step: str, counts: Mapping[str, int]) -> None:
    """The last tap of it is taken back: one piece, or that all were done."""
    ones = happened.ones.get(step, 0)
    if ones and (step not in happened.done or ones >= counts.get(step, 1)):
        happened.ones[step] = ones - 1
    happened.done.pop(step, None)
    if step.startswith(MELT) and happened.melted.pop(step.removeprefix(MELT), None) is not None:
        happened.melts[step.removeprefix(MELT)] -= 1
    if step in happened.order:
        del happened.order[len(happened.order) - 1 - happened.order[::-1].index(step)]
