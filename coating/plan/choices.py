"""Other ways to make the same: tinted or ready-coloured, and the thinner that costs least."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from coating.colour.mixing import Ingredient, Part, mix
from coating.colour.recipe import Lab, Recipe, find_recipe
from coating.errors import CoatingError

DEEP_L, STRONG_CHROMA = 60.0, 42.0
WASHED_MIN, BAG_MIN = 3.0, 1.0  # minutes to wash a bowl with its spatula, and a bag; common practice, no source
_WHITE_L, _WHITE_CHROMA = 70.0, 32.0  # a base lighter and greyer than that is a white


def is_deep(lab: Lab) -> bool:
    """Whether a colour asks so much of a white base that a ready-coloured one is worth a thought."""
    return lab[0] < DEEP_L or (lab[1] ** 2 + lab[2] ** 2) ** 0.5 > STRONG_CHROMA


def is_coloured(base: Ingredient) -> bool:
    """Whether a base has a colour of its own."""
    lab = mix((Part(base, 1.0),)).lab()
    return bool(lab[0] < _WHITE_L or (lab[1] ** 2 + lab[2] ** 2) ** 0.5 > _WHITE_CHROMA)


@dataclass(frozen=True)
class TwoWays:
    """One colour tinted from white, and from a ready-coloured base; None where it cannot be made so."""

    tinted: Recipe | None
    ready: Recipe | None

    @property
    def better(self) -> str:
        """ "tinted" or "ready": the nearer one; within 1 dE00 the one with the smaller load of colour."""
        if self.tinted is None or self.ready is None:
            return "tinted" if self.ready is None else "ready"
        if abs(self.tinted.de00 - self.ready.de00) > 1.0:
            return "tinted" if self.tinted.de00 < self.ready.de00 else "ready"
        return "tinted" if self.tinted.load <= self.ready.load else "ready"


def two_ways(
    lab: Lab, bases: tuple[Ingredient, ...], colourants: tuple[Ingredient, ...], base_mass_g: float
) -> TwoWays:
    """A colour made both ways from what there is; the ready-coloured way may add a white too."""
    whites = tuple(b for b in bases if not is_coloured(b))
    coloured = tuple(b for b in bases if is_coloured(b))
    tinted = _made(lab, whites, colourants, base_mass_g)
    ready = _made(lab, coloured, colourants, base_mass_g) if coloured else None
    mixed = _made(lab, bases, colourants, base_mass_g) if coloured else None
    if mixed and any(p.ingredient in coloured for p in mixed.parts) and (ready is None or mixed.de00 < ready.de00):
        ready = mixed
    return TwoWays(tinted, ready)


def _made(
    lab: Lab, bases: tuple[Ingredient, ...], colourants: tuple[Ingredient, ...], base_mass_g: float
) -> Recipe | None:
    try:
        return find_recipe(lab, bases, colourants, base_mass_g) if bases else None
    except CoatingError:
        return None


def cost_of(parts: tuple[Part, ...], prices: Mapping[str, float]) -> float | None:
    """What parts cost by the g of their packs; None when a price is missing."""
    costs = [prices.get(p.ingredient.name) for p in parts]
    if any(c is None for c in costs):
        return None
    return sum(c * p.mass_g for c, p in zip(costs, parts, strict=True) if c is not None)


def price_per_g(parts: tuple[Part, ...], prices: Mapping[str, float]) -> float | None:
    """What a g of a mixture costs; drops without a price are left out, None when a base has none."""
    if not parts or any(p.ingredient.is_base and p.ingredient.name not in prices for p in parts):
        return None
    return sum(prices.get(p.ingredient.name, 0.0) * p.mass_g for p in parts) / sum(p.mass_g for p in parts)


def washing_up_min(bowls: int, bags: int) -> float:
    """Minutes at the sink."""
    return bowls * WASHED_MIN + bags * BAG_MIN
