"""What can be seen coming, in the words of Rescue."""

from __future__ import annotations

from coating.care.diagnosis.evidence import Evidence
from coating.care.diagnosis.log import HARMS_C, Log
from studio.bowls.adapters import Desk
from studio.rescue.spoken.causes import avoid_says
from studio.rescue.spoken.reasons import Teller

HARMED_MIN = 1.0  # of its own measure


def was_too_hot(desk: Desk) -> str:
    """That its log already says it was too hot; "" where it was not, or where that is only worked out from bursts."""
    if desk.now.empty or (desk.now.overheated_minutes < HARMED_MIN and desk.now.temperature_c < HARMS_C):
        return ""
    log = Log.of(desk.events, desk.context, at_s=desk.at_s)
    if not log.was_read or log.hot_spell is None:
        return ""
    spell = log.hot_spell
    figures = {"hot_min": spell.lasted_s / 60, "hot_from_s": spell.from_s}
    if log.is_hot:
        figures["hot_now_c"] = desk.now.temperature_c
    says = Teller(desk.bowl.started_at).because("overheated", Evidence(HARMED_MIN, figures))
    return f"{says} It will stay a little thicker: no more heat. {avoid_says('overheated')}"
