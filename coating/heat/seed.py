"""How much unmelted chocolate brings a melted bowl to working temperature: the balance of heat of every bowl, solved
for the seed.

Where all of it dissolves, r = c_l (T1 - Tf)/(c_s (Tf - Ts) + L) grams of seed for a gram melted, less what the air and
the bowl take. It comes to the "up to one third" of practice (no source).
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from coating.errors import OutOfBounds
from coating.heat.melting_curve import COCOA, LATENT_HEAT, MELTS_AT_C, TEMPERED_WORK_C, taken_j_kg
from coating.limits import check


@dataclass(frozen=True)
class Seed:
    """Seed in g, and its share of seed and melt together."""

    seed_g: float
    share: float


def seed(
    mass_g: float,
    *,
    melt_c: float = 45.0,
    target_c: float = TEMPERED_WORK_C,
    seed_c: float = 21.0,
    loss_fraction: float = 0.0,
) -> Seed:
    """Seed for a melted mass.

    Parameters
    ----------
    mass_g : melted, g. melt_c : of it, degC. target_c : working temperature. seed_c : of the pieces.
    loss_fraction : share of the heat that goes to the air and the bowl.

    Raises
    ------
    OutOfBounds : a value outside its bounds, or a target at which seed melts or would not cool it.

    >>> round(seed(100).share, 3)
    0.33
    """
    mass_g = check("mass_g", mass_g)
    melt_c, seed_c = check("temperature_c", melt_c, "melt_c"), check("temperature_c", seed_c, "seed_c")
    target_c = check("temperature_c", target_c, "target_c")
    kept = 1 - check("loss_fraction", loss_fraction)
    if not seed_c < target_c <= MELTS_AT_C:
        raise OutOfBounds(
            "Seed works between its own {seed_c} and {melts_c}, where it melts.",
            field="target_c",
            low=seed_c,
            high=MELTS_AT_C,
            seed_c=seed_c,
            melts_c=MELTS_AT_C,
        )
    given = kept * max(0.0, taken_j_kg(target_c, melt_c, solid=False))
    warming, solid = taken_j_kg(seed_c, target_c, solid=True), COCOA.solid_fraction(target_c)
    ratio = (given + solid * LATENT_HEAT) / (warming + (1 - solid) * LATENT_HEAT) if solid < 1 else math.inf
    if ratio / (1 + ratio) < solid or solid >= 1:  # none of it melts
        ratio = given / warming
    return Seed(ratio * mass_g, ratio / (1 + ratio))
