"""Bowls, their events and the cupboard become core values."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from datetime import datetime
from functools import cached_property, lru_cache
from typing import Any

from coating.care import may_propose
from coating.colour.fitting import with_strength
from coating.colour.mixing import GEL, Part
from coating.colour.mixing import Ingredient as CoreIngredient
from coating.colour.ways import ANY_WAY, NO_PRICES, ColourWay
from coating.errors import CoatingError
from coating.flow.gel import harmless_share
from coating.flow.windows import Window, window
from coating.plan.proposal import Cupboard, Proposal, Wish, cupboard_of, plain_base, propose
from coating.plan.quantities import Quantity
from coating.quantities import measurable_g
from coating.simulate.bowl import LABEL_SPREAD, BowlContext, BowlState, Event
from coating.simulate.fold import carry_on
from studio.accounts.models import Kitchen
from studio.bowls.models import Bowl, BowlEvent
from studio.bowls.settled import settled
from studio.bowls.stock_left import with_rests
from studio.common import clock
from studio.cupboard.adapters import core_ingredient, price_of
from studio.cupboard.models import Ingredient, Parameter
from studio.pieces.adapters import needs_of
from studio.pieces.models import Layer
from studio.pieces.techniques import technique_for
from studio.pieces.techniques.base import Technique

OF_PALM = ("palm_flakes", "shortening", "coconut_oil")
OF_COCOA = ("cocoa_butter",)  # other fats do not go with real chocolate
DEFAULT_MELT_G = 200.0


@dataclass
class Stock:
    """The cupboard of a kitchen, to read only: it is kept between requests until the kitchen's cupboard changes."""

    rows: list[Ingredient]

    @classmethod
    def of(cls, kitchen: Kitchen) -> Stock:
        return _stock(kitchen.pk, kitchen.created_at, kitchen.cupboard_version)

    @cached_property
    def by_id(self) -> dict[int, Ingredient]:
        return {r.pk: r for r in self.rows}

    @cached_property
    def parameters(self) -> dict[int, Parameter]:
        return {p.pk: p for r in self.rows for p in r.parameters.all()}

    @cached_property
    def cores(self) -> dict[int, CoreIngredient]:
        """Core ingredients with their newest parameters, by row id."""
        return {r.pk: core_ingredient(r) for r in self.rows}

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

    def cupboard(self, white: str, kitchen: Kitchen, *, strengths: Mapping[str, float] = NO_PRICES) -> Cupboard:
        """What is stocked and may be proposed in this region, with the kitchen's thinner for a white; `strengths` are
        factors that a bowl has taught."""
        stocked = [with_strength(self.cores[r.pk], strengths) for r in self.rows if r.stocked and not r.made_on]
        names = {c.name: c for c in stocked}
        order = (kitchen.thinner_school, *OF_PALM) if white == "coating" else OF_COCOA
        thinner = next((names[n] for n in order if n in names), None)
        may = [_within_trace(c) for c in stocked if may_propose(c, kitchen.region)]
        found = cupboard_of(may, thinner=thinner)
        fats = tuple(names[n] for n in (*OF_PALM, *OF_COCOA) if n in names)
        return replace(found, prices=tuple(sorted(self.prices.items())), fats=fats)


def _within_trace(ingredient: CoreIngredient) -> CoreIngredient:
    """A water-based colour is proposed only as far as its water does no harm."""
    if ingredient.kind != GEL:
        return ingredient
    return replace(ingredient, cap_share=min(ingredient.cap_share, harmless_share(ingredient.water_fraction)))


@lru_cache(maxsize=64)
def _stock(kitchen_pk: int, _created_at: datetime, _version: int) -> Stock:
    return Stock(list(Ingredient.objects.filter(kitchen=kitchen_pk).with_parameters()))


def pins_of(row: Ingredient) -> dict[str, int]:
    """The parameter versions in force, for an event to keep."""
    read = row.read_last()
    return {name: p.pk for name, p in row.current().items()} | ({"optics": read.pk} if read else {})


def _latest_pins(events: Iterable[BowlEvent]) -> dict[int, dict[str, int]]:
    """For each ingredient the versions of the last event that named it: what is known best about this bowl."""
    pins: dict[int, dict[str, int]] = {}
    for event in sorted(events, key=lambda e: e.seq):
        if event.kind in ("added", "remeasured") and event.struck_by_id is None:
            pins[event.payload["ingredient"]] = event.payload.get("pins", {})
    return pins


def core_events(bowl: Bowl, stock: Stock) -> list[Event]:
    """The events of a bowl (prefetched) that count, for the core, with times in s since the bowl began."""
    rows = list(bowl.events.all())
    pins = _latest_pins(rows)
    known = {i: stock.pinned(i, p) for i, p in pins.items()}
    events = []
    for row in rows:
        if row.struck_by_id is not None or row.kind in ("struck", "remeasured"):
            continue
        data: dict[str, Any] = row.payload
        parts: tuple[Part, ...] = ()
        if row.kind == "added":
            ingredient = known.get(data["ingredient"]) or stock.pinned(data["ingredient"], data.get("pins", {}))
            if ingredient is None:
                continue
            mass_g = data["mass_g"] if "mass_g" in data else data["units"] * ingredient.unit_g
            parts = (Part(ingredient, mass_g),)
        events.append(
            Event(
                seq=row.seq, kind=row.kind, at_s=(row.happened_at - bowl.started_at).total_seconds(), parts=parts,
                to_c=data.get("to_c"), seconds=data.get("seconds"), power_w=data.get("power_w"),
                power_fraction=data.get("power_fraction", 0.5),
                mass_g=data.get("mass_g") if row.kind in ("used", "split") else None, test=data.get("test", ""),
                value=data.get("value"), off=data.get("off"), ratio_per_s=data.get("ratio_per_s"),
                lab=tuple(data["lab"]) if row.kind == "read" else None, target_seq=data.get("target_seq"),
            )
        )  # fmt: skip
    return events


def colour_way(stored: Mapping[str, Any]) -> ColourWay:
    """How a bowl's colour is to be found, from its JSON."""
    if not stored:
        return ANY_WAY
    return ColourWay(
        stored["way"], tuple(stored["locked"]), tuple(stored["forbidden"]), stored["mixed_fats"], stored["colourants"]
    )


def colour_way_json(way: ColourWay, *, melt_g: float) -> dict[str, Any]:
    """The same as JSON, with how much is to be melted, g."""
    return {
        "v": 1, "way": way.way, "locked": list(way.locked), "forbidden": list(way.forbidden),
        "mixed_fats": way.mixed_fats, "colourants": way.colourants, "melt_g": melt_g,
    }  # fmt: skip


@dataclass
class Desk:
    """A bowl with everything a page about it needs, worked out once."""

    bowl: Bowl
    kitchen: Kitchen
    stock: Stock
    at: datetime

    @classmethod
    def of(cls, bowl: Bowl, kitchen: Kitchen, *, stock: Stock | None = None) -> Desk:
        return cls(bowl, kitchen, stock or Stock.of(kitchen), clock.now())

    @property
    def at_s(self) -> float:
        return max(0.0, (self.at - self.bowl.started_at).total_seconds())

    @cached_property
    def window(self) -> Window:
        return window(self.bowl.technique)

    @property
    def kind(self) -> Technique:
        """What it is for, in words and needs."""
        return technique_for(self.bowl.technique)

    @cached_property
    def context(self) -> BowlContext:
        room_c, white = self.kitchen.room_c, self.bowl.white
        return BowlContext(room_c=room_c, white=white, window=self.window, number_spread=self.number_spread)

    @property
    def number_spread(self) -> float:
        """Relative range of the label number of what the bowl is mostly of; a fifth until it is known better."""
        bases = [p for e in self.events for p in e.parts if p.ingredient.is_base]
        main = max(bases, key=lambda p: p.mass_g, default=None)
        return self.stock.spreads("number").get(main.ingredient.name, LABEL_SPREAD) if main else LABEL_SPREAD

    @cached_property
    def events(self) -> list[Event]:
        return core_events(self.bowl, self.stock)

    @cached_property
    def now(self) -> BowlState:
        return carry_on(settled(self), at_s=self.at_s)

    @property
    def can_be_used(self) -> bool:
        """Whether something melted is in it that flows, and it is not done."""
        return not (self.bowl.finished_at or self.now.empty or self.now.is_set or self.now.flow() is None)

    def after(self, more: Iterable[Event]) -> BowlState:
        """The state if these were done at this moment."""
        return carry_on(settled(self), more, at_s=self.at_s)

    @cached_property
    def layers(self) -> list[Layer]:
        return [use.layer.poured_in(self.bowl.tone) for use in self.bowl.uses.all()]

    @cached_property
    def quantity(self) -> Quantity:
        return needs_of(self.layers)

    @cached_property
    def cupboard(self) -> Cupboard:
        found = self.stock.cupboard(self.bowl.white, self.kitchen, strengths=dict(self.now.strengths))
        return with_rests(found, self.bowl.white, self.kitchen, self.stock) if self.now.empty else found

    @cached_property
    def melt_g(self) -> float:
        """What to melt, g; without a scale, up to the next amount that can be measured."""
        suiting = plain_base(self.cupboard, self.bowl.white)
        code = self.base.name if self.base else suiting[0].name if suiting else ""
        row = next((r for r in self.stock.rows if r.code == code), None)
        core = self.stock.cores.get(row.pk) if row else None
        wanted_g = self.quantity.melt_g or self.bowl.colours.get("melt_g") or DEFAULT_MELT_G
        family, piece_g = (core.family, core.piece_g) if core else ("palm", 0.0)
        return measurable_g(wanted_g, self.kitchen.measures, family=family, piece_g=piece_g)

    @cached_property
    def base(self) -> CoreIngredient | None:
        """The bag that it is of as bought."""
        return self.stock.cores.get(self.bowl.base_id or 0)

    @property
    def target_lab(self) -> tuple[float, float, float] | None:
        return self.bowl.colour.lab if self.bowl.colour else None

    @cached_property
    def wish(self) -> Wish:
        used = sum(e.mass_g or 0 for e in self.events if e.kind == "used")
        left_g = max(0.0, self.melt_g - used)
        return Wish(self.target_lab, self.window, self.bowl.white, left_g, colour_way(self.bowl.colours),
                    self.base)  # fmt: skip

    @cached_property
    def proposal(self) -> Proposal:
        """The next step; `kind` "nothing" with the reason when the cupboard cannot."""
        try:
            return propose(self.now, self.wish, self.cupboard)
        except CoatingError:
            return Proposal("no_base")
