"""Amounts as a kitchen says them: grams or ounces, spoons, bags, inches, degrees, or what the lip feels.

What a spoon or a cup holds follows the measuring set of 21 CFR 101.9(b)(5)(viii): teaspoon 5 ml, tablespoon 15 ml, cup
240 ml. What it weighs is common practice, no source: melted fat .9 g/ml, a cup of wafers or chopped chocolate 170 g.
"""

from __future__ import annotations

from dataclasses import dataclass

from coating.units import fahrenheit, inches, ounces

TEASPOON_ML, TABLESPOON_ML, CUP_ML = 5.0, 15.0, 240.0
CUP_OF_PIECES_G = 170.0
GRAMS_PER_ML = {"pieces": CUP_OF_PIECES_G / CUP_ML, "fat": 0.9, "melted": 1.25}
FAT_TEASPOON_G = GRAMS_PER_ML["fat"] * TEASPOON_ML
TYPICAL_BAG_G = 340.0

_EXACT = 0.03
_QUARTERS = {0.25: "a quarter", 0.5: "half", 0.75: "three quarters"}
_FRACTIONS = {0.0: "", 0.25: "¼", 0.5: "½", 0.75: "¾"}
_TYPED_FRACTIONS = {0: "", 1: "1/4", 2: "1/2", 3: "3/4"}
# What the lip says, from about this many degC on. Common practice, no source.
_TOUCH = (
    (43.0, "hot on the lip"),
    (37.0, "warm on the lip"),
    (31.0, "neither warm nor cold"),
    (26.0, "cool on the lip"),
)


@dataclass(frozen=True)
class Measures:
    """What a kitchen measures with and reads in: mass "g" or "oz", temperature "C" or "F", length "mm" or "in"."""

    mass: str = "g"
    temperature: str = "C"
    length: str = "mm"
    has_scale: bool = True
    has_thermometer: bool = False


# -- numbers with a unit ------------------------------------------------------------------------------------------
def mass_text(mass_g: float, unit: str = "g") -> str:
    """Mass in g as written on screen: whole grams, tenths below 10 g; or ounces.

    >>> mass_text(240.4), mass_text(2.06), mass_text(9.0), mass_text(255, "oz"), mass_text(1.1, "oz")
    ('240 g', '2.1 g', '9 g', '9 oz', '0.04 oz')
    """
    if unit == "oz":
        value = ounces(mass_g)
        figures = f"{value:.{2 if value < 1 else 1 if value < 100 else 0}f}"
        return (figures.rstrip("0").rstrip(".") if "." in figures else figures) + " oz"
    return (f"{mass_g:.0f}" if mass_g >= 9.95 else f"{mass_g:.1f}".removesuffix(".0")) + " g"


def temperature_text(temperature_c: float, unit: str = "C") -> str:
    """A temperature in degC as written: halves where they matter, below 33 degC; or degF.

    >>> temperature_text(28.6), temperature_text(38.2), temperature_text(40, "F")
    ('28.5 °C', '38 °C', '104 °F')
    """
    if unit == "F":
        return f"{fahrenheit(temperature_c):.0f} °F"
    halves = round(temperature_c * 2) / 2
    return f"{halves:g} °C" if temperature_c < 33 else f"{temperature_c:.0f} °C"


def length_text(length_mm: float, unit: str = "mm") -> str:
    """A length in mm as written: mm, tenths below 10; or inches to the sixteenth, hundredths below an eighth.

    >>> length_text(60), length_text(1.23), length_text(60, "in"), length_text(1.2, "in"), length_text(25.4, "in")
    ('60 mm', '1.2 mm', '2 3/8 in', '0.05 in', '1 in')
    """
    if unit == "in":
        value = inches(length_mm)
        if value < 0.125:
            return f"{value:.2f} in"
        whole, sixteenths = divmod(round(value * 16), 16)
        below = 16
        while sixteenths and sixteenths % 2 == 0:
            sixteenths, below = sixteenths // 2, below // 2
        part = f"{sixteenths}/{below}" if sixteenths else ""
        return " ".join(t for t in (str(whole) if whole else "", part) if t) + " in"
    return (f"{length_mm:.1f}".removesuffix(".0") if length_mm < 100 else f"{length_mm:.0f}") + " mm"


def area_text(area_mm2: float, unit: str = "mm") -> str:
    """An area in mm2 in cm2, or in square inches.

    >>> area_text(3800), area_text(3800, "in")
    ('38 cm²', '5.9 in²')
    """
    return f"{area_mm2 / 25.4**2:.1f} in²" if unit == "in" else f"{area_mm2 / 100:.0f} cm²"


def touch_text(temperature_c: float) -> str:
    """What the lip says of a temperature in degC, for kitchens without a thermometer."""
    return next((word for limit, word in _TOUCH if temperature_c >= limit), "cold on the lip")


# -- spoons and bags ----------------------------------------------------------------------------------------------
def _mixed(quarters: int) -> str:
    whole, part = divmod(quarters, 4)
    return f"{whole or ''}{_FRACTIONS[part / 4]}"


def spoons_of_fat(mass_g: float) -> str:
    """Melted fat in teaspoons, to the quarter spoon.

    >>> spoons_of_fat(9)
    '2 teaspoons'
    """
    quarters = round(mass_g / FAT_TEASPOON_G * 4)
    if mass_g <= 0:
        return "none"
    return f"{_mixed(quarters)} teaspoon{'s' if quarters > 4 else ''}" if quarters else "a pinch"


def bags_of_base(mass_g: float, *, bag_g: float = TYPICAL_BAG_G, bag: str = "") -> str:
    """Pieces of base as a share of a bag (mass_g, bag_g in g); under a tenth of a bag, in spoons.

    `bag` is the bag's size as it reads in this kitchen.

    >>> bags_of_base(255, bag_g=340)
    'three quarters of a 340 g bag'
    """
    bag = bag or mass_text(bag_g)
    share = mass_g / bag_g
    quarters = round(share * 4)
    if mass_g <= 0:
        return "none"
    if share < 0.1:
        spoons = max(1, round(mass_g / CUP_OF_PIECES_G * 16))
        return f"{spoons} tablespoon{'s' if spoons > 1 else ''} of pieces"
    if quarters == 0:
        cups = max(1, round(mass_g / CUP_OF_PIECES_G * 4))
        return f"{_mixed(cups)} cup{'s' if cups > 4 else ''} of pieces"
    off = share - quarters / 4
    nearly = "a little over " if off > _EXACT else "a little under " if off < -_EXACT else ""
    if quarters < 4:
        return f"{nearly}{_QUARTERS[quarters / 4]} of a {bag} bag"
    return f"{nearly}{_mixed(quarters)} bag{'s' if quarters > 4 else ''} of {bag}"


# -- what goes into a field ---------------------------------------------------------------------------------------
def typed_quarters(value: float) -> str:
    """A number to the quarter as it would be typed: 1.75 is "1 3/4", nothing is "0"."""
    whole, quarters = divmod(round(value * 4), 4)
    return " ".join(t for t in (str(whole) if whole else "", _TYPED_FRACTIONS[quarters]) if t) or "0"


def typed_mass(mass_g: float, measures: Measures, *, of: str = "pieces", bag_g: float | None = None) -> str:
    """A mass in g as this kitchen would measure and type it: "255 g", "9 oz", "3/4 bag", "2 tsp".

    Without a scale it is rounded to what can be measured: quarter bags, whole tablespoons, quarter teaspoons.
    """
    if measures.has_scale:
        return mass_text(mass_g, measures.mass)
    if of == "fat":
        return f"{typed_quarters(max(0.25, round(mass_g / FAT_TEASPOON_G * 4) / 4))} tsp"
    if bag_g and mass_g >= bag_g / 8:
        return f"{typed_quarters(mass_g / bag_g)} bag"
    return f"{max(1, round(mass_g / GRAMS_PER_ML['pieces'] / TABLESPOON_ML))} tbsp"


def measurable_g(mass_g: float, measures: Measures, *, bag_g: float = TYPICAL_BAG_G) -> float:
    """The next mass in g of base at or above `mass_g` that the kitchen can measure: quarter bags without a scale."""
    quarter = bag_g / 4
    return mass_g if measures.has_scale or mass_g <= 0 else -(-mass_g // quarter) * quarter
