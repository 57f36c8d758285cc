"""Faults with hidden causes: bowls and pieces spoilt on purpose, with the log their maker would have kept.

Likelihoods are drawn 30 % off those of the tables, one look in ten is answered wrongly, one log in twenty lacks an
event, and some say nothing at all.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from random import Random

from coating.care.diagnosis import TABLES, Case, Diagnosis, Piece, diagnose
from coating.care.diagnosis.looks import Look
from coating.colour.mixing import Part, mix
from coating.flow.windows import window
from coating.heat.times import bend_window, set_time
from coating.simulate.bowl import BowlContext, Event
from coating.stock.ingredients import DEMO_INGREDIENTS as HAS

THICKENED = ("overheated", "lumps", "cold", "water", "water_colour", "thick_product", "fat_unmelted", "edge_set")
OFF, WRONG_LOOK, FORGOTTEN = 0.3, 0.1, 0.05
GOOD = Piece(
    place="room", core_c=18, core="dry", stick_min=20, wall="chilled", printed_side="chocolate", coats=2,
    hole_mm=2, line_mm=2, bag_min=1, done=("shaken", "scraped", "tapped"),
)  # fmt: skip
_DROP_G = HAS["blue"].unit_g


@dataclass(frozen=True)
class Fault:
    """A cause nobody knows, and the case as its maker would describe it."""

    cause: str
    case: Case


class Bowl:
    """Writes a log."""

    def __init__(self, rng: Random, white: str | None = None) -> None:
        self.rng = rng
        self.white = white or rng.choice(("coating", "untempered"))
        self.base = "bright" if self.white == "coating" else "ivory"
        self.grams = rng.uniform(150, 300)
        self.at = 0.0
        self.events: list[Event] = []
        self.add(self.base, self.grams)

    @property
    def fat(self) -> str:
        """Of its own family."""
        return "palm_flakes" if self.white == "coating" else "cocoa_butter"

    def _note(self, kind: str, wait: float, event: Event) -> Bowl:
        self.at += wait
        self.events.append(replace(event, kind=kind, seq=len(self.events) + 1, at_s=self.at))
        return self

    def add(self, name: str, grams: float, wait: float = 0.0) -> Bowl:
        return self._note("added", wait, Event(0, "", 0, parts=(Part(HAS[name], grams),)))

    def to(self, warm_c: float, wait: float = 240.0) -> Bowl:
        rising = self.events[-1].kind != "warmed"
        return self._note("warmed" if rising else "cooled", wait, Event(0, "", 0, to_c=warm_c))

    def bursts(self, seconds: float) -> Bowl:
        return self._note("warmed", 60, Event(0, "", 0, seconds=seconds, power_w=700, power_fraction=0.5))

    def stir(self, seconds: float = 60.0, wait: float = 10.0) -> Bowl:
        return self._note("stirred", wait, Event(0, "", 0, seconds=seconds))

    def good(self) -> Bowl:
        """As it ought to be: melted, cooled to working warmth, stirred."""
        work = {"coating": 38.0, "untempered": 37.0, "tempered": 28.5}[self.white]
        return self.to(42).to(work, 120).stir()


Made = tuple[Bowl, dict[str, object]]


def _target(drops: float, base: str, grams: float, colour: str = "blue") -> tuple[float, float, float]:
    return mix([Part(HAS[base], grams), Part(HAS[colour], drops * _DROP_G)]).lab()


def _thickened(cause: str, rng: Random) -> Made:
    bowl, much = Bowl(rng), rng.uniform(0.7, 1.4)
    more: dict[str, object] = {}
    if cause == "overheated":
        bowl.to(rng.uniform(56, 62)).stir()
        bowl.at += 600 * much
    elif cause == "lumps":
        bowl.bursts(rng.uniform(0.3, 0.5) * bowl.grams).stir(20)
    elif cause == "cold":
        bowl.to(41).stir()
        bowl.at += 1500 * much
    elif cause == "water":
        bowl.good()
        more = {"wet": True} if rng.random() < 0.7 else {}
        bowl = bowl if more else bowl.add("water", 0.4 * bowl.grams / 100 * much).stir(30)
    elif cause == "water_colour":
        bowl.to(42).add("blue_gel", 0.8 * bowl.grams / 100 * much, 60).stir()
    elif cause == "thick_product":
        bowl.good()
        more = {"number": 110 * much**0.3}
    elif cause == "fat_unmelted":
        bowl.to(42).to(33.5, 300).add(bowl.fat, 0.02 * bowl.grams, 10).stir(20)
    else:
        bowl = Bowl(rng, "coating").to(34).stir()
        bowl.at += 500 * much
    return bowl, more


def _in_bowl(cause: str, rng: Random) -> Made:
    bowl, much = Bowl(rng), rng.uniform(0.7, 1.4)
    more: dict[str, object] = {}
    drops = round(bowl.grams / 40)
    if cause == "thin_product":
        bowl.good()
        more = {"number": 14 * much**0.3}
    elif cause == "too_warm":
        bowl.to(rng.uniform(44.5, 47)).stir()
    elif cause == "too_much_fat":
        bowl.good().add(bowl.fat, 0.11 * bowl.grams * much).stir()
    elif cause in ("overdose", "underdose"):
        times = 2.0 * much if cause == "overdose" else 0.4
        bowl.good().add("blue", max(1, round(drops * times)) * _DROP_G, 20).stir(90)
        more = {"target_lab": _target(drops, bowl.base, bowl.grams)}
    elif cause == "wrong_hue":
        bowl.good().add("yellow", drops * _DROP_G, 20).add("blue", drops * _DROP_G, 5).stir(90)
        more = {"target_lab": _target(drops, bowl.base, bowl.grams)}
    elif cause == "undermixed":
        bowl.good().add("blue", drops * _DROP_G, 20).stir(12)
        more = {"target_lab": _target(drops, bowl.base, bowl.grams)}
    elif cause == "powder":
        bowl.to(42).to(32, 400).add("blue_powder", 0.002 * bowl.grams, 10).stir(90)
    elif cause == "lost_temper":
        bowl = Bowl(rng, "tempered").to(45).to(28.5, 500).stir()
        more = {"tempered_at_s": bowl.at}
        bowl.to(rng.uniform(33.5, 36), 300).stir()
    elif cause == "never_tempered":
        bowl = Bowl(rng, "untempered").good()
    elif cause == "mixed_fats":
        bowl.good().add("cocoa_butter" if bowl.white == "coating" else "palm_flakes", 0.04 * bowl.grams * much).stir(
            120
        )
        bowl.at += 120
    elif cause == "liquid_oil":
        bowl.good().add("liquid_oil", 0.02 * bowl.grams * much).stir()
    return bowl, more


def _on_piece(cause: str, rng: Random, symptom: str) -> tuple[Bowl, Piece, dict[str, object]]:
    white = "tempered" if cause == "chilled_hard" else "coating" if cause in ("damp", "early_out") else None
    bowl, much, more = Bowl(rng, white).good(), rng.uniform(0.8, 1.2), dict[str, object]()
    if bowl.white == "tempered":
        more["tempered_at_s"] = bowl.at
    thick = 8.0 if symptom in ("stuck", "breaks_out", "no_print", "corners") else 1.5
    piece = replace(GOOD, thickness_mm=thick, place="freezer" if thick > 2 else "room")
    white = bowl.white
    if cause in ("mould_dirty", "early_out"):
        release = set_time("mould", thick, str(piece.place), white=white).release_min
        piece = replace(piece, since_min=release * (0.5 if cause == "early_out" else 1.8) * much)
    elif cause in ("lifted_late", "lifted_early"):
        bends = bend_window("line", thick, "room", white=white)
        late = cause == "lifted_late"
        piece = replace(piece, since_min=(1.5 * bends.until_min if late else 0.5 * bends.from_min) * much)
    elif cause in ("toppings_late", "toppings_early", "bead_set"):
        touch = set_time("coat", thick, "room", white=white).touch_min
        piece = replace(piece, since_min=touch * (0.1 if cause == "toppings_early" else 1.6) * much)
    elif cause == "warm_room":
        more["room_c"] = rng.uniform(27, 30)
    elif cause == "damp":
        piece, more["humidity"] = replace(piece, place="freezer"), rng.uniform(0.6, 0.8)
    elif cause in ("drip_big", "drip_small"):
        piece = replace(piece, squeeze_ml=1.6 if cause == "drip_big" else 0.15, wanted_mm=35)
    else:
        wrong: dict[str, dict[str, object]] = {
            "chilled_hard": {"place": "freezer"},
            "stick_not_set": {"stick_min": 4 * much},
            "cold_core": {"core_c": 5 * much},
            "moist_core": {"core": "moist"},
            "not_shaken": {"done": ("scraped", "tapped")},
            "not_scraped": {"done": ("shaken", "tapped")},
            "not_tapped": {"done": ("shaken", "scraped")},
            "thin_wall": {"thickness_mm": 0.8 * much},
            "hole_small": {"hole_mm": 1.2},
            "hole_big": {"hole_mm": 3.2},
            "cold_bag": {"bag_min": 9 * much},
            "wall_warm": {"wall": "room"},
            "wall_cold": {"wall": "frozen"},
            "print_away": {"printed_side": "away"},
            "thick_paint": {"coats": 1},
        }
        piece = replace(piece, **wrong.get(cause, {}))  # type: ignore[arg-type]
    return bowl, piece, more


_IN_BOWLS = {c.name for c in TABLES.causes[:20]}
_SHAPES = {"lace_breaks": "line", "lace_tears": "line", "stuck": "mould", "breaks_out": "mould", "no_print": "mould"}


def _drawn(shares: dict[str, float], rng: Random) -> str:
    names = list(shares)
    return rng.choices(names, [shares[n] * math.exp(rng.gauss(0, OFF)) for n in names])[0]


def fault(cause: str, rng: Random, *, silent: bool) -> Fault:
    """One fault of a cause."""
    symptom = _drawn(dict(TABLES.by_cause[cause].symptoms), rng)
    if cause in _IN_BOWLS:
        (bowl, more), piece = (_thickened if cause in THICKENED else _in_bowl)(cause, rng), GOOD
        if symptom in ("grey", "soft", "stuck", "cracks"):
            piece = replace(GOOD, since_min=600, thickness_mm=1.5)
    else:
        bowl, piece, more = _on_piece(cause, rng, symptom)
    events = bowl.events
    if silent:
        events, piece, more = events[:1], Piece(), {k: v for k, v in more.items() if k == "target_lab"}
    elif rng.random() < FORGOTTEN and len(events) > 2:
        events = [e for e in events if e.seq != rng.randint(2, len(events))]
    context = BowlContext(white=bowl.white, room_c=float(more.pop("room_c", 21.0)), number=more.pop("number", 40.0))  # type: ignore[arg-type]
    case = Case(
        symptom, context, events, bowl.at + 20, None if silent else window("dip"), _SHAPES.get(symptom, "coat"),
        piece=piece, colourants=(HAS["blue"],), **more,  # type: ignore[arg-type]
    )  # fmt: skip
    return Fault(cause, case)


def faults(count: int, *, seed: int, silent: float = 0.39) -> Iterator[Fault]:
    """So many: as many of every cause as half of them allow, the rest thickened bowls."""
    rng = Random(seed)
    of_each = max(1, count // 2 // len(TABLES.causes))
    causes = [c.name for c in TABLES.causes for _ in range(of_each)]
    causes += [rng.choice(THICKENED) for _ in range(count - len(causes))]
    for cause in causes:
        yield fault(cause, rng, silent=rng.random() < silent)


def answered(look: Look, cause: str, rng: Random) -> str:
    """What a maker sees, one time in ten wrongly."""
    shares = TABLES.by_cause[cause].looks.get(look.name, tuple(look.answers.values()))
    seen = _drawn(dict(zip(look.answers, shares, strict=True)), rng)
    others = [a for a in look.answers if a != seen]
    return rng.choice(others) if rng.random() < WRONG_LOOK else seen


@dataclass(frozen=True)
class Outcome:
    """How it went with one fault."""

    first: bool
    among_three: bool
    helps: bool
    harms: bool
    looks: int


def tried(one: Fault, rng: Random, ask: Callable[[Case], Diagnosis] = diagnose) -> Outcome:
    """A maker asks, looks, answers, until nothing more is question."""
    case, diagnosis = one.case, ask(one.case)
    while diagnosis.look is not None:
        answers = {**case.answers, diagnosis.look.name: answered(diagnosis.look, one.cause, rng)}
        case = replace(case, answers=answers)
        diagnosis = ask(case)
    names = [s.cause for s in diagnosis.suspects]
    move = next((m for m in TABLES.moves if diagnosis.move and m.name == diagnosis.move.move), None)
    helps = move is not None and move.mends.get(one.cause, 0.0) >= 0.5
    harms = move is not None and one.cause in move.worse_for
    return Outcome(names[0] == one.cause, one.cause in names[:3], helps, harms, len(case.answers))
