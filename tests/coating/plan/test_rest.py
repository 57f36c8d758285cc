"""What is left of a day: waits that run count on, the order stays, a missed window moves what hangs on it and no
more."""

from __future__ import annotations

from unittest import TestCase

from coating.plan.day import HANDS, Day, DayBowl, DayStep, Hold, Lag, solve
from coating.plan.day.rest import rest_of
from tests.coating.plan.day_checks import broken
from tests.coating.plan.test_day import random_day

HANDS_ONLY = {HANDS: 1}


class Left(TestCase):
    def test_a_wait_that_runs(self) -> None:
        """Spread at 0 to 60 s, bend 600 to 1200 s after: at 300 s there are 360 s left to wait, at 900 s none."""
        steps = (DayStep("spread", 60, HANDS_ONLY), DayStep("bend", 60, HANDS_ONLY))
        day = Day(steps, (Lag("spread", "bend", 600, 1200),), HANDS_ONLY)
        planned = {"spread": 0, "bend": 660}
        for now, start in ((300, 360), (900, 0)):
            rest = rest_of(day, planned, {"spread": 60.0}, {}, now)
            assert rest is not None
            self.assertEqual((rest.plan.starts_s, rest.late_s), ({"bend": start}, 0))
        late = rest_of(day, planned, {"spread": 60.0}, {}, 2000)
        assert late is not None
        self.assertEqual(late.plan.starts_s, {"bend": 0})
        self.assertIsNone(rest_of(day, planned, {"spread": 60.0, "bend": 700.0}, {}, 800))

    def test_a_bowl_that_is_warm_is_not_melted_again(self) -> None:
        bowl = {"blue": DayBowl(120, "heat", 30, 900)}
        steps = tuple(DayStep(f"dip {i}", 300, HANDS_ONLY, "blue") for i in range(2))
        day = Day(steps, (), {HANDS: 1, "heat": 1}, bowl)
        planned = {"dip 0": 150, "dip 1": 450}
        warm = rest_of(day, planned, {"dip 0": 450.0}, {"blue": 150.0}, 460)
        cold = rest_of(day, planned, {"dip 0": 450.0}, {"blue": 150.0}, 1200)
        assert warm is not None and cold is not None
        self.assertEqual((len(warm.plan.melts), warm.plan.starts_s["dip 1"]), (0, 0))
        self.assertEqual((len(cold.plan.melts), cold.plan.starts_s["dip 1"]), (1, 150))

    def test_nothing_done_keeps_the_order_and_every_rule(self) -> None:
        for seed in range(12):
            day = random_day(seed)
            plan = solve(day, time_limit_s=1.0)
            rest = rest_of(day, plan.starts_s, {}, {}, 0.0, melts=plan.melts, by=plan.by, closed=day.closed)
            assert rest is not None
            self.assertEqual(broken(day, rest.plan.starts_s, rest.plan.melts, rest.plan.by), [], seed)
            hands = [s.name for s in day.steps if s.handled]
            first = min(hands, key=lambda n: plan.starts_s[n])
            self.assertEqual(min(hands, key=lambda n: rest.plan.starts_s[n]), first, seed)
            self.assertLessEqual(rest.plan.makespan_s, plan.makespan_s)

    def test_half_done_takes_half_as_long_and_what_is_held_stays_held(self) -> None:
        """Dip 100 s, of which 40 are left, then it stands for 200 s on the only stand: the next dip begins at 240 s."""
        steps = (DayStep("dip 1", 100, HANDS_ONLY), DayStep("stands 1", 200), DayStep("dip 2", 100, HANDS_ONLY))
        day = Day(
            steps,
            (Lag("dip 1", "stands 1", 0, 0),),
            {HANDS: 1, "stand": 1},
            holds=(Hold("stand", ("dip 1", "stands 1")), Hold("stand", ("dip 2",))),
        )
        planned = {"dip 1": 0, "stands 1": 100, "dip 2": 300}
        rest = rest_of(day, planned, {}, {}, 60.0, left_s={"dip 1": 40.0})
        assert rest is not None
        self.assertEqual(rest.plan.starts_s, {"dip 1": 0, "stands 1": 40, "dip 2": 240})
        later = rest_of(day, planned, {"dip 1": 100.0}, {}, 150.0)
        assert later is not None
        self.assertEqual((later.plan.starts_s["dip 2"], later.late_s), (200, 0))
        night = rest_of(day, planned, {"dip 1": 0.0, "stands 1": 0.0}, {}, 0.0, closed=((60, 600),))
        assert night is not None
        self.assertEqual(night.plan.starts_s, {"dip 2": 600})
