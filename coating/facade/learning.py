"""learn.fit."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from coating.errors import MissingField
from coating.facade.fields import LAB, Choice, Flag, ListOf, Number, Record, Text, Vector
from coating.facade.parts import PART, part_from
from coating.facade.registry import Entry
from coating.facade.techniques import NAMES, technique_of
from coating.learning import HALF_LIFE_DAYS, NOISE, PRIORS, WRONG_SHARE, Observation, fit
from coating.learning.fit import MOST_RECORDS
from coating.learning.observations import KINDS, WORDS
from coating.stock.ingredients import DEMO_INGREDIENTS
from coating.techniques.base import FILM, LINE

_NEEDS = {
    "read": ("parts", "lab"),
    "look": ("parts", "beside_lab", "word"),
    "drops": ("expected_g", "value"),
    "spread": ("base", "number", "volume_ml", "wait_s", "temperature_c", "value"),
    "used": ("technique", "expected_g", "value"),
    "set": ("thickness_mm", "pour_c", "surround_c", "value"),
    "pace": ("expected_s", "value"),
    "stiff": ("base", "number", "mass_g", "room_c", "start_c", "most_pa", "most_pa_s", "value"),
    "warmth": ("mass_g", "room_c", "start_c", "minutes", "value"),
}
_FILM_NEEDS = ("base", "number", "temperature_c", "below_mm")
_NUMBERS = {
    "expected_g": "total_g",
    "value": "test_value",
    "number": "number",
    "volume_ml": "spread_ml",
    "wait_s": "spread_wait_s",
    "temperature_c": "temperature_c",
    "below_mm": "core_mm",
    "thickness_mm": "thickness_mm",
    "pour_c": "temperature_c",
    "surround_c": "temperature_c",
    "expected_s": "duration_s",
    "mass_g": "mass_g",
    "room_c": "room_c",
    "start_c": "temperature_c",
    "most_pa": "yield_stress_pa",
    "most_pa_s": "viscosity_pa_s",
    "minutes": "deadline_min",
}
_TECHNIQUE = Choice(NAMES, default=None)
_RECORD = Record(
    {
        "id": Text(),
        "kind": Choice(KINDS),
        "bowl": Text(numbers=True),
        "day": Number("day"),
        "struck": Flag(False),
        "parts": ListOf(PART, default=(), most=40),
        "lab": Vector(LAB, default=None),
        "beside_lab": Vector(LAB, default=None),
        "word": Choice(tuple(WORDS), default=None),
        "much": Flag(False),
        "technique": _TECHNIQUE,
        "base": Choice(tuple(n for n, i in DEMO_INGREDIENTS.items() if i.is_base), default=None),
        "measured": Flag(False),
        "place": Choice(("room", "fridge", "freezer"), default="room"),
        "white": Choice(("coating", "tempered", "untempered"), default="coating"),
        "sides": Number("sides", 1.0),
        "until": Choice(("touch", "release"), default="touch"),
        **{name: Number(bound, None) for name, bound in _NUMBERS.items()},
    }
)


def _needed(given: dict[str, Any], names: tuple[str, ...], path: str) -> None:
    for name in names:
        if given[name] is None or given[name] == ():
            raise MissingField(f"A record of kind {given['kind']} needs {name}.", field=f"{path}.{name}")


def _noted(given: dict[str, Any], path: str) -> Observation:
    """A record of the core. Raises MissingField."""
    kind, technique = given["kind"], given["technique"]
    _needed(given, _NEEDS[kind], path)
    more = {name: given[name] for name in (*_NUMBERS, "place", "white", "sides", "until", "measured")}
    if technique:
        known = technique_of(technique)
        more |= {"technique": technique, "line": known.measured == LINE, "film": known.measured == FILM}
        if known.measured == FILM and kind in ("used", "set") and not given["measured"]:
            _needed(given, _FILM_NEEDS, path)
    elif kind == "set" and not given["measured"]:
        raise MissingField("A coat that was not measured needs its technique.", field=f"{path}.technique")
    if given["base"]:
        base = DEMO_INGREDIENTS[given["base"]]
        more |= {
            "base": base.name,
            "k_per_s": base.k_per_s,
            "kind": "chocolate" if base.family == "cocoa" else "coating",
        }
    return Observation(
        id=given["id"],
        kind=kind,
        bowl=given["bowl"],
        day=given["day"],
        parts=tuple(part_from(p, f"{path}.parts[{i}]") for i, p in enumerate(given["parts"])),
        lab=given["beside_lab"] if kind == "look" else given["lab"],
        word=given["word"] or "",
        much=given["much"],
        value=given["value"] or 0.0,
        given=more,
        struck=given["struck"],
    )


def _fit(given: dict[str, Any]) -> dict[str, Any]:
    records = [_noted(r, f"records[{i}]") for i, r in enumerate(given.pop("records"))]
    given["priors"] = {n: v for n, v in given["priors"].items() if v is not None}
    given["noise"] = {n: v for n, v in given["noise"].items() if v is not None}
    fitted = fit(records, **given)
    return {
        "factors": dict(fitted.factors),
        "learned": [{**asdict(one), "says": [{"id": i, "factor": f} for i, f in one.says]} for one in fitted.learned],
        "together": [asdict(one) for one in fitted.together],
        "odd": [
            {
                **asdict(one),
                **{n: v if len(v) > 1 else v[0] for n, v in (("seen", one.seen), ("expected", one.expected))},
            }
            for one in fitted.odd
        ],
        "counted": fitted.counted,
    }


ENTRIES = (
    Entry(
        "learn.fit",
        "what a kitchen's own records say of its colours, coatings, hands and bowls",
        Record(
            {
                "records": ListOf(_RECORD, most=MOST_RECORDS),
                "as_of_day": Number("day", None),
                "half_life_days": Number("half_life_days", HALF_LIFE_DAYS, null=True),
                "wrong_share": Number("wrong_share", WRONG_SHARE),
                "priors": Record({n: Number("ln_sd", None) for n in PRIORS}, default={}),
                "noise": Record({n: Number("ln_sd", None) for n in NOISE}, default={}),
                "together": ListOf(ListOf(Text(), most=10), default=None, most=200),
            }
        ),
        _fit,
    ),
)
