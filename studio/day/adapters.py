"""The steps of a job, as they were reckoned, become a day to plan: who does them, where things wait, what is warm."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, field, replace

from coating.errors import Infeasible
from coating.heat.times import melt_time, rewarm_time, usable_time
from coating.job import JobStep, Reckoning
from coating.job.bowl_steps import REWARM_STIR_S, STIR_S, TEMPER_S, TINT_S
from coating.job.making import chocolate_of
from coating.job.reckon import NEVER_SETS
from coating.learning.factors import NOTHING, Factors
from coating.plan.day import HANDS, Day, DayBowl, DayStep, Hold, Lag
from coating.steps import ROOM, steps_from
from studio.accounts.models import Kitchen
from studio.day.helping import Helper
from studio.designs.models import Design
from studio.pieces.adapters import ColourNeed, cautions_told, colour_needs
from studio.pieces.models import Job, Layer, Piece
from studio.pieces.reckoned import kitchen_of, reckoned

HEAT = "heat"
MOST_STEPS = 240
SHORTEST_S, TO_THE_COLD_S, WARM_AGAIN_S = 10, 60, 120  # from a bowl, at once is when that is ready
LEAST_LIFE_S, LEAST_MELT_G = 120, 20.0
BAG_STAYS_S = 600  # what is in a bag longer has set in its tip; common practice, no source
TOGETHER = ("tint", "test")  # what is done to a bowl at one go, before it is used
_OF_A_DESIGN = ("layer_id", "name", "kind", "asked", "drawn")
NOT_THERE = ("melt", "temper", "rewarm")  # the plan places these itself, as often as it takes


@dataclass(frozen=True)
class Asked:
    """What there is on the day; `stand`, `room`: places to stand what was dipped, and to wait in the room, 0: as many
    as it takes; `closed`: nights; `heat`: things to melt with; `room_c`: how warm it is, None: as usual."""

    hands: int = 1
    fridge: int = 0
    freezer: int = 0
    stand: int = 0
    helpers: tuple[Helper, ...] = ()
    closed: tuple[tuple[int, int], ...] = ()
    room: int = 0
    heat: int = 1
    room_c: float | None = None

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
    ages: Mapping[str, int]  # years below which a step is not for a child
    did_one: Mapping[str, str]  # what a maker says who has done one of several
    of: Mapping[str, Piece]
    counts: Mapping[str, int]  # how many pieces a step is for, where it goes piece by piece
    bowls: Mapping[str, ColourNeed]
    names: Mapping[str, str]  # of helpers, stands and moulds
    moved: tuple[tuple[str, str], ...]  # cold places that there are none of, and where it waits instead
    helpers: tuple[str, ...] = ()  # who helps, as resources are called
    designs: Mapping[int, Design] = field(default_factory=dict)  # by layer
    known: Factors = NOTHING  # what its job goes by
    cautions: tuple[str, ...] = ()

    def unsaid(self, name: str) -> Piece | None:
        """The piece of a step, where its words do not name it."""
        piece = self.of.get(name)
        if piece is None or name.startswith("bowl:"):
            return None
        return None if piece.name.lower() in self.says[name].lower() else piece


def day_of(job: Job, kitchen: Kitchen, settings: Asked) -> Planned | None:
    """Every step of a job, from prefetched rows; None where nothing is to be done. Raises Infeasible.

    With nights, all of it has to be done before the last one: what fits into no day has no order.
    """
    designs = {d.layer_id: d for d in Design.objects.filter(layer__piece__job=job).only(*_OF_A_DESIGN) if d.layer_id}
    drawn = {pk: steps_from(design.drawn.get("steps", [])) for pk, design in designs.items()}
    room_c = kitchen.room_c if settings.room_c is None else settings.room_c
    around = kitchen_of(
        kitchen,
        job,
        stand_places=settings.stand,
        hands=settings.hands,
        room_c=room_c,
        places={"fridge": settings.fridge, "freezer": settings.freezer},
    )
    reckoning = reckoned(job, kitchen, around=around, steps=drawn)
    if not reckoning.steps:
        return None
    if NEVER_SETS in reckoning.cautions:
        raise Infeasible(NEVER_SETS, field="room_c", steps=[])
    needs = {need.key: need for need in colour_needs(job, kitchen)}
    made = _Day(
        reckoning,
        settings,
        {str(la.pk): la for p in job.pieces.all() for la in p.stack},
        {str(p.pk): p for p in job.pieces.all()},
        needs,
    )
    made.put_together()
    if len(made.steps) > MOST_STEPS:
        refusal = f"That is {len(made.steps)} steps: {MOST_STEPS} at most in one day. Make two jobs of it."
        raise Infeasible(refusal, steps=[])
    names = {h.resource: h.name for h in reckoning.holds} | {h.key: h.name for h in settings.helpers}
    there = {h.resource: h.there for h in reckoning.holds} | {h.key: 1 for h in settings.helpers}
    used, last_s = {s.bowl for s in made.steps}, settings.closed[-1][0] if settings.closed else None
    bowls = {key: _bowl(need, kitchen, room_c, around.factors.loss) for key, need in needs.items() if key in used}
    day = Day(
        tuple(made.shortened(bowls)),
        tuple(made.lags),
        {HANDS: settings.hands, HEAT: settings.heat, **settings.places, **there},
        bowls,
        last_s,
        tuple(made.holds),
        settings.closed,
    )
    _fits_between_nights(day, made.says)
    return Planned(
        day,
        made.says,
        made.looks,
        made.ages,
        made.did_one,
        made.of,
        made.counts,
        needs,
        names,
        reckoning.moved,
        tuple(h.key for h in settings.helpers),
        designs,
        around.factors,
        tuple(cautions_told(reckoning, {n.key: n.name for n in needs.values()})),
    )


def _fits_between_nights(day: Day, says: Mapping[str, str]) -> None:
    """Nothing takes longer than there is time between two nights. Raises Infeasible."""
    longest = max((s for s in day.steps if s.handled), key=lambda s: s.duration_s, default=None)
    if longest and day.closed and longest.duration_s > day.closed[0][0]:
        minutes = math.ceil(longest.duration_s / 60)
        refusal = (
            f"{says[longest.name].rstrip('.')} takes {minutes} min, longer than you work in a day: work until later."
        )
        raise Infeasible(refusal, field="until", steps=[longest.name])


@dataclass
class _Day:
    """What has been put together so far."""

    reckoning: Reckoning
    settings: Asked
    layers: Mapping[str, Layer]
    pieces: Mapping[str, Piece]
    needs: Mapping[str, ColourNeed]
    steps: list[DayStep] = field(default_factory=list)
    lags: list[Lag] = field(default_factory=list)
    holds: list[Hold] = field(default_factory=list)
    says: dict[str, str] = field(default_factory=dict)
    looks: dict[str, str] = field(default_factory=dict)
    ages: dict[str, int] = field(default_factory=dict)
    did_one: dict[str, str] = field(default_factory=dict)
    of: dict[str, Piece] = field(default_factory=dict)
    counts: dict[str, int] = field(default_factory=dict)
    into: dict[str, str] = field(default_factory=dict)  # what a step is called on the day
    waits: dict[str, JobStep] = field(default_factory=dict)  # waits that take no place
    bags: set[str] = field(default_factory=set)  # filled, and not used yet

    def put_together(self) -> None:
        """Every step, and what holds moulds and stands while they last."""
        followed = {name for step in self.reckoning.steps for name in (*step.after, *step.needs)}
        for step in self.reckoning.steps:
            if step.kind in NOT_THERE or (step.kind == "tint" and self.needs[step.bowl].reckoned.tempered):
                continue
            if step.kind == "wait":
                few = bool(self.settings.places.get(step.place))
                if not few and step.id in followed and not step.until_set:
                    self.waits[step.id] = step
                    continue
                self._stands(step, few=few)
            elif step.kind in TOGETHER and step.bowl:
                self._before_use(step)
            else:
                self._done(step)
        closing = {lag.after for lag in self.lags if lag.max_s is not None}
        self.steps = [self._helped(s, hurried=s.name in closing) for s in self.steps]
        for hold in self.reckoning.holds:
            names = [self.into[name] for name in hold.steps if name in self.into]
            if names:
                self.holds.append(Hold(hold.resource, tuple(names), hold.places))

    def shortened(self, bowls: Mapping[str, DayBowl]) -> list[DayStep]:
        """No step from a bowl takes longer than that stays warm."""
        return [
            replace(s, duration_s=min(s.duration_s, bowls[s.bowl].life_s)) if s.bowl and s.bowl in bowls else s
            for s in self.steps
        ]

    def _stands(self, step: JobStep, *, few: bool) -> None:
        """What waits, where it takes a place or ends something."""
        self._add(step, DayStep(step.id, max(SHORTEST_S, _tens(step.from_min * 60)), {step.place: 1} if few else {}))
        last_s = 0 if step.until_set else TO_THE_COLD_S
        self._after(step, least_s=0, most_s=last_s if few or step.until_set else None)

    def _before_use(self, step: JobStep) -> None:
        """Colour, and the first look: one thing on the day."""
        name = f"bowl:{step.bowl}"
        self.into[step.id] = name
        if name in self.says:
            self.steps = [
                replace(s, duration_s=s.duration_s + _tens(step.hands_s)) if s.name == name else s for s in self.steps
            ]
            self.says[name] = f"{self.says[name]} {step.says}"
            return
        self.steps.append(DayStep(name, _tens(step.hands_s), {HANDS: 1}, step.bowl))
        self._say(name, step, f"{self.needs[step.bowl].name}: {step.says[:1].lower()}{step.says[1:]}")

    def _done(self, step: JobStep) -> None:
        """What hands do."""
        name = f"bowl:{step.id}" if not step.piece else step.id
        if step.kind == "bag":
            self.bags.add(step.id)
        says = step.says if step.piece else f"{self.needs[step.bowl].name}: {step.says[:1].lower()}{step.says[1:]}"
        bowl = step.bowl if step.bowl and step.kind != "wash" else None
        self._add(step, DayStep(name, max(SHORTEST_S, _tens(step.hands_s)), {HANDS: 1}, bowl), says)
        if step.count > 1 and step.kind == "make":
            self.counts[name] = step.count
        soon = WARM_AGAIN_S if bowl else 0
        until_s = None if step.until_min is None else max(round(step.until_min * 60), soon)
        self._after(step, least_s=round(step.from_min * 60), most_s=until_s)

    def _add(self, step: JobStep, day_step: DayStep, says: str = "") -> None:
        self.into[step.id] = day_step.name
        self.steps.append(day_step)
        self._say(day_step.name, step, says or step.says)

    def _say(self, name: str, step: JobStep, says: str) -> None:
        """Its words, what to look at, and whose it is: of a bowl the first piece that is made from it."""
        self.says[name] = says
        layer = self.layers.get(step.layer) or (self.needs[step.bowl].layers[0] if step.bowl in self.needs else None)
        if step.looks:
            self.looks[name] = step.looks
        if step.from_age:
            self.ages[name] = step.from_age
        if step.did_one:
            self.did_one[name] = step.did_one
        piece = self.pieces.get(step.piece) or (layer.piece if layer is not None else None)
        if piece is not None:
            self.of[name] = piece

    def _after(self, step: JobStep, *, least_s: int, most_s: int | None) -> None:
        """What comes before it, a wait that takes no place with it; only what was made closes a window."""
        name = self.into[step.id]
        for before in step.after:
            wait = self.waits.get(before)
            if wait is not None:
                wait_s = _tens(wait.from_min * 60)
                most = None if most_s is None else max(wait_s + SHORTEST_S, round(wait.from_min * 60) + most_s)
                self.lags += [Lag(self.into[w], name, wait_s, most) for w in wait.after if w in self.into]
            elif before in self.into and self.into[before] != name:
                most = None if most_s is None else max(most_s, _tens(least_s) + SHORTEST_S)
                self.lags.append(Lag(self.into[before], name, _tens(least_s), most))
        for before in step.needs:
            wait = self.waits.get(before)  # what goes on it, until that is ready
            if wait is not None:
                self.lags += [
                    Lag(self.into[w], name, _tens(wait.from_min * 60), None) for w in wait.after if w in self.into
                ]
            elif before in self.into and self.into[before] != name:
                most_s = BAG_STAYS_S if before in self.bags else None
                self.bags.discard(before)  # further rounds are done from what is in the hand
                self.lags.append(Lag(self.into[before], name, 0, most_s))

    def _helped(self, step: DayStep, *, hurried: bool) -> DayStep:
        """Helpers first: your own hands are asked for more."""
        if not step.handled or step.name not in self.of:
            return step
        layer = self.layers.get(step.name.partition(".")[0].partition("r")[0])
        name = layer.technique if layer is not None else "own"
        hot = step.bowl is not None
        may = [h.key for h in self.settings.helpers if layer is not None and h.does(name, hot=hot, hurried=hurried)]
        return replace(step, uses={}, by=(*may, HANDS)) if may else step


def _tens(seconds: float) -> int:
    return 10 * math.ceil(seconds / 10 - 1e-9)


def _bowl(need: ColourNeed, kitchen: Kitchen, room_c: float, loss: float) -> DayBowl:
    """How long a bowl takes to melt, to stir (to tint and temper, where it is tempered), and to warm again; and how
    long it can be used, losing so many times the heat that is assumed."""
    bowl, chocolate = need.reckoned, chocolate_of(need.reckoned)
    mass_g = max(LEAST_MELT_G, bowl.melt_g)
    way = melt_time(
        mass_g,
        white=need.white,
        chocolate=chocolate,
        room_c=room_c,
        school=kitchen.melting_school,
        power_w=kitchen.oven_w,
    )
    life_s = usable_time(bowl.melt_g, white=need.white, chocolate=chocolate, room_c=room_c, loss=loss)
    lightness = need.tone.lab[0] if need.tone.lab else 90.0
    bursts = max(2, round(way.all_s / way.first_s)) if way.first_s else 4
    stir_s = STIR_S * bursts + ((TINT_S if bowl.recipe else 0.0) + TEMPER_S if bowl.tempered else 0.0)
    heat_s, again_s = (
        max(10, _tens(way.all_s)),
        rewarm_time(
            mass_g, white=need.white, chocolate=chocolate, school=kitchen.melting_school, power_w=kitchen.oven_w
        ),
    )
    return DayBowl(
        heat_s,
        HEAT,
        _tens(stir_s),
        max(LEAST_LIFE_S, int(life_s) // 10 * 10),
        lightness,
        min(heat_s, max(10, _tens(again_s))),
        REWARM_STIR_S,
    )
