"""An order that is followed: as early as the waits let it, no rule broken, circles named; and steps moved by hand."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import suppress
from dataclasses import replace
from unittest import TestCase

from scipy.optimize import linprog

from coating.errors import CoatingError, Infeasible
from coating.plan.day import HANDS, Day, DayBowl, DayStep, Lag, Melt, Plan, solve
from coating.plan.day.again import once_more
from coating.plan.day.follow import WINDOW, follow
from coating.plan.day.move import moved
from coating.plan.day.network import Stuck
from tests.coating.plan.day_checks import broken
from tests.coating.plan.test_day import pairs, random_day

HANDS_ONLY = {HANDS: 1}


def planned_days(count: int, seconds: float) -> Iterator[tuple[int, Day, Plan]]:
    """Random days that can be done, with a plan found in a hurry."""
    for seed in range(count):
        day = random_day(seed)
        with suppress(Infeasible):
            yield seed, day, solve(day, time_limit_s=seconds, seed=seed)


class Orders(TestCase):
    def test_earliest_starts_are_those_of_a_linear_program(self) -> None:
        """Three pairs in the order pipe pipe pipe wrap wrap wrap of short pipes: differences only, so scipy's optimum
        of the sum of starts is the same."""
        names = ["pipe 0", "pipe 1", "wrap 0", "wrap 1"]
        steps = tuple(DayStep(n, 30, HANDS_ONLY) for n in names)
        day = Day(steps, tuple(Lag(f"pipe {i}", f"wrap {i}", 40 + 30 * i, 90) for i in range(2)), HANDS_ONLY)
        followed_plan = follow(day, {n: float(i) for i, n in enumerate(names)}, ())
        assert not isinstance(followed_plan, Stuck)
        rows, most = [], []
        for before, after, least in ((0, 1, 30), (1, 2, 30), (2, 3, 30), (0, 2, 70), (1, 3, 100)):
            rows.append([(before == k) - (after == k) for k in range(4)])
            most.append(-least)
        for before, after, longest in ((0, 2, 120), (1, 3, 120)):
            rows.append([(after == k) - (before == k) for k in range(4)])
            most.append(longest)
        best = linprog([1] * 4, A_ub=rows, b_ub=most, bounds=(0, None))
        self.assertEqual([followed_plan.starts_s[n] for n in names], [round(x) for x in best.x])

    def test_a_plan_that_is_followed_is_no_longer_and_breaks_no_rule(self) -> None:
        followed = 0
        for seed, day, plan in planned_days(60, 0.5):
            followed_plan = follow(day, plan.starts_s, plan.melts, by=plan.by)
            assert not isinstance(followed_plan, Stuck), seed
            self.assertEqual(broken(day, followed_plan.starts_s, followed_plan.melts, followed_plan.by), [], seed)
            self.assertLessEqual(
                (followed_plan.makespan_s, len(followed_plan.melts)), (plan.makespan_s, len(plan.melts)), seed
            )
            followed += 1
        self.assertGreater(followed, 50)

    def test_a_circle_names_its_window(self) -> None:
        day = Day(
            (DayStep("pipe", 60, HANDS_ONLY), DayStep("rest", 600, HANDS_ONLY), DayStep("wrap", 60, HANDS_ONLY)),
            (Lag("pipe", "wrap", 0, 90),),
            HANDS_ONLY,
        )
        followed_plan = follow(day, {"pipe": 0, "rest": 1, "wrap": 2}, ())
        assert isinstance(followed_plan, Stuck)
        self.assertEqual(sorted({arc.to for arc in followed_plan.arcs}), ["pipe", "rest", "wrap"])
        self.assertIn(WINDOW, {arc.why for arc in followed_plan.arcs})

    def test_a_bowl_is_melted_again_where_it_would_be_cold_and_no_oftener(self) -> None:
        bowl = {"blue": DayBowl(120, "heat", 30, 900)}
        steps = tuple(DayStep(f"dip {i}", 400, HANDS_ONLY, "blue") for i in range(4))
        day = Day(steps, (), {HANDS: 1, "heat": 1}, bowl)
        keys = {f"dip {i}": 150 + 400.0 * i for i in range(4)}
        followed_plan = follow(day, keys, [Melt("blue", 0)])
        assert not isinstance(followed_plan, Stuck)
        self.assertEqual((len(followed_plan.melts), broken(day, followed_plan.starts_s, followed_plan.melts)), (2, []))
        warm = follow(day, keys, (), warm={"blue": -100})
        assert not isinstance(warm, Stuck)
        self.assertEqual(warm.starts_s["dip 0"], 0)
        self.assertEqual(len(warm.melts), 1)


class Spoilt(TestCase):
    def test_what_is_spoilt_is_made_again(self) -> None:
        """Pipe and wrap take 160 s; found spoilt then, and made again, 320 s; a night from 200 to 900 s moves all of
        that behind it."""
        day, parts = pairs(1), {"lace": ["pipe 0", "wrap 0"]}
        plan = solve(day, time_limit_s=5)
        self.assertEqual(once_more(day, plan, parts), {"lace": 320})
        night = replace(day, closed=((200, 900),))
        self.assertEqual(once_more(night, plan, parts), {"lace": 1060})

    def test_random_days_with_one_part_again(self) -> None:
        for seed, day, plan in planned_days(20, 0.3):
            parts = {f"{chain}": [s.name for s in day.steps if s.name.startswith(f"{chain}.")] for chain in range(5)}
            parts = {chain: names for chain, names in parts.items() if names}
            starts = once_more(day, plan, parts)
            self.assertEqual(set(starts), set(parts), seed)
            shut = sum(end - begin for begin, end in day.closed)
            all_s = sum(s.duration_s for s in day.steps) + sum(la.min_s for la in day.lags) + shut + 4 * 150
            self.assertTrue(all(plan.makespan_s <= end <= plan.makespan_s + all_s for end in starts.values()), seed)


class ByHand(TestCase):
    def test_what_a_move_costs(self) -> None:
        """Pipe and wrap, 160 s: pipe half a minute later, and all of it is half a minute later, the wrap with it."""
        day = pairs(1)
        plan = solve(day, time_limit_s=5)
        outcome = moved(day, plan, "pipe 0", 30)
        assert outcome.plan is not None
        self.assertEqual((outcome.costs_s, outcome.along, outcome.plan.starts_s["wrap 0"]), (30, ("wrap 0",), 130))
        early = moved(day, plan, "wrap 0", 0)
        assert early.plan is not None
        self.assertEqual((early.costs_s, early.plan.starts_s["wrap 0"]), (0, 100))
        self.assertEqual((early.why[0].why, early.why[0].of), ("after", "pipe 0"))

    def test_why_not(self) -> None:
        """What comes first cannot come second."""
        day = Day((DayStep("dip", 60, HANDS_ONLY), DayStep("dust", 60, HANDS_ONLY)), (Lag("dip", "dust"),), HANDS_ONLY)
        plan = solve(day, time_limit_s=5)
        outcome = moved(day, plan, "dip", 90)
        self.assertIsNone(outcome.plan)
        self.assertEqual({arc.of for arc in outcome.why}, {"dip", "dust"})

    def test_any_move_keeps_every_rule_or_says_why_not(self) -> None:
        kept = refused = 0
        for seed, day, plan in planned_days(30, 0.3):
            for name in list(plan.starts_s)[:6]:
                for to in (0, plan.starts_s[name] + 300, plan.makespan_s):
                    outcome = moved(day, plan, name, to)
                    if outcome.plan is None:
                        refused += 1
                        self.assertTrue(outcome.why, (seed, name, to))
                        continue
                    kept += 1
                    self.assertEqual(
                        broken(day, outcome.plan.starts_s, outcome.plan.melts, outcome.plan.by), [], (seed, name)
                    )
        self.assertGreater(kept, 200)
        self.assertGreater(refused, 10)

    def test_bad_input(self) -> None:
        day = pairs(1)
        plan = solve(day, time_limit_s=5)
        for step, to in (("fly", 0), ("pipe 0", -5), ("pipe 0", float("nan"))):
            with self.assertRaises(CoatingError):
                moved(day, plan, step, to)  # type: ignore[arg-type]
