"""What is left of a finished bowl: a thing in the cupboard."""

from __future__ import annotations

import uuid
from datetime import timedelta

from django.utils import timezone

from coating.care.allergens import remelted
from coating.plan.leftovers import KEEPS_DAYS, LEAST_G, as_base
from coating.plan.standing import spoilt
from studio.bowls.adapters import Desk
from studio.common import clock
from studio.cupboard.actions import shelve_what_is_left
from studio.cupboard.models import Ingredient


def keep_what_is_left(desk: Desk, used_g: float) -> Ingredient | None:
    """What a bowl leaves as a thing in the cupboard; None where it is too little, or spoilt."""
    left_g, now = desk.now.mass_g - used_g, desk.now
    if left_g < LEAST_G or spoilt(now) or not now.base_g:
        return None
    code = f"left-{uuid.uuid4().hex[:12]}"
    core = as_base(
        code, f"{desk.bowl.name}, left over"[:80], now.parts, number=now.label_number, fat_fraction=now.fat_fraction
    )
    rows = {r.code: r for r in desk.stock.rows}
    inside = [rows[p.ingredient.name] for p in now.parts if p.ingredient.name in rows]
    today = timezone.localtime(clock.now()).date()
    return shelve_what_is_left(
        desk.kitchen,
        core,
        left_g=left_g,
        made_on=today,
        keep_until=today + timedelta(days=KEEPS_DAYS),
        allergens=list(remelted({r.code: r.allergens for r in inside}, ())),
        said=all(r.allergens_said for r in inside if r.kind == "base"),
    )
