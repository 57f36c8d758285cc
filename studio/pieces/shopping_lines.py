"""One ingredient on the shopping list, in words: how much, how much of it is there, what to buy, what does without."""

from __future__ import annotations

from dataclasses import dataclass

from coating.colour.ciede2000 import CLOSE
from coating.colour.mixing import Ingredient, Part
from coating.colour.recipe import Recipe
from coating.plan.shopping import Item
from studio.common.measures import current
from studio.common.templatetags.kitchen import UNIT_WORDS, amount_text, colour_word, mass, measured, money
from studio.common.words import listed, lower, many

SOLD_IN = {"liquid": "a bottle", "powder": "a pot", "gel": "a pot", "white": "a pot", "butter": "a pot"}


@dataclass(frozen=True)
class ShoppingLine:
    """An item, how much of it is `there` ("said", "ticked": there, but nobody said how much, or "none"), and what does
    without it: a recipe for the colour that wants it, with the fat that brings it to the same flow, or another fat."""

    item: Item
    there: str
    colour: str = ""
    instead: Recipe | None = None
    fat: tuple[Part, ...] = ()

    @property
    def wanted_says(self) -> str:
        """How much is needed."""
        return _amount(self.item.ingredient, self.item.wanted_g)

    @property
    def there_says(self) -> str:
        """How much is there."""
        return _amount(self.item.ingredient, self.item.have_g)

    @property
    def buy_says(self) -> str:
        """Packs with what they cost, or how it is sold where nobody said what a pack holds."""
        if not self.item.packs or self.item.pack is None:
            return SOLD_IN.get(self.item.ingredient.kind, self.short_says) if self.item.short_g else ""
        costs = "" if self.item.cost is None else f", {money(self.item.cost)}"
        return f"{many(self.item.packs, 'pack')} of {mass(self.item.pack.grams)}{costs}"

    @property
    def instead_says(self) -> str:
        """What does without it, if anything does."""
        fats = listed([f"{measured(part)} {lower(part.ingredient.title)}" for part in self.fat])
        if self.instead is None:
            return f"{fats} thins as much" if fats else ""
        stirred = [p for p in self.instead.parts if not p.ingredient.is_base]
        with_ = listed([f"{amount_text(p)} {colour_word(p.ingredient.title)}" for p in stirred])
        close = "a close match" if self.instead.de00 <= CLOSE else "not quite the same"
        return f"{self.colour}, {close}, with {with_}{f', thinned by {fats}' if fats else ''}"

    @property
    def short_says(self) -> str:
        """How much is missing."""
        return _amount(self.item.ingredient, self.item.short_g)


def _amount(ingredient: Ingredient, grams: float) -> str:
    """In drops where it is counted, else by mass; without a scale, in spoons, wafers or squares."""
    if not current().has_scale:
        return measured(Part(ingredient, grams))
    words = UNIT_WORDS.get(ingredient.kind)
    if words is None:
        return mass(grams)
    count = round(grams / ingredient.unit_g)
    return f"{count} {words[0] if count == 1 else words[1]} ({mass(grams)})"
