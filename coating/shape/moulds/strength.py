"""Does a shell stand, and does it break when it should?

A flat wall: a thin round plate on its edge, pressed on a small circle in its middle, M = P/4pi [(1 + nu) ln(a/c) + 1 -
(1 - nu) c^2/4a^2] and 6 M/t^2 (Timoshenko & Woinowsky-Krieger 1959, eq. 83, from memory). A dome: a thin part of a
ball pressed on a small circle, P/t^2 [B sqrt(1 - nu^2) + C (1 + nu)] with B and C by mu = r (12 (1 - nu^2)/R^2
t^2)^(1/4) (Roark's formulas, partial spherical shells, from memory). Strength of set coating in bending 1 to 3 MPa,
1.5 taken; loads of fingers and hammer are assumptions, as is the fingertip of 5 mm radius.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from coating.limits import check
from coating.shape.moulds.cavity import Cavity, Cone, Dome

STRENGTH_PA, POISSON, TIP_MM = 1.5e6, 0.3, 5.0
FINGER_N, HAMMER_N = 2.0, 30.0  # to be held; a tap with a small hammer
SAFETY, THINNEST_MM = 1.5, 1.0  # common practice, no source
STANDS, FRAIL, TOO_STRONG = "stands", "frail", "too strong"
_MU = (0.0, 0.1, 0.2, 0.4, 0.6, 0.8, 1.0, 1.2, 1.4, 2.8)
_B = (0.217, 0.215, 0.212, 0.204, 0.193, 0.181, 0.168, 0.155, 0.143, 0.072)
_C = (1.8, 1.394, 1.064, 0.739, 0.554, 0.429, 0.337, 0.266, 0.211, 0.05)  # the ends beyond the table are estimates


def uniform_stress_pa(load_pa: float, span_mm: float, thick_mm: float) -> float:
    """Greatest stress of a plate on its edge under so much on each m2, Pa: 3 (3 + nu)/8 q (a/t)^2.

    >>> round(uniform_stress_pa(100, 100, 2))
    77344
    """
    a, t = check("core_mm", span_mm, "span_mm") / 2, check("film_mm", thick_mm, "thick_mm")
    return 3 * (3 + POISSON) / 8 * load_pa * (a / t) ** 2


def plate_stress_pa(load_n: float, span_mm: float, thick_mm: float, *, tip_mm: float = TIP_MM) -> float:
    """Greatest stress of a plate on its edge, pressed in its middle, Pa."""
    a, t = check("core_mm", span_mm, "span_mm") / 2, check("film_mm", thick_mm, "thick_mm")
    c = min(tip_mm, a)
    moment = load_n / (4 * math.pi) * ((1 + POISSON) * math.log(a / c) + 1 - (1 - POISSON) * c**2 / (4 * a**2))
    return 6 * moment / (t / 1000) ** 2


def dome_stress_pa(load_n: float, radius_mm: float, thick_mm: float, *, tip_mm: float = TIP_MM) -> float:
    """Greatest stress of a part of a ball of that radius, pressed on its top, Pa."""
    r, t = check("core_mm", radius_mm, "radius_mm"), check("film_mm", thick_mm, "thick_mm")
    mu = tip_mm * (12 * (1 - POISSON**2) / (r * t) ** 2) ** 0.25
    b, c = (float(np.interp(mu, _MU, table)) for table in (_B, _C))
    return load_n / (t / 1000) ** 2 * (b * math.sqrt(1 - POISSON**2) + c * (1 + POISSON))


def breaks_at_n(cavity: Cavity, wall_mm: float) -> float:
    """The press that breaks a shell of that cavity, N: on its dome, or on the flat face that looks up."""
    if isinstance(cavity, Dome):
        a, h = cavity.across_mm / 2, cavity.depth_mm
        return STRENGTH_PA / dome_stress_pa(1.0, min(1000.0, (a * a + h * h) / (2 * h)), wall_mm)
    span = cavity.base_mm if isinstance(cavity, Cone) else cavity.span_mm
    return STRENGTH_PA / plate_stress_pa(1.0, span, wall_mm)


@dataclass(frozen=True)
class Strength:
    """The press that breaks it, N, and the word: stands, frail, or too strong to be broken at the table."""

    breaks_at_n: float
    word: str


def strength(cavity: Cavity, wall_mm: float, *, to_break: bool = False) -> Strength:
    """Whether a shell can be held, and, where it is meant to be broken, whether a small hammer does it."""
    most = breaks_at_n(cavity, wall_mm)
    if most < SAFETY * FINGER_N:
        return Strength(most, FRAIL)
    return Strength(most, TOO_STRONG if to_break and most > HAMMER_N else STANDS)


def least_wall_mm(cavity: Cavity) -> float:
    """The thinnest wall that can be held, mm; none below what can be poured evenly."""
    low, high = THINNEST_MM, 10.0
    for _ in range(40):
        middle = (low + high) / 2
        low, high = (low, middle) if breaks_at_n(cavity, middle) >= SAFETY * FINGER_N else (middle, high)
    return high
