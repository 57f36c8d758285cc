"""How far a drip runs down a cake: a Casson film that cools against the wall until it stands.

One dimension along the wall. The film thickens at the top while it is squeezed on, runs as Casson drainage lets it
(Q = integral of z times the shear rate at rho g z), and stands where its yield stress holds it, which grows as it cools
and, below 29 degC, as it crystallises. First-order upwind on 44 cells: within 5 % of a fine grid, and far inside the
range. Heat goes into the cake (120 W/m2K) and the air (10), assumptions that practice lengths bear out.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from coating.errors import OutOfBounds, UnknownName
from coating.flow.additions.fat import PACKING, density_kg_m3, solid_volume_fraction
from coating.flow.additions.temperature import ACTIVATION_VISCOSITY_J, ACTIVATION_YIELD_J
from coating.flow.material import ORDINARY_FAT
from coating.flow.state import COATING_CRYSTALS_PER_K, COATING_ONSET_C
from coating.flow.trade_number import flow_from_number
from coating.limits import BOUNDS, check
from coating.units import GAS_CONSTANT, GRAVITY, kelvin

WALLS_C = {"chilled": 5.0, "room": 21.0}
AIR_C = 21.0
CAKE_W_M2K, AIR_W_M2K = 120.0, 10.0  # assumptions
SQUEEZE_S = 1.5
SPECIFIC_HEAT = 1700.0
_CELLS, _COURANT, _LONGEST_M = 44, 0.95, 0.25
_STANDS_M_S, _LONGEST_S, _STOPPED = 2e-4, 120.0, 0.995
_SHOWS_M = 2e-5
# Elasticities of the length, read off the model; what hands and walls add is an assumption.
_TRIES, _NEAR = 12, 0.01
# Where the search for a squeeze begins: ln length fitted to the model itself, within 5 % (one sigma) of it.
_GUESS, _GUESS_NUMBER, _GUESS_VOLUME, _GUESS_WIDTH = 7.83, -0.561, 0.854, -0.862
_GUESS_PER_K, _GUESS_C, _GUESS_ROOM = 0.0182, 36.0, 0.151
_BY_NUMBER, _BY_VOLUME, _HAND_VOLUME, _OTHER = 0.51, 0.83, 0.15, 0.1


@dataclass(frozen=True)
class Drip:
    """A drip that has come to rest: length and its likely range in mm, and the second at which it stood."""

    length_mm: float
    low_mm: float
    high_mm: float
    stops_after_s: float


@dataclass(frozen=True)
class Squeeze:
    """What is squeezed for one drip, ml, and the drip that gives."""

    volume_ml: float
    drip: Drip


def drip_length(
    number: float,
    *,
    volume_ml: float,
    temperature_c: float,
    wall: str = "chilled",
    width_mm: float = 9.0,
    fat_fraction: float = ORDINARY_FAT,
    number_spread: float = 0.2,
) -> Drip:
    """How far a drip of a coating runs.

    Parameters
    ----------
    number : trade number as it stands at `temperature_c`. volume_ml : squeezed for one drip, ml. temperature_c : of the
    coating. wall : "chilled" (5 degC) or "room" (21 degC). width_mm : of the drip. fat_fraction : of the coating.
    number_spread : relative range of the number.

    Raises
    ------
    UnknownName : no such wall. OutOfBounds : a value outside its bounds.

    >>> round(drip_length(20, volume_ml=0.5, temperature_c=38).length_mm)
    41
    """
    if wall not in WALLS_C:
        raise UnknownName(
            "Choose whether the cake is chilled or at room temperature.", field="wall", choices=list(WALLS_C)
        )
    volume_m3 = check("drip_ml", volume_ml, "volume_ml") * 1e-6
    width_m = check("drip_width_mm", width_mm, "width_mm") / 1000
    start_c = check("drip_c", temperature_c, "temperature_c")
    film = _Film(check("number", number), start_c, WALLS_C[wall], check("fat_fraction", fat_fraction))
    length_m, stood_s = film.run(volume_m3 / width_m)
    off = math.hypot(_BY_NUMBER * number_spread, _BY_VOLUME * _HAND_VOLUME, _OTHER)
    length_mm = length_m * 1000
    return Drip(length_mm, length_mm * (1 - off), length_mm * (1 + off), stood_s)


@lru_cache(maxsize=4096)
def squeeze_for(
    number: float,
    *,
    length_mm: float,
    temperature_c: float,
    wall: str = "chilled",
    width_mm: float = 9.0,
    fat_fraction: float = ORDINARY_FAT,
    number_spread: float = 0.2,
) -> Squeeze:
    """What to squeeze for a drip that runs so far: `drip_length` the other way round, within 1 %.

    Parameters
    ----------
    length_mm : how far it should run. The others as for `drip_length`.

    Raises
    ------
    OutOfBounds : no squeeze of an ordinary size runs so far; `least_mm` and `most_mm` say what was tried.
    """
    aim_mm, bound = check("drip_mm", length_mm, "length_mm"), BOUNDS["drip_ml"]
    check("number", number), check("drip_width_mm", width_mm, "width_mm")
    rough = _GUESS + _GUESS_NUMBER * math.log(number) + _GUESS_WIDTH * math.log(width_mm)
    rough += _GUESS_PER_K * (temperature_c - _GUESS_C) + (_GUESS_ROOM if wall == "room" else 0.0)
    volume, slope, tried = math.exp((math.log(aim_mm) - rough) / _GUESS_VOLUME), _GUESS_VOLUME, list[Squeeze]()
    for _ in range(_TRIES):
        volume = min(bound.high, max(bound.low, volume))
        if any(t.volume_ml == volume for t in tried):
            break
        drip = drip_length(
            number,
            volume_ml=volume,
            temperature_c=temperature_c,
            wall=wall,
            width_mm=width_mm,
            fat_fraction=fat_fraction,
            number_spread=number_spread,
        )
        if abs(drip.length_mm / aim_mm - 1) < _NEAR:
            return Squeeze(volume, drip)
        tried.append(Squeeze(volume, drip))
        if len(tried) > 1:
            slope = _slope(tried[-2], tried[-1], slope)
        volume *= (aim_mm / drip.length_mm) ** (1 / slope)
    lengths = [t.drip.length_mm for t in tried]
    raise OutOfBounds(
        "No single squeeze of this coating runs that far. Make it thinner or thicker.",
        field="length_mm",
        least_mm=round(min(lengths)),
        most_mm=round(max(lengths)),
    )


def _slope(one: Squeeze, other: Squeeze, otherwise: float) -> float:
    """How the length grows with the volume between two squeezes, as an exponent."""
    if one.drip.length_mm == other.drip.length_mm:
        return otherwise
    grown = math.log(other.drip.length_mm / one.drip.length_mm) / math.log(other.volume_ml / one.volume_ml)
    return max(0.3, min(2.0, grown))


class _Film:
    """A film of one coating on one wall."""

    def __init__(self, number: float, start_c: float, wall_c: float, fat_fraction: float) -> None:
        flow, density = flow_from_number(number), density_kg_m3(fat_fraction)
        self.yield_stress, self.viscosity = flow.yield_stress_pa, flow.viscosity_pa_s
        self.pull, self.start_c = density * GRAVITY, start_c
        both = CAKE_W_M2K + AIR_W_M2K
        self.ends_c = (CAKE_W_M2K * wall_c + AIR_W_M2K * AIR_C) / both
        self.cooling = both / (density * SPECIFIC_HEAT)
        phi = solid_volume_fraction(fat_fraction)
        self.crowd_per_k = (1 - phi) / (PACKING - phi) * COATING_CRYSTALS_PER_K
        self.crowd_at_start = self.crowding(np.array([start_c]))[0]

    def crowding(self, temperature_c: NDArray[np.float64]) -> NDArray[np.float64]:
        """Krieger-Dougherty for the crystals of a coating below 29 degC, relative to none."""
        share = self.crowd_per_k * np.maximum(COATING_ONSET_C - temperature_c, 0.0)
        room = 1 - np.minimum(share, 0.97)
        return 1 / (room * room)

    def run(self, area_m2: float) -> tuple[float, float]:
        """Length in m and the second at which it stood, for a side area in m2 (volume over width)."""
        reach_m = min(area_m2 * self.pull / self.yield_stress, _LONGEST_M)
        dx = reach_m / _CELLS
        h, warm = np.zeros(_CELLS), np.full(_CELLS, self.start_c)
        flux, above = np.zeros(_CELLS + 1), np.full(_CELLS, self.start_c)
        inflow, at_s, fronts = area_m2 / SQUEEZE_S, 0.0, []
        by_yield, by_flow = ACTIVATION_YIELD_J / GAS_CONSTANT, ACTIVATION_VISCOSITY_J / GAS_CONSTANT
        fluid = 1 / self.crowd_at_start
        while at_s < _LONGEST_S:
            inverse = 1 / (warm + kelvin(0.0)) - 1 / kelvin(self.start_c)
            crowd = self.crowding(warm) / self.crowd_at_start if warm.min() < COATING_ONSET_C else fluid
            tau0 = self.yield_stress * np.exp(by_yield * inverse) * crowd
            eta = self.viscosity * np.exp(by_flow * inverse) * crowd
            wall = np.maximum(self.pull * h, tau0)
            root0, root = np.sqrt(tau0), np.sqrt(wall)
            squared = wall * wall
            moment = squared * (wall / 3 + tau0 / 2 - 0.8 * root0 * root) - tau0 * tau0 * tau0 / 30
            q = moment / (eta * self.pull**2)
            fastest = float((h * (root - root0) ** 2 / eta).max())
            pouring = at_s < SQUEEZE_S - 1e-9
            dt = min(_COURANT * dx / fastest if fastest > 0 else 0.05, 0.5)
            if pouring:
                dt = min(dt, 0.05, SQUEEZE_S - at_s)
            flux[0], flux[1:], above[1:] = (inflow if pouring else 0.0), q, warm[:-1]
            thicker = h + dt / dx * (flux[:-1] - q)
            heat = h * warm + dt / dx * (flux[:-1] * above - q * warm)
            warm = np.where(thicker > 1e-7, heat / np.maximum(thicker, 1e-7), self.start_c)
            h = thicker
            warm = self.ends_c + (warm - self.ends_c) * np.exp(-self.cooling * dt / np.maximum(h, 1e-5))
            at_s += dt
            fronts.append((at_s, _front(h) * dx))
            if not pouring and fastest < _STANDS_M_S:
                break
        length_m = fronts[-1][1]
        return length_m, next(t for t, x in fronts if x >= _STOPPED * length_m)


def _front(h: NDArray[np.float64]) -> float:
    """Where the film ends, in cells: the last one as full as the one above it lets tell."""
    last = int(np.count_nonzero(h > _SHOWS_M)) - 1  # wet from the rim on without a gap
    if last < 0:
        return 0.0
    return last + min(1.0, float(h[last] / max(h[last - 1 if last else 0], 1e-9)))
