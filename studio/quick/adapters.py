"""The quick card's answer from its form, for a kitchen or for somebody without one."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

from coating.colour.ciede2000 import difference_word
from coating.colour.mixing import Ingredient as CoreIngredient
from coating.datasets.ingredients import DEMO_INGREDIENTS
from coating.figures.biscuit import dip_path
from coating.flow.ribbon import flow_word
from coating.heat.schools import ORDINARY_W
from coating.heat.setting import Setting
from coating.plan.proposal import plain_base
from coating.plan.quick_card import QuickCard, quick_card
from coating.quantities import Measures, measurable_g
from coating.shape.pieces import RoundBiscuit
from studio.accounts.models import Kitchen
from studio.bowls.adapters import Stock
from studio.cupboard.actions import NOT_STOCKED, STARTER
from studio.quick.forms import COLOURS, DEPTH_SHARES, SIZES, THINNERS

_NOT_FOR_A_CARD = {*NOT_STOCKED, "dark"}
_INGREDIENTS = tuple(DEMO_INGREDIENTS[c] for c in STARTER if c not in _NOT_FOR_A_CARD)


@dataclass(frozen=True)
class Surroundings:
    """What a card is worked out for: what there is, and how it is done in this kitchen."""

    ingredients: tuple[CoreIngredient, ...]
    thinner: CoreIngredient
    room_c: float = 21.0
    school: str = "half_power"
    power_w: float = ORDINARY_W
    measures: Measures = Measures()


def spares_for(count: int) -> int:
    """One in twelve, at least one. Common practice, no source."""
    return math.ceil(count / 12)


@lru_cache(maxsize=512)
def _card(count: int, size: str, depth: str, colour: str, white: str, around: Surroundings) -> QuickCard:
    diameter, thickness, _ = SIZES[size]
    return quick_card(
        piece=RoundBiscuit(diameter, thickness), count=count, spares=spares_for(count),
        depth_share=DEPTH_SHARES[depth], target_lab=COLOURS[colour][1], white=white, ingredients=around.ingredients,
        thinner=around.thinner, room_c=around.room_c, school=around.school, power_w=around.power_w,
        melt_up=lambda mass_g: measurable_g(mass_g, around.measures, family="palm" if white == "coating" else "cocoa"),
    )  # fmt: skip


def _around(white: str, kitchen: Kitchen | None) -> tuple[Surroundings, bool]:
    """The surroundings, and whether the cupboard of the kitchen lacks such a white, so that an ordinary one is used."""
    ordinary = Surroundings(_INGREDIENTS, DEMO_INGREDIENTS[THINNERS[white]])
    if not kitchen:
        return ordinary, False
    cupboard = Stock.of(kitchen).cupboard(white, kitchen)
    lacking = not plain_base(cupboard, white)
    there = _INGREDIENTS if lacking else (*cupboard.bases, *cupboard.colourants)
    around = Surroundings(
        tuple(i for i in there if i.name not in _NOT_FOR_A_CARD), cupboard.thinner or ordinary.thinner,
        kitchen.room_c, kitchen.melting_school, kitchen.oven_w, kitchen.measures,
    )  # fmt: skip
    return around, lacking


def card_context(data: dict[str, Any], kitchen: Kitchen | None = None) -> dict[str, Any]:
    """Everything the card's templates show, for cleaned data of QuickForm."""
    around, lacking = _around(data["white"], kitchen)
    card = _card(**{k: data[k] for k in ("count", "size", "depth", "colour", "white")}, around=around)
    name, lab = COLOURS[data["colour"]]
    parts = card.recipe.parts
    return {
        "card": card, "choice": data, "colour_name": name, "target_lab": lab, "spares": spares_for(data["count"]),
        "bases": [p for p in parts if p.ingredient.is_base], "colours": [p for p in parts if p.ingredient.is_colourant],
        "word": flow_word(card.flow) if card.flow else "stiff", "colour_word": difference_word(card.recipe.de00),
        "thinner_name": around.thinner.title, "lacking": lacking, "way": card.melting, "waits": _waits(card, kitchen),
        "dip": dip_path(DEPTH_SHARES[data["depth"]]),
        "result": {"melt_g": card.quantity.melt_g, "goes_on_g": card.quantity.goes_on_g, "de00": card.recipe.de00},
    }  # fmt: skip


def _waits(card: QuickCard, kitchen: Kitchen | None) -> list[tuple[str, Setting]]:
    """Where a coat can set, with its times: the place this kitchen prefers first; empty when nowhere."""
    places = kitchen.places if kitchen else ["room", "fridge"]
    return [(p, card.settings[p]) for p in places if p in card.settings]
