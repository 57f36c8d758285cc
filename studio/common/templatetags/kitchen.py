"""Numbers as a kitchen says them. Conversions happen here, at the edge, and nowhere in a template."""

from __future__ import annotations

import re
from datetime import datetime
from functools import lru_cache
from typing import Any

from django import template

from coating.colour.cie import hex_from_lab
from coating.colour.mixing import Part
from coating.colour.words import shade_words
from coating.looks.piece import PLAIN_TINT
from coating.plan.melting_steps import SMOOTH
from coating.quantities import (
    TYPICAL_BAG_G,
    area_text,
    length_text,
    mass_said,
    mass_text,
    pieces_of_base,
    spoons_of_fat,
    temperature_text,
    touch_text,
    volume_text,
)
from coating.units import DAB_G, MILLIMETRES_PER_INCH
from studio.common.measures import current
from studio.common.words import lower

register = template.Library()


_MM = re.compile(r"(\d*\.?\d+(?: to \d*\.?\d+)?) mm")
HALF_A_WAFER_G = 1.3  # what is less is in dabs
WEIGHED_FROM = 40
UNIT_WORDS = {"liquid": ("drop", "drops"), "powder": ("pinch", "pinches"), "gel": ("dab", "dabs")}
IN_SPOONS = ("fat", "butter", "white")
FLOW_VERBS = {
    "runs": "runs off the spoon",
    "thin ribbon": "falls in a thin ribbon",
    "folds": "falls in folds",
    "mounds": "falls in mounds",
    "holds": "holds on the spoon",
    "stiff": "is stiff",
}


@register.filter
def mass(mass_g: float | None) -> str:
    """240 g or 8.5 oz; tenths of a gram below ten; none of nothing."""
    return "" if mass_g is None else mass_said(mass_g, current().mass)


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
def minutes_to(from_min: float, until_min: float) -> str:
    """A window: 10 to 21 min."""
    return f"{about_minutes(from_min).removeprefix('about ').removesuffix(' min')} to " + about_minutes(
        until_min
    ).removeprefix("about ")


@register.filter
def seconds(value_min: float) -> float:
    """Minutes in whole seconds."""
    return float(round(value_min * 60))


@register.filter
def degrees(temperature_c: float | None) -> str:
    """38 °C or 100 °F."""
    return "" if temperature_c is None else temperature_text(temperature_c, current().temperature)


@register.filter
def warmth(temperature_c: float | None) -> str:
    """Degrees where there is a thermometer, else what the lip says."""
    if temperature_c is None:
        return ""
    return degrees(temperature_c) if current().has_thermometer else touch_text(temperature_c)


@register.filter
def until(temperature_c: float) -> str:
    """How a maker knows that it is there: it reads 38 °C, or it feels warm on the lip."""
    return f"it {'reads' if current().has_thermometer else 'feels'} {warmth(temperature_c)}"


@register.filter
def sized(length_mm: float) -> str:
    """60 mm or 2 3/8 in."""
    return length_text(length_mm, current().length)


@register.filter
def in_inches(text: str) -> str:
    """Words of the core with their millimetres as this kitchen measures: "a coat of 0.04 in to 0.06 in"."""
    if current().length == "mm":
        return text
    return _MM.sub(lambda match: " to ".join(sized(float(mm)) for mm in match[1].split(" to ")), text)


@register.filter
def long(length_mm: float) -> str:
    """A long line: 3.4 m or 11 ft; a short one as it is typed."""
    if length_mm < 1000:
        return sized(round(length_mm))
    return (
        f"{length_mm / 1000:.1f} m" if current().length == "mm" else f"{length_mm / (12 * MILLIMETRES_PER_INCH):.0f} ft"
    )


@register.filter
def roughly(length_mm: float) -> str:
    """A length that is predicted: whole millimetres."""
    return sized(round(length_mm))


@register.filter
def millilitres(volume_ml: float) -> str:
    """What is squeezed or spooned: 0.5 ml, or 2 tsp."""
    return volume_text(volume_ml, current().volume)


@register.filter
def dabs(mass_g: float) -> str:
    """What a toothpick carries, whole dabs: 12 dabs."""
    count = int(mass_g / DAB_G + 1e-9)
    return f"{count} {'dab' if count == 1 else 'dabs'}"


@register.filter
def placed_word(placed: str) -> str:
    """When a topping goes on."""
    return {"wet": "while wet", "half_set": "half-set", "set": "once set"}.get(placed, placed)


@register.filter
def area(area_mm2: float) -> str:
    """38 cm² or 5.9 in²."""
    return area_text(area_mm2, current().length)


@register.filter
def hexed(lab: Any) -> str:
    """Lab as #rrggbb; grey when there is none."""
    return _hex(tuple(map(float, lab))) if lab else "#dcdcdb"


@register.filter
def hexed_text(text: str) -> str:
    """#rrggbb of CIELAB written as three numbers; grey for anything else."""
    try:
        return hexed([float(part) for part in text.split(",")]) if text.count(",") == 2 else hexed(None)
    except ValueError:
        return hexed(None)


@register.filter
def in_words(lab: Any) -> str:
    """A colour as it is called: "pale blue"; of plain coating nothing is said."""
    return shade_words(lab) if lab else "cream"


@register.filter
def toned(lab: Any) -> str:
    """What coating looks like, as #rrggbb: of no colour, like plain white chocolate."""
    return hexed(lab) if lab else PLAIN_TINT


@lru_cache(maxsize=4096)
def _hex(lab: tuple[float, ...]) -> str:
    return hex_from_lab(lab)


@register.filter
def de(value: float) -> str:
    """A colour difference: one decimal."""
    return f"{value:.1f}"


@register.filter
def falls(word: str) -> str:
    """How a flow word reads in a sentence."""
    return FLOW_VERBS.get(word, "")


def amount_text(part: Part) -> str:
    """An amount in the ingredient's own unit: 5 drops, 2 pinches, 9 g; with its weight when nobody would count it."""
    units = UNIT_WORDS.get(part.ingredient.kind)
    if units is None:
        return mass(part.mass_g)
    count = round(part.units)
    weight = f" ({mass(part.mass_g)})" if count > WEIGHED_FROM else ""
    return f"{count} {units[0] if count == 1 else units[1]}{weight}"


@register.filter
def unit_word(part: Part) -> str:
    """What one of it is called: a drop, a pinch, a dab."""
    return UNIT_WORDS.get(part.ingredient.kind, ("gram", "grams"))[0]


@register.filter
def amount(part: Part) -> str:
    """How much of a part, in the words of the kitchen."""
    return amount_text(part)


def _counted(mass_g: float, bag_g: float | None, family: str, piece_g: float) -> str:
    bag_g = bag_g or TYPICAL_BAG_G
    return pieces_of_base(mass_g, family=family, one_g=piece_g, bag_g=bag_g, bag=mass_text(bag_g, current().mass))


@register.filter
def how_much(mass_g: float, white: str = "coating") -> str:
    """A mass of base as this kitchen measures it: 290 g, or about 110 wafers or 60 squares where there is no scale."""
    if current().has_scale or mass_g < HALF_A_WAFER_G:
        return mass(mass_g)
    return _pieces(mass_g, white)


def _pieces(mass_g: float, white: str) -> str:
    return _counted(mass_g, None, "palm" if white == "coating" else "cocoa", 0.0)


@register.filter
def goes_on(mass_g: float, white: str = "coating") -> str:
    """That so much goes on: 290 g goes on, about 110 wafers go on."""
    said = how_much(mass_g, white)
    many = said.endswith("s") or "s of " in said or " and " in said
    return f"{said} go on" if many else f"{said} goes on"


@register.filter
def which_is(mass_g: float, white: str = "coating") -> str:
    """The same the other way round: wafers and bags of coating, squares of chocolate, where there is a scale."""
    return _pieces(mass_g, white) if current().has_scale else mass(mass_g)


def _in_the_hand(part: Part, bag_g: float | None) -> str:
    if part.ingredient.kind in IN_SPOONS:
        return spoons_of_fat(part.mass_g)
    if not part.ingredient.is_base:
        return ""
    return _counted(part.mass_g, bag_g, part.ingredient.family, part.ingredient.piece_g)


@register.filter
def measured(part: Part, bag_g: float | None = None) -> str:
    """An amount as this kitchen measures it: grams, or spoons and bags where there is no scale; drops are drops."""
    return amount_text(part) if current().has_scale else _in_the_hand(part, bag_g) or amount_text(part)


@register.filter
def also(part: Part, bag_g: float | None = None) -> str:
    """The same the other way, or nothing for what is counted."""
    in_the_hand = _in_the_hand(part, bag_g)
    return in_the_hand if current().has_scale or not in_the_hand else amount_text(part)


@register.filter
def lower_first(text: str) -> str:
    """A name inside a sentence."""
    return lower(text)


@register.filter
def percent(share: float | None) -> str:
    """A share as a whole percentage; nothing for None."""
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
def fat_first(mass_g: float) -> str:
    """A mass of fat as this kitchen measures it, then the other way."""
    pair = (mass(mass_g), spoons_of_fat(mass_g))
    return ", ".join(pair if current().has_scale else reversed(pair))


@register.filter
def colour_word(title: str) -> str:
    """A colour inside a sentence: "Blue oil colour" reads "blue"."""
    return lower_first(title.removesuffix(" oil colour").replace(" gel colour", " gel"))


@register.filter
def seconds_in_all(duration_s: float) -> str:
    """Seconds rounded to five, halves of minutes, minutes, or hours and minutes: as long as it is."""
    if duration_s < 115:
        return f"about {round(duration_s / 5) * 5:.0f} s"
    if duration_s < 600:
        return f"about {round(duration_s / 30) / 2:g} min"
    hours, minutes = divmod(round(duration_s / 60), 60)
    if 60 * hours + minutes < 90:
        return f"about {60 * hours + minutes} min"
    return f"about {hours} h {minutes} min" if minutes else f"about {hours} h"


@register.filter
def lumpy(solid_fraction: float) -> str:
    """How much of it is still lumps, as seen."""
    for least, word in ((0.9, "all lumps"), (0.6, "mostly lumps"), (0.35, "half lumps"), (0.12, "a quarter lumps")):
        if solid_fraction > least:
            return word
    return "a few lumps" if solid_fraction > SMOOTH else "smooth"


_SHARES = {0.333: "a third", 0.5: "half", 0.667: "two thirds", 0.9: "nearly all"}


@register.filter
def dipped(share: float) -> str:
    """How deep a piece is dipped, as said."""
    if share == 1:
        return "dipped all over"
    return f"{_SHARES.get(share, f'{share * 100:.0f} %')} dipped"


@register.filter
def when(moment: datetime, now: datetime) -> str:
    """How long ago, as said: just now, 12 min ago, 3 h ago, or the date."""
    minutes_ago = (now - moment).total_seconds() / 60
    if minutes_ago < 1:
        return "just now"
    if minutes_ago < 90:
        return f"{minutes_ago:.0f} min ago"
    return f"{minutes_ago / 60:.0f} h ago" if minutes_ago < 36 * 60 else f"{moment:%-d %b}"


@register.filter
def money(amount: float) -> str:
    """In whatever money the maker pays with."""
    return f"{amount:,.2f}"
