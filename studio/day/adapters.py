"""A job becomes a day: each layer a chain of steps, each colour at a flow a bowl that cools."""

from __future__ import annotations

import itertools
import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace

from coating.errors import Infeasible
from coating.heat.cooling import BowlCooling
from coating.heat.melting import COUPLING, melting_energy_j, warmth_of
from coating.heat.melting_curve import curve_of
from coating.plan.day import HANDS, Day, DayBowl, DayStep, Hold, Lag
from coating.plan.day.chain import Chain, chain
from coating.plan.steps import ROOM, Step
from studio.accounts.models import Kitchen
from studio.cupboard.adapters import core_ingredient
from studio.day.helping import Helper
from studio.day.layers import (
    IN_THE_MOULD,
    MOST_ROUNDS,
    Few,
    Told,
    closes_s,
    few_of,
    look_of,
    moved_to,
    stands_s,
    todo_of,
    told_of,
)
from studio.designs.models import Design
from studio.pieces.adapters import ColourNeed, colour_needs
from studio.pieces.models import Job, Layer, Piece
from studio.pieces.techniques import technique_of

HEAT = "heat"
MOST_STEPS = 240
STIR_S, LONGEST_LIFE_S = 60, 3600


@dataclass(frozen=True)
class Asked:
    """What there is on the day; `stand`, `room`: places to stand what was dipped, and to wait in the room, 0: as many
    as it takes; `closed`: nights; `heat`: things to melt with."""

    hands: int = 1
    fridge: int = 0
    freezer: int = 0
    stand: int = 0
    helpers: tuple[Helper, ...] = ()
    closed: tuple[tuple[int, int], ...] = ()
    room: int = 0
    heat: int = 1

    @property
    def places(self) -> dict[str, int]:
        """To wait in, where they are few."""
        return {"fridge": self.fridge, "freezer": self.freezer, **({ROOM: self.room} if self.room else {})}


@dataclass(frozen=True)
class Planned:
    """A day with the words of its steps, what each is for, its bowls, and the names of who and what else is there."""

    day: Day
    says: Mapping[str, str]
    looks: Mapping[str, str]  # what to look at
    of: Mapping[str, Piece]
    counts: Mapping[str, int]  # how many pieces a step is for, where it goes piece by piece
    bowls: Mapping[str, ColourNeed]
    names: Mapping[str, str]  # of helpers, stands and moulds
    moved: tuple[tuple[str, str], ...]  # cold places that there are none of, and where it waits instead
    helpers: tuple[str, ...] = ()  # who helps, as resources are called
    designs: Mapping[int, Design] = field(default_factory=dict)  # by layer


@dataclass
class _Making:
    """What has been put together so far; `places`: how many there are in the cold."""

    places: Mapping[str, int]
    helpers: Sequence[Helper]
    steps: list[DayStep] = field(default_factory=list)
    lags: list[Lag] = field(default_factory=list)
    holds: list[Hold] = field(default_factory=list)
    says: dict[str, str] = field(default_factory=dict)
    looks: dict[str, str] = field(default_factory=dict)
    of: dict[str, Piece] = field(default_factory=dict)
    counts: dict[str, int] = field(default_factory=dict)
    few: dict[str, Few] = field(default_factory=dict)
    moved: set[tuple[str, str]] = field(default_factory=set)


def day_of(job: Job, kitchen: Kitchen, asked: Asked) -> Planned | None:
    """Every layer of a job, from prefetched rows; None where nothing is to be done. Raises Infeasible.

    With nights, all of it has to be done before the last one: what fits into no day has no order.
    """
    needs = {need.key: need for need in colour_needs(job)}
    warm = {key: _bowl(need, kitchen) for key, need in needs.items()}
    bowls_of: dict[int, dict[str, str]] = {}  # of each layer, by colour
    for key, need in needs.items():
        for la in need.layers:
            bowls_of.setdefault(la.pk, {})[_colour(la)] = key
    kept = Design.objects.filter(layer__piece__job=job).only("layer_id", "name", "kind", "asked", "drawn")
    designs = {d.layer_id: d for d in kept if d.layer_id}
    made = _Making(asked.places, asked.helpers)
    for piece in job.pieces.all():
        before: list[str] = []  # the last step of each round of the layer below
        said, mould, on_set = told_of(piece.stack, designs), None, False
        for layer, above in itertools.zip_longest(piece.stack, piece.stack[1:]):
            few = few_of(layer, designs.get(layer.pk), asked.stand)
            inside = mould is not None and layer.technique in IN_THE_MOULD
            mould = mould if inside else few if few and few.is_mould else None
            one = _OneLayer(
                layer, piece, kitchen, said[layer.pk], mould or few, bowls_of.get(layer.pk, {}), warm, inside, on_set
            )
            window_s = closes_s(above, piece, kitchen, said[above.pk]) if above else None
            before, on_set = one.into(made, before, window_s), one.told.ends_set
    if not made.steps:
        return None
    if len(made.steps) > MOST_STEPS:
        told = f"That is {len(made.steps)} steps: {MOST_STEPS} at most in one day. Make two jobs of it."
        raise Infeasible(told, steps=[])
    names = {few.resource: few.name for few in made.few.values()} | {h.key: h.name for h in asked.helpers}
    there = {f.resource: f.places for f in made.few.values()} | {h.key: 1 for h in asked.helpers}
    used, last_s = {s.bowl for s in made.steps}, asked.closed[-1][0] if asked.closed else None
    day = Day(tuple(made.steps), tuple(made.lags), {HANDS: asked.hands, HEAT: asked.heat, **made.places, **there},
              {k: b for k, b in warm.items() if k in used}, last_s, tuple(made.holds), asked.closed)  # fmt: skip
    _fits_between_nights(day, made.says)
    return Planned(day, made.says, made.looks, made.of, made.counts, needs, names, tuple(sorted(made.moved)),
                   tuple(h.key for h in asked.helpers), designs)  # fmt: skip


def _fits_between_nights(day: Day, says: Mapping[str, str]) -> None:
    """Nothing takes longer than there is time between two nights. Raises Infeasible."""
    longest = max((s for s in day.steps if s.handled), key=lambda s: s.duration_s, default=None)
    if longest and day.closed and longest.duration_s > day.closed[0][0]:
        minutes = math.ceil(longest.duration_s / 60)
        told = f"{says[longest.name].rstrip('.')} takes {minutes} min, longer than you work in a day: work until later."
        raise Infeasible(told, field="until", steps=[longest.name])


@dataclass
class _OneLayer:
    """One layer of a piece, what designs say of it, its bowls by colour, how all bowls cool, and what it is done in:
    moulds, a stand. `inside`: the moulds are those of the layer below, which it is still in; `on_set`: that was hard
    when it was done."""

    layer: Layer
    piece: Piece
    kitchen: Kitchen
    told: Told
    few: Few | None
    bowls: Mapping[str, str]
    warm: Mapping[str, DayBowl]
    inside: bool = False
    on_set: bool = False

    def into(self, made: _Making, before: list[str], window_s: float | None) -> list[str]:
        """In as many rounds as moulds or stands ask for, or so few pieces at a time that what comes on them meets the
        first while its window is open (`window_s`); or as the layer below was made in, where it follows that at once.
        Returns the last step of each round."""
        count = self.piece.count + self.piece.spares
        todo = self._todo(count, first=not before)
        at_once = self.inside or (len(before) > 1 and todo[0].closes)
        rounds = len(before) if at_once else self.few.rounds(count) if self.few else 1
        if window_s is not None and not at_once:
            rounds = min(count, max(rounds, min(MOST_ROUNDS, math.ceil(todo[-1].hands_s / max(10.0, window_s)))))
        ends = [k * count // rounds for k in range(rounds + 1)]
        last, firsts = list[str](), list[str]()
        for i, (begin, end) in enumerate(itertools.pairwise(ends)):
            if end == begin:
                continue
            name = f"{self.layer.pk}" if rounds == 1 else f"{self.layer.pk}r{i + 1}"
            todo = [self._where(made, step) for step in self._todo(end - begin, first=not before)]
            after = [before[i]] if at_once else before
            one = chain(name, todo, bowl=self.bowls.get(_colour(self.layer)), bowls=self.warm, of=self.bowls,
                        after=after, places=made.places)  # fmt: skip
            if rounds > 1:
                share = f": {end - begin} of them" if self.told.steps else ""
                again = f", round {i + 1} of {rounds}{share}."
                one = replace(one, says={n: f"{s.rstrip('.')}{again}" for n, s in one.says.items()})
            self._keep(made, one, end - begin, after)
            if firsts:
                made.lags.append(Lag(firsts[-1], one.steps[0].name, 0))
            firsts.append(one.steps[0].name)
            last.append(one.last)
        return last

    def _where(self, made: _Making, step: Step) -> Step:
        """Elsewhere where there is no place of the kind it would wait in."""
        if not step.waits or step.place == ROOM or made.places.get(step.place):
            return step
        moved = moved_to(made.places, step, self.layer, self.kitchen)
        made.moved.add((step.place, moved.place))
        return moved

    def _todo(self, count: int, *, first: bool) -> Sequence[Step]:
        return todo_of(self.layer, self.piece, self.kitchen, self.told, count, first=first, on_set=self.on_set)

    def _keep(self, made: _Making, one: Chain, count: int, after: list[str]) -> None:
        held = [s.name for s in one.steps]
        closing = {lag.after for lag in one.lags if lag.max_s is not None}
        made.steps += [self._helped(s, made.helpers, hurried=s.name in closing) for s in one.steps]
        made.lags += one.lags
        made.says |= one.says
        made.looks |= dict.fromkeys((s.name for s in one.steps if s.handled), look_of(self.layer))
        if not self.told.steps and not self.told.after:
            made.counts |= _shares(count, [s.name for s in one.steps if s.handled])
        if self.few and self.inside:
            made.holds = [replace(h, steps=(*h.steps, *held)) if after[0] in h.steps else h for h in made.holds]
        elif self.few:
            made.few[self.few.resource] = self.few
            if self.few.until_set:
                standing = DayStep(f"{held[-1]}.stands", stands_s(self.layer, self.kitchen))
                made.steps.append(standing)
                made.lags.append(Lag(held[-1], standing.name, 0, 0))
                made.says[standing.name] = "Stands until it is set"
                held.append(standing.name)
            made.holds.append(Hold(self.few.resource, tuple(held), self.few.taken(count)))
        made.of |= dict.fromkeys(held, self.piece)

    def _helped(self, step: DayStep, helpers: Sequence[Helper], *, hurried: bool) -> DayStep:
        """Helpers first: your own hands are asked for more."""
        if not step.handled:
            return step
        technique = technique_of(self.layer).kind.name
        may = [h.key for h in helpers if h.does(technique, hot=step.bowl is not None, hurried=hurried)]
        return replace(step, uses={}, by=(*may, HANDS)) if may else step


def _colour(layer: Layer) -> str:
    """As the steps of designs call a colour."""
    return layer.tone.key


def _shares(count: int, names: list[str]) -> dict[str, int]:
    """How many pieces are for each part of a step."""
    ends = [(k + 1) * count // len(names) for k in range(len(names))]
    found = {name: end - begin for name, begin, end in zip(names, [0, *ends], ends, strict=False)}
    return {name: n for name, n in found.items() if n > 1}


def _bowl(need: ColourNeed, kitchen: Kitchen) -> DayBowl:
    """How long a bowl takes to melt, and how long it can be used."""
    mass_g, white = max(50.0, need.quantity.melt_g), need.white
    chocolate = core_ingredient(need.tone.base).chocolate if need.tone.base else "white"
    warmth = warmth_of(white, chocolate)
    energy = melting_energy_j(mass_g, kitchen.room_c, warmth.melt_to_c, curve=curve_of(white))
    heat_s = energy / (kitchen.oven_w * 0.5 * COUPLING)
    life_s = BowlCooling(mass_g, kitchen.room_c).time_to_s(warmth.work_at_c, warmth.floor_c)
    life = LONGEST_LIFE_S if math.isinf(life_s) else min(LONGEST_LIFE_S, int(life_s))
    lightness = need.tone.lab[0] if need.tone.lab else 90.0
    return DayBowl(10 * math.ceil(heat_s / 10), HEAT, STIR_S, max(120, life // 10 * 10), lightness)
