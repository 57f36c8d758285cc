"""plan.schedule."""

from __future__ import annotations

import math
from typing import Any

from coating.facade.fields import Choice, ListOf, Named, Number, Record, Text
from coating.facade.registry import Entry

_STEP = Record(
    {
        "id": Text(),
        "duration_s": Number("duration_s"),
        "uses": Named(Number("places", whole=True), 12, None),
        "bowl": Text(default=None),
        "by": ListOf(Text(), None, 12),
    }
)
_LAG = Record(
    {
        "before": Text(),
        "after": Text(),
        "min_s": Number("wait_s", 0.0),
        "max_s": Number("wait_s", None),
        "from": Choice(("end", "start"), "end"),
    }
)
_BOWL = Record(
    {
        "heat_s": Number("duration_s"),
        "heat_resource": Text(),
        "stir_s": Number("duration_s"),
        "life_s": Number("duration_s"),
        "lightness": Number("lab_lightness", None),
    }
)
_HOLD = Record({"resource": Text(), "steps": ListOf(Text(), most=60), "places": Number("places", 1, whole=True)})
_NIGHT = Record({"from_s": Number("wait_s"), "until_s": Number("wait_s")})


def _up(seconds: float) -> int:
    return math.ceil(seconds - 1e-9)


def _schedule(given: dict[str, Any]) -> dict[str, Any]:
    from coating.plan.day import Day, DayBowl, DayStep, Hold, Lag, solve
    from coating.plan.day.likely import makespan_range

    steps = tuple(
        DayStep(
            s["id"],
            _up(s["duration_s"]),
            {name: int(n) for name, n in (s["uses"] or {}).items()},
            s["bowl"],
            tuple(s["by"] or ()),
        )
        for s in given["steps"]
    )
    lags = tuple(
        Lag(
            la["before"],
            la["after"],
            _up(la["min_s"]),
            None if la["max_s"] is None else int(la["max_s"]),
            la["from"] == "start",
        )
        for la in given["lags"]
    )
    bowls = {
        name: DayBowl(_up(b["heat_s"]), b["heat_resource"], _up(b["stir_s"]), int(b["life_s"]), b["lightness"])
        for name, b in (given["bowls"] or {}).items()
    }
    deadline = given["deadline_min"]
    holds = tuple(Hold(h["resource"], tuple(h["steps"]), int(h["places"])) for h in given["holds"] or ())
    nights = tuple((int(n["from_s"]), _up(n["until_s"])) for n in given["nights"] or ())
    day = Day(
        steps,
        lags,
        {name: int(n) for name, n in given["resources"].items()},
        bowls,
        None if deadline is None else int(deadline * 60),
        holds,
        nights,
    )
    plan = solve(day, time_limit_s=given["time_limit_s"])
    ends = makespan_range(day, plan)
    return {
        "starts_s": dict(plan.starts_s),
        "melts": [{"bowl": m.bowl, "start_s": m.start_s} for m in plan.melts],
        "makespan_s": plan.makespan_s,
        "low_makespan_s": ends[0] if ends else None,
        "high_makespan_s": ends[1] if ends else None,
        "bound_s": plan.bound_s,
        "optimal": plan.optimal,
        "by": dict(plan.by),
    }


ENTRIES = (
    Entry(
        "plan.schedule",
        "when to do what: steps, waits, hands, heat, bowls that cool, places that are few",
        Record(
            {
                "steps": ListOf(_STEP, most=400),
                "lags": ListOf(_LAG, most=2000),
                "resources": Named(Number("places", whole=True)),
                "bowls": Named(_BOWL, 40, None),
                "deadline_min": Number("deadline_min", None),
                "time_limit_s": Number("solve_s", 10.0),
                "holds": ListOf(_HOLD, None, 200),
                "nights": ListOf(_NIGHT, None, 30),
            }
        ),
        _schedule,
    ),
)
