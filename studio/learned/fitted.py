"""What a kitchen has learned: fitted from its records, kept until they change, and what of it may be used."""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import Any

from cachetools import LRUCache

from coating.learning import Fitted, Together, fit
from coating.learning.drift import Drift, changed_of_late
from coating.learning.factors import LEAST, MOST, Factor, Factors
from coating.learning.names import COAT, DROP, FLOW, HOLE, LOSS, PACE, SET, STRENGTH, bottle, kind_of
from coating.learning.speaking import agree, is_asked_first, is_enough, is_worth_saying, may_be_used, tighter_load
from studio.accounts.models import Kitchen
from studio.common.measures import current
from studio.cupboard.stock import Stock
from studio.learned.models import Said
from studio.learned.records import Noted, noted_in
from studio.learned.records.noted import DAY_S, Words
from studio.learned.records.of_drops import weighed_in
from studio.pieces.known_says import thing_called


@dataclass(frozen=True)
class Taught:
    """One thing of which something is known.

    `product` is how many times what is assumed it is, with its range, together with whatever its records cannot tell
    from it and no room goes by alone: of a colour drop and strength, of a coat how its bag flows. `noted` are the
    records that speak for it, `says` what each alone would have it be, by its id, `odd` those that do not fit. `word`
    is the last that its maker said: its label's value, or what was learned. `alone`: whether it is known by itself.
    `measured`: its maker measured it, and that is used. `before`: it is of the bottle before, and nothing is known of
    the one that is open. `drift`: where the last bowls say otherwise than those before,
    and nobody said why.
    """

    name: str
    title: str
    product: Together
    noted: tuple[Noted, ...]
    says: Mapping[str, float]
    odd: frozenset[str]
    word: str
    alone: bool
    measured: bool = False
    before: bool = False
    drift: Drift | None = None

    @property
    def kind(self) -> str:
        """What sort of thing it is."""
        return kind_of(self.name)

    @property
    def live(self) -> list[Noted]:
        """The records that count."""
        return [n for n in self.noted if not n.record.struck]

    @property
    def bowls(self) -> int:
        """How many bowls speak for it."""
        return len({n.record.bowl for n in self.live})

    @property
    def said(self) -> bool:
        """Whether there is something to say."""
        return is_worth_saying(self.product, self.bowls)

    @property
    def too_far(self) -> bool:
        """Whether it is so far off, or its records so odd, that it is shown and not used."""
        return self.said and not may_be_used(self.product, len(self.odd), len(self.live))

    @property
    def disagree(self) -> bool:
        """Whether too many of its records do not fit."""
        return not agree(len(self.odd), len(self.live))

    @property
    def by_label(self) -> bool:
        """Whether its maker wants the label's value."""
        return self.word == Said.LABEL

    @property
    def too_few(self) -> bool:
        """Whether too few jobs say that less will do."""
        return self.said and not is_enough(self.kind, self.product.factor, self.bowls)

    @property
    def asks(self) -> bool:
        """Whether its maker is asked before it is used."""
        open_yet = self.said and not (self.too_far or self.too_few or self.word or self.measured or self.before)
        return open_yet and is_asked_first(self.kind, self.product.factor)

    @property
    def used(self) -> bool:
        """Whether rooms go by it."""
        left = self.by_label or self.measured or self.before or self.too_far or self.too_few
        return self.said and not left and not self.asks


@dataclass(frozen=True)
class Learnt:
    """All of it: each thing by its name, everything that was noted, and the fit."""

    things: Mapping[str, Taught]
    noted: tuple[Noted, ...]
    fitted: Fitted


_kept: LRUCache[Any, Learnt] = LRUCache(32)


def learnt_last(kitchen: Kitchen, stock: Stock) -> Learnt:
    """The same, kept until the cupboard's version says that something was learned since."""
    key = kitchen.pk, kitchen.created_at, kitchen.cupboard_version, current(), kitchen.room_c
    if key not in _kept:
        _kept[key] = learnt(kitchen, stock)
    return _kept[key]


def learnt(kitchen: Kitchen, stock: Stock) -> Learnt:
    """What a kitchen has learned so far, from all of its records."""
    words = Words(list(Said.objects.for_kitchen(kitchen)))
    noted = tuple(noted_in(kitchen, stock, words.said))
    live = {name for n in noted if not n.record.struck for name in n.record.names()}
    weighed = weighed_in(stock)
    now = {name: (of, drops) for name, of, drops in _named(live, stock, words, weighed)}
    open_now = {f"{STRENGTH}.{words.bottle_of(code)}" for code in stock.titles}
    fitted = fit([n.record for n in noted], together=[])
    by_name = {one.name: one for one in fitted.learned}
    titles = stock.titles
    things: dict[str, Taught] = {}
    for name in sorted(now, key=lambda one: _ORDER.index(kind_of(one))):
        of, drops = now[name]
        learned, mine = by_name[of], tuple(n for n in noted if of in n.record.names())
        untold = [(o, p) for o, p in learned.along if kind_of(o) in _BESIDE.get(kind_of(name), ())]
        others = {DROP: 1.0} if drops else {o: p for o, p in untold if not (o in things and things[o].used)}
        product = fitted.product({of: 1.0, **others})
        beside = math.exp(
            sum(power * math.log(fitted.factors[o]) for o, power in others.items() if o in fitted.factors)
        )
        says = {record: factor * beside for record, factor in learned.says}
        word = words.last(name, Said.LABEL, Said.USE)
        things[name] = Taught(
            name,
            _capital(thing_called(name, titles)),
            product,
            mine,
            says,
            frozenset(learned.odd),
            word.word if word else "",
            learned.alone,
            name in stock.measured,
            kind_of(of) == STRENGTH and of not in open_now,
            _drift(name, mine, says, words),
        )
    return Learnt(things, noted, fitted)


_ORDER = (DROP, STRENGTH, FLOW, HOLE, COAT, SET, LOSS, PACE)  # what is known by itself before what goes with it
_BESIDE = {COAT: (FLOW,), SET: (COAT, FLOW)}  # what the records of one cannot tell from it


def _named(live: set[str], stock: Stock, words: Words, weighed: frozenset[str]) -> Iterator[tuple[str, str, bool]]:
    """Each thing that records speak for: its name, that of its present bottle, and whether drops have a part in it."""
    for row in stock.rows:
        core = stock.cores[row.pk]
        number = words.number_of(row.code)
        bottles = [f"{STRENGTH}.{bottle(row.code, n)}" for n in range(number, max(0, number - 2), -1)]
        of = next((b for b in bottles if b in live), "") if core.is_colourant else f"{FLOW}.{row.code}"
        if of in live:
            drops = core.is_colourant and core.counted_in_drops and row.code not in weighed
            yield f"{of.partition('.')[0]}.{row.code}", of, drops
    for name in sorted(live):
        if kind_of(name) not in (STRENGTH, FLOW):
            yield name, name, False


def _capital(words: str) -> str:
    return words[:1].upper() + words[1:]


def _drift(name: str, mine: tuple[Noted, ...], says: Mapping[str, float], words: Words) -> Drift | None:
    live = [n for n in mine if not n.record.struck and n.record.id in says]
    drift = changed_of_late((n.record.bowl, n.record.day, says[n.record.id]) for n in live)
    answered = words.last(name, Said.SAME_BOTTLE)
    if drift is None or (answered is not None and answered.at.timestamp() / DAY_S >= drift.since):
        return None
    return drift


def in_use(kitchen: Kitchen, stock: Stock) -> Factors:
    """What was learned and is used, as rooms go by it.

    What a drop of a colour does is known as one product, which stands as its strength; a colour that was never used
    goes by the drops alone. The mass of a drop itself only tightens what colours may be dosed with, at once.
    """
    things = learnt(kitchen, stock).things
    of = {name: _factor(one.product) for name, one in things.items() if one.used and one.kind != DROP}
    drop = things.get(DROP)
    if drop is None or drop.by_label:
        return Factors(of)
    weighed = weighed_in(stock)
    if drop.used:
        for row in stock.rows:
            core, name = stock.cores[row.pk], f"{STRENGTH}.{row.code}"
            unknown = name not in things or things[name].before
            if core.is_colourant and core.counted_in_drops and row.code not in weighed and unknown:
                of[name] = _factor(drop.product)
    return Factors(of, tight=tighter_load(_factor(drop.product)))


def _factor(product: Together) -> Factor:
    return Factor(min(MOST, max(LEAST, product.factor)), product.low, product.high)
