"""Amounts as a kitchen says them: grams or ounces, spoons, bags, inches, degrees, or what the lip feels.

What a spoon or a cup holds follows the measuring set of 21 CFR 101.9(b)(5)(viii): teaspoon 5 ml, tablespoon 15 ml, cup
240 ml. What it weighs is common practice, no source: melted fat .9 g/ml, a cup of wafers or chopped chocolate 170 g.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from coating.units import MILLIMETRES_PER_INCH, fahrenheit, inches, ounces

TEASPOON_ML, TABLESPOON_ML, CUP_ML = 5.0, 15.0, 240.0
CUP_OF_PIECES_G = 170.0
GRAMS_PER_ML = {
    "pieces": CUP_OF_PIECES_G / CUP_ML,
    "fat": 0.9,
    "melted": 1.25,
    # What goes into a filling, g in a cup; common practice, no source.
    **{
        name: g / CUP_ML
        for name, g in (
            ("powdered sugar", 120.0),
            ("icing sugar", 120.0),
            ("sugar", 200.0),
            ("paste", 260.0),
            ("nut butter", 260.0),
            ("peanut butter", 260.0),
            ("honey", 340.0),
            ("syrup", 330.0),
            ("butter", 227.0),
            ("cream", 240.0),
            ("milk", 245.0),
            ("water", 240.0),
            ("jam", 320.0),
            ("cocoa", 85.0),
            ("flour", 125.0),
            ("nuts", 130.0),
        )
    },
}
FAT_TEASPOON_G = GRAMS_PER_ML["fat"] * TEASPOON_ML
TYPICAL_BAG_G = 340.0
FLUID_OUNCE_ML = 30.0  # of the same measuring set
# What one is called and weighs, by whose fat it is: wafers of coating, squares of a bar. Common practice, no source.
PIECES = {"palm": ("wafer", 2.6), "cocoa": ("square", 5.0)}
FEW_PIECES, PIECES_STEP = 20, 5  # up to so many each is counted, above that by fives
FEW_DABS_G = 0.6  # what nobody weighs in ounces

_EXACT = 0.03
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

    @property
    def volume(self) -> str:
        """ "us" for teaspoons, tablespoons and fluid ounces, else "ml"."""
        return "us" if (self.mass, self.length) == ("oz", "in") else "ml"

    @property
    def half_day_clock(self) -> bool:
        """Whether the clock says 8:14 pm."""
        return self.temperature == "F"


# -- numbers with a unit ------------------------------------------------------------------------------------------
def mass_text(mass_g: float, unit: str = "g") -> str:
    """Mass in g as written and typed: whole grams, tenths below 10 g; or ounces.

    >>> mass_text(240.4), mass_text(2.06), mass_text(9.0), mass_text(255, "oz"), mass_text(.2, "oz")
    ('240 g', '2.1 g', '9 g', '9 oz', '0.007 oz')
    """
    if unit == "oz":
        value = ounces(mass_g)
        figures = f"{value:.{3 if 0 < value < 0.02 else 2 if value < 1 else 1 if value < 100 else 0}f}"
        return (figures.rstrip("0").rstrip(".") if "." in figures else figures) + " oz"
    return (f"{mass_g:.0f}" if mass_g >= 9.95 else f"{mass_g:.1f}".removesuffix(".0")) + " g"


def mass_said(mass_g: float, unit: str = "g") -> str:
    """A mass in g in a sentence: none of nothing, and a few dabs of what nobody weighs in ounces.

    >>> mass_said(0), mass_said(0.3, "oz"), mass_said(0.3), mass_said(28.35, "oz")
    ('none', 'a few dabs', '0.3 g', '1 oz')
    """
    if mass_g <= 0:
        return "none"
    return "a few dabs" if unit == "oz" and mass_g < FEW_DABS_G else mass_text(mass_g, unit)


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
    return f"{area_mm2 / MILLIMETRES_PER_INCH**2:.1f} in²" if unit == "in" else f"{area_mm2 / 100:.0f} cm²"


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


def _whole_pieces(mass_g: float, one_g: float, *, up: bool = False) -> int:
    """Pieces, each up to twenty, by fives above; nearest, or `up` to the next."""
    count = mass_g / one_g
    step = 1 if count <= FEW_PIECES else PIECES_STEP
    return step * (math.ceil(count / step - 1e-9) if up else max(1, round(count / step)))


def pieces_of_base(
    mass_g: float, *, family: str = "palm", one_g: float = 0.0, bag_g: float = TYPICAL_BAG_G, bag: str = ""
) -> str:
    """Base as it is counted without a scale: wafers of coating or squares of chocolate, and whole bags.

    Parameters
    ----------
    mass_g : g. family : "palm" or "cocoa". one_g : of one piece, g; 0 for the usual. bag_g : what a bag holds, g.
    bag : the bag's size as it reads in this kitchen.

    >>> pieces_of_base(155), pieces_of_base(31, family="cocoa"), pieces_of_base(400, bag_g=340)
    ('about 60 wafers', 'about 6 squares', '1 bag of 340 g and about 25 wafers')
    """
    if mass_g <= 0:
        return "none"
    word, usual_g = PIECES.get(family, PIECES["palm"])
    bags = int(mass_g / bag_g + _EXACT)
    rest_g = mass_g - bags * bag_g
    whole = f"{bags} bag{'' if bags == 1 else 's'} of {bag or mass_text(bag_g)}" if bags else ""
    if bags and rest_g < _EXACT * bag_g:
        return whole
    count = _whole_pieces(rest_g, one_g or usual_g)
    pieces = f"about {count} {word}{'' if count == 1 else 's'}" if count > 1 else f"1 {word}"
    return f"{whole} and {pieces}" if whole else pieces


# -- volumes ------------------------------------------------------------------------------------------------------
def volume_text(volume_ml: float, unit: str = "ml", *, typed: bool = False) -> str:
    """A volume in ml as written: 12 ml; or as a kitchen of spoons and cups says it, `typed` without special signs.

    >>> volume_text(12.4), volume_text(0.62), [volume_text(v, "us") for v in (1.3, 7.5, 40, 120)]
    ('12 ml', '0.62 ml', ['¼ tsp', '1½ tsp', '2¾ tbsp', '4 fl oz'])
    """
    if unit != "us":
        return f"{volume_ml:.2g} ml" if volume_ml < 10 else f"{volume_ml:.0f} ml"
    spoons = ((3 * TEASPOON_ML, TEASPOON_ML, "tsp"), (4 * TABLESPOON_ML, TABLESPOON_ML, "tbsp"))
    one_ml, word = next(((one, word) for most, one, word in spoons if volume_ml < most), (FLUID_OUNCE_ML, "fl oz"))
    if 0 < volume_ml < TEASPOON_ML / 8 and not typed:
        return "a few drops"
    if typed and volume_ml < TEASPOON_ML:
        return f"{volume_ml / TEASPOON_ML:.3f}".rstrip("0").rstrip(".") + " tsp"
    quarters = round(volume_ml / one_ml * 4)
    return f"{typed_quarters(quarters / 4) if typed else _mixed(quarters)} {word}"


def quantity_text(name: str, value: float, measures: Measures) -> str:
    """A quantity as a kitchen reads it; its name ends in its unit. What is the most or the least that goes is never
    rounded past what it says.

    Parameters
    ----------
    name : such as "high_mm", "filling_ml", "least_g" or "target_c". value : in that unit. measures : the kitchen's.

    >>> inches = Measures(mass="oz", temperature="F", length="in")
    >>> [quantity_text(n, v, inches) for n, v in (("high_mm", 38.2), ("most_mm", 37.9), ("target_c", 45), ("ml", 30))]
    ['1 1/2 in', '1 7/16 in', '113 °F', '2 tbsp']
    """
    unit = name.rpartition("_")[2]
    if unit == "mm":
        step = 0.499 * _length_step(value, measures.length)
        value += {"most": -step, "least": step}.get(name.partition("_")[0], 0.0)
        return length_text(value, measures.length)
    if unit == "ml":
        return volume_text(value, measures.volume)
    return mass_text(value, measures.mass) if unit == "g" else temperature_text(value, measures.temperature)


def _length_step(length_mm: float, unit: str) -> float:
    """What a length in mm is written to, mm."""
    if unit == "in":
        return MILLIMETRES_PER_INCH * (0.01 if inches(length_mm) < 0.125 else 1 / 16)
    return 0.1 if length_mm < 100 else 1.0


# -- what goes into a field ---------------------------------------------------------------------------------------
def typed_quarters(value: float) -> str:
    """A number to the quarter as it would be typed: 1.75 is "1 3/4", nothing is "0"."""
    whole, quarters = divmod(round(value * 4), 4)
    return " ".join(t for t in (str(whole) if whole else "", _TYPED_FRACTIONS[quarters]) if t) or "0"


def typed_mass(
    mass_g: float,
    measures: Measures,
    *,
    of: str = "pieces",
    bag_g: float | None = None,
    family: str = "palm",
    piece_g: float = 0.0,
) -> str:
    """A mass in g as this kitchen would measure and type it: "255 g", "9 oz", "60 wafers", "2 tsp".

    Without a scale it is rounded to what can be measured: wafers or squares, quarter teaspoons.
    """
    if measures.has_scale:
        return mass_text(mass_g, measures.mass)
    if of == "fat":
        return f"{typed_quarters(max(0.25, round(mass_g / FAT_TEASPOON_G * 4) / 4))} tsp"
    if bag_g is None:
        return mass_text(mass_g, measures.mass)
    word, usual_g = PIECES.get(family, PIECES["palm"])
    count = _whole_pieces(mass_g, piece_g or usual_g)
    return f"{count} {word}{'' if count == 1 else 's'}"


def measurable_g(mass_g: float, measures: Measures, *, family: str = "palm", piece_g: float = 0.0) -> float:
    """The next mass in g of base at or above `mass_g` that the kitchen can measure: whole pieces without a scale."""
    if measures.has_scale or mass_g <= 0:
        return mass_g
    one_g = piece_g or PIECES.get(family, PIECES["palm"])[1]
    return _whole_pieces(mass_g, one_g, up=True) * one_g
