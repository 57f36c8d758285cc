"""The quick card's answer from its form, for a kitchen or for somebody without one."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

from coating.colour.ciede2000 import difference_word
from coating.colour.mixing import Ingredient as CoreIngredient
from coating.colour.mixing import Part, mix
from coating.datasets.ingredients import DEMO_INGREDIENTS
from coating.flow.ribbon import flow_word
from coating.heat.melting import white_as_bought
from coating.heat.schools import ORDINARY_W
from coating.heat.setting import Setting
from coating.piece.stack import spares_for
from coating.plan.proposal import plain_base
from coating.plan.quick_card import QuickCard, quick_card
from coating.quantities import Measures, measurable_g
from studio.accounts.models import Kitchen
from studio.bowls.adapters import Stock
from studio.cupboard.actions import ALLERGENS, NOT_STOCKED, STARTER
from studio.pieces.pictures import strokes_of
from studio.pieces.says import listed
from studio.quick.forms import COLOURS, THINNERS, WHATS, Lab

_OTHER_BAGS = {"dark", "milk", "yellow_coating", "green_coating", "red_coating", "black_coating"}
_NOT_FOR_A_CARD = {*NOT_STOCKED, *_OTHER_BAGS}
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


def bags_for(kitchen: Kitchen | None) -> dict[str, tuple[CoreIngredient, Lab]]:
    """Bags that are taken as they were bought, by code, with their colour: those of the kitchen, then others there
    are."""
    own: list[CoreIngredient] = []
    if kitchen:
        stock = Stock.of(kitchen)
        own = [stock.cores[r.pk] for r in stock.rows if r.kind == "base" and not r.put_away]
    found = {c.name: c for c in own if c.sort != "white"}
    found |= {c.name: c for c in DEMO_INGREDIENTS.values() if c.name in _OTHER_BAGS and c.name not in found}
    return {name: (c, mix([Part(c, 1.0)]).lab()) for name, c in found.items()}


@lru_cache(maxsize=512)
def _card(
    what: str, count: int, size: str, depth: str, target_lab: Lab | None, base: CoreIngredient | None, white: str,
    around: Surroundings,
) -> QuickCard:  # fmt: skip
    made, layer = WHATS[what], WHATS[what].layer(depth)
    family, piece_g = (base.family, base.piece_g) if base else ("palm" if white == "coating" else "cocoa", 0.0)
    return quick_card(
        core=made.kind.core(*made.size_mm(size)), layer=layer, count=count,
        spares=spares_for(count, made.kind.breaks, [layer]), target_lab=target_lab, white=white,
        ingredients=around.ingredients, thinner=around.thinner, base=base, ready=tuple(DEMO_INGREDIENTS.values()),
        room_c=around.room_c, school=around.school, power_w=around.power_w,
        melt_up=lambda mass_g: measurable_g(mass_g, around.measures, family=family, piece_g=piece_g),
    )  # fmt: skip


def _around(white: str, kitchen: Kitchen | None) -> tuple[Surroundings, bool]:
    """The surroundings, and whether the cupboard of the kitchen lacks such a white, so that an ordinary one is used."""
    ordinary = Surroundings(_INGREDIENTS, DEMO_INGREDIENTS[THINNERS[white]])
    if not kitchen:
        return ordinary, False
    cupboard = Stock.of(kitchen).cupboard(white, kitchen)
    whites = [b for b in plain_base(cupboard, white) if b.sort == "white"]
    there = (*whites, *cupboard.colourants) if whites else _INGREDIENTS
    around = Surroundings(
        there, cupboard.thinner or ordinary.thinner, kitchen.room_c, kitchen.melting_school, kitchen.oven_w,
        kitchen.measures,
    )  # fmt: skip
    return around, not whites


def card_context(data: dict[str, Any], kitchen: Kitchen | None = None) -> dict[str, Any]:
    """Everything the card's templates show, for cleaned data of QuickForm."""
    bag, _ = bags_for(kitchen).get(data["colour"], (None, None))
    white = white_as_bought(bag.family, data["white"]) if bag else data["white"]
    around, lacking = _around(white, kitchen)
    name, lab = COLOURS.get(data["colour"], (bag.title if bag else "Plain", None))
    what, taps = WHATS[data["what"]], {k: data[k] for k in ("what", "count", "size", "depth")}
    card = _card(**taps, target_lab=lab, base=bag, white=white, around=around)
    parts, core = card.recipe.parts, what.kind.core(*what.size_mm(data["size"]))
    return {
        "card": card, "choice": data, "colour_name": name, "target_lab": lab, "what": what, "as_bought": bag,
        "spares": spares_for(data["count"], what.kind.breaks, [what.layer(data["depth"])]), "white": white,
        "bases": [p for p in parts if p.ingredient.is_base], "colours": [p for p in parts if p.ingredient.is_colourant],
        "word": flow_word(card.flow) if card.flow else "stiff", "colour_word": difference_word(card.recipe.de00),
        "thinner_name": around.thinner.title, "lacking": lacking and not bag, "way": card.melting,
        "waits": _waits(card, kitchen), "contains_says": _contents_say(parts, kitchen),
        "strokes": strokes_of(what.kind, core, [what.layer(data["depth"])], [card.recipe.lab]),
        "result": {"melt_g": card.quantity.melt_g, "goes_on_g": card.quantity.goes_on_g, "de00": card.recipe.de00},
    }  # fmt: skip


def _contents_say(parts: tuple[Part, ...], kitchen: Kitchen | None) -> str:
    """What the bases contain, or that it was not said of one."""
    rows: Mapping[str, Any] = {r.code: r for r in Stock.of(kitchen).rows} if kitchen else {}
    found: list[str] = []
    for base in (p.ingredient for p in parts if p.ingredient.is_base):
        row = rows.get(base.name)
        if row is not None and not row.allergens_said:
            return "What the bag contains is not said: read it."
        found += row.allergens if row is not None else ALLERGENS[base.family]
    return f"Contains {listed(sorted(set(found)))}." if found else ""


def _waits(card: QuickCard, kitchen: Kitchen | None) -> list[tuple[str, Setting]]:
    """Where a coat can set, with its times: the place this kitchen prefers first; empty when nowhere."""
    places = kitchen.places if kitchen else ["room", "fridge"]
    return [(p, card.settings[p]) for p in places if p in card.settings]
