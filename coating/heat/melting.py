"""Melting: energy, what a burst does, and the temperatures to work at.

Heat capacities, latent heat and the efficiency of a microwave are handbook values from memory or assumptions.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

from coating.errors import UnknownName
from coating.heat.melting_curve import (
    PALM,
    TEMPERED_WORK_C,
    Heap,
    MeltingCurve,
    brought_together,
    heat_j,
)

COUPLING, COUPLES_LEAST = 0.5, 0.37  # share of the power that reaches the bowl; assumptions
SMALL_G, WHOLE_G = 170.0, 300.0  # a load so small takes up least, one so large most; assumptions
CEILING_C = 48.0
TEMPER_LOST_C = 33.0  # above it no crystals of the right kind are left; handbook, from memory
LONGEST_BURST_S, SHORTEST_BURST_S = 30.0, 3.0


@dataclass(frozen=True)
class Warmth:
    """Temperatures in degC of a white: melt it to, work at, too stiff below, never above."""

    melt_to_c: float
    work_at_c: float
    floor_c: float
    ceiling_c: float = CEILING_C


# Tempered: handbook values from memory; the rest assumed. Dark chocolate bears more heat than milk, milk than white.
_WARMTH = {
    "coating": Warmth(42.0, 38.0, 29.0),
    "untempered": Warmth(42.0, 37.0, 26.0),
    "tempered": Warmth(45.0, TEMPERED_WORK_C, 26.5),
}
_TEMPERED = {
    "white": Warmth(45.0, TEMPERED_WORK_C, 26.5),
    "milk": Warmth(46.0, 29.5, 27.5),
    "dark": Warmth(48.0, 31.5, 29.0),
}
_CEILINGS_C = {"white": CEILING_C, "milk": 50.0, "dark": 54.0}


def warmth_of(white: str, chocolate: str = "white") -> Warmth:
    """The temperatures of a "coating", or of "tempered" or "untempered" chocolate that is "white", "milk" or "dark".

    Raises
    ------
    UnknownName : another white or chocolate.

    >>> warmth_of("tempered", "dark").work_at_c
    31.5
    """
    if white not in _WARMTH:
        raise UnknownName(
            "Choose coating, tempered chocolate or untempered chocolate.", field="white", choices=list(_WARMTH)
        )
    if chocolate not in _TEMPERED:
        raise UnknownName("Choose white, milk or dark.", field="chocolate", choices=list(_TEMPERED))
    if white == "coating":
        return _WARMTH[white]
    known = _TEMPERED[chocolate] if white == "tempered" else _WARMTH[white]
    return replace(known, ceiling_c=_CEILINGS_C[chocolate])


def coupling(mass_g: float) -> float:
    """Share of the power that a load of so many g takes up: a small one lets more of it pass.

    An assumption that agrees with common practice: .37 up to 170 g, .5 from 300 g on, straight between.

    >>> coupling(100), coupling(500)
    (0.37, 0.5)
    """
    grown = (mass_g - SMALL_G) / (WHOLE_G - SMALL_G)
    return COUPLES_LEAST + (COUPLING - COUPLES_LEAST) * min(1.0, max(0.0, grown))


def white_as_bought(family: str, name: str) -> str:
    """The white that a bag is by its fat, "palm" or "cocoa": chocolate is tempered, unless it is to stay untempered."""
    return "coating" if family == "palm" else "tempered" if name == "coating" else name


def working_temperature_c(white: str, chocolate: str = "white") -> float:
    """How warm it is worked.

    Parameters
    ----------
    white : str
        "coating", "untempered" or "tempered".
    chocolate : str
        "white", "milk" or "dark".

    Returns
    -------
    float
        degC.
    """
    return warmth_of(white, chocolate).work_at_c


def melt_to_c(white: str, chocolate: str = "white") -> float:
    """Temperature in degC to melt to."""
    return warmth_of(white, chocolate).melt_to_c


def working_floor_c(white: str, chocolate: str = "white") -> float:
    """Temperature in degC below which a bowl sets while you work."""
    return warmth_of(white, chocolate).floor_c


def melting_energy_j(
    mass_g: float, start_c: float, target_c: float, *, solid_fraction: float = 1.0, curve: MeltingCurve = PALM
) -> float:
    """The heat that melts a heap and warms it.

    Parameters
    ----------
    mass_g : float
    start_c, target_c : float
        degC; no heat is taken out where the target is colder.
    solid_fraction : float
        How much of its fat is solid at the beginning, 0 to 1.
    curve : MeltingCurve

    Returns
    -------
    float
        J.

    >>> round(melting_energy_j(1000, 20, 45) / 1000)
    86
    """
    return heat_j((Heap(mass_g, start_c, solid_fraction),), max(start_c, target_c), curve) if mass_g > 0 else 0.0


def warmed_temperature_c(
    mass_g: float, start_c: float, energy_j: float, *, solid_fraction: float = 1.0, curve: MeltingCurve = PALM
) -> tuple[float, float]:
    """How warm a heap is once heat went in.

    Parameters
    ----------
    mass_g : float
    start_c : float
    energy_j : float
    solid_fraction : float
        How much of its fat is solid at the beginning, 0 to 1.
    curve : MeltingCurve

    Returns
    -------
    temperature_c : float
    solid_fraction : float
    """
    if mass_g <= 0 or energy_j <= 0:
        return start_c, solid_fraction
    return brought_together((Heap(mass_g, start_c, solid_fraction),), curve, given_j=energy_j)
