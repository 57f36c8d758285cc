"""What pictures are drawn with: places, sizes and paths as SVG wants them."""

from __future__ import annotations

from typing import Any

from django import template

from coating.colour.cie import srgb_from_lab
from coating.figures.lumps import lump_places

register = template.Library()


@register.filter
def lumps(solid_fraction: float) -> list[tuple[float, float, int]]:
    """Where to draw lumps in a bowl seen from above: more of them the more is unmelted."""
    return lump_places(solid_fraction)


@register.filter
def inverse(value: float) -> float:
    """One over it."""
    return 1 / value


@register.filter
def half(value: float) -> str:
    """Half of it, as SVG wants it."""
    return f"{value / 2:.1f}"


@register.filter
def times(value: float, factor: float) -> float:
    """value times factor."""
    return value * factor


@register.filter
def plus(value: float, more: float) -> float:
    """value and more."""
    return value + more


@register.filter
def minus(value: float, less: float) -> float:
    """value less something."""
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
def points(ring: Any) -> str:
    """A ring as SVG reads the points of a polygon."""
    return " ".join(f"{x:.2f},{y:.2f}" for x, y in ring)
