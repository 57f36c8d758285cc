"""What is left of a finished bowl: a thing in the cupboard."""

from __future__ import annotations

import uuid
from datetime import timedelta

from django.db import transaction
from django.utils import timezone

from coating.care.allergens import remelted
from coating.plan.leftovers import KEEPS_DAYS, LEAST_G, as_base
from coating.plan.standing import spoilt
from studio.bowls.actions import finish
from studio.bowls.adapters import Desk
from studio.bowls.models import Bowl
from studio.common import clock
from studio.common.types import Json
from studio.cupboard.actions import shelve_what_is_left
from studio.cupboard.models import Ingredient

LEFT = "left-"  # how the codes of rests begin


def is_a_rest(code: str) -> bool:
    """Whether an ingredient is what was left of a bowl, by its code."""
    return code.startswith(LEFT)


@transaction.atomic
def finish_and_keep(desk: Desk, used_g: float, more: Json, *, expected_seq: int, key: uuid.UUID) -> Ingredient | None:
    """The bowl is done; what is left of it goes into the cupboard, once, and its log names it. Raises BowlChanged."""
    done = Bowl.objects.select_for_update().get(pk=desk.bowl.pk).finished_at is not None
    left = None if done else keep_what_is_left(desk, used_g)
    named = {**more, "rest": left.code} if left else more
    finish(desk.bowl, used_g=used_g, more=named, expected_seq=expected_seq, key=key)
    return left


def keep_what_is_left(desk: Desk, used_g: float) -> Ingredient | None:
    """What a bowl leaves as a thing in the cupboard; None where it is too little, or spoilt."""
    left_g, now = desk.now.mass_g - used_g, desk.now
    if left_g < LEAST_G or spoilt(now) or not now.base_g:
        return None
    code = f"{LEFT}{uuid.uuid4().hex[:12]}"
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
