"""Colours for the shelf: a base as it is, a colour as a light tint of white."""

from __future__ import annotations

from functools import lru_cache

from coating.colour.cie import hex_from_lab
from coating.colour.mixing import Ingredient, Part, mix
from coating.stock.ingredients import demo_ingredient
from studio.cupboard.adapters import core_ingredient
from studio.cupboard.models import Ingredient as Row

_TINT_SHARE = 0.18
_FAT = "#f3ecc9"


@lru_cache(maxsize=512)
def _lab(base: Ingredient) -> tuple[float, float, float]:
    return mix([Part(base, 100.0)]).lab()


def lab_of(row: Row) -> tuple[float, float, float]:
    """CIELAB of a base as melted, from its row with its readings (prefetched)."""
    return _lab(core_ingredient(row))


_PACKS = {"base": "bag", "liquid": "bottle", "powder": "pot", "gel": "pot", "white": "pot", "butter": "bottle"}


def pack_of(kind: str) -> str:
    """How an ingredient of a kind is drawn: as the pack it is sold in."""
    return _PACKS.get(kind, "pot")


@lru_cache(maxsize=512)
def tint_of(ingredient: Ingredient) -> str:
    """#rrggbb for a swatch of an ingredient."""
    if ingredient.is_base:
        return hex_from_lab(_lab(ingredient))
    if not ingredient.is_colourant:
        return _FAT
    white = demo_ingredient("bright")
    return hex_from_lab(mix([Part(white, 100.0), Part(ingredient, 100 * ingredient.cap_share * _TINT_SHARE)]).lab())
