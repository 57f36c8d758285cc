"""What became of an evening: published colour differences first, then what always holds, then the edges."""

from __future__ import annotations

import math
import random
import unittest

import colour
import numpy as np

from coating.errors import OutOfBounds
from coating.evening import SEASONS, Came, Off, Taken, came_of, nearest, off_by, season_of, wasted
from coating.evening.seasons import season_year
from coating.learning.observations import WORDS, offset_of


class Near(unittest.TestCase):
    def test_the_published_pairs(self) -> None:
        """Sharma, Wu and Dalal 2005, table 1, pairs 1, 7 and 17."""
        pairs = (
            ((50.0, 2.6772, -79.7751), (50.0, 0.0, -82.7485), 2.0425),
            ((50.0, 0.0, 0.0), (50.0, -1.0, 2.0), 2.3669),
            ((50.0, 2.5, 0.0), (73.0, 25.0, -18.0), 27.1492),
        )
        for one, other, de00 in pairs:
            ((place, near),) = nearest(one, [other], within=30.0)
            self.assertEqual(place, 0)
            self.assertAlmostEqual(near, de00, places=4)

    def test_as_another_library_orders_them(self) -> None:
        random.seed(7)
        labs = [(random.uniform(0, 100), random.uniform(-90, 90), random.uniform(-90, 90)) for _ in range(300)]
        wanted = (61.0, -9.0, -20.0)
        theirs = colour.delta_E(np.asarray(wanted), np.asarray(labs), method="CIE 2000")
        ours = nearest(wanted, labs, within=25.0)
        self.assertEqual([i for i, _ in ours], [i for i in np.argsort(theirs) if theirs[i] <= 25.0])
        self.assertEqual(nearest(wanted, labs, within=25.0, most=2), ours[:2])
        self.assertEqual(nearest(wanted, []), [])


class WhichWay(unittest.TestCase):
    def test_each_word_is_the_step_it_stands_for(self) -> None:
        wanted = (62.0, -4.0, -16.0)
        for word in (w for w in WORDS if w != "right"):
            step = offset_of(word, much=True)
            came = tuple(w + s for w, s in zip(wanted, step, strict=True))
            self.assertEqual(off_by(came, wanted).word, word)  # type: ignore[arg-type]

    def test_what_nobody_minds_is_right(self) -> None:
        self.assertEqual(off_by((60.0, 0.0, 0.0), (60.0, 0.0, 0.0)), Off("right"))
        self.assertFalse(off_by((61.0, 0.0, 0.0), (60.0, 0.0, 0.0)).much)
        self.assertTrue(off_by((80.0, 0.0, 0.0), (60.0, 0.0, 0.0)).much)


class Amounts(unittest.TestCase):
    def test_what_goes_in_comes_out(self) -> None:
        random.seed(3)
        for _ in range(200):
            taken = []
            for _ in range(random.randrange(6)):
                lost_g = random.choice((0.0, random.uniform(0, 80)))
                taken.append(Taken(random.uniform(0, 150), lost_g, given=random.random() < 0.3))
            came = came_of(300.0, taken)
            out_g = came.on_pieces_g + came.given_g + came.lost_g + came.left_g
            self.assertAlmostEqual(came.melted_g, out_g, places=9)
            self.assertGreaterEqual(min(came.on_pieces_g, came.given_g, came.lost_g, came.left_g), -1e-9)

    def test_edges(self) -> None:
        self.assertEqual(came_of(0.0, []), Came())
        self.assertEqual(came_of(100.0, [Taken(250.0)]).on_pieces_g, 100.0)
        self.assertEqual(came_of(100.0, [Taken(0.0)]).left_g, 100.0)
        for wrong in (-1.0, math.nan):
            with self.assertRaises(OutOfBounds):
                came_of(wrong, [])
        for taken in (Taken(10.0, lost_g=-1.0), Taken(-1.0), Taken(math.nan)):
            with self.assertRaises(OutOfBounds):
                came_of(100.0, [taken])

    def test_wasted_is_never_more_than_was_there(self) -> None:
        self.assertEqual(wasted(Came(100.0, 100.0)), [])
        self.assertEqual(wasted(Came(100.0, 96.0, left_g=4.0)), [])  # what stays in any bowl
        (kept,) = wasted(Came(200.0, 120.0, left_g=80.0), gone_g=500.0)
        self.assertEqual((kept.why, kept.mass_g), ("kept_too_long", 80.0))
        (over,) = wasted(Came(200.0, 120.0, left_g=80.0), kept_g=0.0)
        self.assertEqual((over.why, over.less_g), ("too_much", 65.0))
        self.assertLess(over.less_g, over.mass_g)


class Seasons(unittest.TestCase):
    def test_a_year_has_four_and_the_south_has_the_other_half(self) -> None:
        self.assertEqual([season_of(m) for m in range(1, 13)].count("winter"), 3)
        self.assertEqual({season_of(m) for m in range(1, 13)}, set(SEASONS))
        for month in range(1, 13):
            north, south = SEASONS.index(season_of(month)), SEASONS.index(season_of(month, south=True))
            self.assertEqual((north + 2) % 4, south)
        self.assertEqual(season_year(2025, 12), season_year(2026, 1))
        for wrong in (0, 13):
            with self.assertRaises(OutOfBounds):
                season_of(wrong)
