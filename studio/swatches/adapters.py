"""Questions about a colour, put to the core with what is in this cupboard."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import cached_property
from typing import Any

from coating.colour.drop_plan import DropStep, drop_plan
from coating.colour.first_look import first_look
from coating.colour.mixing import BASE, Ingredient, Part
from coating.colour.one_recipe import recipe_for
from coating.colour.reach import OutOfReach, is_ready_coloured, out_of_reach
from coating.colour.recipe import Recipe, colour_band
from coating.colour.ways import USUAL, ColourWay, recipes_in_every_way
from coating.heat.melting import working_temperature_c
from coating.plan.matches import Match, match, under_warm_lamps
from coating.plan.proposal import Cupboard, Wish, bases_for
from coating.stock.ingredients import DEMO_INGREDIENTS
from studio.accounts.models import Kitchen
from studio.colours.models import Colour
from studio.cupboard.adapters import bag_g
from studio.cupboard.stock import Stock
from studio.pieces.reckoned import kept_parts

Lab = tuple[float, float, float]


@dataclass
class ShadeQuestion:
    """A colour wanted in so many g of a white, in a maker's way."""

    kitchen: Kitchen
    stock: Stock
    lab: Lab
    white: str
    melt_g: float
    way: ColourWay
    colour: Colour | None = None

    @cached_property
    def cupboard(self) -> Cupboard:
        """What may go in."""
        return self.stock.cupboard(self.white, self.kitchen)

    @cached_property
    def bases(self) -> tuple[Ingredient, ...]:
        """The coatings it can be melted from."""
        return bases_for(Wish(self.lab, None, self.white, self.melt_g, self.way), self.cupboard)

    @cached_property
    def matches(self) -> dict[str, Match]:
        """By way: the one that bowls are made by, then others. Raises EmptyBowl."""
        prices, colourants = self.stock.prices, self.cupboard.colourants
        kept = kept_parts(self.colour, self.stock) if self.colour and self.colour.lab == self.lab else ()
        usual = recipe_for(
            self.lab, self.bases, colourants, self.melt_g, replace(self.way, way=USUAL), kept=kept, prices=prices
        )
        matches = {
            USUAL: usual,
            **recipes_in_every_way(self.lab, self.bases, colourants, self.melt_g, self.way, prices),
        }
        given: Any = {"white": self.white, "room_c": self.kitchen.room_c, "prices": prices}
        return {
            way: match(recipe, temperature_c=working_temperature_c(self.white), **given)
            for way, recipe in matches.items()
        }

    @cached_property
    def chosen(self) -> Match:
        """The match of the way that was chosen."""
        return self.matches.get(self.way.way) or self.matches[USUAL]

    def why_not(self) -> OutOfReach | None:
        """Why it is out of reach and what comes nearer; None when it is not."""
        if self.matches["best"].recipe.reachable:
            return None
        bases, colourants = self.way.allowed(self.bases), self.way.allowed(self.cupboard.colourants)
        return out_of_reach(self.lab, bases, colourants, round(self.melt_g), self.ready, bounds=self.way.bounds)

    @cached_property
    def ready(self) -> list[Ingredient]:
        """Coatings sold in a colour: those of the cupboard, then others that one could buy."""
        if self.white != "coating":
            return []
        own = [c for c in self.stock.cores.values() if c.kind == BASE and is_ready_coloured(c)]
        names = {c.name for c in own}
        shop = [c for c in DEMO_INGREDIENTS.values() if c.kind == BASE and is_ready_coloured(c) and c.name not in names]
        return [c for c in own if c.name not in self.way.forbidden] + shop

    def steps(self) -> list[DropStep]:
        """Which drops go in, one look after the other."""
        return drop_plan(self.chosen.recipe.parts, self.lab)

    def band(self) -> list[Lab]:
        """Shades within what the drops vary."""
        return colour_band(self.chosen.recipe.parts, spreads=self.stock.spreads("drop_g"))

    def range(self) -> tuple[float, float, float]:
        """dE00 to the wish: as reckoned, and the ends of its 90 % range."""
        return first_look(self.chosen.recipe.parts, self.lab, known=self.stock.sure(self.kitchen))

    def lamps(self) -> tuple[Lab, Lab | None]:
        """Wish and recipe under warm lamps."""
        return under_warm_lamps(self.chosen.recipe.parts, self.lab)

    def rows(self, recipe: Recipe) -> list[tuple[Part, float | None]]:
        """Parts with the mass of a bag, for bases."""
        by_code = {r.code: r for r in self.stock.rows}
        return [
            (p, bag_g(by_code[p.ingredient.name]) if p.ingredient.is_base and p.ingredient.name in by_code else None)
            for p in recipe.parts
        ]

    def in_cupboard(self, base: Ingredient) -> bool:
        """Whether this coating is at hand."""
        return any(r.code == base.name and r.stocked for r in self.stock.rows)
