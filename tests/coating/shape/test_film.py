"""Film work: what is bent and when, grams by hand, and what cannot be."""

from __future__ import annotations

import math
from unittest import TestCase

import numpy as np

from coating.errors import CoatingError, OutOfBounds, UnknownName
from coating.flow.material import ORDINARY
from coating.heat.setting import Pliable, pliable_window
from coating.shape.film.bending import Bend, bend, per_melt, rounds
from coating.shape.film.bow import bow
from coating.shape.film.casts import TEXTURES, cast
from coating.shape.film.curls import curl, rectangles
from coating.shape.film.leaves import leaves
from coating.shape.film.petals import flower
from coating.shape.film.sleeve import sleeve

RHO = ORDINARY.g_per_mm3


class Bending(TestCase):
    def test_strain(self) -> None:
        """t/2R: 1.3 % for 2 mm on a radius of 75, as a handbook's outer fibre of a bent strip."""
        self.assertAlmostEqual(Bend(2, 75).strain, 0.0133, places=4)
        self.assertTrue(Bend(2, 75).while_soft)
        self.assertFalse(Bend(1, 150).while_soft)
        with self.assertRaises(OutOfBounds):
            bend(4, 20)

    def test_rounds_against_a_clock_run_by_hand(self) -> None:
        """Spread 60 s each, bend 60 s each, from 2 to 4 min: three go (bent at 4, 5, 6 of windows to 5, 6, 7)."""
        window = Pliable(2.0, 4.0)
        result = rounds(7, window, spread_s=60, each_s=60)
        assert result is not None
        self.assertEqual(result.rounds, math.ceil(7 / result.at_a_time))
        for count, possible in ((result.at_a_time, True), (result.at_a_time + 1, False)):
            at, good = count * 60.0, True
            for i in range(count):
                at = max(at, (i + 1) * 60 + 120) + 60
                good &= at <= (i + 1) * 60 + 240
            self.assertEqual(good, possible)
        self.assertIsNone(rounds(3, Pliable(2.0, 2.5), spread_s=10, each_s=60))
        self.assertEqual(per_melt(math.inf, spread_s=20, each_s=20), 2160)
        self.assertEqual(per_melt(100, spread_s=20, each_s=30), 2)

    def test_a_thicker_strip_gives_more_time(self) -> None:
        thin, thick = (pliable_window(mm, surround_c=21.0) for mm in (1.0, 2.0))
        self.assertGreater(thick.until_min - thick.from_min, thin.until_min - thin.from_min)


class Sleeves(TestCase):
    def test_by_hand(self) -> None:
        one = sleeve(60, 70, thickness_mm=2, overlap_mm=10, base=True)
        self.assertAlmostEqual(one.strip_mm, math.pi * 62 + 10)
        self.assertAlmostEqual(one.wall_g, one.strip_mm * 70 * 2 * RHO)
        disc = math.pi * 30**2 * 2.6 + math.pi * 60 * 3
        self.assertAlmostEqual(one.mass_g, one.wall_g + disc * RHO)
        self.assertAlmostEqual(one.holds_ml, math.pi * 0.9 * (70 - 2.6 - 4))
        self.assertEqual(sleeve(60, 40, thickness_mm=2, overlap_mm=10).holds_ml, 0)

    def test_shorter_than_round_is_refused_with_what_it_takes(self) -> None:
        with self.assertRaises(OutOfBounds) as caught:
            sleeve(60, 40, thickness_mm=2, overlap_mm=10, strip_mm=180)
        self.assertIn("does not go round 60 mm. It takes 205 mm", caught.exception.message)
        self.assertEqual(caught.exception.fields["field"], "strip_mm")
        sleeve(60, 40, thickness_mm=2, overlap_mm=10, strip_mm=205)
        for wrong in ({"height_mm": 6.0}, {"thickness_mm": 9.0}, {"diameter_mm": math.nan}, {"overlap_mm": -1.0}):
            given = {"diameter_mm": 60.0, "height_mm": 40.0, "thickness_mm": 2.0, "overlap_mm": 10.0, **wrong}
            with self.assertRaises(CoatingError):
                sleeve(given.pop("diameter_mm"), given.pop("height_mm"), base=True, **given)  # type: ignore[misc]


class Curls(TestCase):
    def test_two_from_one(self) -> None:
        one = curl(250, 30, thickness_mm=1.5, glass_mm=60)
        self.assertAlmostEqual(2 * one.mass_g, 250 * 30 * 1.5 * RHO)
        self.assertEqual([rectangles(n) for n in (1, 2, 7)], [1, 1, 4])
        # climbs its own width in a turn, and is as long as it was cut
        climb, way = one.high_mm, one.turns * math.pi * 60
        self.assertAlmostEqual(climb / one.turns, 30, places=6)
        self.assertAlmostEqual(math.hypot(climb, way), 250, places=6)
        self.assertEqual(curl(150, 30, thickness_mm=1.5, glass_mm=60).slant_rad, 0)


class Bows(TestCase):
    def test_the_loop_is_as_long_as_its_strip(self) -> None:
        """The drop drawn point by point: its edge is the strip, its depth as said, its sides meet at twice a."""
        one = bow(160, 20, thickness_mm=1.5)
        a, r = one.half_angle_rad, one.radius_mm
        t = np.linspace(math.pi / 2 + a, -math.pi / 2 - a, 4001)
        middle = r / math.sin(a)
        arc = np.column_stack([middle + r * np.cos(t), r * np.sin(t)])
        edge = np.concatenate([[(0, 0)], arc, [(0, 0)]])
        self.assertAlmostEqual(float(np.hypot(*np.diff(edge, axis=0).T).sum()), 160, places=3)
        self.assertAlmostEqual(float(edge[:, 0].max()), one.deep_mm, places=6)
        self.assertAlmostEqual(math.atan2(*arc[0][::-1]), a, places=6)

    def test_rings_and_spares(self) -> None:
        """A dozen and a half loops with spares: common practice."""
        one = bow(160, 20, thickness_mm=1.5)
        self.assertEqual((one.rings, one.loops, one.spares), ((8, 6, 3), 17, 2))
        self.assertTrue(one.bend.while_soft)
        self.assertAlmostEqual(one.loop_g, 160 * 20 * 1.5 * RHO)
        with self.assertRaises(OutOfBounds):
            bow(60, 20, thickness_mm=2.5)
        with self.assertRaises(OutOfBounds):
            bow(100, 60, thickness_mm=1)


class Flowers(TestCase):
    def test_sizes_go_down_and_grams_by_hand(self) -> None:
        one = flower(32, disc_mm=30, thickness_mm=1.6)
        self.assertEqual([r.count for r in one.rings], sorted((r.count for r in one.rings), reverse=True))
        outer = one.rings[0]
        by_hand = math.pi / 4 * 32 * 51.2 * 1.6 * 2 / 3 * RHO * (outer.count + outer.spares)
        self.assertAlmostEqual(one.ring_g[0], by_hand)
        self.assertEqual(len(flower(32, disc_mm=30, thickness_mm=1.6, sizes=1).rings), 1)
        self.assertGreater(flower(32, disc_mm=30, thickness_mm=1.6, overlap=0.4).petals, one.petals)


class LeavesAndCasts(TestCase):
    def test_leaves_lie_along_the_grain(self) -> None:
        made = leaves(20, 70, 30, thickness_mm=1.5, roll_mm=80)
        self.assertTrue(all(p.width_mm == 70 for p in made.plan.placed))
        self.assertAlmostEqual(made.coating_g, 20 * 70 * 30 * 1.5 * RHO)
        self.assertAlmostEqual(made.paint_g, 20 * 70 * 30 * 0.1 * 900e-6)
        self.assertTrue(0 < made.cut_off_g < made.coating_g / 2)
        with self.assertRaises(OutOfBounds):
            leaves(2, 300, 30, thickness_mm=1.5, roll_mm=80, film_mm=(250.0, 100.0))

    def test_a_relief_is_filled_as_its_surface_says(self) -> None:
        """Share filled, from the shape, against the mean of the surface over 660 mm."""
        x, y = np.meshgrid(np.linspace(0, 660, 1100), np.linspace(0, 660, 1100))
        for texture in TEXTURES.values():
            surface = texture.surface(x, y)
            self.assertTrue(surface.min() >= 0 and surface.max() <= 1, texture.name)
            self.assertAlmostEqual(float(surface.mean()), texture.fill, delta=0.01, msg=texture.name)
        one = cast("ribs", 200, 100, thickness_mm=2)
        self.assertAlmostEqual(one.mass_g, 200 * 100 * (2 + 1.25) * RHO)
        self.assertTrue(cast("ribs", 200, 100, thickness_mm=1).frail)
        with self.assertRaises(UnknownName):
            cast("velvet", 200, 100, thickness_mm=2)
