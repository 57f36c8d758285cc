"""How good a plan of a day is in its time: fixed days of sixty and a hundred and fifty steps, every rule checked."""

from __future__ import annotations

import json
from pathlib import Path

from tools.bench_timing import Report, took

FOLDER = Path(__file__).parent.parent / "tests" / "coating" / "plan" / "days"
DAYS = (("sixty-one", 10.0, 115.5), ("sixty-two", 10.0, 115.5), ("hundred-and-fifty", 30.0, 300.0))
AT_ONCE_MS = 1000.0


def measure_days(report: Report) -> None:
    """Minutes of each day, planned in its seconds; and how long an order takes without solving."""
    from coating.plan.day import solve
    from coating.plan.day.greedy import Greedy
    from coating.plan.day.plan import one_by_one_s
    from tests.coating.plan.day_checks import broken, read_day

    for name, seconds, target_min in DAYS:
        day = read_day(json.loads((FOLDER / f"{name}.json").read_text()))
        report.time(f"order_at_once_{name}", took(Greedy(day).run, None), AT_ONCE_MS)
        plan = solve(day, time_limit_s=seconds)
        assert not broken(day, plan.starts_s, plan.melts), name
        report.line(f"day_{name}_in_{seconds:.0f}_s", plan.makespan_s / 60, "min", target_min)
        alone = one_by_one_s(day) / 60
        print(f"day_{name}_one_by_one {alone:.4g} min - -  bound {plan.bound_s / 60:.4g} min")
