"""Amounts as makers type them: "3/4 in", "6 oz", "1/4 cup", "2 tsp", "1 bag", "half", "1 lb 4 oz", "104 F".

Conversions are pint's, but for what is ours: the measuring set and what a spoon of it weighs (coating.quantities). Pint
is imported when a unit is first read, since it takes longer to load than the rest of the core together.
"""

from __future__ import annotations

import math
import re
from functools import lru_cache
from typing import Any

from coating.errors import Unreadable
from coating.quantities import CUP_ML, FLUID_OUNCE_ML, GRAMS_PER_ML, PIECES, TABLESPOON_ML, TEASPOON_ML

LONGEST = 60
_UNICODE = {
    "¼": " 1/4",
    "½": " 1/2",
    "¾": " 3/4",
    "⅓": " 1/3",
    "⅔": " 2/3",
    "⅛": " 1/8",
    "⅜": " 3/8",
    "⅝": " 5/8",
    "⅞": " 7/8",
}
_SPELT = {
    "three quarters": "3/4",
    "two thirds": "2/3",
    "a quarter": "1/4",
    "one quarter": "1/4",
    "quarter": "1/4",
    "a third": "1/3",
    "one third": "1/3",
    "third": "1/3",
    "a half": "1/2",
    "one half": "1/2",
    "half": "1/2",
    "one": "1",
    "two": "2",
    "three": "3",
    "four": "4",
    "five": "5",
    "six": "6",
}
_NUMBER = r"(?:\d+\s+\d+/\d+|\d+/\d+|\d+(?:\.\d+)?|\.\d+)"
_TERM = re.compile(rf"\s*(?:and\s+|,\s*)?(-?\s*{_NUMBER})\s*([a-z°\"'’”]+(?:\.)?(?:\s+oz)?)?\.?\s*")

_MASS = {
    "g": "gram",
    "gr": "gram",
    "gram": "gram",
    "kg": "kilogram",
    "kilo": "kilogram",
    "mg": "milligram",
    "oz": "ounce",
    "ounce": "ounce",
    "lb": "pound",
    "pound": "pound",
}
_VOLUME = {
    "ml": "milliliter",
    "l": "liter",
    "tsp": "measured_teaspoon",
    "teaspoon": "measured_teaspoon",
    "tbsp": "measured_tablespoon",
    "tablespoon": "measured_tablespoon",
    "cup": "measured_cup",
    "fl oz": "measured_fluid_ounce",
    "floz": "measured_fluid_ounce",
}
_PIECE = ("wafer", "square", "piece", "button")
_LENGTH = {
    "mm": "millimeter",
    "cm": "centimeter",
    "m": "meter",
    "in": "inch",
    "inch": "inch",
    "inche": "inch",
    '"': "inch",
    "”": "inch",
    "''": "inch",
}
_BAG = ("bag", "pack", "packet")
_TEMPERATURE = {
    "c": "C",
    "°c": "C",
    "°": "",
    "f": "F",
    "°f": "F",
    "celsius": "C",
    "°celsius": "C",
    "fahrenheit": "F",
    "°fahrenheit": "F",
}

SAY_MASS = "Write an amount such as 250 g, 6 oz, 60 wafers, 1/4 cup, 2 tsp or half a bag."
SAY_VOLUME = "Write a volume such as 15 ml, 1 tbsp, 2 fl oz or 1/4 cup."
SAY_LENGTH = "Write a size such as 60 mm, 6 cm or 2 3/8 in."
SAY_TEMPERATURE = "Write a temperature such as 38 °C or 100 °F."


@lru_cache(maxsize=1)
def _registry() -> Any:
    import pint

    registry: Any = pint.UnitRegistry(cache_folder=None)
    for name, volume_ml in (
        ("teaspoon", TEASPOON_ML),
        ("tablespoon", TABLESPOON_ML),
        ("cup", CUP_ML),
        ("fluid_ounce", FLUID_OUNCE_ML),
    ):
        registry.define(f"measured_{name} = {volume_ml} milliliter")
    return registry


def warm_up() -> None:
    """Load the unit library now rather than when the first unit is typed."""
    _registry()


@lru_cache(maxsize=256)
def _factor(unit: str, to: str) -> float:
    return float(_registry().Quantity(1.0, unit).to(to).magnitude)


def _plain(text: str) -> str:
    """Lower case, fractions and number words as figures, a decimal comma as a point."""
    for sign, figures in _UNICODE.items():
        text = text.replace(sign, figures)
    text = text.lower().strip()
    if re.search(r"[1-9]\d*,\d{3}\b", text):
        raise Unreadable("Write thousands without a comma, such as 1000.")
    text = re.sub(r"(\d),(\d)", r"\1.\2", text)
    for words, figures in _SPELT.items():
        text = re.sub(rf"\b{words}\b", figures, text)
    text = re.sub(r"^(?:an?|about|ca\.?)\s+(?=[a-z0-9])", lambda m: "1 " if m[0].strip() in ("a", "an") else "", text)
    return re.sub(r"(?<=\d)\s+(?:of\s+)?(?:an?|the)\s+", " ", text).strip()


def _number(text: str) -> float:
    text = text.replace("- ", "-")
    sign, text = (-1.0, text[1:]) if text.startswith("-") else (1.0, text)
    value = 0.0
    for figure in text.split():
        above, _, below = figure.partition("/")
        if below and float(below) == 0:
            return math.nan
        value += float(above) / float(below or 1)
    return sign * value


def _terms(text: str, say: str) -> list[tuple[float, str]]:
    """Numbers with their unit words, in order. Raises Unreadable."""
    if len(text) > LONGEST:
        raise Unreadable(say)
    plain, terms, place = _plain(text), [], 0
    while place < len(plain):
        term = _TERM.match(plain, place)
        if not term:
            raise Unreadable(say)
        value = _number(term[1])
        if not math.isfinite(value):
            raise Unreadable(say)
        terms.append((value, (term[2] or "").rstrip(".")))
        place = term.end()
    if not terms or (len(terms) > 1 and not all(unit for _, unit in terms)):
        raise Unreadable(say)
    return terms


def _unit(word: str, *tables: dict[str, str]) -> str | None:
    for table in tables:
        for form in (word, word.removesuffix("s")):
            if form in table:
                return table[form]
    return None


def read_mass(
    text: str, *, bare: str = "g", of: str = "pieces", bag_g: float | None = None, piece_g: float | None = None
) -> float:
    """A typed mass in g.

    Parameters
    ----------
    text : what was typed. bare : unit of a bare number ("g", "oz", "bag", "tsp", ...). of : what is in the spoon:
    "pieces", "fat" (melted), "melted" coating, or what a recipe names (see `GRAMS_PER_ML`). bag_g : what a bag holds,
    g; None where there are no bags. piece_g : what a wafer or a square weighs, g; None where there are none.

    Raises
    ------
    Unreadable : no amount, or a unit that is none of mass, spoon or bag.

    >>> round(read_mass("6 oz")), read_mass("half", bag_g=340), read_mass("2 tsp", of="fat"), read_mass("1/4 cup")
    (170, 170.0, 9.0, 42.5)
    """
    total = 0.0
    for value, word in _terms(text, SAY_MASS):
        plain_share = not word and bag_g and re.search(r"half|third|quarter", text.lower())
        unit = word or ("bag" if plain_share else bare)
        if unit.removesuffix("s") in _BAG:
            if not bag_g:
                raise Unreadable("This does not come in bags. " + SAY_MASS)
            total += value * bag_g
        elif unit.removesuffix("s") in _PIECE:
            if piece_g is None:
                raise Unreadable("This does not come in wafers or squares. " + SAY_MASS)
            total += value * (piece_g or PIECES["palm"][1])
        elif name := _unit(unit, _MASS):
            total += value * _factor(name, "gram")
        elif name := _unit(unit, _VOLUME):
            total += value * _factor(name, "milliliter") * GRAMS_PER_ML[of]
        else:
            raise Unreadable(SAY_MASS)
    return total


def read_volume(text: str, *, bare: str = "ml") -> float:
    """A typed volume in ml. `bare` is the unit of a bare number, "ml" or "tsp". Raises Unreadable.

    >>> read_volume("1 tbsp"), read_volume("2 fl oz"), read_volume("12"), round(read_volume("1/2", bare="tsp"), 3)
    (15.0, 60.0, 12.0, 2.5)
    """
    total = 0.0
    for value, word in _terms(text, SAY_VOLUME):
        name = _unit(" ".join((word or bare).split()), _VOLUME)
        if name is None:
            raise Unreadable(SAY_VOLUME)
        total += value * _factor(name, "milliliter")
    return total


def read_length(text: str, *, bare: str = "mm") -> float:
    """A typed length in mm. `bare` is the unit of a bare number. Raises Unreadable.

    >>> round(read_length("3/4 in"), 2), read_length("6 cm"), read_length("60")
    (19.05, 60.0, 60.0)
    """
    total = 0.0
    for value, word in _terms(text, SAY_LENGTH):
        name = _unit(word or bare, _LENGTH)
        if name is None:
            raise Unreadable(SAY_LENGTH)
        total += value * _factor(name, "millimeter")
    return total


def read_temperature(text: str, *, bare: str = "C") -> float:
    """A typed temperature in degC. `bare` is the unit of a bare number, "C" or "F". Raises Unreadable.

    >>> round(read_temperature("104 F"), 6), read_temperature("38,5")
    (40.0, 38.5)
    """
    text = re.sub(r"\s*(?:°|degrees?|deg\b)\s*", "°", text.lower())
    terms = _terms(text, SAY_TEMPERATURE)
    value, word = terms[0]
    unit = _unit(word, _TEMPERATURE) if word else ""
    if len(terms) > 1 or unit is None:
        raise Unreadable(SAY_TEMPERATURE)
    if (unit or bare) == "C":
        return value
    return float(_registry().Quantity(value, "degF").to("degC").magnitude)
