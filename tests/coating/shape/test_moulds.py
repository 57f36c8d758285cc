"""Moulds: volumes and grams by hand, shells against plate and shell formulas, rounds of the moulds there are."""

from __future__ import annotations

import math
from unittest import TestCase

import numpy as np
from scipy.integrate import quad, solve_ivp

from coating.errors import CoatingError, OutOfBounds, WillNotFlow
from coating.flow.casson1959 import Flow
from coating.flow.material import ORDINARY
from coating.flow.tapping import bubble_mm, taps
from coating.flow.windows import window
from coating.shape.moulds.cavity import Cone, Dome, Tray
from coating.shape.moulds.cycles import cycles
from coating.shape.moulds.fills import filled, insert_in, layered, shell, solid_g
from coating.shape.moulds.presets import PRESETS, from_water
from coating.shape.moulds.shaped import Shaped
from coating.shape.moulds.strength import (
    FRAIL,
    POISSON,
    STANDS,
    STRENGTH_PA,
    TOO_STRONG,
    breaks_at_n,
    dome_stress_pa,
    least_wall_mm,
    plate_stress_pa,
    strength,
    uniform_stress_pa,
)

RHO = ORDINARY.density_kg_m3 / 1000


class Cavities(TestCase):
    def test_volumes_by_hand(self) -> None:
        """Half a ball 2/3 pi r^3; a cone cut off pi h/3 (R^2 + R r + r^2); a box."""
        self.assertAlmostEqual(Dome(60, 60, 30).holds_ml, 2 / 3 * math.pi * 27)
        self.assertAlmostEqual(Dome(60, 60, 30).wall_mm2, 2 * math.pi * 900, delta=1)
        self.assertAlmostEqual(Cone(60, 40, 30).holds_ml, math.pi * 10 * (9 + 6 + 4) / 10)
        self.assertAlmostEqual(Tray(100, 50, 8).holds_ml, 40)

    def test_filled_part_of_the_way(self) -> None:
        """Against the integral of what is across at each height."""
        dome, cone = Dome(60, 40, 25), Cone(60, 40, 30)
        by_slices = quad(lambda h: math.pi * 30 * 20 * (1 - (1 - h / 25) ** 2), 0, 11)[0] / 1000
        self.assertAlmostEqual(dome.holds_to_ml(11), by_slices, places=6)
        by_slices = quad(lambda h: math.pi * (20 + 10 * h / 30) ** 2, 0, 11)[0] / 1000
        self.assertAlmostEqual(cone.holds_to_ml(11), by_slices, places=6)
        self.assertEqual((dome.holds_to_ml(-3), dome.holds_to_ml(99)), (0.0, dome.holds_ml))

    def test_a_shape_of_its_own(self) -> None:
        """A heart against its own outline by the shoelace formula; a shell takes a band as wide as its wall off it."""
        heart = PRESETS["heart"].cavity
        assert isinstance(heart, Shaped)
        x, y = np.array(heart.opening.exterior.coords).T
        area = abs(np.dot(x[:-1], y[1:]) - np.dot(x[1:], y[:-1])) / 2
        self.assertAlmostEqual(heart.holds_ml, area * 14 / 1000)
        self.assertAlmostEqual(heart.for_ml(20).holds_ml, 20)
        for name in ("heart", "crescent", "leaf"):
            cavity = PRESETS[name].cavity
            inner = cavity.within(1.5)
            band = cavity.open_mm2 - inner.open_mm2
            self.assertTrue(0.8 * 1.5 * cavity.rim_mm < band < 1.5 * cavity.rim_mm, name)
            self.assertTrue(0 < inner.span_mm < cavity.span_mm < cavity.across_mm, name)
            self.assertIsNone(cavity.within(cavity.span_mm), name)

    def test_water_on_a_scale(self) -> None:
        """24 cavities full of water weigh 240 g: 10 ml each, in the shape of the picture."""
        cavity = from_water(PRESETS["praline"].cavity, 240, 24)
        self.assertAlmostEqual(cavity.holds_ml, 10)
        self.assertAlmostEqual(cavity.across_mm / cavity.deep_mm, 29 / 15)
        with self.assertRaises(OutOfBounds):
            from_water(PRESETS["praline"].cavity, 0, 24)


class Fills(TestCase):
    def test_a_filled_box_by_hand(self) -> None:
        """28 x 28 x 28 with a wall of 2 and a lid of 2: inside 24 x 24 x 26, filled to 23, the lid to the brim."""
        cube = PRESETS["cube"].cavity
        made = shell(cube, wall_mm=2, lid_mm=2)
        self.assertAlmostEqual(made.shell_g, (28**3 - 24 * 24 * 26) / 1000 * RHO)
        self.assertAlmostEqual(made.filling_ml, 24 * 24 * 23 / 1000)
        self.assertAlmostEqual(made.lid_g, 24 * 24 * 3 / 1000 * RHO)
        self.assertAlmostEqual(made.poured_g - made.drained_g, made.shell_g)
        self.assertAlmostEqual(solid_g(cube), 28**3 / 1000 * RHO)
        self.assertAlmostEqual(made.rim_g, 4 * 28 * 12 * 1.2 * RHO / 1000)

    def test_a_shell_is_no_more_than_its_wall(self) -> None:
        for known in PRESETS.values():
            made = shell(known.cavity, wall_mm=1.5)
            self.assertLess(made.shell_g, 1.02 * known.cavity.wall_mm2 * 1.5 * RHO / 1000)
            self.assertGreater(made.shell_g, 0.6 * known.cavity.wall_mm2 * 1.5 * RHO / 1000, known.name)

    def test_layers_add_up(self) -> None:
        cup = layered(PRESETS["cup"].cavity, base_mm=4, cap_mm=3)
        self.assertAlmostEqual(cup.base_ml + cup.filling_ml + cup.cap_ml, PRESETS["cup"].cavity.holds_ml)

    def test_what_does_not_go_in(self) -> None:
        praline = PRESETS["praline"].cavity
        made = shell(praline, wall_mm=1.7)
        with self.assertRaisesRegex(OutOfBounds, "above the rim. Use at most 4.2 ml"):
            filled(made, 6)
        self.assertEqual(filled(made, 4), 4)
        for across, high, words in ((31, 8, "does not go in"), (10, 16, "stick out")):
            with self.assertRaisesRegex(OutOfBounds, words):
                insert_in(praline, across, high)
        for wrong in (
            lambda: shell(PRESETS["small_parts"].cavity, wall_mm=6),
            lambda: filled(shell(Tray(40, 40, 6), wall_mm=2, lid_mm=4)),
            lambda: layered(praline, base_mm=9, cap_mm=9),
            lambda: Dome(math.nan, 9, 9),
        ):
            with self.assertRaises(CoatingError):
                wrong()


class Strong(TestCase):
    def test_a_plate_under_a_load_all_over(self) -> None:
        """3 (3 + nu)/8 q (a/t)^2 [Timoshenko & Woinowsky-Krieger 1959] against the plate's own equation, integrated."""
        a, t, q, begin = 0.05, 0.002, 100.0, 1e-4  # the greatest moment does not hang on stiffness: it is taken as 1

        def edge(curve: float, load: float) -> tuple[float, float]:
            """The moments in the middle and at the edge, for a curvature in the middle."""

            def plate(r: float, y: np.ndarray) -> list[float]:
                slope, moment_r = y
                bent = moment_r - POISSON * slope / r
                moment_t = slope / r + POISSON * bent
                return [bent, -load * r / 2 - (moment_r - moment_t) / r]

            middle = (1 + POISSON) * curve
            done = solve_ivp(plate, (begin, a), [curve * begin, middle], rtol=1e-9, atol=1e-12)
            return middle, float(done.y[1][-1])

        _, loaded = edge(0.0, q)
        middle, bent = edge(1.0, 0.0)
        self.assertAlmostEqual(6 * middle * -loaded / bent / t**2, uniform_stress_pa(q, 100, 2), delta=20)

    def test_a_press_spread_over_all_of_a_plate_is_that_load(self) -> None:
        """The same plate pressed by a tip as wide as itself: 16 M = (3 + nu) q a^2 again."""
        load = 100 * math.pi * 0.05**2
        self.assertAlmostEqual(plate_stress_pa(load, 100, 2, tip_mm=50), uniform_stress_pa(100, 100, 2), delta=1)

    def test_a_dome_by_the_table(self) -> None:
        """mu = 1 gives B .168, C .337 [Roark's formulas, from memory]; by hand for 10 N, R 100, t 4."""
        tip = 1 / (12 * 0.91 / (100 * 4) ** 2) ** 0.25
        by_hand = 10 / 0.004**2 * (0.168 * math.sqrt(0.91) + 0.337 * 1.3)
        self.assertAlmostEqual(dome_stress_pa(10, 100, 4, tip_mm=tip), by_hand, delta=1e-6 * by_hand)

    def test_words(self) -> None:
        """Pralines of 1.4 to 1.9 mm are made every day; a big dome to be smashed is 3 to 4 mm: common practice."""
        praline, dome = PRESETS["praline"].cavity, PRESETS["big_dome"].cavity
        self.assertEqual([strength(praline, t).word for t in (0.8, 1.7)], [FRAIL, STANDS])
        words = [strength(dome, t, to_break=True).word for t in (0.5, 3.0, 7.0)]
        self.assertEqual(words, [FRAIL, STANDS, TOO_STRONG])
        for known in PRESETS.values():
            least = least_wall_mm(known.cavity)
            self.assertGreaterEqual(breaks_at_n(known.cavity, least), 2.95)
            self.assertTrue(least < 1.001 or breaks_at_n(known.cavity, least) < 3.05, known.name)
        self.assertEqual(STRENGTH_PA, 1.5e6)


class Rounds(TestCase):
    def test_by_hand(self) -> None:
        """One mould of 24, twice: 192 s filling, 900 s cold, 72 s out, 192 s, 900 s, 72 s."""
        one = cycles(48, cavities=24, moulds=1, fill_s=8, chill_s=900, release_s=3)
        self.assertEqual((one.rounds, one.at_once, one.seconds), (2, 24, 2 * (192 + 900 + 72)))
        two = cycles(48, cavities=24, moulds=2, fill_s=8, chill_s=900, release_s=3)
        self.assertEqual((two.rounds, two.seconds), (1, 384 + 900 + 72))
        self.assertEqual(cycles(48, cavities=24, moulds=2, fill_s=8, chill_s=900, release_s=3, places=1), one)
        self.assertEqual(cycles(1, cavities=24, moulds=5, fill_s=8, chill_s=60, release_s=3).seconds, 8 + 60 + 3)
        with self.assertRaises(OutOfBounds):
            cycles(10, cavities=0, moulds=1, fill_s=1, chill_s=1, release_s=1)


class Tapping(TestCase):
    def test_finer_and_stiffer_want_more(self) -> None:
        thin, thick = window("solid_mould").aim, window("shell").aim
        self.assertLess(taps(thin, 2.0), taps(thin, 0.8))
        self.assertLess(taps(thin, 1.5), taps(thick, 1.5))
        with self.assertRaises(WillNotFlow):
            taps(Flow(60, 8), 0.8)

    def test_bubbles(self) -> None:
        """R = tau0/(.143 rho g) [Tsamopoulos et al. 2008]: 7 Pa holds bubbles up to 8 mm across."""
        self.assertAlmostEqual(bubble_mm(Flow(7, 1)), 2000 * 7 / (0.143 * ORDINARY.density_kg_m3 * 9.80665), delta=0.05)
        self.assertAlmostEqual(bubble_mm(Flow(7, 1), tapped=True), bubble_mm(Flow(7, 1)) / 6)
