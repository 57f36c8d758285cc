"""Steps with windows as steps of a day: the cold takes a place, long steps are done in parts, and it can be planned."""

from __future__ import annotations

from unittest import TestCase

from coating.errors import OutOfBounds
from coating.figures.lanes import LEFT, WIDE, lanes
from coating.plan.day import HANDS, Day, DayBowl, solve
from coating.plan.day.chain import chain
from coating.plan.steps import HALF_SET, SET, WET, Step
from tests.coating.plan.day_checks import broken

BOWL = DayBowl(120, "heat", 60, 900)


class Chains(TestCase):
    def test_windows_become_waits(self) -> None:
        todo = [Step("Spread.", 60), Step("Bend.", 40, HALF_SET, 8, 17), Step("Peel.", 20, SET, 10, None, "fridge")]
        made = chain("a", todo, bowl="white", bowls={"white": BOWL}, places={"fridge": 2})
        self.assertEqual([s.name for s in made.steps], ["a.0", "a.1", "a.2.cold", "a.2"])
        self.assertEqual([s.bowl for s in made.steps], ["white", None, None, None])
        waits = [("a.0", "a.1", 480, 1020), ("a.1", "a.2.cold", 0, 60), ("a.2.cold", "a.2", 0, None)]
        self.assertEqual([(la.before, la.after, la.min_s, la.max_s) for la in made.lags], waits)
        self.assertEqual(made.steps[2].uses, {"fridge": 1})
        self.assertEqual(made.says["a.2.cold"], "In the fridge")
        warm = chain("a", [Step("Spread.", 60), Step("Peel.", 20, SET, 10, None, "fridge")], places={"fridge": 0})
        self.assertEqual(len(warm.steps), 2)

    def test_what_is_done_while_wet_is_done_at_once(self) -> None:
        made = chain("a", [Step("Pour.", 20), Step("Sprinkle.", 30, WET, 0, 1)], after=("before",))
        self.assertEqual([(la.before, la.min_s, la.max_s) for la in made.lags], [("before", 0, None), ("a.0", 0, 60)])
        warm = chain("a", [Step("Pour.", 20), Step("Swirl.", 30, WET, 0, 1)], bowl="white", bowls={"white": BOWL})
        self.assertEqual([la.max_s for la in warm.lags], [120])

    def test_a_bag_that_is_warm_again_after_a_wait(self) -> None:
        todo = [Step("Cake in.", 20, warm=False), Step("Drip.", 60, SET, 20, None, "fridge", warm=True)]
        made = chain("a", todo, bowl="white", bowls={"white": BOWL}, places={"fridge": 1})
        self.assertEqual([(s.name, s.bowl) for s in made.steps], [("a.0", None), ("a.1.cold", None), ("a.1", "white")])

    def test_what_is_of_another_colour_comes_from_its_bowl_after_a_wait_too(self) -> None:
        todo = [Step("Outline.", 20), Step("Fill.", 30, HALF_SET, 5, of="gold"), Step("Lift.", 10, SET, 20)]
        both = {"white": BOWL, "gold": BOWL}
        made = chain("a", todo, bowl="white", bowls=both, of={"gold": "gold"})
        self.assertEqual([s.bowl for s in made.steps], ["white", "gold", None])
        self.assertEqual([s.bowl for s in chain("a", todo, bowl="white", bowls=both).steps], ["white", "white", None])

    def test_longer_than_its_bowl_stays_warm(self) -> None:
        made = chain("a", [Step("Dip 200.", 3000)], bowl="white", bowls={"white": BOWL})
        self.assertEqual(len(made.steps), 5)
        self.assertEqual(sum(s.duration_s for s in made.steps), 3000)
        self.assertTrue(all(s.duration_s <= 0.8 * 900 for s in made.steps))
        self.assertEqual(made.says["a.0.1"], "Go on: dip 200.")
        day = Day(made.steps, made.lags, {HANDS: 1, "heat": 1}, {"white": BOWL})
        found = solve(day, time_limit_s=4)
        self.assertEqual(broken(day, found.starts_s, found.melts), [])
        drawn = lanes(day, found, [s.name for s in made.steps], {HANDS: "hands"})
        self.assertEqual([title for _, title in drawn.titles], ["hands", "heat", "white"])
        self.assertTrue(all(bar.x >= LEFT and bar.x + bar.wide <= WIDE + 2 for bar in drawn.bars))
        self.assertEqual(sum(bar.what == "melt" for bar in drawn.bars), 2 * len(found.melts))
        with self.assertRaises(OutOfBounds):
            chain("a", [])
