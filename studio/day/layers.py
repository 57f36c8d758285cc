"""One layer's steps: those of its design, or what is usually done; and the moulds or stands it is done in."""

from __future__ import annotations

import itertools
import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from coating.errors import Infeasible
from coating.heat.setting import PLACES_C
from coating.heat.times import sets_where
from coating.piece.layers import COUNTED, DRIP, FILM, LINE, NONE, SPREAD, VOLUME
from coating.plan.steps import ALL_MADE, HALF_SET, ROOM, SET, WET, Step, steps_from
from studio.accounts.models import Kitchen
from studio.day.helping import BUILD, DIP, MOULD, PAINT, PIPE, SCATTER, WORK_OF
from studio.designs.kinds.made.moulded import moulds_of
from studio.designs.models import Design
from studio.pieces.models import Layer, Piece
from studio.pieces.techniques import technique_of

# Hands for a piece, s; assumptions.
HANDS_S = {FILM: 15.0, SPREAD: 15.0, LINE: 12.0, VOLUME: 8.0, COUNTED: 3.0, DRIP: 90.0, NONE: 4.0}
MOST_EACH_S = 12.0
USUAL_MM = 1.5
AT_ONCE_MIN = 0.5  # from the last of some pieces to the first of what comes on them
WET_MIN = 2.0  # sprinkles hold within seconds, on the first of some pieces a little later; common practice
MOST_ROUNDS = 12
MOULDS = "moulds"
IN_THE_MOULD = ("insert", "filling", "cap", "stick")  # what is done before a shell leaves its mould


# What to look at while it is done, by kind of work or by technique; common practice, no source.
LOOKS = {
    DIP: "an even line, a scraped base, drips that have stopped",
    MOULD: "level with the brim, no bare patch, no bubble left",
    SCATTER: "it still shines, so it holds what falls on it",
    PIPE: "how it leaves the bag: a line that stays as wide as it was",
    PAINT: "dry to the touch underneath, even under the brush",
    BUILD: "nothing sticks to a finger, pairs are alike",
    "stick": "it sits straight, and deep enough to hold",
    "lace": "a line that stays as wide as it was, joins that touch",
    "transfer": "thin and even up to the edge, no air under it",
}
MELTED = "smooth, no piece to be seen, no streak"


def look_of(layer: Layer) -> str:
    """What to look at while a layer is made."""
    name = technique_of(layer).kind.name
    return LOOKS.get(name) or LOOKS[WORK_OF.get(name, BUILD)]


@dataclass(frozen=True)
class Few:
    """What a layer is done in and there are few of: how many there are, and how many pieces go into one. `until_set`:
    it is taken until what stands in it is set, whatever is done meanwhile."""

    resource: str
    name: str
    places: int
    each: int
    until_set: bool = False

    @property
    def is_mould(self) -> bool:
        """Whether what is done on it later is done in it too."""
        return self.name == MOULDS

    def rounds(self, count: int) -> int:
        """How often they are filled: one after the other, or all at once where that would be very often."""
        singly = math.ceil(count / self.each)
        return singly if singly <= MOST_ROUNDS else math.ceil(count / (self.each * self.places))

    def taken(self, count: int) -> int:
        """Of them, by so many pieces at once."""
        return min(self.places, math.ceil(count / self.each))


def few_of(layer: Layer, design: Design | None, stand: int) -> Few | None:
    """Moulds and stands as the design says them; else the places there are to stand what is dipped."""
    asked = design.asked if design else {}
    if design and design.kind == "mould":
        return Few(f"moulds:{layer.pk}", MOULDS, *moulds_of(asked))
    if technique_of(layer).kind.measured != FILM:
        return None
    if stand:
        return Few("stand", "stand", stand, 1, until_set=not (design and design.drawn.get("steps")))
    if design and design.kind == "dip" and asked.get("holes"):
        return Few(f"stand:{layer.pk}", "stand", 1, int(asked["holes"]))
    return None


@dataclass(frozen=True)
class Told:
    """What designs say of a layer: its steps, what comes after them or after what is usual, and how long hands are at
    it where they say no steps."""

    steps: Sequence[Step] = ()
    after: Sequence[Step] = ()
    seconds: float = 0.0

    @property
    def ends_set(self) -> bool:
        """Whether it is hard when the last of them is done: they waited for that, and nothing new was put on."""
        last = next(reversed([*self.steps, *self.after]), None)
        return last is not None and last.state == SET and last.waits and not last.warm and last.of is None


def told_of(stack: Sequence[Layer], designs: Mapping[int, Design]) -> dict[int, Told]:
    """By layer. Steps that make a layer above, and what follows them, are of that one; what comes when all is made is
    of the last layer that goes into the same mould."""
    steps: dict[int, list[Step]] = {layer.pk: [] for layer in stack}
    after: dict[int, list[Step]] = {layer.pk: [] for layer in stack}
    for place, layer in enumerate(stack):
        above, made = {la.technique: la.pk for la in stack[place + 1 :]}, layer.pk
        inside = itertools.takewhile(lambda la: la.technique in IN_THE_MOULD, stack[place + 1 :])
        *_, last = layer, *inside
        for step in steps_from(designs[layer.pk].drawn.get("steps", [])) if layer.pk in designs else []:
            made = above.get(step.makes, made)
            (after[last.pk] if step.makes == ALL_MADE else steps[made]).append(step)
    seconds = {pk: float(design.drawn.get("seconds") or 0.0) for pk, design in designs.items()}
    return {pk: Told(steps[pk], after[pk], seconds.get(pk, 0.0)) for pk in steps}


def todo_of(
    layer: Layer, piece: Piece, kitchen: Kitchen, told: Told, count: int, *, first: bool, on_set: bool = False
) -> list[Step]:  # fmt: skip
    """What is done for so many of the pieces of a layer. first : nothing lies under it. on_set : that was hard when it
    was done."""
    share = count / (piece.count + piece.spares)
    usual = _usual(layer, piece, kitchen, told.seconds * share, count, first=first, on_set=on_set)
    after = [replace(step, hands_s=step.hands_s * share) for step in told.after]
    if not told.steps:
        return [*usual, *after]
    steps = [replace(step, hands_s=step.hands_s * share) for step in told.steps]
    lies = usual[0]
    if lies.state and not steps[0].state:  # what it lies on has to be as far as it says
        warm = steps[0].warm if steps[0].warm is not None else True
        steps[0] = replace(steps[0], state=lies.state, from_min=lies.from_min, until_min=lies.until_min,
                           place=lies.place, warm=warm)  # fmt: skip
    return [*steps, *after]


def closes_s(layer: Layer, piece: Piece, kitchen: Kitchen, told: Told) -> float | None:
    """How long the window is open that a layer goes on in, from the first piece on; None where it does not close."""
    first = todo_of(layer, piece, kitchen, told, piece.count + piece.spares, first=False)[0]
    if first.state == WET and first.until_min == AT_ONCE_MIN:
        return WET_MIN * 60
    return None if first.until_min is None else (first.until_min - first.from_min) * 60


def stands_s(layer: Layer, kitchen: Kitchen) -> int:
    """Until it can be taken off its stand, in the room."""
    sets = sets_where("coat", USUAL_MM, room_c=kitchen.room_c, white=layer.white)
    return 10 * math.ceil(sets[ROOM].release_min * 6) if ROOM in sets else 600


def moved_to(there: Mapping[str, int], step: Step, layer: Layer, kitchen: Kitchen) -> Step:
    """What would wait in a cold place that is not there waits in the other one, else in the room: as much shorter or
    longer as a coat takes there. there : places by where. Raises Infeasible."""
    sets = sets_where("coat", USUAL_MM, room_c=kitchen.room_c, white=layer.white)
    place = next((cold for cold in PLACES_C if there.get(cold)), ROOM)
    if place not in sets:
        told = "It is too warm for it to set in the room, and there is no place in the fridge or a freezer."
        raise Infeasible(told, field=step.place, steps=[])
    longer = sets[place].release_min / sets[step.place].release_min
    until = None if step.until_min is None else step.until_min * longer
    return replace(step, from_min=step.from_min * longer, until_min=until, place=place)


def _usual(
    layer: Layer, piece: Piece, kitchen: Kitchen, seconds: float, count: int, *, first: bool, on_set: bool
) -> list[Step]:  # fmt: skip
    """What is done for a layer whose design has no steps, in the seconds of that or as long as it usually takes, and
    what it waits for."""
    kind = technique_of(layer).kind
    each_s = HANDS_S[kind.measured]
    if kind.measured == COUNTED:
        each_s = min(MOST_EACH_S, each_s * max(1, int(layer.parameters.get("count", 1))))
    hands_s = seconds or each_s * count
    sets = sets_where("coat", USUAL_MM, room_c=kitchen.room_c, white=layer.white)
    place = kitchen.places[0] if kitchen.places[0] in sets else next(iter(sets), ROOM)
    touch = sets[place].touch_min if sets else 0.0
    words = f"{kind.title}: {count} {piece.name.lower()}"
    if first or kind.lies_on == "any":
        return [Step(words + ".", hands_s)]
    lies = layer.parameters.get("placed") or kind.lies_on
    if lies == WET:
        return [Step(words + ", while it is wet.", hands_s, WET, 0.0, AT_ONCE_MIN)]
    if lies == HALF_SET:
        return [Step(words + ", half-set.", hands_s, HALF_SET, touch / 2, max(touch, touch / 2 + 2), place)]
    return [Step(words + ", once it is set.", hands_s, SET, 0.0 if on_set else touch, None, place)]
