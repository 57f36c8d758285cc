"""The dipped card: dipped, held upright, and weighed after a while.

Casson drainage of an upright film: at a depth z below the top edge and a time t the film is
sqrt h = [sqrt hy + sqrt(hy + 4 sqrt(eta z/(rho g t)))]/2 with hy = tau0/(rho g). It is the characteristic dQ/dh = z/t
of the draining film, exact in its lubrication limit; Jeffreys (1930) at no yield stress. What the card carries is its
mean over both faces.
"""

from __future__ import annotations

import math

from coating.flow.casson1959 import Flow
from coating.flow.material import ORDINARY
from coating.flow.trade_number import flow_from_number
from coating.limits import check
from coating.units import GRAVITY

DENSITY_KG_M3 = ORDINARY.density_kg_m3
_POINTS = 17


def film_mm(flow: Flow, *, depth_mm: float, wait_s: float, density_kg_m3: float = DENSITY_KG_M3) -> float:
    """Thickness in mm of an upright film at a depth below its upper edge, after it drained for `wait_s`.

    >>> round(film_mm(Flow(12, 2), depth_mm=50, wait_s=30), 3)
    1.866
    """
    pull = density_kg_m3 * GRAVITY
    held = flow.yield_stress_pa / pull
    moving = 4 * math.sqrt(flow.viscosity_pa_s * depth_mm / 1000 / (pull * wait_s))
    return ((math.sqrt(held) + math.sqrt(held + moving)) / 2) ** 2 * 1000


def card_mass_g(flow: Flow, *, width_mm: float, dipped_mm: float, wait_s: float) -> float:
    """What stays on both faces of a card that is held upright. Simpson over the depth in its root.

    Parameters
    ----------
    flow : Flow
    width_mm, dipped_mm : float
        How wide the card is and how deep it went in, mm.
    wait_s : float
        How long it is held, s.

    Returns
    -------
    float
        g.

    Raises
    ------
    OutOfBounds
        A value outside its bounds.
    """
    check("card_mm", width_mm, "width_mm"), check("card_mm", dipped_mm, "dipped_mm"), check("duration_s", wait_s)
    total = 0.0
    for i in range(_POINTS):
        share = i / (_POINTS - 1)
        weight = 1 if i in (0, _POINTS - 1) else 4 if i % 2 else 2
        total += weight * 2 * share * film_mm(flow, depth_mm=dipped_mm * share**2, wait_s=wait_s)
    mean_mm = total / 3 / (_POINTS - 1)
    return 2 * width_mm * dipped_mm * mean_mm * DENSITY_KG_M3 * 1e-6


def number_from_card(mass_g: float, *, width_mm: float, dipped_mm: float, wait_s: float, k_per_s: float = 6.0) -> float:
    """Trade number of a coating of which so much stayed on the card.

    Parameters
    ----------
    mass_g : float
        What stayed on, g.
    width_mm, dipped_mm : float
        How wide the card is and how deep it went in, mm.
    wait_s : float
        How long it was held, s.
    k_per_s : float
        Yield stress over viscosity of the coating, 1/s.

    Returns
    -------
    float
        1 or 400 when it lies beyond.

    Raises
    ------
    OutOfBounds
        A value outside its bounds.
    """
    check("mass_g", mass_g)
    low, high = 1.0, 400.0
    for _ in range(48):
        middle = (low + high) / 2
        flow = flow_from_number(middle, k_per_s=k_per_s)
        heavier = card_mass_g(flow, width_mm=width_mm, dipped_mm=dipped_mm, wait_s=wait_s) > mass_g
        low, high = (low, middle) if heavier else (middle, high)
    return (low + high) / 2
