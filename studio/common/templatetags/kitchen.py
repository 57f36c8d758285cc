"""Numbers as a kitchen says them. Conversions happen here, at the edge, and nowhere in a template."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from django import template

from coating.colour.cie import hex_from_lab, srgb_from_lab
from coating.colour.mixing import Part
from coating.figures.biscuit import dip_path
from coating.quantities import bags_of_base, grams_text, spoons_of_fat

register = template.Library()

WEIGHED_FROM = 40
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
    """38 °C; halves where they matter, below 33."""
    if temperature_c is None:
        return ""
    halves = round(temperature_c * 2) / 2
    return f"{halves:g} °C" if temperature_c < 33 else f"{temperature_c:.0f} °C"


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
def de(value: float) -> str:
    """A colour difference: one decimal."""
    return f"{value:.1f}"


@register.filter
def falls(word: str) -> str:
    """How a flow word reads in a sentence."""
    return FLOW_VERBS[word]


def amount_text(part: Part) -> str:
    """An amount in the ingredient's own unit: 5 drops, 2 pinches, 9 g; with its weight when nobody would count it."""
    units = UNIT_WORDS.get(part.ingredient.kind)
    if units is None:
        return grams_text(part.mass_g)
    count = round(part.units)
    weight = f" ({grams_text(part.mass_g)})" if count > WEIGHED_FROM else ""
    return f"{count} {units[0] if count == 1 else units[1]}{weight}"


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
def percent(share: float | None) -> str:
    return "" if share is None else f"{share * 100:.0f} %"


@register.filter
def get(mapping: Any, key: Any) -> Any:
    """A value of a mapping, or a field of a form, by its name."""
    try:
        return mapping[key]
    except (KeyError, TypeError):
        return None


@register.filter
def words(text: str) -> list[str]:
    """A list of words for a loop."""
    return text.split()


@register.filter
def at(items: Any, index: int) -> Any:
    """The item at a place."""
    return items[index]


@register.filter
def bags(mass_g: float, bag_g: float = 340.0) -> str:
    """A mass of base as a share of a bag."""
    return bags_of_base(mass_g, bag_g=bag_g).kitchen


@register.filter
def fat_spoons(mass_g: float) -> str:
    """A mass of fat in teaspoons."""
    return spoons_of_fat(mass_g).kitchen


@register.filter
def colour_word(title: str) -> str:
    """A colour inside a sentence: "Blue oil colour" reads "blue"."""
    return lower_first(title.removesuffix(" oil colour"))


@register.filter
def seconds_in_all(duration_s: float) -> str:
    """Seconds rounded to five, or minutes."""
    return (
        f"about {round(duration_s / 5) * 5:.0f} s" if duration_s < 115 else f"about {round(duration_s / 30) / 2:g} min"
    )


@register.filter
def depth_word(share: float) -> str:
    """How deep a dip is, as said."""
    return {0.333: "a third", 0.5: "half", 0.667: "two thirds", 1.0: "all over"}.get(share, f"{share * 100:.0f} %")


@register.filter
def dip(share: float) -> str:
    """The outline of the dipped part of a biscuit."""
    return dip_path(share)


@register.filter
def square_cm(area_mm2: float) -> str:
    return f"{area_mm2 / 100:.0f}"


@register.filter
def plus(value: float, more: float) -> float:
    return value + more


@register.filter
def minus(value: float, less: float) -> float:
    return value - less


@register.filter
def unlocalised(value: float | None) -> str:
    """A number as SVG and hidden fields want it."""
    return "" if value is None else f"{value:.2f}"


@register.filter
def on_screen(lab: Any) -> bool:
    """Whether a screen can show this colour."""
    return bool(srgb_from_lab(lab)[1])


@register.filter
def when(moment: datetime, now: datetime) -> str:
    """How long ago, as said: just now, 12 min ago, 3 h ago, or the date."""
    minutes_ago = (now - moment).total_seconds() / 60
    if minutes_ago < 1:
        return "just now"
    if minutes_ago < 90:
        return f"{minutes_ago:.0f} min ago"
    return f"{minutes_ago / 60:.0f} h ago" if minutes_ago < 36 * 60 else f"{moment:%-d %b}"


PARAMETER_TITLES = {
    "number": "Flow number",
    "fat_fraction": "Fat share",
    "bag_g": "Bag, g",
    "drop_g": "Drop, g",
    "strength": "Strength",
}


@register.filter
def parameter_title(name: str) -> str:
    return PARAMETER_TITLES.get(name, name)


@register.filter
def short(value: float) -> str:
    """Four figures, no trailing zeros."""
    return f"{value:.4g}"
