"""When fat melts: one curve for each family, and the balance of heat of whatever comes together in a bowl.

What is solid warms as a solid up to 32 degC, takes the heat of melting as the curve lets it melt, and warms as a liquid
from there; what is melted cools and warms as a liquid and does not turn solid by itself within minutes. Palm-type fat
melts sharply at 32 degC. Pieces of chocolate stirred into melted chocolate dissolve in it, from 24 degC on and wholly
by 28, below every working temperature: that is what seeding rests on. Both are assumptions.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from types import MappingProxyType

SPECIFIC_HEAT_LIQUID = 1700.0  # J/(kg K); handbook, from memory
SPECIFIC_HEAT_SOLID = 1600.0
DENSITY_KG_M3 = 1259.0  # of an ordinary coating, melted
LATENT_HEAT = 45e3  # J/kg
MELTS_AT_C = 32.0
TEMPERED_WORK_C = 28.5  # of white chocolate; handbook, from memory
_NOTHING = 1e-9


@dataclass(frozen=True)
class MeltingCurve:
    """The share of fat that can be solid: all below `from_c`, none from `until_c` on, straight between, in degC."""

    from_c: float
    until_c: float

    @property
    def is_sharp(self) -> bool:
        """Whether all of it melts at one temperature."""
        return self.from_c == self.until_c

    def solid_fraction(self, temperature_c: float) -> float:
        """The most that can be solid at a temperature in degC, 0 to 1."""
        if temperature_c >= self.until_c:
            return 0.0
        if temperature_c <= self.from_c:
            return 1.0
        return (self.until_c - temperature_c) / (self.until_c - self.from_c)

    def temperature_c(self, solid_fraction: float) -> float:
        """The warmest in degC at which so much of it can be solid."""
        return self.until_c - min(1.0, max(0.0, solid_fraction)) * (self.until_c - self.from_c)


CURVES: Mapping[str, MeltingCurve] = MappingProxyType(
    {"palm": MeltingCurve(MELTS_AT_C, MELTS_AT_C), "cocoa": MeltingCurve(24.0, 28.0)}
)
PALM, COCOA = CURVES["palm"], CURVES["cocoa"]


def curve_of(white: str) -> MeltingCurve:
    """The curve of "coating", or of real chocolate, "tempered" or "untempered"."""
    return PALM if white == "coating" else COCOA


@dataclass(frozen=True)
class Heap:
    """So much of something at one temperature: g, degC, and the share of it that is solid."""

    mass_g: float
    temperature_c: float
    solid_fraction: float = 0.0


def taken_j_kg(start_c: float, end_c: float, *, solid: bool) -> float:
    """Heat in J/kg to bring what is solid or melted at `start_c` to `end_c`, without the heat of melting."""
    if not solid:
        return SPECIFIC_HEAT_LIQUID * (end_c - start_c)
    below = min(end_c, MELTS_AT_C) - min(start_c, MELTS_AT_C)
    above = max(end_c, MELTS_AT_C) - max(start_c, MELTS_AT_C)
    return SPECIFIC_HEAT_SOLID * below + SPECIFIC_HEAT_LIQUID * above


def heat_j(heaps: Sequence[Heap], end_c: float, curve: MeltingCurve) -> float:
    """Heat in J that it takes to bring heaps together to one temperature in degC; below nothing where it gives some."""
    mass_g = sum(h.mass_g for h in heaps)
    warming = sum(
        h.mass_g * share * taken_j_kg(h.temperature_c, end_c, solid=solid)
        for h in heaps
        for solid, share in ((True, h.solid_fraction), (False, 1 - h.solid_fraction))
    )
    melting = LATENT_HEAT * (_solid_g(heaps) - mass_g * _left_solid(heaps, end_c, curve))
    return (warming + melting) / 1000


def _solid_g(heaps: Sequence[Heap]) -> float:
    return sum(h.mass_g * h.solid_fraction for h in heaps)


def _left_solid(heaps: Sequence[Heap], end_c: float, curve: MeltingCurve) -> float:
    return min(_solid_g(heaps) / sum(h.mass_g for h in heaps), curve.solid_fraction(end_c))


def brought_together(heaps: Sequence[Heap], curve: MeltingCurve, *, given_j: float = 0.0) -> tuple[float, float]:
    """Temperature in degC and solid share of heaps stirred together while they are given some heat.

    Parameters
    ----------
    heaps : at least one, of some mass. curve : of the fat they are of. given_j : from outside, J, 0 or more.

    Returns
    -------
    The temperature at which the heat is spent. Where everything melts at one temperature, as much as the heat allows.

    Source: conservation of heat, with the curve's assumptions.
    """
    mass_g, solid_g = sum(h.mass_g for h in heaps), _solid_g(heaps)
    starts_c = curve.temperature_c(solid_g / mass_g)  # to melt
    if curve.is_sharp:
        spare_j = given_j - heat_j(heaps, starts_c - _NOTHING, curve)
        if 0 <= spare_j <= LATENT_HEAT * solid_g / 1000:
            return starts_c, (solid_g - spare_j * 1000 / LATENT_HEAT) / mass_g
    # Between these it is a straight line.
    corners = sorted({starts_c - _NOTHING, starts_c, curve.until_c, MELTS_AT_C, min(h.temperature_c for h in heaps)})
    needed = [heat_j(heaps, c, curve) for c in corners]
    place = next((i for i, j in enumerate(needed) if j >= given_j), len(corners))
    if place in (0, len(corners)):
        at, beyond = (0, -1.0) if place == 0 else (-1, 1.0)
        slope = abs(heat_j(heaps, corners[at] + beyond, curve) - needed[at])
        end_c = corners[at] + (given_j - needed[at]) / slope
    else:
        (low, high), (first, last) = corners[place - 1 : place + 1], needed[place - 1 : place + 1]
        end_c = low + (high - low) * (given_j - first) / (last - first)
    return end_c, _left_solid(heaps, end_c, curve)
