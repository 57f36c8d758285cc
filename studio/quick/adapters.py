"""The quick card's answer from its form."""

from __future__ import annotations

import math
from functools import lru_cache
from typing import Any

from coating.colour.ciede2000 import difference_word
from coating.datasets.ingredients import DEMO_INGREDIENTS
from coating.figures.biscuit import dip_path
from coating.flow.ribbon import flow_word
from coating.plan.quick_card import QuickCard, quick_card
from coating.shape.pieces import RoundBiscuit
from studio.cupboard.actions import STARTER
from studio.quick.forms import COLOURS, DEPTH_SHARES, SIZES

_NOT_FOR_A_CARD = {"white_dispersion", "dark"}
_INGREDIENTS = tuple(DEMO_INGREDIENTS[c] for c in STARTER if c not in _NOT_FOR_A_CARD)
_THINNER = {"coating": "palm_flakes", "untempered": "cocoa_butter"}


def spares_for(count: int) -> int:
    """One in twelve, at least one. Common practice, no source."""
    return math.ceil(count / 12)


@lru_cache(maxsize=512)
def _card(count: int, size: str, depth: str, colour: str, white: str) -> QuickCard:
    diameter, thickness, _ = SIZES[size]
    return quick_card(
        piece=RoundBiscuit(diameter, thickness), count=count, spares=spares_for(count),
        depth_share=DEPTH_SHARES[depth], target_lab=COLOURS[colour][1], white=white, ingredients=_INGREDIENTS,
        thinner=DEMO_INGREDIENTS[_THINNER[white]],
    )  # fmt: skip


def card_context(data: dict[str, Any]) -> dict[str, Any]:
    """Everything the card's templates show, for cleaned data of QuickForm."""
    card = _card(**{k: data[k] for k in ("count", "size", "depth", "colour", "white")})
    name, lab = COLOURS[data["colour"]]
    parts = card.recipe.parts
    return {
        "card": card, "choice": data, "colour_name": name, "target_lab": lab, "spares": spares_for(data["count"]),
        "bases": [p for p in parts if p.ingredient.is_base], "colours": [p for p in parts if p.ingredient.is_colourant],
        "word": flow_word(card.flow) if card.flow else "stiff", "colour_word": difference_word(card.recipe.de00),
        "thinner_name": DEMO_INGREDIENTS[_THINNER[data["white"]]].title,
        "bursts": math.ceil(card.melt_s / card.burst_s), "dip": dip_path(DEPTH_SHARES[data["depth"]]),
        "result": {"melt_g": card.quantity.melt_g, "goes_on_g": card.quantity.goes_on_g, "de00": card.recipe.de00},
    }  # fmt: skip
