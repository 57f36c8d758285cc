"""What is put together while steps are worked out: the steps so far, what is held, and what there are few of."""

from __future__ import annotations

import itertools
import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace

from coating.heat.setting import Setting
from coating.heat.times import usable_time
from coating.job.kitchen import Kitchen
from coating.job.reckoning import Bowl, HeldPlaces, JobStep, Line
from coating.stack.layers import Layer
from coating.steps import ALL_MADE, HALF_SET, SET, WET, Step

MOST_ROUNDS = 12
HALF_MIN = 2.0  # a half-set window is open at least so long; common practice, no source
WET_MIN = 2.0  # what is wet holds sprinkles so long on the first of some; common practice, no source


@dataclass
class Making:
    """What is put together: steps, what is held while they last, and cold places that there are none of."""

    kitchen: Kitchen
    bowls: Mapping[str, Bowl]
    lines: Mapping[tuple[str, str], Line]
    keys: Mapping[str, str]
    steps: list[JobStep] = field(default_factory=list)
    holds: list[HeldPlaces] = field(default_factory=list)
    moved: set[tuple[str, str]] = field(default_factory=set)
    ends: dict[str, list[str]] = field(default_factory=dict)  # the last steps of each piece

    lives: dict[str, float] = field(default_factory=dict)

    def life_s(self, key: str) -> float:
        """How long a bowl can be used after it is melted."""
        if key not in self.lives:
            bowl, kitchen = self.bowls[key], self.kitchen
            self.lives[key] = usable_time(
                bowl.melt_g,
                white=bowl.white,
                chocolate=chocolate_of(bowl),
                room_c=kitchen.room_c,
                loss=kitchen.factors.loss,
            )
        return self.lives[key]

    def add(self, step: JobStep) -> str:
        """One more; returns its id."""
        self.steps.append(step)
        return step.id


def chocolate_of(bowl: Bowl) -> str:
    """White, milk or dark: what the bowl is melted from."""
    return bowl.made_of.chocolate if bowl.made_of else "white"


@dataclass(frozen=True)
class Few:
    """What a layer is done in and there are few of: how many (0: as many as it takes), and how many pieces go into one.
    `until_set`: it is taken until what stands in it is set, whatever is done meanwhile."""

    resource: str
    name: str
    there: int
    each: int
    until_set: bool = False

    @property
    def is_mould(self) -> bool:
        """Whether what is done on it later is done in it too."""
        return self.name == "moulds"

    def rounds(self, count: int) -> int:
        """How often they are filled: one after the other, or all at once where that would be very often."""
        if not self.there:
            return 1
        singly = math.ceil(count / self.each)
        return singly if singly <= MOST_ROUNDS else math.ceil(count / (self.each * self.there))

    def taken(self, count: int) -> int:
        """Of them, by so many pieces at once."""
        return min(self.there, math.ceil(count / self.each))


def sets_at_all(layer: Layer) -> bool:
    """Whether it has to set or to dry."""
    return layer.takes_coating or layer.kind.dries_min is not None


def released(steps: Sequence[Step]) -> bool:
    """Whether what is made comes off its sheet or out of its mould."""
    return any(step.makes == ALL_MADE or step.kind == "release" for step in steps)


def told_steps(stack: Sequence[Layer], count: int) -> dict[str, tuple[list[Step], list[Step]]]:
    """What designs say, for so many pieces, by layer: its steps, and what comes after. Steps that make a layer above,
    and what follows them, are of that one; what comes when all is made is of the last layer that goes into the same
    mould."""
    steps: dict[str, tuple[list[Step], list[Step]]] = {layer.id: ([], []) for layer in stack}
    for place, layer in enumerate(stack):
        above, made = {la.technique: la.id for la in stack[place + 1 :]}, layer.id
        inside = itertools.takewhile(lambda la: la.in_mould, stack[place + 1 :])
        *_, last = layer, *inside
        times = count / layer.drawn.pieces if layer.drawn and layer.drawn.pieces else 1.0
        for line in layer.drawn.steps if layer.drawn else ():
            step = replace(line, hands_s=line.hands_s * times)
            made = above.get(step.makes, made)
            steps[last.id][1].append(step) if step.makes == ALL_MADE else steps[made][0].append(step)
    return steps


def laid_soft(layer: Layer) -> bool:
    """Whether it is put on before what it lies on is hard."""
    return layer.placed in (WET, HALF_SET) and (bool(layer.part) or not layer.kind.coating)


def ends_hard(step: Step) -> bool:
    """Whether it is done once all is hard: it comes off its film."""
    return step.state == SET and step.waits and not step.warm and step.of is None


def closes_s(above: Layer | None, setting: Setting | None) -> float | None:
    """How long the window is open in which the next layer goes on, s, from the first piece on, of one that sets like
    that; None: it does not close."""
    if above is None:
        return None
    lies = above.placed or above.kind.lies_on
    if lies == WET and not above.in_mould:
        return WET_MIN * 60
    return max(setting.touch_min / 2, HALF_MIN) * 60 if lies == HALF_SET and setting else None
