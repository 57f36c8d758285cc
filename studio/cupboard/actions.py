"""Verbs of the cupboard: fill it, measure something anew."""

from __future__ import annotations

from collections.abc import Iterable
from typing import TYPE_CHECKING, Any

from django.db import transaction
from django.db.models import F

from coating.colour.mixing import Ingredient as CoreIngredient
from coating.colour.spectra import Curve
from coating.datasets.ingredients import DEMO_INGREDIENTS
from coating.piece.extras import STARTING_EXTRAS
from coating.quantities import TYPICAL_BAG_G
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


@transaction.atomic
def fill_cupboard(kitchen: Kitchen, codes: Iterable[str] = STARTER) -> None:
    """Copy demo ingredients into a kitchen, with default parameters and their ranges."""
    cores = [DEMO_INGREDIENTS[c] for c in codes]
    rows = Ingredient.objects.bulk_create(
        Ingredient(
            kitchen=kitchen, code=c.name, name=c.title, kind=c.kind, family=c.family,
            optics={"v": 1, "k": curve_json(c.absorption), "s": curve_json(c.scattering)},
            allergens=ALLERGENS.get(c.family, []) if c.is_base else [], stocked=c.name not in NOT_STOCKED,
        )
        for c in cores
    )  # fmt: skip
    if rows and rows[0].pk is None:
        rows = list(Ingredient.objects.filter(kitchen=kitchen).order_by("pk"))
    by_code = {r.code: r for r in rows}
    Parameter.objects.bulk_create(
        Parameter(
            kitchen=kitchen, ingredient=by_code[c.name], name=name, value=value,
            low=value * (1 - SPREADS[name]), high=value * (1 + SPREADS[name]),
        )
        for c in cores
        for name, value in _starting_values(c).items()
    )  # fmt: skip


def lay_out_extras(kitchen: Kitchen) -> None:
    """The toppings, fillings and helpers a new kitchen begins with."""
    Extra.objects.bulk_create(
        Extra(
            kitchen=kitchen, kind=e.kind, name=e.name, each_g=e.each_g, allergens=list(e.allergens), edible=e.edible,
            keeps_days=e.keeps_days, cold=e.cold, small=e.small, comes_out=e.comes_out,
            parts=[{"name": name, "g": g} for name, g in e.parts], taste=e.taste,
        )
        for e in STARTING_EXTRAS
    )  # fmt: skip


def have_in_stock(kitchen: Kitchen, code: str) -> None:
    """Tick an ingredient as being there, copying it into the cupboard if it was never in it."""
    rows = Ingredient.objects.filter(kitchen=kitchen, code=code)
    if not rows.exists():
        fill_cupboard(kitchen, [code])
    if rows.filter(stocked=False).update(stocked=True, version=F("version") + 1):
        _cupboard_changed(kitchen)


def _cupboard_changed(kitchen: Kitchen) -> None:
    kitchen.__class__.objects.filter(pk=kitchen.pk).update(cupboard_version=F("cupboard_version") + 1)


@transaction.atomic
def keep_reading(
    row: Ingredient, *, absorption: Curve, scattering: Curve, told: dict[str, Any]
) -> Optics:  # fmt: skip
    """A new reading of an ingredient's colour, `told` where from; what was made before keeps the old one."""
    curves = {"v": 1, "k": curve_json(absorption), "s": curve_json(scattering)}
    kept = Optics.objects.create(kitchen_id=row.kitchen_id, ingredient=row, curves=curves, told={"v": 1, **told})
    Ingredient.objects.filter(pk=row.pk).update(invented=False, version=F("version") + 1)
    _cupboard_changed(row.kitchen)
    return kept


@transaction.atomic
def change_ingredient(
    row: Ingredient, *, expected: int, name: str, stocked: bool, values: dict[str, tuple[float, float, float, str]]
) -> list[Parameter]:
    """Save a row and add the parameters that changed (value, low, high, provenance).

    Returns the new parameters. Raises ChangedMeanwhile.
    """
    now = row.current()
    fresh = [
        Parameter(kitchen_id=row.kitchen_id, ingredient=row, name=n, value=v, low=low, high=high, provenance=source)
        for n, (v, low, high, source) in values.items()
        if n not in now or (now[n].value, now[n].low, now[n].high, now[n].provenance) != (v, low, high, source)
    ]
    row.name, row.stocked = name, stocked
    row.save_over(expected)
    for parameter in fresh:
        parameter.save()
    _cupboard_changed(row.kitchen)
    return fresh
