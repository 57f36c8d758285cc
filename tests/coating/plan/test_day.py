"""Plans of a day: published job shops, windows by hand, random days against an independent check, conflicts."""

from __future__ import annotations

import random
from dataclasses import replace
from unittest import TestCase

from coating.errors import CoatingError, Infeasible
from coating.plan.day import HANDS, Day, DayBowl, DayStep, Hold, Lag, solve
from coating.plan.day.greedy import Greedy, best_of
from coating.plan.day.plan import one_by_one_s
from coating.plan.day.remedy import Remedy, remedies
from tests.coating.plan.day_checks import broken

# Machine and time of each operation of each job [Fisher & Thompson 1963].
FT06 = (
    ((2, 1), (0, 3), (1, 6), (3, 7), (5, 3), (4, 6)),
    ((1, 8), (2, 5), (4, 10), (5, 10), (0, 10), (3, 4)),
    ((2, 5), (3, 4), (5, 8), (0, 9), (1, 1), (4, 7)),
    ((1, 5), (0, 5), (2, 5), (3, 3), (4, 8), (5, 9)),
    ((2, 9), (1, 3), (4, 5), (5, 4), (0, 3), (3, 1)),
    ((1, 3), (3, 3), (5, 9), (0, 10), (4, 4), (2, 1)),
)


def shop(jobs: tuple[tuple[tuple[int, int], ...], ...]) -> Day:
    steps = [DayStep(f"{i}.{k}", t, {f"m{m}": 1}) for i, job in enumerate(jobs) for k, (m, t) in enumerate(job)]
    lags = [Lag(f"{i}.{k}", f"{i}.{k + 1}") for i, job in enumerate(jobs) for k in range(len(job) - 1)]
    return Day(tuple(steps), tuple(lags), {f"m{m}": 1 for m in range(6)})


def pairs(count: int) -> Day:
    steps = [DayStep(f"{what} {i}", 60, {HANDS: 1}) for i in range(count) for what in ("pipe", "wrap")]
    lags = [Lag(f"pipe {i}", f"wrap {i}", 40, 90) for i in range(count)]
    return Day(tuple(steps), tuple(lags), {HANDS: 1})


def random_day(seed: int) -> Day:
    """Every other one with a helper, stands that are held, bowls light and dark; every third with a night."""
    draw, more = random.Random(seed), random.Random(seed + 1000)
    bowls = {
        f"bowl {k}": DayBowl(120, "microwave", 30, 900, 80.0 - 40 * k if seed % 2 else None, 60, 20) for k in range(2)
    }
    steps, lags, holds = [], [], []
    for chain in range(draw.randint(2, 5)):
        before = ""
        for k in range(draw.randint(1, 4)):
            name, cold = f"{chain}.{k}", draw.random() < 0.25
            uses = {draw.choice(["fridge", "freezer"]): 1} if cold else {HANDS: 1}
            bowl = None if cold or draw.random() < 0.5 else draw.choice(list(bowls))
            long, both = 10 * draw.randint(2, 50), bool(seed % 2) and more.random() < 0.5 and not cold
            steps.append(DayStep(name, long, {} if both else uses, bowl, ("Ana", HANDS) if both else ()))
            if before:
                least = 10 * draw.randint(0, 20)
                most = least + 10 * draw.randint(30, 300) if draw.random() < 0.4 else None
                lags.append(Lag(before, name, least, most, draw.random() < 0.1))
            before = name
        if seed % 2:
            holds.append(Hold("stand", tuple(s.name for s in steps if s.name.startswith(f"{chain}."))))
    there = {HANDS: 1, "microwave": 1, "fridge": 2, "freezer": 1, "Ana": 1, "stand": 1 + seed % 4 // 2}
    nights = ((1200, 6000), (8000, 9000)) if seed % 3 == 0 else ()
    return Day(tuple(steps), tuple(lags), there, bowls, holds=tuple(holds), closed=nights)


class Known(TestCase):
    def test_a_bowl_is_warmed_again_sooner_than_it_is_melted(self) -> None:
        """By hand: 300 + 60 to melt, 100 of work, 80 to warm it again, 100 of work; melted twice it were 920."""
        steps = (DayStep("a", 100, {HANDS: 1}, "blue"), DayStep("b", 100, {HANDS: 1}, "blue"))
        there = {HANDS: 1, "oven": 1}
        for again, seconds in ((60, 20), 640), ((None, None), 920):
            day = Day(steps, (Lag("a", "b"),), there, {"blue": DayBowl(300, "oven", 60, 120, None, *again)})
            greedy, placed = best_of(day) or self.fail()
            for plan in (solve(day, time_limit_s=5), greedy.plan(placed)):
                self.assertEqual(plan.makespan_s, seconds)
                self.assertEqual([m.again for m in plan.melts], [False, True])
                self.assertEqual(broken(day, plan.starts_s, plan.melts), [])
        nights = ((480, 5000),)
        over = solve(
            replace(day, bowls={"blue": DayBowl(300, "oven", 60, 120, None, 60, 20)}, closed=nights), time_limit_s=5
        )
        self.assertEqual(over.makespan_s, 5000 + 460, "what stood for a night is melted anew")

    def test_a_published_job_shop(self) -> None:
        day = shop(FT06)
        plan = solve(day, time_limit_s=20)
        self.assertEqual((plan.makespan_s, plan.bound_s, plan.optimal), (55, 55, True))
        self.assertEqual(broken(day, plan.starts_s, plan.melts), [])

    def test_pipe_and_wrap_by_hand(self) -> None:
        """One pair of hands, wrap 40 to 90 s after piping: 160, 240, 400 s for one, two, three."""
        for count, seconds in ((1, 160), (2, 240), (3, 400)):
            plan = solve(pairs(count), time_limit_s=10)
            self.assertEqual((plan.makespan_s, plan.optimal), (seconds, True))

    def test_a_bowl_that_cools(self) -> None:
        """It stays warm 20 min; three uses of 8 min want two melts."""
        steps = tuple(DayStep(f"dip {i}", 480, {HANDS: 1}, "blue") for i in range(3))
        day = Day(steps, (), {HANDS: 1, "microwave": 1}, {"blue": DayBowl(180, "microwave", 30, 1200)})
        plan = solve(day, time_limit_s=10)
        self.assertEqual(len(plan.melts), 2)
        self.assertEqual(broken(day, plan.starts_s, plan.melts), [])
        self.assertEqual(plan.makespan_s, 2 * 210 + 3 * 480)
        self.assertEqual(one_by_one_s(day), 3 * 480 + 210)


class AnyDay(TestCase):
    def test_random_days_keep_every_rule(self) -> None:
        for seed in range(24):
            day = random_day(seed)
            try:
                plan = solve(day, time_limit_s=1.5, seed=seed)
            except Infeasible as refusal:
                self.assertTrue(refusal.fields["steps"], seed)
                continue
            self.assertEqual(broken(day, plan.starts_s, plan.melts, plan.by), [], seed)
            self.assertLessEqual(plan.bound_s, plan.makespan_s)
            hint = best_of(day)
            if hint is not None:
                self.assertGreaterEqual(hint[0].ends(hint[1]) * day.grain_s, plan.makespan_s if plan.optimal else 0)

    def test_a_helper_a_stand_a_night_and_the_light_bowl_first(self) -> None:
        """By hand: two steps of 60 s, one of which a helper may do, take 60 s; three rounds of 60 s that stand for
        100 s on one stand take 480 s; 60 s do not fit before a night from 50 to 500; the light bowl is melted first."""
        two = (DayStep("dip", 60, {HANDS: 1}), DayStep("sprinkle", 60, {}, None, (HANDS, "Ana")))
        result = solve(Day(two, (), {HANDS: 1, "Ana": 1}), time_limit_s=5)
        self.assertEqual((result.makespan_s, dict(result.by)), (60, {"sprinkle": "Ana"}))
        rounds = [(DayStep(f"dip {i}", 60, {HANDS: 1}), DayStep(f"stands {i}", 100)) for i in range(3)]
        lags = tuple(Lag(a.name, b.name, 0, 0) for a, b in rounds)
        day = Day(
            tuple(s for pair in rounds for s in pair),
            lags,
            {HANDS: 1, "stand": 1},
            holds=tuple(Hold("stand", (a.name, b.name)) for a, b in rounds),
        )
        self.assertEqual(solve(day, time_limit_s=5).makespan_s, 480)
        night = Day(two[:1], (), {HANDS: 1}, closed=((50, 500),))
        self.assertEqual(solve(night, time_limit_s=5).starts_s, {"dip": 500})
        bowls = {name: DayBowl(60, "heat", 10, 600, light) for name, light in (("plum", 30.0), ("ivory", 90.0))}
        both = Day(tuple(DayStep(f"dip {n}", 60, {HANDS: 1}, n) for n in bowls), (), {HANDS: 1, "heat": 1}, bowls)
        plan = solve(both, time_limit_s=5)
        self.assertEqual(([m.bowl for m in plan.melts], plan.dark_first(both)), (["ivory", "plum"], []))
        short = {name: replace(bowl, life_s=70) for name, bowl in bowls.items()}
        forced = replace(both, bowls=short, lags=(Lag("dip plum", "dip ivory"),))
        self.assertEqual(solve(forced, time_limit_s=5).dark_first(forced), [("plum", "ivory")])

    def test_what_one_thing_more_would_do(self) -> None:
        """Four minutes of hands are two with two pairs; two steps at the same moment need two pairs, and no fridge."""
        there = {HANDS: 1, "fridge": 1}
        four = Day(tuple(DayStep(f"dip {i}", 60, {HANDS: 1}) for i in range(4)), (), there)
        self.assertEqual(remedies(four, 240), [Remedy(HANDS, 120)])
        self.assertEqual(remedies(four, 120), [])
        steps = tuple(DayStep(n, 60, {HANDS: 1}) for n in ("dip", "left", "right"))
        both = Day(steps, (Lag("dip", "left", 0, 0), Lag("dip", "right", 0, 0)), there)
        self.assertEqual(remedies(both), [Remedy(HANDS, 120)])

    def test_an_order_at_once_keeps_every_rule(self) -> None:
        kept = 0
        for seed in range(60):
            day = random_day(seed)
            greedy = Greedy(day)
            placed = greedy.run(None)
            if placed is None:
                continue
            kept += 1
            plan = greedy.plan(placed)
            self.assertEqual(broken(day, plan.starts_s, plan.melts, plan.by), [], seed)
        self.assertGreater(kept, 50)

    def test_the_check_finds_what_is_wrong(self) -> None:
        day = pairs(2)
        good = solve(day, time_limit_s=5).starts_s
        for change in ({"wrap 0": 0}, {"pipe 1": good["pipe 0"]}, {"wrap 1": good["wrap 1"] + 600}):
            self.assertTrue(broken(day, {**good, **change}, ()), change)

    def test_better_plans_are_told_and_it_can_be_stopped(self) -> None:
        rows: list[int] = []
        result = solve(shop(FT06), time_limit_s=20, listener=lambda plan: rows.append(plan.makespan_s))
        self.assertEqual(min(rows), result.makespan_s)
        stopped = solve(shop(FT06), time_limit_s=20, stop=lambda: True)
        self.assertEqual(broken(shop(FT06), stopped.starts_s, stopped.melts), [])


class Conflicts(TestCase):
    def test_the_fewest_in_each_others_way(self) -> None:
        """Two wraps want the same hands at the same moment; all else is beside the point."""
        steps = [
            DayStep("set out", 60, {HANDS: 1}),
            DayStep("pour", 60, {HANDS: 1}),
            DayStep("bend", 60, {HANDS: 1}),
            DayStep("press", 60, {HANDS: 1}),
            DayStep("pack", 60, {HANDS: 1}),
        ]
        lags = (
            Lag("set out", "pour"),
            Lag("pour", "bend", 100, 100),
            Lag("pour", "press", 120, 120),
            Lag("press", "pack"),
        )
        with self.assertRaises(Infeasible) as caught:
            solve(Day(tuple(steps), lags, {HANDS: 1}), time_limit_s=5)
        self.assertEqual(sorted(caught.exception.fields["steps"]), ["bend", "pour", "press"])
        self.assertIn("cannot be done as asked", caught.exception.message)

    def test_a_deadline_too_near(self) -> None:
        day = pairs(3)
        late = Day(day.steps, day.lags, day.resources, deadline_s=390)
        with self.assertRaisesRegex(Infeasible, "not done by then"):
            solve(late, time_limit_s=5)
        self.assertEqual(solve(Day(day.steps, day.lags, day.resources, deadline_s=400), time_limit_s=5).makespan_s, 400)

    def test_bad_input(self) -> None:
        step, hands = DayStep("dip", 60, {HANDS: 1}), {HANDS: 1}
        bowl = {"blue": DayBowl(60, "microwave", 10, 300)}
        for make in (
            lambda: Day((), (), hands),
            lambda: Day((step, step), (), hands),
            lambda: Day((step,), (), {}),
            lambda: Day((step,), (Lag("dip", "pack"),), hands),
            lambda: Day((DayStep("d", -5),), (), hands),
            lambda: Day((DayStep("d", 60, {HANDS: 2}),), (), hands),
            lambda: Day((step,), (Lag("dip", "dip", 9, 3),), hands),
            lambda: Day((DayStep("d", 60, {}, None, ("Ana",)),), (), hands),
            lambda: Day((step,), (), {**hands, "stand": 1}, holds=(Hold("stand", ("dip",), 2),)),
            lambda: Day((step,), (), hands, holds=(Hold("stand", ("dip",)),)),
            lambda: Day((step,), (), hands, closed=((9, 9),)),
            lambda: Day((DayStep("d", 60, {HANDS: 1}, "red"),), (), hands, bowl),
            lambda: Day((DayStep("d", 60, {HANDS: 1}, "blue"),), (), hands, bowl),
            lambda: Day((DayStep("d", 900, {HANDS: 1}, "blue"),), (), {**hands, "microwave": 1}, bowl),
            lambda: solve(Day((step,), (), hands), time_limit_s=-1),
        ):
            with self.assertRaises(CoatingError):
                make()
