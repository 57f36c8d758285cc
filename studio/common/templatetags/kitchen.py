"""Numbers as a kitchen says them. Conversions happen here, at the edge, and nowhere in a template."""

from __future__ import annotations

from typing import Any

from django import template

from coating.colour.cie import hex_from_lab
from coating.colour.ciede2000 import difference_word
from coating.colour.mixing import Part
from coating.quantities import bags_of_base, grams_text, spoons_of_fat

register = template.Library()

UNIT_WORDS = {"liquid": ("drop", "drops"), "powder": ("pinch", "pinches")}
TOUCH = (
    (43.0, "hot on the lip"),
    (37.0, "warm on the lip"),
    (31.0, "neither warm nor cold"),
    (26.0, "cool on the lip"),
)
FLOW_VERBS = {
    "runs": "runs off the spoon",
    "thin ribbon": "falls in a thin ribbon",
    "folds": "falls in folds",
    "mounds": "falls in mounds",
    "holds": "holds on the spoon",
    "stiff": "is stiff",
}


@register.filter
def grams(mass_g: float | None) -> str:
    """240 g; tenths below ten."""
    return "" if mass_g is None else grams_text(max(0.0, mass_g))


@register.filter
def minutes(seconds: float | None) -> str:
    """About whole minutes; half minutes below three."""
    if seconds is None:
        return ""
    value = max(0.0, seconds) / 60
    if value < 1:
        return "under a minute"
    return f"about {value:.0f} min" if value >= 2.75 else f"about {round(value * 2) / 2:g} min"


@register.filter
def about_minutes(value_min: float | None) -> str:
    """Minutes given in minutes."""
    return "" if value_min is None else minutes(value_min * 60)


@register.filter
def celsius(temperature_c: float | None) -> str:
    """38 °C."""
    return "" if temperature_c is None else f"{temperature_c:.0f} °C"


def touch_word(temperature_c: float) -> str:
    """What the lip says, for kitchens without a thermometer. Common practice, no source."""
    return next((word for limit, word in TOUCH if temperature_c >= limit), "cold on the lip")


@register.filter
def warmth(temperature_c: float | None, has_thermometer: bool) -> str:
    """Degrees where there is a thermometer, else what the lip says."""
    if temperature_c is None:
        return ""
    return celsius(temperature_c) if has_thermometer else touch_word(temperature_c)


@register.filter
def hexed(lab: Any) -> str:
    """Lab as #rrggbb; grey when there is none."""
    return hex_from_lab(lab) if lab is not None else "#dcdcdb"


@register.filter
def word_for(de00: float) -> str:
    return difference_word(de00)


@register.filter
def de(value: float) -> str:
    """A colour difference: one decimal."""
    return f"{value:.1f}"


@register.filter
def falls(word: str) -> str:
    """How a flow word reads in a sentence."""
    return FLOW_VERBS[word]


def amount_text(part: Part) -> str:
    """An amount in the ingredient's own unit: 5 drops, 2 pinches, 9 g."""
    units = UNIT_WORDS.get(part.ingredient.kind)
    if units is None:
        return grams_text(part.mass_g)
    count = round(part.units)
    return f"{count} {units[0] if count == 1 else units[1]}"


@register.filter
def amount(part: Part) -> str:
    return amount_text(part)


@register.filter
def kitchen_amount(part: Part, bag_g: float | None = None) -> str:
    """Spoons for fats, shares of a bag for bases, nothing for drops."""
    if part.ingredient.kind in ("fat", "butter", "white"):
        return spoons_of_fat(part.mass_g).kitchen
    if part.ingredient.is_base:
        return bags_of_base(part.mass_g, bag_g=bag_g or 340.0).kitchen
    return ""


@register.filter
def lower_first(text: str) -> str:
    """A name inside a sentence."""
    return text[:1].lower() + text[1:]


@register.filter
def times(value: float, factor: float) -> float:
    return value * factor


@register.filter
def percent(share: float | None) -> str:
    return "" if share is None else f"{share * 100:.0f} %"


@register.filter
def get(mapping: Any, key: Any) -> Any:
    """A value of a mapping, or a field of a form, by its name."""
    try:
        return mapping[key]
    except (KeyError, TypeError):
        return None
