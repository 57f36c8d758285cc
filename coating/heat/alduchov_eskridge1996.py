"""Dew point, and how long a cold piece stays wet.

Magnus form with the coefficients of Alduchov & Eskridge (1996), 17.625 and 243.04 degC, from -40 to 50 degC. A piece
warms as a lump: thickness over what its sides take up at 9 W/m2K [assumed].
"""

from __future__ import annotations

import math

from coating.heat.melting_curve import DENSITY_KG_M3, SPECIFIC_HEAT_SOLID
from coating.limits import check

A, B_C = 17.625, 243.04
TRANSFER_W_M2K = 9.0


def dew_point_c(temperature_c: float, relative_humidity: float) -> float:
    """Temperature in degC at which air of `temperature_c` and a relative humidity of 0 to 1 gives off water.

    >>> round(dew_point_c(22, 0.5), 1)
    11.1
    """
    check("temperature_c", temperature_c)
    damp = math.log(check("humidity", relative_humidity, "relative_humidity")) + A * temperature_c / (
        B_C + temperature_c
    )
    return B_C * damp / (A - damp)


def wet_min(
    piece_c: float, *, room_c: float, relative_humidity: float, thickness_mm: float = 10.0, sides: float = 1.5
) -> float:
    """Minutes a piece out of the cold stays below the dew point of the room, and so wet; 0 when it never is."""
    check("temperature_c", piece_c, "piece_c"), check("thickness_mm", thickness_mm)
    dew_c = dew_point_c(check("room_c", room_c), relative_humidity)
    if piece_c >= dew_c or relative_humidity >= 1:
        return 0.0 if piece_c >= dew_c else math.inf
    lag_s = DENSITY_KG_M3 * SPECIFIC_HEAT_SOLID * thickness_mm / 1000 / (sides * TRANSFER_W_M2K)
    return lag_s / 60 * math.log((room_c - piece_c) / (room_c - dew_c))
