"""Bowls, their events and the cupboard become core values."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime
from functools import cached_property
from typing import Any

from django.db.models import prefetch_related_objects

from coating.colour.mixing import Ingredient as CoreIngredient
from coating.colour.mixing import Part
from coating.colour.ways import ANY_WAY, ColourWay
from coating.errors import CoatingError
from coating.flow.windows import Window, window
from coating.job import Bowl as ReckonedBowl
from coating.job import Line as ReckonedLine
from coating.job import Portion
from coating.learning.factors import AS_LABELLED, NOTHING, Factor, Factors
from coating.learning.names import FLOW, LOSS, PRIORS, STRENGTH
from coating.plan.proposal import Cupboard, Proposal, Wish, plain_base, propose
from coating.quantities import measurable_g
from coating.simulate.bowl import LABEL_SPREAD, BowlContext, BowlState, Event
from coating.simulate.fold import carry_on
from coating.techniques import technique
from studio.accounts.models import Kitchen
from studio.bowls.models import Bowl, BowlEvent
from studio.bowls.says import title_says
from studio.bowls.settled import settled
from studio.bowls.stock_left import with_rests
from studio.common import clock
from studio.common.types import Json, Typed
from studio.common.words import listed
from studio.cupboard.models import Ingredient
from studio.cupboard.stock import TINT_SD, Stock
from studio.pieces.known import known_to, otherwise
from studio.pieces.known_says import thing_called
from studio.pieces.models import Layer
from studio.pieces.reckoned import kept_parts, reckoned_at
from studio.pieces.spoken import SPOKEN, Spoken

DEFAULT_MELT_G = 200.0


def pins_of(row: Ingredient) -> dict[str, int]:
    """The parameter versions in force, for an event to keep."""
    read = row.read_last()
    return {name: p.pk for name, p in row.current().items()} | ({"optics": read.pk} if read else {})


def _latest_pins(events: Iterable[BowlEvent]) -> dict[int, dict[str, int]]:
    """For each ingredient the versions of the last event that named it: what is known best about this bowl."""
    pins: dict[int, dict[str, int]] = {}
    for event in sorted(events, key=lambda e: e.seq):
        if event.kind in ("added", "received", "remeasured") and event.struck_by_id is None:
            pins[event.payload["ingredient"]] = event.payload.get("pins", {})
    return pins


def core_events(bowl: Bowl, rows: Sequence[BowlEvent], stock: Stock, known: Factors = NOTHING) -> list[Event]:
    """The events of a bowl that count, for the core, with times in s since the bowl began, of bags as they are known
    to be."""
    pins = _latest_pins(rows)
    pinned = {i: stock.pinned(i, p) for i, p in pins.items()}
    events = []
    for row in rows:
        if row.struck_by_id is not None or row.kind in ("struck", "remeasured"):
            continue
        data: Typed = row.payload
        parts: tuple[Part, ...] = ()
        if row.kind in ("added", "received"):
            ingredient = pinned.get(data["ingredient"]) or stock.pinned(data["ingredient"], data.get("pins", {}))
            if ingredient is None:
                continue
            mass_g = data["mass_g"] if "mass_g" in data else data["units"] * ingredient.unit_g
            parts = (Part(known.ingredient(ingredient), mass_g),)
        events.append(
            Event(
                seq=row.seq,
                kind=row.kind,
                at_s=(row.happened_at - bowl.started_at).total_seconds(),
                parts=parts,
                to_c=data.get("to_c"),
                seconds=data.get("seconds"),
                power_w=data.get("power_w"),
                power_fraction=data.get("power_fraction", 0.5),
                mass_g=data.get("mass_g") if row.kind in ("used", "split") else None,
                test=data.get("test", ""),
                value=data.get("value"),
                off=data.get("off"),
                ratio_per_s=data.get("ratio_per_s"),
                lab=tuple(data["lab"]) if row.kind == "read" else None,
                target_seq=data.get("target_seq"),
            )
        )
    return events


def colour_way(stored: Mapping[str, Any]) -> ColourWay:
    """How a bowl's colour is to be found, from its JSON."""
    if not stored:
        return ANY_WAY
    return ColourWay(
        stored["way"], tuple(stored["locked"]), tuple(stored["forbidden"]), stored["mixed_fats"], stored["colourants"]
    )


def colour_way_json(way: ColourWay, *, melt_g: float) -> Json:
    """The same as JSON, with how much is to be melted, g."""
    return {
        "v": 1,
        "way": way.way,
        "locked": list(way.locked),
        "forbidden": list(way.forbidden),
        "mixed_fats": way.mixed_fats,
        "colourants": way.colourants,
        "melt_g": melt_g,
    }


@dataclass
class Desk:
    """A bowl with everything a page about it needs, worked out once."""

    bowl: Bowl
    kitchen: Kitchen
    stock: Stock
    at: datetime

    @classmethod
    def of(cls, bowl: Bowl, kitchen: Kitchen, *, stock: Stock | None = None) -> Desk:
        """The bowl as it stands now."""
        return cls(bowl, kitchen, stock or Stock.of(kitchen), clock.now())

    @property
    def at_s(self) -> float:
        """Seconds since it was begun."""
        return max(0.0, (self.at - self.bowl.started_at).total_seconds())

    @cached_property
    def window(self) -> Window:
        """What its technique asks of the flow."""
        return window(self.bowl.technique)

    @property
    def kind(self) -> Spoken:
        """What it is for, in words."""
        return SPOKEN[self.bowl.technique]

    @cached_property
    def context(self) -> BowlContext:
        """What the core must know of the kitchen."""
        room_c, white = self.kitchen.room_c, self.bowl.white
        return BowlContext(
            room_c=room_c,
            white=white,
            window=self.window,
            number_spread=self.number_spread,
            loss=self.known.loss,
            loss_sd=self.known[LOSS].sd or PRIORS[LOSS],
            strengths=tuple(sorted(self.known.strengths.items())),
        )

    @property
    def number_spread(self) -> float:
        """Relative range of the label number of what the bowl is mostly of; a fifth until it is known better."""
        bases = [p for e in self.events for p in e.parts if p.ingredient.is_base]
        main = max(bases, key=lambda p: p.mass_g, default=None)
        learned = self.known.flow(main.ingredient.name) if main else AS_LABELLED
        if learned.low is not None and learned.high is not None:
            return (learned.high - learned.low) / 2 / learned.value
        return self.stock.spreads("number").get(main.ingredient.name, LABEL_SPREAD) if main else LABEL_SPREAD

    @property
    def sure(self) -> dict[str, float]:
        """The sd of ln of what one drop of a colour does; what is in a bowl that was read is known from it."""
        read = [p.ingredient.name for p in self.now.parts if self.now.reading]
        return self.stock.sure(self.kitchen) | dict.fromkeys(read, TINT_SD)

    @cached_property
    def known(self) -> Factors:
        """What it goes by: what was known when it was begun, with the ranges of now."""
        now, of = self.stock.factors(self.kitchen), {}
        for name, times in self.bowl.taught.items():
            by = times / now[name].value
            low, high = (None if end is None else end * by for end in (now[name].low, now[name].high))
            of[name] = Factor(times, low, high)
        return self.stock.still_known(Factors(of), self.kitchen)

    @cached_property
    def job_goes_by(self) -> Factors:
        """What its job goes by; without one, what its kitchen has learned."""
        return known_to(self.bowl.job if self.bowl.job_id else None, self.kitchen)

    @property
    def taught_here(self) -> dict[str, float]:
        """What was known when it was begun of what is in it or goes in, and of how it cools, by name."""
        if not self.known.of:
            return {}
        of = dict.fromkeys(p.ingredient.name for p in (*self.now.parts, *self.proposal.additions))
        names = [*(f"{kind}.{code}" for code in of for kind in (STRENGTH, FLOW)), LOSS]
        return {name: self.known[name].value for name in names if name in self.known.of}

    @cached_property
    def rows(self) -> list[BowlEvent]:
        """What was noted of it, as it was done; read once, and only where it is asked for."""
        prefetch_related_objects([self.bowl], Bowl.objects.events_in_order())
        return list(self.bowl.events.all())

    @cached_property
    def events(self) -> list[Event]:
        """What was done with it, as the core reads it."""
        return core_events(self.bowl, self.rows, self.stock, self.known.only(FLOW))

    @cached_property
    def now(self) -> BowlState:
        """What is in it now, and how it is."""
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
        """The layers it is for."""
        return [use.layer for use in self.bowl.uses.all()]

    @property
    def title(self) -> str:
        """Its name, and what it is for."""
        return title_says(self.bowl.name, ((layer.piece.count, layer.piece.name) for layer in self.layers))

    @cached_property
    def reckoned(self) -> ReckonedBowl | None:
        """What its job says of it; None for a bowl of no job."""
        mine = {str(use.layer_id) for use in self.bowl.uses.all()}
        if self.bowl.job_id is None or not mine:
            return None
        tone = str(self.bowl.colour_id or ""), self.bowl.base.code if self.bowl.base else ""
        bowls = reckoned_at(self.bowl.job_id, self.kitchen).bowls
        return max(
            (b for b in bowls if mine & set(b.layers)),
            default=None,
            key=lambda b: ((b.colour, b.base) == tone, len(mine & set(b.layers))),
        )

    @cached_property
    def portion(self) -> Portion | None:
        """What it is of a larger bowl it was taken out of; None for one that was melted."""
        mine = {str(use.layer_id) for use in self.bowl.uses.all()}
        if self.reckoned is None or mine >= set(self.reckoned.layers):
            return None
        return next((p for p in self.reckoned.portions if not p.whole and mine == set(p.layers)), None)

    @property
    def known_since(self) -> list[str]:
        """What became known otherwise since it was begun, as it is called: of what is in it or goes in, but for colours
        that were looked at in it."""
        codes = dict.fromkeys(p.ingredient.name for p in (*self.now.parts, *self.proposal.additions))
        kinds = (FLOW,) if self.now.reading else (STRENGTH, FLOW)
        mine = {LOSS, *(f"{kind}.{code}" for code in codes for kind in kinds)}
        since = otherwise(self.known, self.stock.factors(self.kitchen).only(STRENGTH, FLOW, LOSS))
        return [called for name in since if name in mine and (called := thing_called(name, self.stock.titles))]

    @property
    def made_g(self) -> float:
        """What of it ends up on the pieces, as its job says."""
        if self.reckoned is None:
            return 0.0
        mine = {str(use.layer_id) for use in self.bowl.uses.all()} if self.portion else set(self.reckoned.layers)
        if self.now.given_g:
            others = Bowl.objects.filter(job=self.bowl.job_id, technique__in=[p.window for p, _ in self.portions])
            mine -= {str(pk) for pk in others.exclude(pk=self.bowl.pk).values_list("uses__layer", flat=True)}
        return sum(line.made_g for line in self.reckoned.lines if line.layer in mine)

    @property
    def line(self) -> ReckonedLine | None:
        """The line of its first layer, as its job says it."""
        first = str(self.layers[0].pk) if self.layers else ""
        return next((la for la in self.reckoned.lines if la.layer == first), None) if self.reckoned else None

    @property
    def is_for_drips(self) -> bool:
        """Whether it is for drips of a cake, before all else."""
        return bool(self.layers) and self.layers[0].technique == "cake_drip"

    @property
    def coat_mm(self) -> float | None:
        """How thick what is made from it comes out."""
        return self.line.thickness_mm if self.line else None

    @property
    def one_g(self) -> float | None:
        """What goes on one piece of its first layer."""
        return self.line.on_one_g if self.line else None

    @property
    def portions(self) -> list[tuple[Portion, str]]:
        """What is taken out of it and thinned, with what for."""
        words = {str(la.pk): technique(la.technique).title.lower() for la in self.layers}
        if self.reckoned is None or self.portion:
            return []
        portions = [(p, listed([words[n] for n in p.layers if n in words])) for p in self.reckoned.portions]
        return [(p, what) for p, what in portions if what and not p.whole]

    @cached_property
    def cupboard(self) -> Cupboard:
        """What may go in."""
        strengths = {f"{STRENGTH}.{code}": Factor(times) for code, times in self.now.strengths}
        known = Factors({**self.known.of, **strengths}, self.known.tight)
        cupboard = self.stock.cupboard(self.bowl.white, self.kitchen, factors=known)
        return with_rests(cupboard, self.bowl.white, self.kitchen, self.stock) if self.now.empty else cupboard

    @cached_property
    def melt_g(self) -> float:
        """What to melt, g; without a scale, up to the next amount that can be measured."""
        suiting = plain_base(self.cupboard, self.bowl.white)
        code = self.base.name if self.base else suiting[0].name if suiting else ""
        row = next((r for r in self.stock.rows if r.code == code), None)
        core = self.stock.cores.get(row.pk) if row else None
        if anew_g := self.bowl.colours.get("anew_g"):
            return float(anew_g)  # in place of one that was lost
        if self.reckoned is not None:
            return self.portion.mass_g if self.portion else self.reckoned.melt_g
        wanted_g = self.bowl.colours.get("melt_g") or DEFAULT_MELT_G
        family, piece_g = (core.family, core.piece_g) if core else ("palm", 0.0)
        return measurable_g(wanted_g, self.kitchen.measures, family=family, piece_g=piece_g)

    @cached_property
    def base(self) -> CoreIngredient | None:
        """The bag that it is of as bought."""
        core = self.stock.cores.get(self.bowl.base_id or 0)
        return self.known.ingredient(core) if core else None

    @property
    def target_lab(self) -> tuple[float, float, float] | None:
        """The colour it shall have, or None."""
        return self.bowl.colour.lab if self.bowl.colour else None

    @cached_property
    def wish(self) -> Wish:
        """What is asked of it, as the core takes it."""
        left_g = max(0.0, self.melt_g - self.now.used_g)
        made = kept_parts(self.bowl.colour, self.stock) if self.bowl.colour else ()
        return Wish(
            self.target_lab, self.window, self.bowl.white, left_g, colour_way(self.bowl.colours), self.base, made
        )

    @cached_property
    def proposal(self) -> Proposal:
        """The next step; `kind` "nothing" with the reason when the cupboard cannot."""
        try:
            return propose(self.now, self.wish, self.cupboard)
        except CoatingError:
            return Proposal("no_base")
