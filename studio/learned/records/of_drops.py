"""Drops that were weighed: what they should have weighed by the value before."""

from __future__ import annotations

from collections.abc import Iterable

from django.urls import reverse

from coating.learning import Observation
from coating.learning.names import DROP
from studio.cupboard.measure import TWENTY
from studio.cupboard.stock import Stock
from studio.learned.records.noted import Known, Noted, day_of

WEIGHED = "drop_g"


def weighed_in(stock: Stock) -> frozenset[str]:
    """Of what a drop was weighed, by code."""
    return frozenset(row.code for row in stock.rows if row.measured(WEIGHED) is not None)


def of_drops(known: Known) -> Iterable[Noted]:
    """One record for each time twenty drops were weighed of what had an assumed drop before."""
    for row in known.stock.rows:
        values = row.history().get(WEIGHED, [])
        assumed = [p.value for p in values if p.provenance != "measured"]
        if not assumed:
            continue
        for p in values:
            if p.provenance != "measured" or known.words.is_forgotten(DROP, p.since):
                continue
            record = Observation(
                f"drops-{p.pk}",
                "drops",
                f"drops-{row.pk}",
                day_of(p.since),
                value=TWENTY * p.value,
                given={"expected_g": TWENTY * assumed[-1]},
            )
            says = f"20 drops weighed {TWENTY * p.value:.2f} g"
            yield Noted(record, f"drops-{p.pk}", says, row.name, reverse("cupboard:edit", args=[row.pk]), p.since)
