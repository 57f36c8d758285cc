"""care.diagnose."""

from __future__ import annotations

from typing import Any

from coating.care.diagnosis import SYMPTOMS, TABLES, Case, Offer, Piece, diagnose
from coating.care.diagnosis.looks import CANNOT_TELL
from coating.colour.ciede2000 import colour_difference
from coating.facade.bowl import CONTEXT, EVENT, context_from, events_from
from coating.facade.fields import LAB, Choice, Flag, ListOf, Number, Record, Vector
from coating.facade.parts import INGREDIENT, part_out
from coating.facade.registry import Entry
from coating.facade.techniques import NAMES, technique_of
from coating.flow.firmness import firmness
from coating.flow.thinning import THINNERS
from coating.flow.windows import WINDOWS, window
from coating.simulate.bowl import BowlState
from coating.stock.ingredients import demo_ingredient

PIECE = Record(
    {
        "thickness_mm": Number("thickness_mm", None),
        "place": Choice(("room", "fridge", "freezer"), default=None),
        "since_min": Number("since_min", None),
        "core_c": Number("temperature_c", None),
        "core": Choice(("dry", "moist", "greasy"), default=None),
        "stick_min": Number("since_min", None),
        "squeeze_ml": Number("drip_ml", None),
        "wanted_mm": Number("drip_mm", None),
        "wall": Choice(("chilled", "room", "frozen"), default=None),
        "printed_side": Choice(("chocolate", "away"), default=None),
        "coats": Number("paint_coats_most", None, whole=True),
        "hole_mm": Number("hole_mm", None),
        "line_mm": Number("bead_mm", None),
        "bag_min": Number("since_min", None),
        "done": ListOf(Choice(("shaken", "scraped", "tapped")), None, most=12),
    },
    default=None,
)
_LOOKS = Record(
    {name: Choice((*look.answers, CANNOT_TELL), default=None) for name, look in TABLES.by_look.items()}, default=None
)


def _case(given: dict[str, Any]) -> Case:
    context, name = dict(given["context"]), given["technique"]
    tempered_at_s, humidity, wet = (context.pop(k) for k in ("tempered_at_s", "humidity", "wet"))
    factors = context.pop("factors")
    events = events_from(given["events"], factors)
    made = technique_of(name) if name else None
    windows = {w.technique for w in WINDOWS}
    its = name if name in windows else made.window if made else ""
    piece: dict[str, Any] = {
        k: tuple(v) if k == "done" and v is not None else v for k, v in (given["piece"] or {}).items()
    }
    thinner = given["thinner"]
    return Case(
        given["symptom"],
        context_from(context, factors),
        events,
        given["at_s"],
        window(its) if its else None,
        made.sets_as if made else "",
        {look: answer for look, answer in (given["looks"] or {}).items() if answer is not None},
        Piece(**piece),
        given["target_lab"],
        tuple(demo_ingredient(n) for n in given["bases"]),
        tuple(demo_ingredient(n) for n in given["colourants"]),
        demo_ingredient(thinner.replace(" ", "_")) if thinner else None,
        humidity,
        tempered_at_s,
        wet,
        given["power_w"],
    )


def _after(state: BowlState, case: Case) -> dict[str, Any]:
    target = case.target_lab
    firm = firmness(state.fat_base, state.added_fats, state.fat_g, state.context.room_c)
    return {
        "number": state.stands_at(),
        "word": state.word,
        "de00": None if target is None else float(colour_difference(state.mixture().lab(), target)),
        "solid_fat_fraction": firm.solid_fraction,
        "mass_g": state.mass_g,
    }


def _offered(offer: Offer, case: Case) -> dict[str, Any]:
    done = offer.done
    return {
        "move": offer.move,
        "for": list(offer.for_causes),
        "parts": [part_out(p) for p in done.parts] if done else [],
        "whole_g": done.whole_g if done else 0.0,
        "seconds": done.seconds if done else None,
        "to_c": done.to_c if done else None,
        "wait_min": offer.wait_min,
        "worse_for": list(offer.worse_for),
        "utility": offer.utility,
        "after": _after(done.after, case) if done else None,
    }


def _diagnosed(given: dict[str, Any]) -> dict[str, Any]:
    case = _case(given)
    diagnosis = diagnose(case)
    look = diagnosis.look
    return {
        "causes": [
            {"cause": s.cause, "probability": s.probability, "because": s.evidence.lines} for s in diagnosis.suspects
        ],
        "look": look and {"look": look.name, "answers": [*look.answers, CANNOT_TELL], "minutes": look.minutes},
        "moves": [_offered(offer, case) for offer in diagnosis.offers],
        "withheld": [{"move": move, "worse_for": list(worse)} for move, worse in diagnosis.withheld],
        "hopeless": diagnosis.hopeless,
        "good_for": list(diagnosis.good_for),
    }


_CONTEXT = Record(
    {
        **CONTEXT.fields,
        "humidity": Number("humidity", 0.6),
        "tempered_at_s": Number("at_s", None),
        "wet": Flag(False),
    }
)

ENTRIES = (
    Entry(
        "care.diagnose",
        "what went wrong with a bowl or a piece, what mends it, and what to look at next",
        Record(
            {
                "context": _CONTEXT,
                "events": ListOf(EVENT, most=5000),
                "at_s": Number("at_s"),
                "technique": Choice(NAMES, default=None),
                "symptom": Choice(SYMPTOMS),
                "looks": _LOOKS,
                "piece": PIECE,
                "target_lab": Vector(LAB, None),
                "bases": ListOf(Choice(INGREDIENT.choices), ()),
                "colourants": ListOf(Choice(INGREDIENT.choices), ()),
                "thinner": Choice(THINNERS, default=None),
                "power_w": Number("oven_w", 800.0),
            }
        ),
        _diagnosed,
    ),
)
