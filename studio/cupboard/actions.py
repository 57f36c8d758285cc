"""Verbs of the cupboard: fill it, measure something anew."""

from __future__ import annotations

import uuid
from collections.abc import Iterable
from datetime import date
from typing import TYPE_CHECKING

from django.db import transaction
from django.db.models import F

from coating.colour.mixing import Ingredient as CoreIngredient
from coating.colour.spectra import Curve
from coating.errors import InUse
from coating.piece.extras import STARTING_EXTRAS
from coating.quantities import TYPICAL_BAG_G
from coating.stock.ingredients import DEMO_INGREDIENTS
from studio.common.types import Json
from studio.cupboard.adapters import curve_json
from studio.cupboard.models import Extra, Ingredient, Optics, Parameter

if TYPE_CHECKING:
    from studio.accounts.models import Kitchen

STARTER = (
    *("ivory", "bright", "yellow_coating", "dark"),
    *("yellow", "orange", "red", "pink", "purple", "blue", "teal", "green", "brown", "black"),
    *("pink_gel", "blue_gel", "white_dispersion", "cocoa_butter", "palm_flakes", "shortening", "coconut_oil"),
)
# White is often titanium dioxide, barred or limited by region; gels are for those who have nothing else.
NOT_STOCKED = ("pink_gel", "blue_gel", "white_dispersion", "coconut_oil")
ALLERGENS = {"cocoa": ["milk", "soya"], "palm": ["milk", "soya"]}
SPREADS = {
    "number": 0.2,
    "drop_g": 0.2,
    "strength": 0.2,
    "fat_fraction": 0.06,
    "cap_share": 0.0,
    "bag_g": 0.0,
    "piece_g": 0.2,
    "k_per_s": 0.3,
}


def _starting_values(core: CoreIngredient) -> dict[str, float]:
    values: dict[str, float] = {"fat_fraction": core.fat_fraction} if core.fat_fraction else {}
    if core.is_base:
        values |= {"number": core.number or 45.0, "k_per_s": core.k_per_s, "bag_g": TYPICAL_BAG_G}
    elif core.is_colourant:
        values |= {"drop_g": core.unit_g, "strength": 1.0, "cap_share": core.cap_share}
    elif core.unit_g != 1.0:
        values |= {"drop_g": core.unit_g}
    return values


def _optics_json(core: CoreIngredient) -> Json:
    return {"v": 1, "k": curve_json(core.absorption), "s": curve_json(core.scattering)}


@transaction.atomic
def fill_cupboard(kitchen: Kitchen, codes: Iterable[str] = STARTER) -> None:
    """Copy demo ingredients into a kitchen, with default parameters and their ranges."""
    cores = [DEMO_INGREDIENTS[c] for c in codes]
    rows = Ingredient.objects.bulk_create(
        Ingredient(
            kitchen=kitchen,
            code=c.name,
            name=c.title,
            kind=c.kind,
            family=c.family,
            sort=c.sort,
            optics=_optics_json(c),
            allergens=ALLERGENS.get(c.family, []) if c.is_base else [],
            stocked=c.name not in NOT_STOCKED,
        )
        for c in cores
    )
    if rows and rows[0].pk is None:
        rows = list(Ingredient.objects.filter(kitchen=kitchen).order_by("pk"))
    by_code = {r.code: r for r in rows}
    Parameter.objects.bulk_create(
        Parameter(
            kitchen=kitchen,
            ingredient=by_code[c.name],
            name=name,
            value=value,
            low=value * (1 - SPREADS[name]),
            high=value * (1 + SPREADS[name]),
        )
        for c in cores
        for name, value in _starting_values(c).items()
    )


def lay_out_extras(kitchen: Kitchen) -> None:
    """The toppings, fillings and helpers a new kitchen begins with."""
    Extra.objects.bulk_create(
        Extra(
            kitchen=kitchen,
            kind=e.kind,
            name=e.name,
            each_g=e.each_g,
            edible=e.edible,
            allergens=None if e.allergens is None else list(e.allergens),
            keeps_days=e.keeps_days,
            cold=e.cold,
            small=e.small,
            comes_out=e.comes_out,
            parts=[{"name": name, "g": g} for name, g in e.parts],
            taste=e.taste,
        )
        for e in STARTING_EXTRAS
    )


def have_in_stock(kitchen: Kitchen, code: str, *, ticked: bool = True) -> None:
    """Let recipes use an ingredient, copying it into the cupboard if it was never in it. `ticked`: it is there; else it
    is still to be bought."""
    rows = Ingredient.objects.filter(kitchen=kitchen, code=code)
    if not rows.exists():
        fill_cupboard(kitchen, [code])
    rows.update(stocked=True, ticked=ticked, put_away=False, version=F("version") + 1)
    cupboard_changed(kitchen)


@transaction.atomic
def put_on_the_shelf(
    kitchen: Kitchen,
    core: CoreIngredient,
    *,
    bag_g: float | None = None,
    price: float | None = None,
    ticked: bool = True,
    reading: Json | None = None,
) -> Ingredient:
    """Something of the maker's own, its code made up; all that was not said stays assumed. `reading`: how its shade was
    read, where it was."""
    row = Ingredient.objects.create(
        kitchen=kitchen,
        code=f"own-{uuid.uuid4().hex[:12]}",
        name=core.title,
        kind=core.kind,
        family=core.family,
        sort=core.sort,
        optics=_optics_json(core),
        allergens=ALLERGENS.get(core.family, []) if core.is_base else [],
        own=True,
        invented=reading is None,
        ticked=ticked,
    )
    values = {
        name: (v, v * (1 - SPREADS[name]), v * (1 + SPREADS[name]), "default")
        for name, v in _starting_values(core).items()
    }
    values |= {"bag_g": (bag_g, bag_g, bag_g, "label")} if bag_g else {}
    values |= {"pack_price": (price, price, price, "label")} if price else {}
    Parameter.objects.bulk_create(
        Parameter(kitchen=kitchen, ingredient=row, name=n, value=v, low=low, high=high, provenance=source)
        for n, (v, low, high, source) in values.items()
    )
    if reading is not None:
        Optics.objects.create(kitchen=kitchen, ingredient=row, curves=row.optics, told={"v": 1, **reading})
    cupboard_changed(kitchen)
    return row


@transaction.atomic
def shelve_what_is_left(
    kitchen: Kitchen,
    core: CoreIngredient,
    *,
    left_g: float,
    made_on: date,
    keep_until: date,
    allergens: list[str],
    said: bool,
) -> Ingredient:
    """What is left of a finished bowl, with how much of it there is."""
    row = Ingredient.objects.create(
        kitchen=kitchen,
        code=core.name,
        name=core.title,
        kind=core.kind,
        family=core.family,
        sort=core.sort,
        optics=_optics_json(core),
        allergens=allergens,
        allergens_said=said,
        own=True,
        invented=False,
        ticked=True,
        made_on=made_on,
        keep_until=keep_until,
    )
    values = {**_starting_values(core), "stock_g": round(left_g, 1)}
    values.pop("piece_g", None)
    Parameter.objects.bulk_create(
        Parameter(kitchen=kitchen, ingredient=row, name=name, value=v, low=v, high=v, provenance="learned")
        for name, v in values.items()
    )
    cupboard_changed(kitchen)
    return row


@transaction.atomic
def take_off_the_shelf(row: Ingredient, *, used: bool) -> None:
    """Out of the cupboard; kept for the bowls that it went into, where it was `used`. Raises InUse."""
    layer = row.layers.select_related("piece__job").first()
    if layer is not None:
        refusal = f"{layer.piece.name} of {layer.piece.job.name} is made of it: choose something else there first."
        raise InUse(refusal, field="ingredient")
    kitchen = row.kitchen
    if used:
        Ingredient.objects.filter(pk=row.pk).update(
            put_away=True, stocked=False, ticked=False, version=F("version") + 1
        )
    else:
        row.delete()
    cupboard_changed(kitchen)


def cupboard_changed(kitchen: Kitchen) -> None:
    """Whatever is kept of the cupboard, or of what was learned of it, is read anew."""
    kitchen.__class__.objects.filter(pk=kitchen.pk).update(cupboard_version=F("cupboard_version") + 1)


@transaction.atomic
def keep_reading(row: Ingredient, *, absorption: Curve, scattering: Curve, how: Json) -> Optics:
    """A new reading of an ingredient's colour, `how` it came about; what was made before keeps the old one."""
    curves = {"v": 1, "k": curve_json(absorption), "s": curve_json(scattering)}
    kept = Optics.objects.create(kitchen_id=row.kitchen_id, ingredient=row, curves=curves, told={"v": 1, **how})
    Ingredient.objects.filter(pk=row.pk).update(invented=False, version=F("version") + 1)
    cupboard_changed(row.kitchen)
    return kept


@transaction.atomic
def change_ingredient(
    row: Ingredient,
    *,
    expected: int,
    name: str,
    stocked: bool,
    values: dict[str, tuple[float, float, float, str]],
    allergens: list[str] | None = None,
) -> list[Parameter]:
    """Save a row and add the parameters that changed (value, low, high, provenance). `allergens`: as its pack says;
    None where nobody looked.

    Returns the new parameters. Raises ChangedMeanwhile.
    """
    now = row.current()
    fresh = [
        Parameter(kitchen_id=row.kitchen_id, ingredient=row, name=n, value=v, low=low, high=high, provenance=source)
        for n, (v, low, high, source) in values.items()
        if n not in now or (now[n].value, now[n].low, now[n].high, now[n].provenance) != (v, low, high, source)
    ]
    row.name, row.stocked, row.ticked = name, stocked, stocked
    if allergens is not None:
        row.allergens, row.allergens_said = allergens, True
    row.save_over(expected)
    for parameter in fresh:
        parameter.save()
    cupboard_changed(row.kitchen)
    return fresh
