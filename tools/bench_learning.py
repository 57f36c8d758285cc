"""How quick a kitchen's records are fitted anew: a thousand of them, readings of colours and numbers of all kinds."""

from __future__ import annotations

import random
from dataclasses import replace

from tools.bench_timing import Report, median, took

FITTED_MS, RECORDS = 150.0, 1000


def measure_learning(report: Report) -> None:
    """A drawn kitchen's evenings, so many that they come to a thousand records; a record differs each time."""
    from coating.learning import Observation, fit
    from tests.coating.learning.drawn import evening, truth

    draw = random.Random(5)
    true = truth(draw)
    records = list[Observation]()
    while len(records) < RECORDS:
        records += evening(draw, true, len(records))
    records = records[:RECORDS]
    fit(records)
    taken = []
    for more in range(7):
        one = replace(records[0], day=float(more))
        taken.append(took(fit, [one, *records[1:]]))
    report.time("fit_of_1000_records_median", median(taken), FITTED_MS)
