"""How much is left of what the maker said there is, and of bowls before."""

from __future__ import annotations

from dataclasses import replace
from typing import TYPE_CHECKING, Any

from django.utils import timezone

from coating.colour.mixing import Part
from coating.plan.leftovers import LEAST_G
from coating.plan.proposal import Cupboard
from studio.accounts.models import Kitchen
from studio.bowls.models import BowlEvent
from studio.common import clock

if TYPE_CHECKING:
    from studio.cupboard.stock import Stock


def stock_left_g(kitchen: Any, stock: Stock) -> dict[str, float]:
    """What is left of what the maker said there is, g by code: less what went into bowls since."""
    said = {row.pk: (row, row.current()["stock_g"]) for row in stock.rows if "stock_g" in row.current()}
    left = {row.code: parameter.value for row, parameter in said.values()}
    if not said:
        return left
    since = min(p.since for _, p in said.values())
    events = BowlEvent.objects.for_kitchen(kitchen).filter(kind="added", struck_by=None, happened_at__gt=since)
    for payload, at in events.values_list("payload", "happened_at"):
        known = said.get(payload["ingredient"])
        if known and at > known[1].since:
            row = known[0]
            used = payload["mass_g"] if "mass_g" in payload else payload["units"] * stock.cores[row.pk].unit_g
            left[row.code] = max(0.0, left[row.code] - used)
    return left


def with_rests(cupboard: Cupboard, white: str, kitchen: Kitchen, stock: Stock) -> Cupboard:
    """A cupboard with what is left of bowls before, of that white, the oldest first; no query where there is none."""
    family = "palm" if white == "coating" else "cocoa"
    today = timezone.localtime(clock.now()).date()
    rows = [r for r in stock.rows if r.made_on and r.keep_until and r.keep_until >= today]
    rows = [r for r in rows if r.ticked and not r.put_away and r.family == family]
    if not rows:
        return cupboard
    left = stock_left_g(kitchen, stock)
    rests = [Part(stock.cores[r.pk], left.get(r.code, 0.0)) for r in sorted(rows, key=lambda r: (r.made_on, r.pk))]
    return replace(cupboard, rests=tuple(p for p in rests if p.mass_g >= LEAST_G))
