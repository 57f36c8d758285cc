"""How warm is it, for how long, and when is it set? Melting, cooling of a bowl, setting of a coat."""

from coating.heat.cooling import BowlCooling
from coating.heat.melting import melting_energy_j, warmed_temperature_c, working_temperature_c
from coating.heat.setting import Setting, setting_time

__all__ = [
    "BowlCooling",
    "Setting",
    "melting_energy_j",
    "setting_time",
    "warmed_temperature_c",
    "working_temperature_c",
]
