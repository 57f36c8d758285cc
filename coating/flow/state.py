"""Flow as it stands: label number, then fat, water, warmth, crystals and overheating, in that order."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

from coating.errors import WillNotFlow
from coating.flow.additions.fat import crystal_factor, fat_factors
from coating.flow.additions.overheating import overheated_factor
from coating.flow.additions.temperature import temperature_factors
from coating.flow.additions.water import fat_loss_to_water, water_factor
from coating.flow.casson1959 import Flow
from coating.flow.material import ORDINARY_FAT
from coating.flow.trade_number import flow_from_number
from coating.heat.melting import TEMPER_LOST_C
from coating.limits import check

TEMPER_CRYSTALS = 0.03
COATING_CRYSTALS_PER_K = 0.02  # an assumption, below 29 degC
COATING_ONSET_C = 29.0
_LEAST_FAT = 0.15


@dataclass(frozen=True)
class Conditions:
    """Everything that decides the flow of a bowl.

    Attributes
    ----------
    number : trade number of the label (untempered, 40 degC). fat_fraction : of that coating.
    kind : "chocolate" or "coating". temperature_c : now. tempered : seeded and in temper; above 33 degC no more.
    water_fraction : share of the total. new_fat_fraction : after what was added; None when nothing was.
    overheated_minutes : equivalent minutes at 50 degC. k_per_s : tau0/eta at the label.
    """

    number: float
    fat_fraction: float = ORDINARY_FAT
    kind: str = "chocolate"
    temperature_c: float = 40.0
    tempered: bool = False
    water_fraction: float = 0.0
    new_fat_fraction: float | None = None
    overheated_minutes: float = 0.0
    k_per_s: float = 6.0

    def crystal_fraction(self) -> float:
        """Share of the melted rest that has crystallised."""
        if self.kind == "coating":
            return max(0.0, COATING_ONSET_C - self.temperature_c) * COATING_CRYSTALS_PER_K
        return TEMPER_CRYSTALS if self.tempered and self.temperature_c <= TEMPER_LOST_C else 0.0


def flow_now(conditions: Conditions) -> Flow:
    """The Casson pair of a bowl under its conditions.

    Parameters
    ----------
    conditions : Conditions

    Returns
    -------
    Flow
        Yield stress in Pa, viscosity in Pa s.

    Raises
    ------
    WillNotFlow
        The solids touch, or it is thicker than anything the model knows.
    OutOfBounds
        A value outside its bounds.
    """
    return _flow(conditions)


@lru_cache(maxsize=4096)
def _flow(c: Conditions) -> Flow:
    check("temperature_c", c.temperature_c)
    fat = check("fat_fraction", c.fat_fraction)
    flow = flow_from_number(c.number, k_per_s=c.k_per_s)
    new_fat = fat if c.new_fat_fraction is None else c.new_fat_fraction
    effective = max(_LEAST_FAT, new_fat - fat_loss_to_water(c.water_fraction))
    by_fat = fat_factors(fat, effective)
    by_warmth = temperature_factors(c.temperature_c)
    both = (
        crystal_factor(effective, c.crystal_fraction())
        * water_factor(c.water_fraction)
        * overheated_factor(c.overheated_minutes)
    )
    yield_stress = flow.yield_stress_pa * by_fat[0] * by_warmth[0] * both
    viscosity = flow.viscosity_pa_s * by_fat[1] * by_warmth[1] * both
    if yield_stress > 2000 or viscosity > 1000:
        raise WillNotFlow("It has set or seized, so it will not flow.")
    return Flow(yield_stress, viscosity)
