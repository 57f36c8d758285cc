"""Boxes for pieces with parts, and for several kinds together. Sizes by hand."""

from __future__ import annotations

import itertools
import unittest

from hypothesis import given, settings
from hypothesis import strategies as st

from coating.errors import OutOfBounds
from coating.piece.kinds import KINDS
from coating.plan.boxes import USUAL_BOXES, Box, packed_mix, with_part
from coating.stack.layers import Layer

LIES = st.tuples(st.floats(15, 120), st.floats(15, 120), st.floats(5, 60))


class WithParts(unittest.TestCase):
    def lies(
        self, kind: str, lies: tuple[float, float, float], on_stick: bool = False, **fields: object
    ) -> tuple[float, ...]:
        layer = Layer("part", part="p", **{"placed": "glued", **fields})  # type: ignore[arg-type]
        return with_part(lies, KINDS[kind], layer, (20.0, 30.0, 4.0), (20.0, 30.0), on_stick=on_stick)

    def test_as_high_and_wide_as_its_parts_make_it(self) -> None:
        """A part of 20 by 30 mm, 4 thick, of which 30 % is hidden where it is set on at a side."""
        cake = (150.0, 150.0, 100.0)
        self.assertEqual(self.lies("cake_tier", cake, where="standing"), (150, 150, 130))
        self.assertEqual(self.lies("cake_tier", cake, where="top"), (150, 150, 104))
        self.assertEqual(self.lies("cake_tier", cake, where="round", count=9), (158, 158, 100))
        self.assertEqual(self.lies("ball", (32, 122, 32), True, where="pairs", count=2), (60, 122, 32))
        self.assertEqual(self.lies("round_biscuit", (60, 60, 8), where="front"), (60, 60, 12))
        self.assertEqual(self.lies("cup", (50, 50, 25), placed="inside"), (50, 50, 25))
        wide, deep, high = self.lies("shape", (20, 20, 4), where="round", count=5)
        self.assertEqual((wide, deep, high), (deep, deep, 4))
        self.assertAlmostEqual(wide, 2 * 20 / 2 / 0.58779 + 30, places=3)  # sin 36 degrees: side by side


class Mixed(unittest.TestCase):
    def test_two_of_these_one_of_that(self) -> None:
        """Two rounds of 60 and a bar of 120 by 30 in a box of 120 square: 60 and 60 beside each other leave no gap."""
        with self.assertRaisesRegex(OutOfBounds, "do not all fit"):
            packed_mix(USUAL_BOXES["small"], [(60, 60, 10), (60, 60, 10), (120, 30, 8)])
        seats = packed_mix(USUAL_BOXES["small"], [(58, 58, 10), (58, 58, 10), (120, 30, 8)])
        self.assertEqual([sorted(seat[2:]) for seat in seats], [[58, 58], [58, 58], [30, 120]])

    def test_what_does_not_close_or_has_no_hole(self) -> None:
        with self.assertRaisesRegex(OutOfBounds, "lid does not close"):
            packed_mix(USUAL_BOXES["flat"], [(30, 30, 60)])
        with self.assertRaisesRegex(OutOfBounds, "4 holes of 66 mm"):
            packed_mix(USUAL_BOXES["four holes"], [(30, 30, 30)] * 5)
        self.assertEqual(len(packed_mix(USUAL_BOXES["four holes"], [(30, 30, 30)] * 3)), 3)
        self.assertEqual(packed_mix(USUAL_BOXES["small"], []), [])

    @settings(max_examples=80, deadline=None)
    @given(st.lists(LIES, min_size=1, max_size=12))
    def test_no_two_lie_in_one_place(self, pieces: list[tuple[float, float, float]]) -> None:
        box = Box(300, 200, 100)
        try:
            seats = packed_mix(box, pieces)
        except OutOfBounds:
            return
        self.assertEqual(len(seats), len(pieces))
        for (x, y, w, d), (a, b, _) in zip(seats, pieces, strict=True):
            for got, wanted in zip(sorted((w, d)), sorted((a, b)), strict=True):
                self.assertAlmostEqual(got, wanted, delta=0.11)
            self.assertTrue(x >= 0 and y >= 0 and x + w <= 300.001 and y + d <= 200.001)
        for (x, y, w, d), (u, v, p, q) in itertools.combinations(seats, 2):
            self.assertFalse(x < u + p and u < x + w and y < v + q and v < y + d)
