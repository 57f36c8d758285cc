"""The steps of one piece: its layers one after the other, in rounds where moulds, stands or a window ask for it."""

from __future__ import annotations

import itertools
import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from coating.heat.setting import Setting
from coating.heat.times import first_place, sets_where, slower
from coating.job.bowl_steps import BeforeUse
from coating.job.lines import cavities_of, in_colours, key_of
from coating.job.looking import looks_of
from coating.job.making import (
    HALF_MIN,
    MOST_ROUNDS,
    Few,
    Making,
    closes_s,
    ends_hard,
    laid_soft,
    released,
    sets_at_all,
    told_steps,
)
from coating.job.reckoning import HeldPlaces, JobStep, Line
from coating.job.wanted import Piece
from coating.stack.layers import Layer
from coating.steps import HALF_SET, ROOM, SET, WET, Step
from coating.techniques.base import FILM, Todo
from coating.techniques.part import INSIDE_IT
from coating.techniques.stick import SETS_MIN

AT_ONCE_MIN = 0.5  # sprinkles hold within seconds; common practice, no source
FILLED_MIN = 2.0  # a filling has a skin, and is closed; common practice, no source
UNKNOWN_MIN = 30.0  # where nothing says how long it takes
OF_A_LIFE = 0.8  # of its life a bowl is used for so much
RELEASES = "Take {them} out of the moulds."
_SAYS = {"fridge": "In the fridge", "freezer": "In the freezer", ROOM: "Left to set in the room"}


@dataclass
class StackSteps:
    """The layers of one piece, one after the other, in rounds where moulds, stands or a window ask for it."""

    making: Making
    piece: Piece
    count: int
    ready: Mapping[str, BeforeUse]  # what is done to each bowl first

    def make(self) -> None:
        """Every layer; at the end what was put on is left until it can be boxed."""
        before: list[str] = []
        lines, mould, on_set = told_steps(self.piece.layers, self.count), None, False
        stack, kept = self.piece.layers, dict[int, _One]()  # what stays on its film until so many layers are on it
        for place, layer in enumerate(stack):
            above = stack[place + 1] if place + 1 < len(stack) else None
            held = self._held(layer)
            inside = mould is not None and layer.in_mould
            mould = mould if inside else held if held and held.is_mould else None
            steps, after = lines[layer.id]
            out = mould is not None and not (above and above.in_mould) and not steps and not released(after)
            soft = place + sum(1 for _ in itertools.takewhile(laid_soft, stack[place + 1 :]))
            one = _One(
                self,
                layer,
                place,
                steps,
                after,
                mould or held,
                inside,
                on_set,
                out,
                soft > place,
                kept.pop(place, None),
            )
            if soft > place and not laid_soft(layer):
                kept[soft] = one
            before, on_set = one.into(before, above), one.ends_set
        self._boxed(before, on_set)

    def _held(self, layer: Layer) -> Few | None:
        """Moulds, or places to stand what is dipped, where there are few."""
        kitchen = self.making.kitchen
        if layer.technique in ("shell", "solid") and self.piece.kind == "mould":
            moulds, each = cavities_of(kitchen, self.piece, layer)
            return Few(f"moulds:{layer.id}", "moulds", moulds, each)
        if layer.kind.measured != FILM:
            return None
        if kitchen.stand_places:
            lines = bool(layer.drawn and layer.drawn.steps)
            return Few("stand", "stand", kitchen.stand_places, 1, until_set=not lines)
        if layer.drawn and layer.drawn.holes:
            return Few(f"stand:{layer.id}", "stand", 1, layer.drawn.holes)
        return None

    def line(self, layer: Layer) -> Line:
        """The line of a layer in its own colour."""
        part = in_colours(layer)[0]
        return self.making.lines[layer.id, f"{part.colour}|{part.base}"]

    def sets(self, layer: Layer) -> Mapping[str, Setting]:
        """How long a layer takes to set, by where."""
        kind, line = layer.kind, self.line(layer)
        if kind.dries_min is not None:
            return {ROOM: Setting(*kind.dries_min)}
        white = line.white or "coating"
        kitchen = self.making.kitchen
        mm = max(0.2, min(40.0, line.thickness_mm))
        return slower(sets_where(kind.sets_as, mm, white=white, room_c=kitchen.room_c), kitchen.factors.set)

    def put(self, layer: Layer) -> tuple[str, Setting | None]:
        """Where a layer is put to set, and how long it takes there."""
        sets = self.sets(layer)
        place = first_place(sets, *self.making.kitchen.wheres)
        return place, sets.get(place)

    def _boxed(self, before: list[str], on_set: bool) -> None:
        """Done means ready to box: the last wait is part of the day."""
        last = next((la for la in reversed(self.piece.layers) if sets_at_all(la)), None)
        if last is None or on_set or not before:
            self.making.ends[self.piece.id] = before
            return
        place, sets = self.put(last)
        minutes = sets.release_min if sets else UNKNOWN_MIN
        says = f"{self.piece.called.capitalize()}: left until they can be boxed"
        step = JobStep(
            f"{last.id}.sets",
            "wait",
            self.piece.id,
            last.id,
            place=place,
            after=tuple(before),
            from_min=minutes,
            says=says,
        )
        self.making.ends[self.piece.id] = [self.making.add(step)]


@dataclass
class _One:
    """One layer: its own steps as its design says them, what comes after these, what it is done in, whether that is
    what the layer below is still in, whether that was hard, whether it comes out of its mould with it, whether it stays
    on its film because the next one is laid on before it is hard, and the one that comes off its film after it."""

    stack: StackSteps
    layer: Layer
    place: int
    steps: Sequence[Step]
    after: Sequence[Step]
    few: Few | None
    inside: bool
    on_set: bool
    out: bool
    stays: bool = False
    lifts: _One | None = None

    @property
    def ends_set(self) -> bool:
        """Whether it is hard when the last of its steps is done."""
        if self.out:
            return True
        if self.stays:
            return False
        lines = [*(self.steps or self._usual(1)), *self.after, *(self.lifts.lifted(1) if self.lifts else ())]
        return ends_hard(lines[-1])

    def lifted(self, count: int) -> list[Step]:
        """What is done last, once it is hard: off its film."""
        todo = self._own(count)
        return list(itertools.takewhile(ends_hard, reversed(todo)))[::-1] if len(todo) > 1 else []

    def into(self, before: list[str], above: Layer | None) -> list[str]:
        """In as many rounds as it takes; the last step of each."""
        making, count = self.stack.making, self.stack.count
        todo = self._todo(count, first=not before)
        at_once = self.inside or (len(before) > 1 and todo[0].closes)
        rounds = len(before) if at_once else self.few.rounds(count) if self.few else 1
        window_s = closes_s(above, self._own_setting())
        if window_s is not None and not at_once:
            rounds = min(count, max(rounds, min(MOST_ROUNDS, math.ceil(todo[-1].hands_s / max(10.0, window_s)))))
        if not at_once:
            rounds = max(rounds, self._drawn_rounds(count))
        ends, last, began = [k * count // rounds for k in range(rounds + 1)], list[str](), ""
        for i, (begin, end) in enumerate(itertools.pairwise(ends)):
            if end == begin:
                continue
            name = self.layer.id if rounds == 1 else f"{self.layer.id}r{i + 1}"
            done = self._round(
                name,
                end - begin,
                [before[i]] if at_once else before,
                began,
                f", round {i + 1} of {rounds}" if rounds > 1 else "",
            )
            began = next(name for name in done if not name.endswith(".cold"))
            self._hold(done, end - begin, before[i] if at_once else "")
            last.append(done[-1])
        making.holds = [h for h in making.holds if h.steps]
        return last

    def _drawn_rounds(self, count: int) -> int:
        """What a design does within a window is done for as many as it was drawn for, and again for the next."""
        drawn = self.layer.drawn
        if not drawn or not drawn.pieces or all(step.until_min is None for step in self.steps):
            return 1
        return min(MOST_ROUNDS, math.ceil(count / drawn.pieces))

    def _hold(self, done: list[str], count: int, below: str) -> None:
        """What these steps are done in is taken while they last."""
        making, few = self.stack.making, self.few
        if few is None or not few.there:
            return
        if self.inside:
            making.holds = [replace(h, steps=(*h.steps, *done)) if below in h.steps else h for h in making.holds]
            return
        if few.until_set:
            _, sets = self.stack.put(self.layer)
            stands = JobStep(
                f"{done[-1]}.stands",
                "wait",
                self.stack.piece.id,
                self.layer.id,
                after=(done[-1],),
                from_min=sets.release_min if sets else 10.0,
                until_set=True,
                says="Stands until it is set",
            )
            done = [*done, making.add(stands)]
        making.holds.append(HeldPlaces(few.resource, few.name, few.taken(count), tuple(done), few.there))

    def _round(self, name: str, count: int, after: Sequence[str], began: str, again: str) -> list[str]:
        """Its steps for so many; the ids, in order. A round begins after the one before it has begun."""
        names, deps, waited = list[str](), tuple(after), False
        piece, layer = self.stack.piece, self.layer
        for i, step in enumerate(self._todo(count, first=not after)):
            waited = waited or step.waits
            poured = step.warm if step.warm is not None else step.of is not None or not waited
            key = self._bowl(step.of) if poured else ""
            sid, until = f"{name}.{i}", step.until_min
            if step.waits:
                wait = JobStep(
                    f"{sid}.cold",
                    "wait",
                    piece.id,
                    layer.id,
                    place=step.place,
                    after=deps,
                    from_min=step.from_min,
                    says=_SAYS[step.place],
                )
                deps = (self.stack.making.add(wait),)
                names.append(wait.id)
                until = None if until is None else max(0.0, until - step.from_min)
            sentence = f"{again}: {count} of them" if again and i < len(self.steps) else again
            says = f"{step.says.rstrip('.')}{sentence}."
            needs = (self.stack.ready[key].for_layer(layer.id),) if key else ()
            for k, (part, seconds) in enumerate(self._parts(sid, step.hands_s, key)):
                words = says if k == 0 else f"Go on: {says[0].lower()}{says[1:]}"
                needs = (*needs, began) if began and not names else needs
                if i == 0 and k == 0:
                    needs = (*needs, *self.stack.making.ends.get(layer.part, ()))
                done = JobStep(
                    part,
                    step.kind,
                    piece.id,
                    layer.id,
                    key,
                    seconds,
                    place=step.place,
                    after=tuple(dict.fromkeys(deps)),
                    needs=needs,
                    until_min=until if k == 0 else None,
                    says=words,
                    count=count if not self.steps else 0,
                    looks=looks_of(step, first=i == 0, from_bowl=bool(key), technique=layer.kind.looks),
                    did_one=layer.kind.did_one if i == 0 or key else "",
                    from_age=step.from_age,
                )
                names.append(self.stack.making.add(done))
                deps = (part,)
        return names

    def _parts(self, sid: str, seconds: float, key: str) -> list[tuple[str, float]]:
        """A step in as many parts as its bowl stays warm for."""
        life_s = OF_A_LIFE * self.stack.making.life_s(key) if key else math.inf
        parts = max(1, math.ceil(seconds / life_s - 1e-9))
        return [(sid if parts == 1 else f"{sid}.{k}", seconds / parts) for k in range(parts)]

    def _bowl(self, of: str | None) -> str:
        """The bowl a step is done from: of the colour it names, else of the layer's own."""
        making, layer = self.stack.making, self.layer
        for part in in_colours(layer):
            if of is None or of == (part.colour or part.base):
                key = making.keys.get(key_of(layer.id, part), "")
                if key:
                    return key
        return "" if layer.takes_coating or layer.technique != "stick" else self._sticks()

    def _sticks(self) -> str:
        """Sticks are seated in the coating of the dip that follows."""
        for layer in self.stack.piece.layers[self.place :]:
            if layer.kind.dips:
                return self.stack.making.keys.get(key_of(layer.id, in_colours(layer)[0]), "")
        return ""

    # -- what is done ------------------------------------------------------------------------------------------
    def _usual(self, count: int) -> list[Step]:
        place, sets = self.stack.put(self.layer)
        piece, layer = self.stack.piece, self.layer
        many = f"{count} {piece.called}" if count != 1 else f"the {piece.called}"
        todo = Todo(layer, piece.core, count, many, self.stack.line(layer).thickness_mm, place, sets)
        steps = layer.kind.todo(todo)
        told_s = layer.drawn.for_so_many(count, self.stack.count) if layer.drawn else 0.0
        if told_s and len(steps) == 1:
            return [replace(steps[0], hands_s=told_s * self.stack.making.kitchen.factors.pace)]
        times = self.stack.making.kitchen.pace(layer.technique, layer.kind.hands_s)
        return [replace(step, hands_s=step.hands_s * times) for step in steps]

    def _todo(self, count: int, *, first: bool) -> list[Step]:
        """Its steps for so many, the first of them once what it lies on is as far as it has to be."""
        share = count / self.stack.count
        steps = self._own(count)
        if self.stays and (off := self.lifted(count)):
            steps = steps[: -len(off)]
        if not first:
            steps[0] = self._lies(steps[0])
        steps += [self._where(replace(step, hands_s=step.hands_s * share)) for step in self.after]
        if self.out:
            steps.append(self._out(count))
        return steps + (self.lifts.lifted(count) if self.lifts else [])

    def _own(self, count: int) -> list[Step]:
        """Its own steps for so many, as its design says them or as they usually are."""
        if self.steps:
            times = count / self.stack.count * self.stack.making.kitchen.factors.pace
            return [self._where(replace(step, hands_s=step.hands_s * times)) for step in self.steps]
        return self._usual(count)

    def _out(self, count: int) -> Step:
        """Out of the moulds, once all that went in is hard."""
        cast = next(la for la in reversed(self.stack.piece.layers[: self.place + 1]) if sets_at_all(la))
        place, sets = self.stack.put(cast)
        says = RELEASES.format(them=f"{count} {self.stack.piece.called}")
        return Step(says, 5.0 * count, SET, sets.release_min if sets else 30.0, None, place, warm=False, kind="release")

    def _lies(self, step: Step) -> Step:
        """The same with what it waits for."""
        if step.state and step.waits:
            return step
        below = self.stack.piece.layers[: self.place]
        under, kind = next((la for la in reversed(below) if sets_at_all(la)), None), self.layer.kind
        warm = step.warm if step.warm is not None else True
        if below[-1].technique == "stick" and not self.stack.piece.core.holds_ml and kind.dips:
            place = self.stack.making.kitchen.wheres[0]
            return replace(step, state=SET, from_min=SETS_MIN[place], until_min=None, place=place, warm=warm)
        lies = "any" if self.layer.placed == INSIDE_IT else self.layer.placed or kind.lies_on
        if lies == "any":
            if self.layer.in_mould:
                wait = FILLED_MIN if below[-1].technique == "filling" else 0.0
                return replace(step, state=SET, from_min=wait, until_min=None, warm=warm) if wait else step
            lies = WET if self.layer.technique == "marbling" and under is not None else SET if kind.coating else "any"
        if under is None or lies == "any":
            return step
        if lies == WET:
            return replace(step, state=WET, from_min=0.0, until_min=AT_ONCE_MIN, warm=warm)
        place, sets = self.stack.put(under)
        touch = 0.0 if self.on_set else sets.touch_min if sets else 15.0
        if lies == HALF_SET and touch:
            return replace(
                step,
                state=HALF_SET,
                from_min=touch / 2,
                until_min=max(touch, touch / 2 + HALF_MIN),
                place=place,
                warm=warm,
            )
        return replace(step, state=SET, from_min=touch, until_min=None, place=place, warm=warm)

    def _own_setting(self) -> Setting | None:
        return self.stack.put(self.layer)[1] if sets_at_all(self.layer) else None

    def _where(self, step: Step) -> Step:
        """What a design lets wait in a cold place that is not there waits elsewhere, as much longer or shorter."""
        kitchen = self.stack.making.kitchen
        if not step.waits or step.place == ROOM or kitchen.places.get(step.place, 1):
            return step
        sets = self.stack.sets(self.layer)
        place = first_place(sets, *kitchen.wheres)
        self.stack.making.moved.add((step.place, place))
        if step.place not in sets or place not in sets:
            return replace(step, place=place)
        longer = sets[place].release_min / sets[step.place].release_min
        until = None if step.until_min is None else step.until_min * longer
        return replace(step, from_min=step.from_min * longer, until_min=until, place=place)
