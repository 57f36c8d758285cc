"""flow.from_number, flow.pipe, flow.spread, flow.state, flow.thin, flow.drip, flow.windows."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from coating.errors import MissingField, WillNotFlow
from coating.facade.fields import Choice, Flag, Number, Record, Text
from coating.facade.learned import FACTORS
from coating.facade.registry import Entry
from coating.flow.casson1959 import Flow, pipe_flow
from coating.flow.home_tests.roussel_coussot2005 import DENSITY_KG_M3, spread
from coating.flow.ribbon import flow_word
from coating.flow.state import Conditions, flow_now
from coating.flow.thinning import THINNERS, thin
from coating.flow.trade_number import flow_from_number, number_from_flow
from coating.flow.windows import WINDOWS, window
from coating.learning.factors import AS_LABELLED, Factor, Factors
from coating.learning.names import FLOW, kind_of
from coating.limits import check
from coating.stock.ingredients import DEMO_INGREDIENTS, demo_ingredient

SPREAD = 0.2


def _from_number(given: dict[str, Any]) -> dict[str, Any]:
    flow = flow_from_number(given["number"], k_per_s=given["k_per_s"])
    return {
        "yield_stress_pa": flow.yield_stress_pa,
        "viscosity_pa_s": flow.viscosity_pa_s,
        "word": flow_word(flow),
    }


def _pipe(given: dict[str, Any]) -> dict[str, Any]:
    flow = Flow(given.pop("yield_stress_pa"), given.pop("viscosity_pa_s"))
    return {"flow_m3_s": pipe_flow(flow, **given)}


def _learned(given: dict[str, Any], base: str | None) -> Factor:
    """What was learned of the label of a base; the number then is that of this kitchen's bag. Raises MissingField."""
    factors: Factors = given.pop("factors")
    if base is None:
        if any(kind_of(name) == FLOW for name in factors.of):
            raise MissingField("Say of which base it is, or what was learned of it cannot be used.", field="base")
        return AS_LABELLED
    factor = factors.flow(base)
    given["number"] = check("number", given["number"] * factor.value)
    return factor


def _state(given: dict[str, Any]) -> dict[str, Any]:
    learned = _learned(given, given.pop("base"))
    fat, added = given["fat_fraction"], given["added_fat_g_per_100g"] / 100
    water = given["water_g_per_100g"] / 100
    conditions = Conditions(
        number=given["number"],
        fat_fraction=fat,
        kind=given["kind"],
        temperature_c=given["temperature_c"],
        tempered=given["tempered"],
        water_fraction=water / (1 + added + water),
        new_fat_fraction=(fat + added) / (1 + added),
        k_per_s=given["k_per_s"],
    )
    try:
        flow = flow_now(conditions)
    except WillNotFlow as refusal:
        return {
            "number": None,
            "yield_stress_pa": None,
            "viscosity_pa_s": None,
            "word": "stiff",
            "why": refusal.message,
        }
    number = number_from_flow(flow)
    low, high = (end / learned.value for end in learned.range_or(SPREAD))
    return {
        "number": number,
        "low_number": number * low,
        "high_number": number * high,
        "yield_stress_pa": flow.yield_stress_pa,
        "viscosity_pa_s": flow.viscosity_pa_s,
        "word": flow_word(flow),
    }


def _thin(given: dict[str, Any]) -> dict[str, Any]:
    named = demo_ingredient(given["base"]) if given["base"] in DEMO_INGREDIENTS else None
    factor = _learned(given, named.name if named else None)
    if factor.low is not None and factor.high is not None:
        given["label"] = factor.low / factor.value, factor.high / factor.value
    if named:
        given["base"] = "coating" if named.family == "palm" else "chocolate"
    return asdict(thin(**given))


def _spread(given: dict[str, Any]) -> dict[str, Any]:
    return asdict(spread(**given))


def _drip(given: dict[str, Any]) -> dict[str, Any]:
    from coating.flow.drip import drip_length  # numpy is loaded only when it is needed

    return asdict(drip_length(given.pop("number"), **given))


def _windows(given: dict[str, Any]) -> dict[str, Any]:
    chosen = [window(given["technique"])] if given["technique"] else list(WINDOWS)
    return {
        "windows": [
            {
                "technique": w.technique,
                "title": w.title,
                "yield_stress_pa": list(w.yield_stress_pa),
                "viscosity_pa_s": list(w.viscosity_pa_s),
                "number": list(w.number),
                "reason": w.reason,
            }
            for w in chosen
        ]
    }


_K = Number("k_per_s", 6.0)
_KIND = Choice(("chocolate", "coating"), default="chocolate")
_BASES = tuple(name for name, i in DEMO_INGREDIENTS.items() if i.is_base)

ENTRIES = (
    Entry(
        "flow.from_number",
        "yield stress and viscosity of a trade number",
        Record({"number": Number("number"), "k_per_s": _K}),
        _from_number,
    ),
    Entry(
        "flow.pipe",
        "volume flow of a Casson fluid through a nozzle",
        Record(
            {
                "yield_stress_pa": Number("yield_stress_pa"),
                "viscosity_pa_s": Number("viscosity_pa_s"),
                "radius_m": Number("radius_m"),
                "length_m": Number("length_m"),
                "pressure_pa": Number("pressure_pa"),
            }
        ),
        _pipe,
    ),
    Entry(
        "flow.state",
        "flow as it stands: warmth, temper, water and fat on top of the label number",
        Record(
            {
                "number": Number("number"),
                "kind": _KIND,
                "fat_fraction": Number("fat_fraction", 0.32),
                "temperature_c": Number("temperature_c", 40.0),
                "tempered": Flag(False),
                "water_g_per_100g": Number("water_g_per_100g", 0.0),
                "added_fat_g_per_100g": Number("added_fat_g_per_100g", 0.0),
                "k_per_s": _K,
                "base": Choice(_BASES, default=None),
                "factors": FACTORS,
            }
        ),
        _state,
    ),
    Entry(
        "flow.thin",
        "fat that brings one number to another, and how hard it then sets",
        Record(
            {
                "mass_g": Number("mass_g"),
                "number": Number("number"),
                "target_number": Number("number"),
                "fat_fraction": Number("fat_fraction", 0.32),
                "base": Choice(("chocolate", "coating", *_BASES), default="chocolate"),
                "factors": FACTORS,
                "thinner": Choice(THINNERS, default="cocoa butter"),
                "room_c": Number("room_c", 22.0),
                "k_per_s": _K,
            }
        ),
        _thin,
    ),
    Entry(
        "flow.spread",
        "yield stress from how wide a spoonful spreads",
        Record(
            {
                "volume_ml": Number("spread_ml"),
                "diameter_mm": Number("spread_mm"),
                "wait_s": Number("spread_wait_s", 60.0),
                "density_kg_m3": Number("density_kg_m3", DENSITY_KG_M3),
            }
        ),
        _spread,
    ),
    Entry(
        "flow.drip",
        "how far a drip runs down a cake",
        Record(
            {
                "number": Number("number"),
                "volume_ml": Number("drip_ml"),
                "temperature_c": Number("drip_c"),
                "wall": Choice(("chilled", "room"), default="chilled"),
                "width_mm": Number("drip_width_mm", 9.0),
            }
        ),
        _drip,
    ),
    Entry(
        "flow.windows", "the window of flow each technique wants", Record({"technique": Text(default=None)}), _windows
    ),
)
