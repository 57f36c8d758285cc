"""Colours for the shelf: a base as it is, a colour as a light tint of white."""

from __future__ import annotations

from functools import lru_cache

from coating.colour.cie import hex_from_lab
from coating.colour.mixing import Ingredient, Part, mix
from coating.datasets.ingredients import demo_ingredient

_TINT_SHARE = 0.18
_FAT = "#f3ecc9"


@lru_cache(maxsize=512)
def tint_of(ingredient: Ingredient) -> str:
    """#rrggbb for a swatch of an ingredient."""
    if ingredient.is_base:
        return hex_from_lab(mix([Part(ingredient, 100.0)]).lab())
    if not ingredient.is_colourant:
        return _FAT
    white = demo_ingredient("bright")
    return hex_from_lab(mix([Part(white, 100.0), Part(ingredient, 100 * ingredient.cap_share * _TINT_SHARE)]).lab())
