"""Counting together, fillings as batches, use-by dates, and what to begin with."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from coating.errors import OutOfBounds, UnknownName
from coating.piece.extras import STARTING_EXTRAS, Extra, batch_of, keeps_for
from coating.piece.families import in_motifs, in_variants, scaled
from coating.piece.kinds import KINDS
from coating.stack.layers import on_one_g
from coating.stack.order import in_order, mistakes
from coating.stack.starts import STARTS, start_called
from tests.coating.piece.test_piece import calm


class Counting(unittest.TestCase):
    def test_hamilton_by_hand(self) -> None:
        """Largest remainder on 21 seats for 1500, 400, 100 (textbook apportionment, from memory): 15.75, 4.2, 1.05."""
        self.assertEqual(in_variants(21, [1500, 400, 100]), [16, 4, 1])
        self.assertEqual(in_variants(24, [1, 1, 1, 1]), [6, 6, 6, 6])
        self.assertEqual(in_motifs(8, [1, 3]), [8, 24])
        self.assertEqual(scaled([24, 12, 1], 24, 40), [40, 20, 2])

    @calm
    @given(st.lists(st.integers(1, 500), min_size=1, max_size=12), st.integers(0, 400))
    def test_variants_add_up_with_one_of_each(self, shares: list[int], more: int) -> None:
        count = len(shares) + more
        result = in_variants(count, shares)
        self.assertEqual(sum(result), count)
        self.assertGreaterEqual(min(result), 1)
        for a, b in zip(shares, result, strict=True):
            for c, d in zip(shares, result, strict=True):
                self.assertTrue(a < c or b >= d or (a == c and abs(b - d) <= 1), (shares, result))

    def test_what_cannot_be_counted(self) -> None:
        for call in (
            lambda: in_variants(3, [1, 1, 1, 1]),
            lambda: in_variants(0, [1]),
            lambda: in_variants(5, [1, 0]),
            lambda: in_motifs(0, [1]),
            lambda: in_motifs(2, [0]),
            lambda: scaled([1], 0, 5),
            lambda: scaled([1], 5, 0),
        ):
            self.assertRaises(OutOfBounds, call)
        self.assertEqual((in_variants(3, []), in_motifs(3, []), scaled([], 1, 2)), ([], [], []))


class Batches(unittest.TestCase):
    def test_scaled_so_that_nothing_is_short(self) -> None:
        """Two to one for 188 g in the pieces: 200 g are made, 133.3 and 66.7 g."""
        batch = batch_of(188.0, (("white chocolate", 200.0), ("cream", 100.0)))
        self.assertAlmostEqual(batch.make_g, 200.0)
        self.assertAlmostEqual(dict(batch.parts)["white chocolate"], 400 / 3)
        self.assertAlmostEqual(sum(g for _, g in batch.parts), batch.goes_in_g + batch.lost_g)
        self.assertEqual(batch_of(0.0).make_g, 0)
        for call in (
            lambda: batch_of(float("nan")),
            lambda: batch_of(5, [("air", 0.0)]),
            lambda: batch_of(5, loss=1.0),
        ):
            self.assertRaises(OutOfBounds, call)

    def test_the_shortest_keeping_decides(self) -> None:
        cream, jam = Extra("filling", "Cream", keeps_days=1), Extra("filling", "Jam", keeps_days=14)
        self.assertEqual(keeps_for([jam, cream]), (1, "Cream"))
        self.assertEqual(keeps_for([jam], 1), (1, "the fruit"))
        self.assertIsNone(keeps_for([Extra("stick", "Stick")]))


class Starts(unittest.TestCase):
    def test_every_one_can_be_made_as_it_is(self) -> None:
        for start in STARTS.values():
            for part in start.parts:
                self.assertEqual(mistakes(part.core, part.layers), [], part.title)
                self.assertEqual(in_order(part.layers, part.core), tuple(range(len(part.layers))), part.title)
                grams = [on_one_g(part.core, la) for la in part.layers]
                bare = all(la.part and not la.takes_coating for la in part.layers)
                self.assertTrue((0 < sum(grams) < 1000) or bare, (part.title, grams))
        self.assertRaises(UnknownName, start_called, "cathedral")

    def test_the_six_that_were_promised(self) -> None:
        for name in ("half_dipped", "filled", "slab", "cups", "berries", "house"):
            self.assertIn(name, STARTS)
        house = start_called("house")
        self.assertEqual([(p.title, p.each) for p in house.parts], [("Walls", 2), ("Gables", 2), ("Roof halves", 2)])
        self.assertTrue(all("glue" in [la.technique for la in p.layers] for p in house.parts))
        self.assertEqual(len({(e.kind, e.name) for e in STARTING_EXTRAS}), len(STARTING_EXTRAS))
        self.assertEqual({p.kind_name for s in STARTS.values() for p in s.parts} - set(KINDS), set())
