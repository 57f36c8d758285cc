"""Grams of drips against hand arithmetic, and how many fit round a tier."""

import math
import unittest

from coating.errors import OutOfBounds
from coating.figures.unrolled import unrolled_side
from coating.shape.drips import drips_round, mean_thickness_mm
from coating.shape.pieces import CakeTier

TIER = CakeTier(200, 110)


def drips(**changed):  # type: ignore[no-untyped-def]
    return drips_round(TIER, **{"volume_ml": 0.5, "width_mm": 9, "spacing_mm": 28, **changed})


class Drips(unittest.TestCase):
    def test_by_hand(self) -> None:
        """1259 kg/m3 at 32 % fat; rim 6 x 2.2 x .8 mm2 on 628.3 mm; top 2.5 mm on 314.2 cm2 (about 98 g, derived)."""
        plain, flooded = drips(), drips(flooded=True)
        self.assertEqual(plain.drips, 22)
        self.assertAlmostEqual(plain.apart_mm * plain.drips, math.pi * 200)
        self.assertAlmostEqual(plain.drips_g, 22 * 0.5 * 1.259, delta=0.01)
        self.assertAlmostEqual(plain.rim_g, 628.3 * 10.56 * 1.259e-3, delta=0.01)
        self.assertAlmostEqual(flooded.top_g, 98, delta=2)
        self.assertAlmostEqual(flooded.mass_g - plain.mass_g, flooded.top_g)
        self.assertAlmostEqual(mean_thickness_mm(volume_ml=0.5, length_mm=40, width_mm=9), 1.39, delta=0.01)

    def test_none_run_together(self) -> None:
        for width, spacing in ((9, 5), (30, 6), (40, 45), (3, 200)):
            around = drips(width_mm=width, spacing_mm=spacing)
            self.assertGreaterEqual(around.apart_mm, max(spacing, 1.2 * width) - 1e-9)
            side = unrolled_side(around, length_mm=40, low_mm=30, high_mm=50)
            self.assertEqual((side.drips, side.outline.count("A")), (around.drips, around.drips))

    def test_bounds(self) -> None:
        for bad in ({"volume_ml": 0}, {"width_mm": math.nan}, {"spacing_mm": 1}):
            with self.assertRaises(OutOfBounds):
                drips(**bad)
        with self.assertRaises(OutOfBounds):
            CakeTier(20, 100)
