"""When a coat is set: cooling to where it sets, then giving off the heat of setting.

t = (rho c d/U) ln((T0 - Ta)/(Tc - Ta)) + f rho L d/(U (Tc - Ta)), U = sides/(1/h + (d/sides)/3k). Coefficients are
assumptions; within 9 % of a one-dimensional enthalpy calculation. Untempered white sets slowly and
unevenly: wide range.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from coating.errors import OutOfBounds
from coating.heat.melting_curve import DENSITY_KG_M3, LATENT_HEAT, SPECIFIC_HEAT_LIQUID
from coating.limits import check

TRANSFER_W_M2K = {"room": 9.0, "fridge": 10.0, "freezer": 12.0}
PLACES_C = {"fridge": 5.0, "freezer": -18.0}  # common practice, no source
CONDUCTIVITY = 0.25
SETS_AT_C = {"coating": 28.0, "tempered": 25.0, "untempered": 24.0}
TOUCH, RELEASE = 0.35, 0.8
UNTEMPERED_SLOWER = 1.6
SETTING_OFF = 0.25  # times swing that much with draught and thickness; an estimate


POURED_C = {"coating": 40.0, "tempered": 29.5, "untempered": 37.0}
LIFTS, BREAKS = 0.1, 0.5  # share of the heat of setting given off [assumed]


@dataclass(frozen=True)
class Setting:
    """Minutes until dry to the touch and until it can be handled."""

    touch_min: float
    release_min: float

    def slower(self, times: float) -> Setting:
        """The same, so many times as long."""
        return Setting(self.touch_min * times, self.release_min * times)


@dataclass(frozen=True)
class Pliable:
    """Minutes from which a line or film can be lifted, and until which it bends rather than breaks."""

    from_min: float
    until_min: float

    def slower(self, times: float) -> Pliable:
        """The same, so many times as long."""
        return Pliable(self.from_min * times, self.until_min * times)


def setting_time(
    thickness_mm: float,
    *,
    pour_c: float,
    surround_c: float,
    place: str = "room",
    white: str = "coating",
    sides: float = 1.0,
    release: float = RELEASE,
) -> Setting:
    """Setting time of a coat.

    Parameters
    ----------
    thickness_mm : float
    pour_c, surround_c : float
        Of the coating and of what is around it, degC.
    place : str
        "room", "fridge" or "freezer".
    white : str
        "coating", "tempered" or "untempered".
    sides : float
        Of them that give off heat: 1 on paper, 1.6 in a mould, 1.5 small bits, 2 hanging free.
    release : float
        Share of the heat of setting that is gone when it can be handled; .5 for small bits.

    Returns
    -------
    Setting

    Raises
    ------
    OutOfBounds
        The surroundings are within 2 degrees of where it sets: it would never get hard.
    """
    cooling_s, latent_s = _times_s(thickness_mm, pour_c, surround_c, place, white, sides)
    return Setting((cooling_s + TOUCH * latent_s) / 60, (cooling_s + release * latent_s) / 60)


def pliable_window(
    thickness_mm: float,
    *,
    surround_c: float,
    place: str = "room",
    white: str = "coating",
    sides: float = 1.0,
    pour_c: float | None = None,
) -> Pliable:
    """When a line, film or strip can be lifted and bent. Parameters and refusals as `setting_time`; `pour_c` None: 40
    degC for coating, 29.5 tempered, 37 untempered."""
    warm = POURED_C[white] if pour_c is None else pour_c
    cooling_s, latent_s = _times_s(thickness_mm, warm, surround_c, place, white, sides)
    return Pliable((cooling_s + LIFTS * latent_s) / 60, (cooling_s + BREAKS * latent_s) / 60)


def _times_s(
    thickness_mm: float, pour_c: float, surround_c: float, place: str, white: str, sides: float
) -> tuple[float, float]:
    """Seconds of cooling to where it sets, and of giving off all heat of setting."""
    d = check("thickness_mm", thickness_mm) / 1000
    check("temperature_c", pour_c, "pour_c"), check("sides", sides)
    sets_c = SETS_AT_C[white]
    gap = sets_c - check("temperature_c", surround_c, "surround_c")
    if gap <= 2:
        raise OutOfBounds("It is too warm there for it to set. Use the fridge.", field="surround_c", high=sets_c - 2)
    u = sides / (1 / TRANSFER_W_M2K[place] + (d / sides) / (3 * CONDUCTIVITY))
    cooling_s = DENSITY_KG_M3 * SPECIFIC_HEAT_LIQUID * d / u * math.log(max(pour_c - surround_c, gap) / gap)
    slower = UNTEMPERED_SLOWER if white == "untempered" else 1.0
    return cooling_s, slower * DENSITY_KG_M3 * LATENT_HEAT * d / (u * gap)
