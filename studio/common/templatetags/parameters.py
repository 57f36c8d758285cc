"""How parameters of an ingredient are called and written."""

from __future__ import annotations

from django import template

from studio.common.templatetags.kitchen import mass, money

register = template.Library()

PARAMETER_TITLES = {
    "number": "Flow number",
    "fat_fraction": "Fat share",
    "bag_g": "Bag",
    "piece_g": "One piece",
    "stock_g": "There was",
    "pack_price": "Price of a bag",
    "drop_g": "Drop",
    "strength": "Strength",
}


@register.filter
def parameter_title(name: str) -> str:
    """What a parameter is called on a page."""
    return PARAMETER_TITLES.get(name, name)


@register.filter
def as_parameter(value: float, name: str) -> str:
    """The value of a parameter with its unit."""
    if name == "piece_g":
        return f"{value:.2g} g"
    if name in ("bag_g", "stock_g"):
        return mass(value)
    if name == "drop_g":
        return f"{value:.2g} g"
    if name == "pack_price":
        return money(value)
    return f"{value * 100:.3g} %" if name == "fat_fraction" else f"{value:.4g}"
