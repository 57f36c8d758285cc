"""heat.bursts, heat.seed, heat.set, heat.pliable, heat.dew_point."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from coating.facade.fields import Choice, Number, Record
from coating.facade.registry import Entry
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
    }


def _placed(given: dict[str, Any]) -> dict[str, Any]:
    """Defaults that hang on the kind and the place."""
    white = given.pop("kind")
    pour_c = POURED_C[white] if given["pour_c"] is None else given["pour_c"]
    around = given["surround_c"]
    around = {"room": ROOM_C, **PLACES_C}[given["place"]] if around is None else around
    return {**given, "white": white, "pour_c": pour_c, "surround_c": around}


def _ranged(times: dict[str, float]) -> dict[str, float]:
    low = {f"low_{name}": value * (1 - SETTING_OFF) for name, value in times.items()}
    return {**times, **low, **{f"high_{name}": value * (1 + SETTING_OFF) for name, value in times.items()}}


def _set(given: dict[str, Any]) -> dict[str, Any]:
    return _ranged(asdict(setting_time(given.pop("thickness_mm"), **_placed(given))))


def _pliable(given: dict[str, Any]) -> dict[str, Any]:
    return _ranged(asdict(pliable_window(given.pop("thickness_mm"), **_placed(given))))


_LAYER = Record(
    {
        "thickness_mm": Number("thickness_mm"),
        "pour_c": Number("temperature_c", None),
        "surround_c": Number("temperature_c", None),
        "place": Choice(("room", "fridge", "freezer"), default="room"),
        "kind": Choice(("coating", "tempered", "untempered"), default="coating"),
        "sides": Number("sides", 1.0),
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
    Entry("heat.set", "minutes until a layer is dry to the touch and can be released", _LAYER, _set),
    Entry("heat.pliable", "minutes from which a line or film can be lifted and until which it bends", _LAYER, _pliable),
    Entry(
        "heat.dew_point",
        "warmth below which a piece gets wet in this air",
        Record({"temperature_c": Number("temperature_c"), "relative_humidity": Number("humidity")}),
        lambda given: {"dew_point_c": dew_point_c(**given)},
    ),
)
