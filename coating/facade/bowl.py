"""bowl.state."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from coating.colour.mixing import Part
from coating.errors import MissingField, WrongShape
from coating.facade.fields import LAB, Choice, ListOf, Number, Record, Text, Vector
from coating.facade.learned import FACTORS
from coating.facade.parts import INGREDIENT, PART, part_from, part_of, part_out
from coating.facade.registry import Entry
from coating.flow.trade_number import number_from_flow
from coating.learning.factors import Factors
from coating.learning.names import LOSS
from coating.simulate.bowl import KINDS, BowlContext, Event
from coating.simulate.fold import fold
from coating.stock.ingredients import demo_ingredient

CONTEXT = Record(
    {
        "fat_fraction": Number("fat_fraction", None),
        "number": Number("number", None),
        "room_c": Number("room_c", 21.0),
        "white": Choice(("coating", "tempered", "untempered"), default=None),
        "k_per_s": Number("k_per_s", None),
        "factors": FACTORS,
    }
)
EVENT = Record(
    {
        "seq": Number("at_s", whole=True),
        "kind": Choice(KINDS),
        "at_s": Number("at_s"),
        "ingredient": Choice(INGREDIENT.choices, default=None),
        "mass_g": Number("mass_g", None),
        "drops": Number("drops", None, whole=True),
        "to_c": Number("temperature_c", None),
        "seconds": Number("duration_s", None),
        "power_w": Number("power_w", None),
        "power_fraction": Number("power_fraction", 0.5),
        "test": Text(default=""),
        "value": Number("test_value", None),
        "off": Number("loss_fraction", None),
        "ratio_per_s": Number("k_per_s", None),
        "lab": Vector(LAB, None),
        "parts": ListOf(PART, None),
        "target_seq": Number("at_s", None, whole=True),
    }
)
# What each kind must carry: one of these sets of fields.
_NEEDS: dict[str, tuple[tuple[str, ...], ...]] = {
    "added": (("ingredient",),),
    "warmed": (("to_c",), ("seconds", "power_w")),
    "cooled": (("to_c",),),
    "stirred": ((),),
    "tested": (("test", "value"),),
    "read": (("lab",),),
    "split": (("mass_g",),),
    "used": (("mass_g",),),
    "received": (("parts",),),
    "struck": (("target_seq",),),
}


def _event(given: dict[str, Any], path: str, factors: Factors) -> Event:
    kind = given["kind"]
    ways = _NEEDS[kind]
    if not any(all(given[f] not in (None, "") for f in way) for way in ways):
        wanted = " or ".join(" and ".join(way) for way in ways)
        raise MissingField(f"{kind} needs {wanted}.", field=f"{path}.{ways[0][0]}")
    parts: tuple[Part, ...] = ()
    if kind == "added":
        ingredient = factors.ingredient(demo_ingredient(given["ingredient"]))
        parts = (part_of(ingredient, given["mass_g"], given["drops"], path),)
    elif kind == "received":
        parts = tuple(part_from(p, f"{path}.parts[{i}]", factors) for i, p in enumerate(given["parts"]))
    target = given["target_seq"]
    return Event(
        seq=int(given["seq"]),
        kind=kind,
        at_s=given["at_s"],
        parts=parts,
        to_c=given["to_c"],
        seconds=given["seconds"],
        power_w=given["power_w"],
        power_fraction=given["power_fraction"],
        mass_g=given["mass_g"],
        test=given["test"],
        value=given["value"],
        off=given["off"],
        ratio_per_s=given["ratio_per_s"],
        lab=given["lab"],
        target_seq=None if target is None else int(target),
    )


def events_from(rows: Sequence[dict[str, Any]], factors: Factors) -> list[Event]:
    """The events of a bowl as they were read. Raises WrongShape where two have the same number, MissingField."""
    events = [_event(e, f"events[{i}]", factors) for i, e in enumerate(rows)]
    seen = [e.seq for e in events]
    if len(set(seen)) != len(seen):
        raise WrongShape("Two events have the same seq.", field="events")
    return events


def context_from(given: dict[str, Any], factors: Factors) -> BowlContext:
    """What is known of a bowl besides."""
    return BowlContext(**given, loss=factors.loss, loss_sd=factors.sd_of(LOSS))


def _state(given: dict[str, Any]) -> dict[str, Any]:
    factors = given["context"].pop("factors")
    events = events_from(given["events"], factors)
    state = fold(events, context_from(given["context"], factors), at_s=given["at_s"])
    low, high = state.flow_range()
    stands, usable = state.stands_at(), state.usable_range_s()
    return {
        "mass_g": state.mass_g,
        "parts": [part_out(p) for p in state.parts],
        "lab": None if state.empty else list(state.mixture().lab()),
        "load": state.load,
        "number": stands,
        "low_number": number_from_flow(low) if low else None,
        "high_number": number_from_flow(high) if high else None,
        "temperature_c": state.temperature_c,
        "word": state.word,
        "set": state.is_set,
        "overheated_minutes": state.overheated_minutes,
        "water_g_per_100g": 100 * state.water_fraction / max(1 - state.water_fraction, 1e-9),
        "usable_until_s": state.usable_until_s(),
        "low_usable_until_s": usable[0] if usable else None,
        "high_usable_until_s": usable[1] if usable else None,
        "notes": list(state.notes),
    }


ENTRIES = (
    Entry(
        "bowl.state",
        "fold the events of a bowl into its state at a moment",
        Record({"context": CONTEXT, "events": ListOf(EVENT, most=5000), "at_s": Number("at_s")}),
        _state,
    ),
)
