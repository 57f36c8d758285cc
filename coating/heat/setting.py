"""When a coat is set: cooling to where it sets, then giving off the heat of setting.

t = (rho c d/U) ln((T0 - Ta)/(Tc - Ta)) + f rho L d/(U (Tc - Ta)), U = sides/(1/h + (d/sides)/3k). Coefficients are
assumptions; within 9 % of a one-dimensional enthalpy calculation. Untempered white sets slowly and
unevenly: wide range.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from coating.errors import OutOfBounds
from coating.heat.melting import LATENT_HEAT, SPECIFIC_HEAT_LIQUID
from coating.limits import check

TRANSFER_W_M2K = {"room": 9.0, "fridge": 10.0, "freezer": 12.0}
PLACES_C = {"fridge": 5.0, "freezer": -18.0}  # common practice, no source
CONDUCTIVITY = 0.25
DENSITY_KG_M3 = 1259.0
SETS_AT_C = {"coating": 28.0, "tempered": 25.0, "untempered": 24.0}
TOUCH, RELEASE = 0.35, 0.8
UNTEMPERED_SLOWER = 1.6


@dataclass(frozen=True)
class Setting:
    """Minutes until dry to the touch and until it can be handled."""

    touch_min: float
    release_min: float


def setting_time(
    thickness_mm: float,
    *,
    pour_c: float,
    surround_c: float,
    place: str = "room",
    white: str = "coating",
    sides: float = 1.0,
) -> Setting:
    """Setting time of a coat.

    Parameters
    ----------
    thickness_mm : mm. pour_c, surround_c : degC. place : room, fridge or freezer. white : coating, tempered or
    untempered. sides : 1 on paper, 1.6 in a mould, 1.5 small bits, 2 hanging free.

    Raises
    ------
    OutOfBounds : the surroundings are within 2 degrees of where it sets; it would never get hard.
    """
    thickness_mm = check("thickness_mm", thickness_mm)
    sets_c = SETS_AT_C[white]
    gap = sets_c - check("temperature_c", surround_c)
    if gap <= 2:
        raise OutOfBounds("It is too warm there for it to set: use the fridge.", field="surround_c", high=sets_c - 2)
    d = thickness_mm / 1000
    u = sides / (1 / TRANSFER_W_M2K[place] + (d / sides) / (3 * CONDUCTIVITY))
    cooling_s = DENSITY_KG_M3 * SPECIFIC_HEAT_LIQUID * d / u * math.log(max(pour_c - surround_c, gap) / gap)
    latent_s = DENSITY_KG_M3 * LATENT_HEAT * d / (u * gap)
    slower = UNTEMPERED_SLOWER if white == "untempered" else 1.0
    return Setting((cooling_s + TOUCH * slower * latent_s) / 60, (cooling_s + RELEASE * slower * latent_s) / 60)
