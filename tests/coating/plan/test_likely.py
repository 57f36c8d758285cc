"""The range of a day holds what a kitchen with other hands and other coats really takes."""

from __future__ import annotations

from unittest import TestCase

import numpy as np

from coating.plan.day import HANDS, Day, DayBowl, DayStep, Lag
from coating.plan.day.follow import follow, tightened
from coating.plan.day.greedy import best_of
from coating.plan.day.likely import makespan_range, slower
from coating.plan.day.network import Stuck
from coating.plan.day.plan import Plan


def day_of(draw: np.random.Generator) -> Day:
    """Rounds from two bowls: melted, coloured, dipped, set, decorated."""
    steps, lags = list[DayStep](), list[Lag]()
    bowls = {name: DayBowl(240, "heat", 60, 1500, 80.0) for name in ("a", "b")}
    for i in range(int(draw.integers(2, 7))):
        bowl = "a" if i % 2 else "b"
        steps += [
            DayStep(f"dip{i}", int(draw.integers(120, 700)), {HANDS: 1}, bowl),
            DayStep(f"line{i}", int(draw.integers(60, 600)), {HANDS: 1}, None),
        ]
        lags.append(Lag(f"dip{i}", f"line{i}", int(draw.integers(300, 1500)), None))
    return Day(tuple(steps), tuple(lags), {HANDS: 1, "heat": 1}, bowls)


def plan_of(day: Day) -> Plan:
    first = best_of(day)
    assert first
    return tightened(day, first[0].plan(first[1]))


class Likely(TestCase):
    def test_nine_in_ten_days_end_within_it(self) -> None:
        draw, held, count = np.random.default_rng(20261130), 0, 0
        for _ in range(40):
            day = day_of(draw)
            plan = plan_of(day)
            ends = makespan_range(day, plan)
            assert ends
            for _ in range(10):
                hands, waits = np.exp(draw.normal(0, 0.35)), np.exp(draw.normal(0, 0.28))
                took = follow(slower(day, hands=hands, waits=waits), plan.starts_s, plan.melts, by=plan.by)
                if not isinstance(took, Stuck):
                    count, held = count + 1, held + (ends[0] <= took.makespan_s <= ends[1])
        self.assertGreater(count, 300)
        self.assertTrue(0.85 <= held / count <= 0.97, held / count)

    def test_what_is_known_narrows_it_and_nights_have_none(self) -> None:
        day = day_of(np.random.default_rng(1))
        plan = plan_of(day)
        wide, narrow = makespan_range(day, plan), makespan_range(day, plan, pace_sd=0.05, waits_sd=0.05)
        assert wide and narrow
        self.assertTrue(wide[0] < narrow[0] < plan.makespan_s < narrow[1] < wide[1])
        self.assertEqual(makespan_range(day, plan, pace_sd=0.0, waits_sd=0.0), (plan.makespan_s, plan.makespan_s))
        nights = Day(day.steps, day.lags, day.resources, day.bowls, closed=((40000, 80000),))
        self.assertIsNone(makespan_range(nights, plan))
