"""Amounts as a kitchen says them: grams, spoons, bags.

The densities in spoons are common practice, no source: a level teaspoon of melted fat weighs
4.5 g (0.9 g/ml), a cup of wafers or chopped chocolate 170 g.
"""

from __future__ import annotations

from dataclasses import dataclass

FAT_TEASPOON_G = 4.5
CUP_OF_PIECES_G = 170.0

_EXACT = 0.03
_QUARTERS = {0.25: "a quarter", 0.5: "half", 0.75: "three quarters"}
_FRACTIONS = {0.0: "", 0.25: "¼", 0.5: "½", 0.75: "¾"}


@dataclass(frozen=True)
class Amount:
    """A mass with its kitchen words: `grams` as "9 g", `kitchen` as "2 teaspoons"."""

    mass_g: float
    grams: str
    kitchen: str


def grams_text(mass_g: float) -> str:
    """Mass in g as written on screen: whole grams, tenths below 10 g.

    >>> grams_text(240.4), grams_text(2.06), grams_text(9.0)
    ('240 g', '2.1 g', '9 g')
    """
    if mass_g >= 9.95:
        return f"{mass_g:.0f} g"
    return f"{mass_g:.1f}".removesuffix(".0") + " g"


def _mixed(quarters: int) -> str:
    whole, part = divmod(quarters, 4)
    return f"{whole or ''}{_FRACTIONS[part / 4]}"


def spoons_of_fat(mass_g: float) -> Amount:
    """Melted fat in teaspoons, to the quarter spoon.

    >>> spoons_of_fat(9).kitchen
    '2 teaspoons'
    """
    quarters = round(mass_g / FAT_TEASPOON_G * 4)
    if mass_g <= 0:
        words = "none"
    elif quarters == 0:
        words = "a pinch"
    else:
        words = f"{_mixed(quarters)} teaspoon{'s' if quarters > 4 else ''}"
    return Amount(mass_g, grams_text(mass_g), words)


def bags_of_base(mass_g: float, *, bag_g: float) -> Amount:
    """Pieces of base as a share of a bag (mass_g, bag_g in g); under a tenth of a bag, in spoons.

    >>> bags_of_base(255, bag_g=340).kitchen
    'three quarters of a 340 g bag'
    """
    share = mass_g / bag_g
    quarters = round(share * 4)
    if mass_g <= 0:
        return Amount(mass_g, grams_text(mass_g), "none")
    if share < 0.1:
        spoons = max(1, round(mass_g / CUP_OF_PIECES_G * 16))
        words = f"{spoons} tablespoon{'s' if spoons > 1 else ''} of pieces"
    elif quarters == 0:
        cups = max(1, round(mass_g / CUP_OF_PIECES_G * 4))
        words = f"{_mixed(cups)} cup{'s' if cups > 4 else ''} of pieces"
    else:
        off = share - quarters / 4
        nearly = "a little over " if off > _EXACT else "a little under " if off < -_EXACT else ""
        if quarters < 4:
            words = f"{nearly}{_QUARTERS[quarters / 4]} of a {bag_g:.0f} g bag"
        else:
            words = f"{nearly}{_mixed(quarters)} bag{'s' if quarters > 4 else ''} of {bag_g:.0f} g"
    return Amount(mass_g, grams_text(mass_g), words)
