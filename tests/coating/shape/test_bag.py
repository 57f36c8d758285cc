"""The bag: holes, pressure, how long it stays warm."""

from __future__ import annotations

import math
from unittest import TestCase

from coating.errors import OutOfBounds
from coating.flow.casson1959 import Flow, pipe_flow
from coating.flow.windows import window
from coating.shape.bag import bag_for, hole_for, line_from, pressure_kpa, squeeze_word, stays_min
from coating.shape.bead import settled_bead


class Bags(TestCase):
    def test_a_hole_and_the_line_it_settles_to(self) -> None:
        """w/d <= 1.5 where tau0 >= .411 rho g d, derived; the two ways round give the same."""
        tau0 = 0.411 * 1259 * 9.81 * 0.002
        self.assertAlmostEqual(hole_for(3.0, tau0), 2.0, delta=0.01)
        for line, tau in ((0.8, 5), (1.5, 15), (3, 30), (6, 400)):
            self.assertAlmostEqual(settled_bead(hole_for(line, tau), tau).width_mm, line, places=6)
        self.assertAlmostEqual(line_from(2.0, Flow(tau0, 2.0)), 3.0, delta=0.01)

    def test_the_pressure_gives_the_flow_that_the_line_takes(self) -> None:
        flow = window("lace").aim
        kpa = pressure_kpa(1.8, flow, speed_mm_s=20)
        got = pipe_flow(flow, radius_m=0.0009, length_m=0.005, pressure_pa=kpa * 1000)
        self.assertAlmostEqual(got / (math.pi * 0.0009**2 * 0.02), 1, places=6)
        self.assertTrue(1 < kpa < 8)  # what a hand on a small bag gives: common practice, no source

    def test_a_squeeze_in_words(self) -> None:
        words = [squeeze_word(kpa) for kpa in (0.1, 5, 15, 30, 90)]
        self.assertEqual(len(set(words)), 5)
        stiff = bag_for(1.0, Flow(300, 60), mass_g=20, speed_mm_s=20)
        self.assertFalse(stiff.by_hand)

    def test_full_bags_and_how_long_they_stay(self) -> None:
        """Newton cooling: half the way to the room takes ln 2 time constants."""
        bags = bag_for(1.5, window("lettering").aim, mass_g=400, speed_mm_s=15)
        self.assertEqual(bags.bagfuls, 3)
        self.assertAlmostEqual(bags.fill_g * bags.bagfuls, 400)
        half, quarter = (stays_min(100, warm_c=41, floor_c=c, room_c=21) for c in (31, 26))
        assert half and quarter
        self.assertAlmostEqual(quarter / half, 2)
        self.assertIsNone(stays_min(100, warm_c=41, floor_c=30, room_c=31))
        self.assertEqual(stays_min(100, warm_c=29, floor_c=30, room_c=21), 0)

    def test_bad_input(self) -> None:
        for line, tau in ((0, 10), (math.nan, 10), (2, 0), (2, math.inf)):
            with self.assertRaises(OutOfBounds):
                hole_for(line, tau)
