"""Melting: energy, what a burst does, and the temperatures to work at.

Heat capacities, latent heat and the efficiency of a microwave are handbook values from memory or assumptions.
"""

from __future__ import annotations

SPECIFIC_HEAT_LIQUID = 1700.0  # J/(kg K)
SPECIFIC_HEAT_SOLID = 1600.0
LATENT_HEAT = 45e3  # J/kg
MELTS_AT_C = 32.0
COUPLING = 0.5  # share of the power that reaches the bowl, an assumption
CEILING_C = 48.0
TEMPER_LOST_C = 33.0  # above it no crystals of the right kind are left; handbook, from memory
LONGEST_BURST_S, SHORTEST_BURST_S = 30.0, 3.0

# kind of white -> (take it to, work at, too stiff below), degC. Tempered: handbook values from memory; else [assumed].
_TEMPERATURES = {
    "coating": (42.0, 38.0, 29.0),
    "untempered": (42.0, 37.0, 26.0),
    "tempered": (45.0, 28.5, 26.5),
}


def working_temperature_c(white: str) -> float:
    """Temperature in degC at which "coating", "untempered" or "tempered" is worked."""
    return _TEMPERATURES[white][1]


def melt_to_c(white: str) -> float:
    """Temperature in degC to melt to."""
    return _TEMPERATURES[white][0]


def working_floor_c(white: str) -> float:
    """Temperature in degC below which a bowl sets while you work."""
    return _TEMPERATURES[white][2]


def melting_energy_j(mass_g: float, start_c: float, target_c: float, *, solid_fraction: float = 1.0) -> float:
    """Heat in J to bring a mass from `start_c` to `target_c`; latent heat is taken at 32 degC.

    >>> round(melting_energy_j(1000, 20, 45) / 1000)
    86
    """
    mass_kg = mass_g / 1000
    below = max(0.0, min(MELTS_AT_C, target_c) - start_c) * SPECIFIC_HEAT_SOLID
    above = max(0.0, target_c - max(MELTS_AT_C, start_c)) * SPECIFIC_HEAT_LIQUID
    latent = LATENT_HEAT * solid_fraction if target_c > MELTS_AT_C else 0.0
    return mass_kg * (below + above + latent)


def warmed_temperature_c(
    mass_g: float, start_c: float, energy_j: float, *, solid_fraction: float = 1.0
) -> tuple[float, float]:
    """Temperature in degC and solid fraction after `energy_j` went into `mass_g`."""
    if mass_g <= 0 or energy_j <= 0:
        return start_c, solid_fraction
    per_kg = energy_j / (mass_g / 1000)
    if solid_fraction > 0:
        to_melting = max(0.0, MELTS_AT_C - start_c) * SPECIFIC_HEAT_SOLID
        if per_kg <= to_melting:
            return start_c + per_kg / SPECIFIC_HEAT_SOLID, solid_fraction
        per_kg -= to_melting
        start_c = max(start_c, MELTS_AT_C)
        latent = LATENT_HEAT * solid_fraction
        if per_kg <= latent:
            return start_c, solid_fraction - per_kg / LATENT_HEAT
        per_kg -= latent
    return start_c + per_kg / SPECIFIC_HEAT_LIQUID, 0.0


def melting_time_s(
    mass_g: float, *, start_c: float, target_c: float, power_w: float, power_fraction: float = 0.5
) -> float:
    """Microwave seconds in all, at a rated power in W and a power setting 0 to 1."""
    return melting_energy_j(mass_g, start_c, target_c) / (power_w * power_fraction * COUPLING)


def first_burst_s(mass_g: float, *, power_w: float, power_fraction: float = 0.5) -> float:
    """Longest safe burst in s: it keeps half the way to 48 degC in hand, 3 to 30 s."""
    power = power_w * power_fraction * COUPLING
    safe = (CEILING_C - MELTS_AT_C) * mass_g / 1000 * SPECIFIC_HEAT_LIQUID / (2 * power)
    return min(LONGEST_BURST_S, max(SHORTEST_BURST_S, safe))
