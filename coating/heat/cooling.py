"""A bowl cools: exponentially towards the room, with a time constant that grows with its mass.

tau = (m c + bowl)/(h A), the filling taken as a half ball. The transfer 15 W/(m2 K), radiation and stirring
included, and a light plastic bowl of 30 J/K are assumptions; they give 21, 26 and 32 minutes for 100, 250 and 500 g.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from coating.heat.melting_curve import DENSITY_KG_M3, SPECIFIC_HEAT_LIQUID

TRANSFER_W_M2K = 15.0
BOWL_J_K = 30.0


@dataclass(frozen=True)
class BowlCooling:
    """Cooling of `mass_g` in a room of `room_c`; `loss`: how many times the heat that is assumed it loses."""

    mass_g: float
    room_c: float
    loss: float = 1.0

    @property
    def time_constant_s(self) -> float:
        """Time constant in s."""
        mass_kg = max(self.mass_g, 1.0) / 1000
        radius_m = (3 * mass_kg / DENSITY_KG_M3 / (2 * math.pi)) ** (1 / 3)
        area_m2 = 3 * math.pi * radius_m**2
        return (mass_kg * SPECIFIC_HEAT_LIQUID + BOWL_J_K) / (TRANSFER_W_M2K * area_m2) / self.loss

    def temperature_c(self, start_c: float, duration_s: float) -> float:
        """Temperature in degC after `duration_s` from `start_c`."""
        return self.room_c + (start_c - self.room_c) * math.exp(-duration_s / self.time_constant_s)

    def time_to_s(self, start_c: float, end_c: float) -> float:
        """Seconds until it has cooled to `end_c`; 0 when it is there, inf when the room never lets it.

        >>> round(BowlCooling(250, 21).time_to_s(40, 32) / 60)
        14
        """
        if start_c <= end_c:
            return 0.0
        if end_c <= self.room_c:
            return math.inf
        return self.time_constant_s * math.log((start_c - self.room_c) / (end_c - self.room_c))
