"""What would go wrong with what is about to be done to a bowl."""

from __future__ import annotations

from coating.care.diagnosis.history_of_bowls import LOST_C, melts_at_c
from coating.colour.mixing import FAT, Part
from coating.simulate.bowl import BowlState
from studio.bowls.adapters import Desk
from studio.common.coming import seen_coming

MELTED_OUT_C = 40.0  # as warm as that it is meant to lose its temper
COLD_CORES = ("dip_fruit",)


def coming(desk: Desk, after: BowlState, parts: list[Part], to_c: float | None) -> list[str]:
    """Sentences, none where nothing is to be feared: of what goes in, and of how warm it is to be."""
    causes = []
    fats = [p.ingredient.name for p in parts if p.ingredient.kind == FAT and p.ingredient.name != "liquid_oil"]
    if fats and after.temperature_c < max(map(melts_at_c, fats)):
        causes.append("fat_unmelted")
    in_temper = desk.bowl.white == "tempered" and not desk.now.empty and desk.now.temperature_c <= LOST_C
    if in_temper and not desk.now.is_set and to_c is not None and LOST_C < to_c < MELTED_OUT_C:
        causes.append("lost_temper")
    if desk.bowl.technique in COLD_CORES and desk.can_be_used:
        causes.append("cold_core")
    return [seen_coming(cause) for cause in causes]
