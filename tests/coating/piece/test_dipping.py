"""Dips: grams by area and thickness, what drips off, stands."""

from __future__ import annotations

import math
from unittest import TestCase

from coating.errors import OutOfBounds
from coating.flow.windows import window
from coating.piece.cores import Disc, Round
from coating.stack.dipping import foot_g, stand_rounds
from coating.stack.layers import Layer, coat_of_dip_mm, on_one_g
from coating.techniques.measures import DENSITY

BISCUIT, BALL = Disc(60, 10), Round(25, 25)


class Dips(TestCase):
    def test_area_by_thickness(self) -> None:
        """A biscuit of 60 x 10 mm all over: 7540 mm2; a ball of 25 mm: 1963 mm2; at 1.5 mm 14.2 and 3.7 g."""
        for core, area, usual_g in ((BISCUIT, 7540.0, 14.2), (BALL, 1963.5, 3.7)):
            one_g, coat_mm = on_one_g(core, Layer("dip")), coat_of_dip_mm(core, 1.0)
            self.assertAlmostEqual(one_g, area * coat_mm * DENSITY * 1e-6, delta=0.02)
            self.assertAlmostEqual(one_g * 1.5 / coat_mm, usual_g, delta=0.1)
            self.assertAlmostEqual(on_one_g(core, Layer("dip", coats=2)), 2 * one_g)

    def test_what_drips_off_is_less_than_what_hung_there(self) -> None:
        for core in (BISCUIT, BALL):
            self.assertTrue(0 < foot_g(core, 1.0, window("dip").aim) < on_one_g(core, Layer("dip")))

    def test_stands_and_bad_input(self) -> None:
        self.assertEqual([stand_rounds(n, 24) for n in (1, 24, 25)], [1, 1, 2])
        with self.assertRaises(OutOfBounds):
            stand_rounds(4, 0)
        for share in (1.4, -0.1, math.nan):
            with self.assertRaises(OutOfBounds):
                on_one_g(BALL, Layer("dip", share=share))
