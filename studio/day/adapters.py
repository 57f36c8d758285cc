"""A job becomes a day: each layer a chain of steps, each colour at a flow a bowl that cools."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass

from coating.heat.cooling import BowlCooling
from coating.heat.melting import COUPLING, melt_to_c, melting_energy_j, working_floor_c, working_temperature_c
from coating.heat.setting import settings_by_place
from coating.piece.layers import COUNTED, DRIP, FILM, LINE, NONE, SPREAD, VOLUME
from coating.plan.day import HANDS, Day, DayBowl, DayStep, Lag
from coating.plan.day.chain import Chain, chain
from coating.plan.steps import HALF_SET, ROOM, SET, WET, Step, steps_from
from studio.accounts.models import Kitchen
from studio.designs.models import Design
from studio.pieces.adapters import ColourNeed, colour_needs
from studio.pieces.models import Job, Layer, Piece
from studio.pieces.techniques import technique_of

HEAT = "heat"
# Hands for a piece, s; assumptions.
HANDS_S = {FILM: 15.0, SPREAD: 15.0, LINE: 12.0, VOLUME: 8.0, COUNTED: 3.0, DRIP: 90.0, NONE: 4.0}
MOST_EACH_S = 12.0
USUAL_MM, STIR_S, LONGEST_LIFE_S = 1.5, 60, 3600
OVEN_W = 800.0


@dataclass(frozen=True)
class Planned:
    """A day with the words of its steps, what each is for, and its bowls' names."""

    day: Day
    says: Mapping[str, str]
    of: Mapping[str, Piece]
    counts: Mapping[str, int]  # how many pieces a step is for, where it goes piece by piece
    bowls: Mapping[str, ColourNeed]


def day_of(
    job: Job, kitchen: Kitchen, *, hands: int, fridge: int, freezer: int, deadline_s: int | None = None
) -> Planned | None:  # fmt: skip
    """Every layer of a job, from prefetched rows; None where nothing is to be done. Raises Infeasible."""
    needs = {need.key: need for need in colour_needs(job)}
    warm = {key: _bowl(need, kitchen) for key, need in needs.items()}
    bowl_of = {la.pk: key for key, need in needs.items() for la in need.layers}
    kept = Design.objects.filter(layer__piece__job=job).values_list("layer_id", "drawn__steps", "drawn__seconds")
    drawn = {pk: (told or [], seconds or 0.0) for pk, told, seconds in kept}
    places = {"fridge": fridge, "freezer": freezer}
    steps: list[DayStep] = []
    lags: list[Lag] = []
    says: dict[str, str] = {}
    of: dict[str, Piece] = {}
    counts: dict[str, int] = {}
    for piece in job.pieces.all():
        after: str | None = None
        for layer in piece.stack:
            told, seconds = drawn.get(layer.pk, ([], 0.0))
            todo = steps_from(told) if told else _usual(layer, piece, kitchen, seconds, first=after is None)
            key = bowl_of.get(layer.pk)
            made: Chain = chain(f"{layer.pk}", todo, bowl=key, warm=warm.get(key or ""), after=after, places=places)
            steps += made.steps
            lags += made.lags
            says |= made.says
            of |= {s.name: piece for s in made.steps}
            if not told:
                counts |= _shares(piece.count + piece.spares, [s.name for s in made.steps if HANDS in s.uses])
            after = made.last
    if not steps:
        return None
    resources = {HANDS: hands, HEAT: 1, **places}
    used = {s.bowl for s in steps}
    day = Day(tuple(steps), tuple(lags), resources, {k: b for k, b in warm.items() if k in used}, deadline_s)
    return Planned(day, says, of, counts, needs)


def _shares(count: int, names: list[str]) -> dict[str, int]:
    """How many pieces are for each part of a step."""
    ends = [(k + 1) * count // len(names) for k in range(len(names))]
    found = {name: end - begin for name, begin, end in zip(names, [0, *ends], ends, strict=False)}
    return {name: n for name, n in found.items() if n > 1}


def _bowl(need: ColourNeed, kitchen: Kitchen) -> DayBowl:
    """How long a bowl takes to melt, and how long it can be used."""
    mass_g, white = max(50.0, need.quantity.melt_g), need.white
    energy = melting_energy_j(mass_g, kitchen.room_c, melt_to_c(white))
    heat_s = energy / ((kitchen.power_w or OVEN_W) * 0.5 * COUPLING)
    life_s = BowlCooling(mass_g, kitchen.room_c).time_to_s(working_temperature_c(white), working_floor_c(white))
    life = LONGEST_LIFE_S if math.isinf(life_s) else min(LONGEST_LIFE_S, int(life_s))
    return DayBowl(10 * math.ceil(heat_s / 10), HEAT, STIR_S, max(120, life // 10 * 10))


def _usual(layer: Layer, piece: Piece, kitchen: Kitchen, seconds: float, *, first: bool) -> list[Step]:
    """What is done for a layer whose design has no steps, in the seconds of that or as long as it usually takes, and
    what it waits for."""
    kind, count = technique_of(layer).kind, piece.count + piece.spares
    each_s = HANDS_S[kind.measured]
    if kind.measured == COUNTED:
        each_s = min(MOST_EACH_S, each_s * max(1, int(layer.parameters.get("count", 1))))
    hands_s = seconds or each_s * count
    sets = settings_by_place(USUAL_MM, pour_c=38.0, room_c=kitchen.room_c, white=layer.white)
    place = kitchen.places[0] if kitchen.places[0] in sets else next(iter(sets), ROOM)
    touch = sets[place].touch_min if sets else 0.0
    words = f"{kind.title}: {count} {piece.name.lower()}"
    if first or kind.lies_on == "any":
        return [Step(words + ".", hands_s)]
    lies = layer.parameters.get("placed") or kind.lies_on
    if lies == WET:
        return [Step(words + ", while it is wet.", hands_s, WET, 0.0, touch / 2)]
    if lies == HALF_SET:
        return [Step(words + ", half-set.", hands_s, HALF_SET, touch / 2, max(touch, touch / 2 + 2), place)]
    return [Step(words + ", once it is set.", hands_s, SET, touch, None, place)]
