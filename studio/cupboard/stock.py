"""The cupboard of a kitchen as the core knows it: what there is, what may be proposed, what it costs."""

from __future__ import annotations

import math
from dataclasses import dataclass, field, replace
from datetime import datetime
from functools import cached_property, lru_cache
from typing import Any

from coating.care import may_propose
from coating.colour.first_look import DROP_SD, STRENGTH_SD
from coating.colour.mixing import GEL
from coating.colour.mixing import Ingredient as CoreIngredient
from coating.flow.gel import harmless_share
from coating.job import Shelf
from coating.learning.factors import NOTHING, Factors
from coating.learning.names import FLOW, RANGE_SD, STRENGTH
from coating.plan.proposal import Cupboard, cupboard_of
from studio.accounts.models import Kitchen
from studio.common.slot import Slot
from studio.cupboard.adapters import core_ingredient, price_of
from studio.cupboard.models import Ingredient, Parameter

taught: Slot[[Any, Any], Factors] = Slot("what a kitchen has learned and uses")
MOST_OWN = 64  # ways of knowing the same cupboard that are kept
TINT_SD = 0.1  # of ln, what a tint that was read leaves open of a colour
OF_PALM = ("palm_flakes", "shortening", "coconut_oil")
OF_COCOA = ("cocoa_butter",)  # other fats do not go with real chocolate


@dataclass
class Stock:
    """The cupboard of a kitchen, to read only: it is kept between requests until the kitchen's cupboard changes."""

    rows: list[Ingredient]
    _shelves: dict[tuple[str, str], Shelf] = field(default_factory=dict)
    _taught: Factors | None = None
    _own: dict[Factors, dict[int, CoreIngredient]] = field(default_factory=dict)

    @classmethod
    def of(cls, kitchen: Kitchen) -> Stock:
        """The cupboard of a kitchen as it is now."""
        return _stock(kitchen.pk, kitchen.created_at, kitchen.cupboard_version)

    @cached_property
    def by_id(self) -> dict[int, Ingredient]:
        """Each row under its key."""
        return {r.pk: r for r in self.rows}

    @cached_property
    def titles(self) -> dict[str, str]:
        """The name of each row by its code."""
        return {r.code: r.name for r in self.rows}

    @cached_property
    def parameters(self) -> dict[int, Parameter]:
        """Each parameter under its key."""
        return {p.pk: p for r in self.rows for p in r.parameters.all()}

    @cached_property
    def cores(self) -> dict[int, CoreIngredient]:
        """Core ingredients with their newest parameters, by row id."""
        return {r.pk: core_ingredient(r) for r in self.rows}

    @cached_property
    def measured(self) -> frozenset[str]:
        """What its maker measured, as what is learned is called: a tint that was read, a bag whose number was tested.
        Nothing that was learned of it is used."""
        tints = {f"{STRENGTH}.{row.code}" for row in self.rows if row.read_last() is not None}
        return frozenset(tints | {f"{FLOW}.{row.code}" for row in self.rows if row.measured("number") is not None})

    def still_known(self, factors: Factors, kitchen: Kitchen) -> Factors:
        """Of factors that were kept those of what was not measured since; colours are never dosed higher than is known
        to be right now."""
        of = {name: factor for name, factor in factors.of.items() if name not in self.measured}
        return Factors(of, self.factors(kitchen).tight)

    def own(self, factors: Factors) -> dict[int, CoreIngredient]:
        """The same as a kitchen knows them by some factors; worked out once for each."""
        if factors not in self._own:
            if len(self._own) >= MOST_OWN:
                self._own.clear()
            self._own[factors] = {pk: factors.careful(core) for pk, core in self.cores.items()}
        return self._own[factors]

    def pinned(self, ingredient_id: int, pins: dict[str, int]) -> CoreIngredient | None:
        """An ingredient with the parameter versions an event used."""
        row = self.by_id.get(ingredient_id)
        if row is None:
            return None
        chosen = [self.parameters[pk] for name, pk in pins.items() if name != "optics" and pk in self.parameters]
        if not chosen:
            return core_ingredient(row)
        read = next((o for o in row.readings.all() if o.pk == pins.get("optics")), None)
        return core_ingredient(row, chosen, read)

    def spreads(self, parameter: str) -> dict[str, float]:
        """Relative range of a parameter by ingredient, from its newest low and high."""
        known = {r.code: r.current().get(parameter) for r in self.rows}
        return {code: (p.high - p.low) / 2 / p.value for code, p in known.items() if p and p.value}

    @cached_property
    def prices(self) -> dict[str, float]:
        """Money per g by code, of what a pack's size and price were said of."""
        known = {r.code: price_of(r, 1.0) for r in self.rows}
        return {code: price for code, price in known.items() if price is not None}

    def factors(self, kitchen: Kitchen) -> Factors:
        """What this kitchen's records have taught and it uses; asked once."""
        if self._taught is None:
            self._taught = taught(kitchen, self)
        return self._taught

    def sure(self, kitchen: Kitchen) -> dict[str, float]:
        """The sd of ln of what one drop of a colour does, of those that were read, weighed or learned, by code."""
        drops, known = self.spreads("drop_g"), dict[str, float]()
        for row in self.rows:
            weighed = row.measured("drop_g") is not None
            if row.read_last() or weighed:
                drop = drops.get(row.code, DROP_SD) / RANGE_SD if weighed else DROP_SD
                known[row.code] = math.hypot(drop, TINT_SD if row.read_last() else STRENGTH_SD)
        strengths = self.factors(kitchen).only(STRENGTH).of
        return known | {name.partition(".")[2]: f.sd for name, f in strengths.items() if f.sd is not None}

    def cupboard(self, white: str, kitchen: Kitchen, *, factors: Factors | None = None) -> Cupboard:
        """What is stocked and may be proposed in this region, with the kitchen's thinner for a white; `factors` are
        what a bowl or a job goes by, None: what the kitchen has learned."""
        factors = self.factors(kitchen) if factors is None else factors
        own = self.own(factors)
        stocked = [own[r.pk] for r in self.rows if r.stocked and not r.made_on]
        names = {c.name: c for c in stocked}
        order = (kitchen.thinner_school, *OF_PALM) if white == "coating" else OF_COCOA
        thinner = next((names[n] for n in order if n in names), None)
        may = [_within_trace(c) for c in stocked if may_propose(c, kitchen.region)]
        cupboard = cupboard_of(may, thinner=thinner)
        fats = tuple(names[n] for n in (*OF_PALM, *OF_COCOA) if n in names)
        return replace(cupboard, prices=tuple(sorted(self.prices.items())), fats=fats)

    def shelf(self, kitchen: Kitchen) -> Shelf:
        """The same for all whites by the labels alone, as a job is reckoned from it; every bag that there ever was may
        be named."""
        key = kitchen.region, kitchen.thinner_school
        if key not in self._shelves:
            palm, cocoa = (self.cupboard(white, kitchen, factors=NOTHING) for white in ("coating", "tempered"))
            thinners = {name: c.thinner for name, c in (("palm", palm), ("cocoa", cocoa)) if c.thinner}
            bags = tuple(self.cores[r.pk] for r in self.rows if r.kind == "base")
            self._shelves[key] = Shelf(palm.bases, palm.colourants, thinners, self.prices, bags)
        return self._shelves[key]


def _within_trace(ingredient: CoreIngredient) -> CoreIngredient:
    """A water-based colour is proposed only as far as its water does no harm."""
    if ingredient.kind != GEL:
        return ingredient
    return replace(ingredient, cap_share=min(ingredient.cap_share, harmless_share(ingredient.water_fraction)))


@lru_cache(maxsize=64)
def _stock(kitchen_pk: int, _created_at: datetime, _version: int) -> Stock:
    return Stock(list(Ingredient.objects.filter(kitchen=kitchen_pk).with_parameters()))
