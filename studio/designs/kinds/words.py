"""Amounts in the words of steps, as the kitchen that looks measures."""

from __future__ import annotations

from coating.quantities import length_text, mass_said, volume_text
from studio.common.measures import current


def mm(length_mm: float) -> str:
    """60 mm or 2 3/8 in; whole millimetres from ten on."""
    return length_text(round(length_mm) if length_mm >= 10 else length_mm, current().length)


def size(wide_mm: float, high_mm: float) -> str:
    """Width by height, in the units of the kitchen."""
    return f"{mm(wide_mm)} by {mm(high_mm)}"


def grams(mass_g: float) -> str:
    """A mass in the units of the kitchen."""
    return mass_said(mass_g, current().mass)


def volume(volume_ml: float) -> str:
    """A volume in the units of the kitchen."""
    return volume_text(volume_ml, current().volume)


def many(count: int, word: str, words: str = "") -> str:
    """1 strip, 12 strips."""
    return f"{count} {word}" if count == 1 else f"{count} {words or word + 's'}"
