"""What the cupboard asks of the bowls."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from coating.plan.proposal import Cupboard
from studio.common.slot import Slot
from studio.cupboard.models import Ingredient
from studio.cupboard.stock import Stock

left_g: Slot[[Any, Stock], dict[str, float]] = Slot("what is left of what the maker said there is, g by code")
with_rests: Slot[[Cupboard, str, Any, Stock], Cupboard] = Slot("a cupboard with what is left of bowls before")
holding: Slot[[Ingredient], list[Any]] = Slot("the bowls in use that it is in, the oldest first")
was_used: Slot[[Ingredient], bool] = Slot("whether a bowl was ever made with it")
followed: Slot[[Ingredient, Sequence[Any], bool], list[Any]] = Slot(
    "bowls in use follow values that were measured, or a reading: which changed"
)
