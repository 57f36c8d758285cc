"""The bag: which hole for a line, how hard to squeeze, how full, and how long it stays warm enough.

A line as wide as wanted comes from `settled_bead` turned round. The pressure drives a Casson fluid through the tip at
the pace of the hand. A hand gives 5 to 40 kPa: common practice, no source.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from coating.flow.casson1959 import Flow, pipe_flow
from coating.flow.material import ORDINARY, Material
from coating.heat.melting import working_floor_c, working_temperature_c
from coating.limits import check
from coating.shape.bead import settled_bead
from coating.units import GRAVITY

BAG_HOLDS_G, BAG_LOSS_G = 150.0, 8.0  # in three quarters of an ordinary bag; what stays in it. Common practice
BAG_FULL = 0.75  # a bag is filled so far, and folded shut; common practice, no source
TIP_MM = 5.0  # of a cut tip that narrows; an assumption
SQUEEZES = (
    (1.0, "it runs by itself"),
    (8.0, "the lightest squeeze"),
    (20.0, "a steady squeeze"),
    (40.0, "a hard squeeze"),
)
TOO_STIFF = "too stiff for a hand"
_HOLD_W_M2K, _C_J_KGK = 9.0, 1700.0
_SLENDER = 1.3  # the skin of a bag against that of a ball


@dataclass(frozen=True)
class Bag:
    """Hole in mm, the pressure in kPa and in words, g to fill in each time, how often, and minutes until it is too
    cool (None where the room keeps it warm)."""

    hole_mm: float
    pressure_kpa: float
    squeeze: str
    fill_g: float
    bagfuls: int
    stays_min: float | None

    @property
    def by_hand(self) -> bool:
        """Whether a hand can press it out."""
        return self.squeeze != TOO_STIFF


def hole_for(line_mm: float, yield_stress_pa: float, *, material: Material = ORDINARY) -> float:
    """The hole in mm whose line settles that wide; see `settled_bead`.

    >>> round(hole_for(2.838, 12), 2)
    2.0
    """
    wide_m = check("bead_mm", line_mm, "line_mm") / 1000
    tau0 = check("standing_pa", yield_stress_pa, "yield_stress_pa")
    spreads = (3 * math.pi / 8) ** 2 * material.density_kg_m3 * GRAVITY / tau0
    return 1000 * min(wide_m, (wide_m**3 / spreads) ** 0.25)


def pressure_kpa(hole_mm: float, flow: Flow, *, speed_mm_s: float, tip_mm: float = TIP_MM) -> float:
    """What pushes a bead as thick as the hole out at that speed, kPa. Raises OutOfBounds."""
    radius_m = check("hole_mm", hole_mm) / 2000
    wanted = math.pi * radius_m**2 * check("hand_speed_mm_s", speed_mm_s) / 1000
    low, high = 0.0, 1e6
    for _ in range(60):
        middle = (low + high) / 2
        enough = pipe_flow(flow, radius_m=radius_m, length_m=tip_mm / 1000, pressure_pa=middle) >= wanted
        low, high = (low, middle) if enough else (middle, high)
    return high / 1000


def squeeze_word(kpa: float) -> str:
    """How hard a pressure (kPa) is to press by hand, in a word."""
    return next((word for most, word in SQUEEZES if kpa <= most), TOO_STIFF)


def stays_min(fill_g: float, *, warm_c: float, floor_c: float, room_c: float) -> float | None:
    """Minutes until so much in a bag has cooled to `floor_c`; None where the room is as warm."""
    if room_c >= floor_c:
        return None
    if warm_c <= floor_c:
        return 0.0
    volume_m3 = fill_g / 1000 / ORDINARY.density_kg_m3
    skin_m2 = _SLENDER * 4.836 * volume_m3 ** (2 / 3)
    tau_min = fill_g / 1000 * _C_J_KGK / (_HOLD_W_M2K * skin_m2) / 60
    return tau_min * math.log((warm_c - room_c) / (floor_c - room_c))


def bag_for(
    line_mm: float,
    flow: Flow,
    *,
    mass_g: float,
    speed_mm_s: float,
    white: str = "coating",
    room_c: float = 21.0,
    warm_c: float | None = None,
) -> Bag:
    """A bag for so much of a line that settles so wide, at a flow.

    Parameters
    ----------
    line_mm : settled. flow : as it stands. mass_g : to be piped. speed_mm_s : of the hand. white, room_c, warm_c : what
    it is, the room, and how warm it goes in (None: as it is worked).

    Raises
    ------
    OutOfBounds : a value outside its bounds.
    """
    hole = hole_for(line_mm, max(flow.yield_stress_pa, 0.01))
    kpa = pressure_kpa(hole, flow, speed_mm_s=speed_mm_s)
    bagfuls = max(1, math.ceil(mass_g / BAG_HOLDS_G - 1e-9))
    fill_g = mass_g / bagfuls
    warm = working_temperature_c(white) if warm_c is None else warm_c
    stays = stays_min(max(fill_g, 5.0), warm_c=warm, floor_c=working_floor_c(white), room_c=room_c)
    return Bag(hole, kpa, squeeze_word(kpa), fill_g, bagfuls, stays)


def line_from(hole_mm: float, flow: Flow) -> float:
    """How wide a line from that hole settles, mm."""
    return settled_bead(check("hole_mm", hole_mm), max(flow.yield_stress_pa, 0.01)).width_mm
