"""What goes into a cavity: solid, a shell drained, a shell with a filling and a lid, layers, and a thing put inside."""

from __future__ import annotations

import math
from dataclasses import dataclass

from coating.errors import OutOfBounds
from coating.flow.material import ORDINARY
from coating.limits import check
from coating.shape.moulds.cavity import Cavity

HEADROOM_MM = 1.0  # left under the lid
RIM_BAND_MM, RIM_COAT_MM = 12.0, 1.2  # a second coat on rim and notch
FILLING_KG_M3 = 1100.0
_DENSITY = ORDINARY.density_kg_m3


@dataclass(frozen=True)
class Shell:
    """A shell in a cavity, its wall and lid in mm."""

    cavity: Cavity
    inner: Cavity
    wall_mm: float
    lid_mm: float

    @property
    def shell_g(self) -> float:
        """The shell, g."""
        return (self.cavity.holds_ml - self.inner.holds_ml) * _DENSITY / 1000

    @property
    def rim_g(self) -> float:
        """The second coat on rim and weak points."""
        return self.cavity.rim_mm * RIM_BAND_MM * RIM_COAT_MM * _DENSITY * 1e-6

    @property
    def poured_g(self) -> float:
        """Full to the brim, before it is drained."""
        return self.cavity.holds_ml * _DENSITY / 1000

    @property
    def drained_g(self) -> float:
        """What runs back into the bowl."""
        return self.poured_g - self.shell_g

    @property
    def fills_to_mm(self) -> float:
        """How high a filling may stand in the shell: below the lid and a little room."""
        return self.inner.deep_mm - self.lid_mm - HEADROOM_MM

    @property
    def filling_ml(self) -> float:
        """What goes in up to the lid, ml."""
        return self.inner.holds_to_ml(self.fills_to_mm)

    @property
    def filling_g(self) -> float:
        """What goes in up to the lid, g."""
        return self.filling_ml * FILLING_KG_M3 / 1000

    @property
    def lid_g(self) -> float:
        """From the filling to the brim, its little room too."""
        return (self.inner.holds_ml - self.filling_ml) * _DENSITY / 1000


def solid_g(cavity: Cavity) -> float:
    """Full to the brim."""
    return cavity.holds_ml * _DENSITY / 1000


def shell(cavity: Cavity, *, wall_mm: float, lid_mm: float = 2.0) -> Shell:
    """A shell with room for a filling.

    Raises
    ------
    OutOfBounds : a wall or lid that leaves no room, or a value outside its bounds.
    """
    check("film_mm", wall_mm, "wall_mm"), check("film_mm", lid_mm, "lid_mm")
    inner = cavity.within(wall_mm)
    if inner is None:
        raise OutOfBounds(
            "A wall that thick leaves no hollow. Make it thinner, or make the piece solid.", field="wall_mm"
        )
    return Shell(cavity, inner, wall_mm, lid_mm)


def filled(made: Shell, filling_ml: float | None = None) -> float:
    """The filling, ml: as much as goes in, or as said.

    Raises OutOfBounds for one that stands above where the lid begins, or where a lid leaves no room at all.
    """
    most = made.filling_ml
    if made.fills_to_mm <= 0 or most <= 0:
        raise OutOfBounds(
            "Wall and lid leave no room for a filling. Make them thinner, or use a deeper mould.", field="lid_mm"
        )
    if filling_ml is None:
        return most
    if check("volume_ml", filling_ml, "filling_ml") > most + 1e-9:
        raise OutOfBounds(
            "With the lid on, that much filling stands above the rim. Use at most {most_ml}.",
            most_ml=most,
            field="filling_ml",
            high=most,
        )
    return filling_ml


@dataclass(frozen=True)
class Insert:
    """A thing put inside: across and high, mm; as a cylinder."""

    across_mm: float
    high_mm: float

    @property
    def volume_ml(self) -> float:
        """What an insert takes up, ml."""
        return math.pi / 4 * self.across_mm**2 * self.high_mm / 1000


def insert_in(cavity: Cavity, across_mm: float, high_mm: float) -> Insert:
    """Raises OutOfBounds for a thing that is larger than the cavity it goes into."""
    insert = Insert(check("core_mm", across_mm, "insert_mm"), check("core_mm", high_mm, "insert_high_mm"))
    if across_mm >= cavity.span_mm:
        raise OutOfBounds(
            "The piece is {across_mm} across and the cavity only {span_mm}, so it does not go in.",
            across_mm=across_mm,
            span_mm=cavity.span_mm,
            field="insert_mm",
            high=cavity.span_mm,
        )
    if high_mm >= cavity.deep_mm:
        raise OutOfBounds(
            "The piece is {high_mm} high and the cavity only {deep_mm} deep, so it would stick out.",
            high_mm=high_mm,
            deep_mm=cavity.deep_mm,
            field="insert_high_mm",
            high=cavity.deep_mm,
        )
    if insert.volume_ml >= cavity.holds_ml:
        raise OutOfBounds("What goes inside takes up the whole cavity.", field="insert_mm")
    return insert


@dataclass(frozen=True)
class Layered:
    """A cup in layers: base, filling pressed flat, cap; ml of each."""

    base_ml: float
    filling_ml: float
    cap_ml: float


def layered(cavity: Cavity, *, base_mm: float, cap_mm: float, wall_mm: float = 0.0) -> Layered:
    """Raises OutOfBounds where base and cap leave no room, or for a value outside its bounds."""
    check("film_mm", base_mm, "base_mm"), check("film_mm", cap_mm, "lid_mm")
    if base_mm + cap_mm >= cavity.deep_mm:
        raise OutOfBounds(
            "Base and cap fill the mould, which is {deep_mm} deep. Make them thinner.",
            deep_mm=cavity.deep_mm,
            field="base_mm",
        )
    upper = cavity.holds_to_ml(cavity.deep_mm - cap_mm)
    base = cavity.holds_to_ml(base_mm)
    return Layered(base, upper - base, cavity.holds_ml - upper)
