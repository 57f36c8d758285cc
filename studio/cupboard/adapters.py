"""Rows of the cupboard become core ingredients."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from functools import lru_cache
from typing import Any

from coating.colour.mixing import Ingredient as CoreIngredient
from coating.colour.spectra import Curve
from coating.piece.extras import Extra as CoreExtra
from coating.quantities import TYPICAL_BAG_G
from coating.units import WATER_IN_GEL
from studio.common.types import Json
from studio.cupboard.models import Extra, Ingredient, Optics, Parameter

WATER_IN = {"water": 1.0, "gel": WATER_IN_GEL}
# Which attribute of the core ingredient a parameter sets.
ATTRIBUTES = {
    "number": "number",
    "fat_fraction": "fat_fraction",
    "strength": "strength",
    "drop_g": "unit_g",
    "cap_share": "cap_share",
    "k_per_s": "k_per_s",
    "piece_g": "piece_g",
}


@lru_cache(maxsize=1024)
def _curve(constant: float, tails: tuple, bands: tuple, power: float, samples: tuple) -> Curve:
    return Curve(constant, tails, bands, power, samples)


def curve_from(stored: Mapping[str, Any]) -> Curve:
    """A curve from its JSON."""
    return _curve(
        stored.get("constant", 0.0),
        tuple(tuple(t) for t in stored.get("tails", ())),
        tuple(tuple(b) for b in stored.get("bands", ())),
        stored.get("power", 0.0),
        tuple(stored.get("samples", ())),
    )


def curve_json(curve: Curve) -> Json:
    """A curve as JSON."""
    return {
        "constant": curve.constant,
        "tails": [list(t) for t in curve.tails],
        "bands": [list(b) for b in curve.bands],
        "power": curve.power,
        **({"samples": list(curve.samples)} if curve.samples else {}),
    }


def core_extra(row: Extra) -> CoreExtra:
    """A topping, filling or helper as the core knows it."""
    allergens = None if row.allergens is None else tuple(row.allergens)
    return CoreExtra(
        row.kind,
        row.name,
        row.each_g,
        allergens,
        row.edible,
        row.keeps_days,
        row.cold,
        row.small,
        row.comes_out,
        tuple((p["name"], p["g"]) for p in row.parts),
        row.taste,
    )


def core_ingredient(
    row: Ingredient, parameters: Iterable[Parameter] | None = None, optics: Optics | None = None
) -> CoreIngredient:
    """The core's view of a row, with its newest parameters and reading or with those given (none is the first one)."""
    if parameters is None:
        optics = row.read_last()
    curves = optics.curves if optics else row.optics
    chosen = row.current().values() if parameters is None else parameters
    values = {ATTRIBUTES[p.name]: p.value for p in chosen if p.name in ATTRIBUTES}
    return CoreIngredient(
        name=row.code,
        title=row.name,
        kind=row.kind,
        family=row.family,
        absorption=curve_from(curves.get("k", {})),
        scattering=curve_from(curves.get("s", {})),
        water_fraction=WATER_IN.get(row.kind, 0.0),
        sort=row.sort,
        **values,
    )


def price_of(row: Ingredient, mass_g: float) -> float | None:
    """What a mass of it costs, in the maker's own money; None until a pack's size and price were said."""
    known = row.current()
    if "bag_g" not in known or "pack_price" not in known:
        return None
    return known["pack_price"].value * mass_g / known["bag_g"].value


def bag_g(row: Ingredient) -> float:
    """Mass of a bag of this base, g."""
    grams = row.current().get("bag_g")
    return grams.value if grams else TYPICAL_BAG_G
