"""Led through melting and warming again: the trade's own seconds, and never past where it is spoilt."""

import math
import unittest

from coating.colour.mixing import Part
from coating.errors import OutOfBounds
from coating.heat.melting import CEILING_C, TEMPER_LOST_C
from coating.heat.schools import SCHOOLS, bath_rewarm_s
from coating.plan.melting_steps import MeltingStep, bag_burst_s, melting_step
from coating.simulate.bowl import BowlContext, Event
from coating.simulate.fold import fold
from coating.stock.ingredients import demo_ingredient


def next_step(white: str, *temperatures_c: float, school: str = "half_power", mass_g: float = 300) -> MeltingStep:
    """Of a bowl that has had these temperatures, one a second."""
    code = "bright" if white == "coating" else "ivory"
    put_in = Event(1, "added", 0, (Part(demo_ingredient(code), mass_g),))
    read = [Event(i, "warmed", i, to_c=c) for i, c in enumerate(temperatures_c, start=2)]
    state = fold([put_in, *read], BowlContext(white=white), at_s=len(read) + 2)
    return melting_step(state, school=school, power_w=800)


class Again(unittest.TestCase):
    def test_about_20_s_for_a_bowl_and_5_to_8_s_for_a_bag(self) -> None:
        """Common practice, no source; 300 g and 60 to 100 g, an 800 W oven at half power."""
        bursts = next_step("coating", 42, 30)
        self.assertEqual((bursts.kind, bursts.again, bursts.target_c), ("burst", True, 38.0))
        self.assertAlmostEqual(bursts.plan.all_s, 20, delta=2)
        for mass_g in (65, 80, 100):
            self.assertTrue(5 <= (bag_burst_s(mass_g, white="coating", power_w=800) or 0) <= 8)

    def test_what_set_is_melted_anew(self) -> None:
        self.assertEqual([next_step("coating", 42, c).again for c in (24, 28, 33)], [False, True, True])
        self.assertEqual(next_step("coating", 42, 20).target_c, 42)
        self.assertEqual(next_step("coating", 42, 37).kind, "done")

    def test_temper_is_never_lost(self) -> None:
        for school in ("half_power", "tapering", "bursts_20", "bursts_30", "in_the_bag"):
            for warm_c in (24.5, 25, 26):
                bursts = next_step("tempered", 45, warm_c, school=school)
                self.assertTrue(bursts.again)
                self.assertLess(max(bursts.plan.predicted_c), TEMPER_LOST_C)
        self.assertEqual(next_step("tempered", 45, 31).kind, "done")
        self.assertFalse(next_step("tempered", 34).again, "it has not forgotten its old crystals")
        self.assertEqual(next_step("tempered", 45, 25, mass_g=30).kind, "little")
        self.assertIsNone(bag_burst_s(20, white="tempered", power_w=1000))

    def test_in_the_bag(self) -> None:
        bursts = next_step("coating", school="in_the_bag", mass_g=100)
        self.assertEqual((bursts.kind, bursts.school.mixes), ("burst", "knead"))
        self.assertTrue(all(b <= 15 for b in bursts.plan.bursts_s))
        self.assertLess(max(bursts.plan.predicted_c), CEILING_C)

    def test_over_water(self) -> None:
        """Newton: m c/UA ln((bath - from)/(bath - to))."""
        by_hand = 0.3 * 1700 / 3 * math.log((55 - 30) / (55 - 38))
        self.assertAlmostEqual(bath_rewarm_s(300, start_c=30, target_c=38, bath_c=55), by_hand)
        for school in (name for name, way in SCHOOLS.items() if way.heat == "hob"):
            self.assertLess(next_step("coating", 42, 30, school=school).bath_s, 180)

    def test_bounds(self) -> None:
        for mass_g, power_w in ((math.nan, 800), (-5, 800), (60, 0), (60, 5000)):
            with self.assertRaises(OutOfBounds):
                bag_burst_s(mass_g, white="coating", power_w=power_w)
