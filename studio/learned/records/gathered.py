"""All records of a kitchen, from wherever they come."""

from __future__ import annotations

from collections.abc import Sequence

from coating.learning.fit import MOST_RECORDS
from studio.accounts.models import Kitchen
from studio.cupboard.stock import Stock
from studio.learned.models import Said
from studio.learned.records.noted import Known, Noted, Words
from studio.learned.records.of_benches import of_benches
from studio.learned.records.of_bowls import of_bowls
from studio.learned.records.of_drops import of_drops, weighed_in
from studio.learned.records.of_timers import of_timers


def noted_in(kitchen: Kitchen, stock: Stock, said: Sequence[Said]) -> list[Noted]:
    """All records of a kitchen that count, oldest first; the newest of them where there are more than a fit takes."""
    words = Words(said)
    tested = {row.code: p.since for row in stock.rows if (p := row.measured("number")) is not None}
    known = Known(stock, words, kitchen.has_thermometer, kitchen.room_c, weighed_in(stock), tested)
    noted = [
        *of_bowls(kitchen, known),
        *of_drops(known),
        *of_benches(kitchen, known),
        *of_timers(kitchen, known),
    ]
    return sorted(map(words.heard, noted), key=lambda one: (one.at, one.record.id))[-MOST_RECORDS:]
