"""What a kitchen has learned: fitted from its records, kept until they change, and what of it may be used."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from coating.learning import Fitted, Together, fit
from coating.learning.factors import Factor
from coating.learning.names import DROP, bottle
from coating.learning.speaking import is_worth_saying, may_be_used
from studio.accounts.models import Kitchen
from studio.cupboard.stock import Stock
from studio.learned.models import Said
from studio.learned.records import Noted, noted_in


@dataclass(frozen=True)
class TaughtColour:
    """A colour of which something is known: its product of drop and strength with its range, the records of its bottle
    and which of them looked odd, and whether it is used."""

    code: str
    name: str
    product: Together
    noted: tuple[Noted, ...]
    says: Mapping[str, float]
    odd: frozenset[str]
    by_label: bool
    alone: bool

    @property
    def bowls(self) -> int:
        """How many bowls speak for it."""
        return len({n.record.bowl for n in self.noted if not n.record.struck})

    @property
    def said(self) -> bool:
        """Whether there is something to say."""
        return is_worth_saying(self.product, self.bowls)

    @property
    def too_far(self) -> bool:
        """Whether it is so far off, or its records so odd, that it is shown and not used."""
        live = sum(not n.record.struck for n in self.noted)
        return self.said and not may_be_used(self.product, len(self.odd), live)

    @property
    def used(self) -> bool:
        """Whether recipes go by it."""
        return self.said and not self.by_label and not self.too_far


@dataclass(frozen=True)
class Learnt:
    """All of it: each colour by its code, everything that was noted, and the fit."""

    strengths: Mapping[str, TaughtColour]
    noted: tuple[Noted, ...]
    fitted: Fitted


def learnt(kitchen: Kitchen, stock: Stock) -> Learnt:
    """What a kitchen has learned so far, from all of its records."""
    said = list(Said.objects.for_kitchen(kitchen))
    noted = tuple(noted_in(kitchen, stock, said))
    codes = {r.code: r for r in stock.rows if stock.cores[r.pk].is_colourant}
    bottles = {code: f"strength.{bottle(code, 1 + _new_bottles(code, said))}" for code in codes}
    live = {name for n in noted if not n.record.struck for name in n.record.names()}
    wanted = [
        ((DROP, name) if stock.cores[codes[code].pk].counted_in_drops else (name,))
        for code, name in bottles.items()
        if name in live
    ]
    fitted = fit([n.record for n in noted], together=wanted)
    by_name = {one.name: one for one in fitted.learned}
    strengths = {}
    for code, name in bottles.items():
        product = next((t for t in fitted.together if t.names[-1] == name), None)
        if product is None:
            continue
        mine = tuple(n for n in noted if name in n.record.names())
        last = next((s.word for s in reversed(said) if s.name == f"strength.{code}" and s.word in _USES), Said.USE)
        learned = by_name[name]
        drop = fitted.factors.get(DROP, 1.0) if len(product.names) > 1 else 1.0
        strengths[code] = TaughtColour(
            code,
            codes[code].name,
            product,
            mine,
            {name: factor * drop for name, factor in learned.says},
            frozenset(learned.odd),
            last == Said.LABEL,
            learned.alone,
        )
    return Learnt(strengths, noted, fitted)


def _new_bottles(code: str, said: Sequence[Said]) -> int:
    """How often a new bottle of a colour was begun."""
    return sum(s.word == Said.NEW_BOTTLE and s.name == f"strength.{code}" for s in said)


_USES = (Said.LABEL, Said.USE)


def strengths_in_use(kitchen: Kitchen, stock: Stock) -> Mapping[str, Factor]:
    """How many times as strong as its label each colour is taken to be, with its range, by its code."""
    products = {code: one.product for code, one in learnt(kitchen, stock).strengths.items() if one.used}
    return {code: Factor(p.factor, p.low, p.high) for code, p in products.items()}
