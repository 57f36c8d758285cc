"""heat.bursts, heat.seed, heat.set, heat.pliable, heat.dew_point."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import asdict
from functools import partial
from typing import Any

from coating.facade.fields import Choice, Flag, Number, Record
from coating.facade.learned import FACTORS
from coating.facade.registry import Entry
from coating.facade.techniques import NAMES
from coating.heat.alduchov_eskridge1996 import dew_point_c
from coating.heat.bursts import burst_plan
from coating.heat.melting_curve import TEMPERED_WORK_C
from coating.heat.seed import seed
from coating.heat.setting import PLACES_C, POURED_C, SETTING_OFF, pliable_window, setting_time

ROOM_C = 21.0


def _bursts(given: dict[str, Any]) -> dict[str, Any]:
    plan = burst_plan(**given)
    return {
        "bursts_s": list(plan.bursts_s),
        "predicted_c": list(plan.predicted_c),
        "solid_fractions": list(plan.solid_fractions),
        "all_s": plan.all_s,
        "low_bursts": plan.likely[0] if plan.bursts_s else 0,
        "high_bursts": plan.likely[1],
    }


def _placed(given: dict[str, Any]) -> dict[str, Any]:
    """Defaults that hang on the kind and the place."""
    white = given.pop("kind")
    pour_c = POURED_C[white] if given["pour_c"] is None else given["pour_c"]
    around = given["surround_c"]
    around = {"room": ROOM_C, **PLACES_C}[given["place"]] if around is None else around
    return {**given, "white": white, "pour_c": pour_c, "surround_c": around}


def _timed(model: Callable[..., Any], given: dict[str, Any]) -> dict[str, float]:
    """Minutes with their ranges, by what was learned of coats and of setting."""
    factors, technique, measured = (given.pop(name) for name in ("factors", "technique", "measured"))
    thickness_mm = given.pop("thickness_mm")
    if technique and not measured:
        thickness_mm *= factors.coat(technique)
    low, high = factors["set"].range_or(SETTING_OFF)
    times = asdict(model(thickness_mm, **_placed(given)))
    return {
        prefix + name: value * factor
        for prefix, factor in (("", factors.set), ("low_", low), ("high_", high))
        for name, value in times.items()
    }


_LAYER = Record(
    {
        "thickness_mm": Number("thickness_mm"),
        "pour_c": Number("temperature_c", None),
        "surround_c": Number("temperature_c", None),
        "place": Choice(("room", "fridge", "freezer"), default="room"),
        "kind": Choice(("coating", "tempered", "untempered"), default="coating"),
        "sides": Number("sides", 1.0),
        "technique": Choice(NAMES, default=None),
        "measured": Flag(False),
        "factors": FACTORS,
    }
)

ENTRIES = (
    Entry(
        "heat.bursts",
        "microwave bursts that never overheat, and how warm it is after each",
        Record(
            {
                "mass_g": Number("mass_g"),
                "start_c": Number("temperature_c", ROOM_C),
                "target_c": Number("temperature_c", 42.0),
                "power_w": Number("oven_w", 800.0),
                "power_fraction": Number("power_fraction", 0.5),
            }
        ),
        _bursts,
    ),
    Entry(
        "heat.seed",
        "unmelted chocolate that brings a melted bowl to its working temperature",
        Record(
            {
                "mass_g": Number("mass_g"),
                "melt_c": Number("temperature_c", 45.0),
                "target_c": Number("temperature_c", TEMPERED_WORK_C),
                "seed_c": Number("temperature_c", ROOM_C),
                "loss_fraction": Number("loss_fraction", 0.0),
            }
        ),
        lambda given: asdict(seed(**given)),
    ),
    Entry(
        "heat.set",
        "minutes until a layer is dry to the touch and can be released",
        _LAYER,
        partial(_timed, setting_time),
    ),
    Entry(
        "heat.pliable",
        "minutes from which a line or film can be lifted and until which it bends",
        _LAYER,
        partial(_timed, pliable_window),
    ),
    Entry(
        "heat.dew_point",
        "warmth below which a piece gets wet in this air",
        Record({"temperature_c": Number("temperature_c"), "relative_humidity": Number("humidity")}),
        lambda given: {"dew_point_c": dew_point_c(**given)},
    ),
)
