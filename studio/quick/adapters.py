"""The quick card's answer from its form, for a kitchen or for somebody without one."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from coating.colour.mixing import Ingredient as CoreIngredient
from coating.colour.mixing import Part, mix
from coating.flow.ribbon import flow_word
from coating.heat.melting import white_as_bought
from coating.heat.setting import Setting
from coating.job import Kitchen as CoreKitchen
from coating.job import Piece, Shelf
from coating.job.quick_card import QuickCard, quick_card
from coating.learning.factors import Factors
from coating.stock.ingredients import DEMO_INGREDIENTS
from studio.accounts.models import Kitchen
from studio.bowls.deed_says import PutIn
from studio.common.types import Context, Typed
from studio.common.words import close_says, listed
from studio.cupboard.actions import ALLERGENS, NOT_STOCKED, STARTER
from studio.cupboard.stock import Stock
from studio.pieces.known_says import goes_by_says
from studio.pieces.pictures import strokes_of
from studio.pieces.reckoned import kitchen_of
from studio.quick.forms import COLOURS, THINNERS, WHATS, Lab
from studio.quick.says import bag_says, card_says

_OTHER_BAGS = {"dark", "milk", "yellow_coating", "green_coating", "red_coating", "black_coating"}
_NOT_FOR_A_CARD = {*NOT_STOCKED, *_OTHER_BAGS}
_INGREDIENTS = tuple(DEMO_INGREDIENTS[c] for c in STARTER if c not in _NOT_FOR_A_CARD)


def bags_for(kitchen: Kitchen | None) -> dict[str, tuple[CoreIngredient, Lab]]:
    """Bags that are taken as they were bought, by code, with their colour: those of the kitchen, then others there
    are."""
    own: list[CoreIngredient] = []
    if kitchen:
        stock = Stock.of(kitchen)
        own = [stock.cores[r.pk] for r in stock.rows if r.kind == "base" and not r.put_away]
    bags = {c.name: c for c in own if c.sort != "white"}
    bags |= {c.name: c for c in DEMO_INGREDIENTS.values() if c.name in _OTHER_BAGS and c.name not in bags}
    return {name: (c, mix([Part(c, 1.0)]).lab()) for name, c in bags.items()}


def _ordinary() -> Shelf:
    """For somebody without a cupboard."""
    thinners = {"palm": DEMO_INGREDIENTS[THINNERS["coating"]], "cocoa": DEMO_INGREDIENTS[THINNERS["tempered"]]}
    return Shelf(
        tuple(i for i in _INGREDIENTS if i.is_base), tuple(i for i in _INGREDIENTS if i.is_colourant), thinners
    )


_ORDINARY = _ordinary()


def _around(white: str, kitchen: Kitchen | None) -> tuple[CoreKitchen, Shelf, bool]:
    """Where and from what, and whether the cupboard of the kitchen lacks such a white, so that an ordinary one is
    used."""
    if not kitchen:
        return CoreKitchen(), _ORDINARY, False
    shelf = Stock.of(kitchen).shelf(kitchen)
    lacking = shelf.plain(white) is None
    return kitchen_of(kitchen), _ORDINARY if lacking else shelf, lacking


def card_context(data: Typed, kitchen: Kitchen | None = None) -> Context:
    """Everything the card's templates show, for cleaned data of QuickForm."""
    bag, _ = bags_for(kitchen).get(data["colour"], (None, None))
    white = white_as_bought(bag.family, data["white"]) if bag else data["white"]
    around, shelf, lacking = _around(white, kitchen)
    name, lab = COLOURS.get(data["colour"], (bag.title if bag else "Plain", None))
    what = WHATS[data["what"]]
    core, layer = what.kind.core(*what.size_mm(data["size"])), what.layer(data["depth"])
    piece = Piece("card", what.kind.name, core, data["count"], (layer,), name=what.many)
    card = quick_card(
        piece,
        target_lab=lab,
        white=white,
        kitchen=around,
        shelf=shelf,
        base=bag,
        ready=tuple(DEMO_INGREDIENTS.values()),
    )
    parts, thinner = card.recipe.parts, card.bowl.thinner or shelf.thinner(white)
    return {
        "card": card,
        "says": card_says(card, what, data["count"], name if lab else ""),
        "bag_says": bag_says(card),
        "choice": data,
        "colour_name": name,
        "target_lab": lab,
        "what": what,
        "as_bought": bag,
        "spares": card.line.spares,
        "white": white,
        "bases": [p for p in parts if p.ingredient.is_base],
        "colours": [p for p in parts if p.ingredient.is_colourant],
        "goes_in": [PutIn.of(p, None) for p in parts],
        "word": flow_word(card.flow) if card.flow else "stiff",
        "comes": close_says(card.recipe.de00, card.colour_high),
        "thinner_name": thinner.title if thinner else "fat",
        "lacking": lacking and not bag,
        "goes_by": goes_by_says(_own(around.factors, parts, what.technique), _titles(kitchen)),
        "way": card.melting,
        "waits": _waits(card, kitchen),
        "contains_says": _contents_say(parts, kitchen),
        "strokes": strokes_of(what.kind, core, [layer], [card.recipe.lab]),
        "result": {"melt_g": card.bowl.melt_g, "goes_on_g": card.bowl.made_g, "de00": card.recipe.de00},
    }


def _own(known: Factors, parts: Sequence[Part], technique: str) -> dict[str, float]:
    """What of one's own the card goes by."""
    kinds = ("coat", "set", "loss", *(f"{kind}.{p.ingredient.name}" for p in parts for kind in ("strength", "flow")))
    mine = {*kinds, f"coat.{technique}"}
    return {name: factor.value for name, factor in known.of.items() if name in mine}


def _titles(kitchen: Kitchen | None) -> Mapping[str, str]:
    return Stock.of(kitchen).titles if kitchen else {}


def _contents_say(parts: tuple[Part, ...], kitchen: Kitchen | None) -> str:
    """What the bases contain, or that it was not said of one."""
    rows: Mapping[str, Any] = {r.code: r for r in Stock.of(kitchen).rows} if kitchen else {}
    sentences: list[str] = []
    for base in (p.ingredient for p in parts if p.ingredient.is_base):
        row = rows.get(base.name)
        if row is not None and not row.allergens_said:
            return "What the bag contains is not said: read it."
        sentences += row.allergens if row is not None else ALLERGENS[base.family]
    return f"Contains {listed(sorted(set(sentences)))}." if sentences else ""


def _waits(card: QuickCard, kitchen: Kitchen | None) -> list[tuple[str, Setting]]:
    """Where a coat can set, with its times: the place this kitchen prefers first; empty when nowhere."""
    places = kitchen.places if kitchen else ["room", "fridge"]
    return [(p, card.settings[p]) for p in places if p in card.settings]
