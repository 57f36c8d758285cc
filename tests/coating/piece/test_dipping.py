"""A run of dips: grams with hand arithmetic, what drips off, bowls that cool, stands."""

from __future__ import annotations

import math
from unittest import TestCase

from coating.errors import CoatingError
from coating.flow.windows import window
from coating.piece.cores import Disc, Round
from coating.piece.dipping import DIP_S, TWO_SIDED, dipping, stand_rounds
from coating.piece.layers import DENSITY

BISCUIT, BALL = Disc(60, 10), Round(25, 25)


class Dips(TestCase):
    def test_area_by_thickness(self) -> None:
        """A biscuit of 60 x 10 mm all over: 7540 mm2; a ball of 25 mm: 1963 mm2; at 1.5 mm 14.2 and 3.7 g."""
        for core, area, usual_g in ((BISCUIT, 7540.0, 14.2), (BALL, 1963.5, 3.7)):
            run = dipping(core, share=1.0, count=10)
            self.assertAlmostEqual(run.one_g, area * run.coat_mm * DENSITY * 1e-6, delta=0.02)
            self.assertAlmostEqual(run.one_g * 1.5 / run.coat_mm, usual_g, delta=0.1)

    def test_two_sides_and_two_coats(self) -> None:
        once = dipping(BISCUIT, share=0.5, count=20)
        both = dipping(BISCUIT, share=0.5, count=20, way=TWO_SIDED)
        twice = dipping(BISCUIT, share=0.5, count=20, coats=2)
        self.assertAlmostEqual(both.one_g, 2 * once.one_g)
        self.assertAlmostEqual(twice.one_g, 2 * once.one_g)
        self.assertAlmostEqual(both.melt_g - once.melt_g, 20 * once.one_g)

    def test_what_drips_off_is_less_than_what_hung_there(self) -> None:
        for core in (BISCUIT, BALL):
            run = dipping(core, share=1.0, count=1, flow=window("dip").aim)
            self.assertTrue(0 < run.foot_g < run.one_g)

    def test_the_bowl_cools(self) -> None:
        few, many = dipping(BALL, share=1.0, count=10), dipping(BALL, share=1.0, count=300)
        self.assertEqual(few.rewarms, 0)
        self.assertEqual(many.rewarms, math.ceil(300 / many.warm_for) - 1)
        self.assertGreater(many.warm_for * DIP_S, 300)
        hot = dipping(BALL, share=1.0, count=300, room_c=34.0)
        self.assertEqual((hot.rewarms, hot.warm_for), (1, 240), "an hour at most")

    def test_stands_and_bad_input(self) -> None:
        self.assertEqual([stand_rounds(n, 24) for n in (1, 24, 25)], [1, 1, 2])
        for wrong in ({"share": 1.4}, {"count": 0}, {"coats": 9}, {"share": math.nan}):
            with self.assertRaises(CoatingError):
                dipping(BALL, **{"share": 0.5, "count": 4, **wrong})  # type: ignore[arg-type]
        with self.assertRaises(CoatingError):
            stand_rounds(5, 0)
