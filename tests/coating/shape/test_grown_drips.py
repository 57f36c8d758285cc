"""Drips that look grown: the way round, the least gap, lengths within bounds, neighbours that differ, grams."""

import math
import unittest

import numpy as np
from hypothesis import given
from hypothesis import strategies as st
from scipy.integrate import quad

from coating.errors import OutOfBounds
from coating.shape.drips import TOP_MM
from coating.shape.grown_drips import (
    CLEAR_MM,
    FILLET_MM,
    GrownDrips,
    drip_volume_mm3,
    grown_drips,
    half_width_mm,
    least_gap_mm,
)
from coating.shape.pieces import CakeTier
from tests.coating.piece.test_piece import calm

TIER = CakeTier(200, 110)


def grown(**changed: float) -> GrownDrips:
    data = {"spacing_mm": 28.0, "length_mm": 42.0, "width_mm": 10.0, "variation": 0.35, "seed": 7, **changed}
    return grown_drips(TIER, **data)  # type: ignore[arg-type]


class Grown(unittest.TestCase):
    def test_a_flooded_top_by_hand(self) -> None:
        """A disc of 200 mm, 2.5 mm deep: 78540 mm2, 98 g at a density of 1.25; a flooded cake is so much heavier."""
        self.assertEqual(TOP_MM, 2.5)
        drips = grown()
        volume_ml = math.pi * 100**2 * 2.5 / 1000
        self.assertAlmostEqual(drips.top_g / volume_ml, drips.rim_g / (math.pi * 200 * 6 * 2.2 * 0.8 / 1000))
        self.assertTrue(97 < drips.top_g < 101, drips.top_g)
        flooded = grown_drips(TIER, spacing_mm=28, length_mm=42, width_mm=10, variation=0.35, seed=7, flooded=True)
        self.assertAlmostEqual(flooded.mass_g - drips.mass_g, drips.top_g)

    def test_the_section_is_half_an_ellipse(self) -> None:
        """10 mm wide and 2 thick is 15.708 mm2 (identity); here 2.2 thick, integrated by scipy along the drip."""
        self.assertAlmostEqual(math.pi / 4 * 10 * 2, 15.708, places=3)
        by_hand, _ = quad(
            lambda z: math.pi / 2 * float(half_width_mm(np.array([z]), 42, 10)[0]) * 2.2, 0, 42, limit=400
        )
        self.assertAlmostEqual(drip_volume_mm3(42, 10) / by_hand, 1, delta=0.01)
        self.assertAlmostEqual(float(half_width_mm(np.array([42.0]), 42, 10)[0]), 0.0)
        self.assertGreater(float(half_width_mm(np.array([0.0]), 42, 10)[0]), 9)

    @calm
    @given(st.integers(0, 10**6), st.floats(0, 1), st.floats(22, 60), st.floats(8, 80))
    def test_round_and_apart_and_within_bounds(
        self, seed: int, variation: float, spacing: float, length: float
    ) -> None:
        try:
            drips = grown(seed=seed, variation=variation, spacing_mm=spacing, length_mm=length)
        except OutOfBounds as refusal:
            self.assertEqual(refusal.fields["field"], "spacing_mm")
            return
        self.assertAlmostEqual(sum(drips.gaps_mm), math.pi * 200, places=6)
        self.assertGreaterEqual(min(drips.gaps_mm), least_gap_mm(10) - 1e-9)
        self.assertTrue(0.25 * length - 1e-9 <= min(drips.lengths_mm) and max(drips.lengths_mm) <= 88 + 1e-9)
        self.assertTrue(min(drips.widths_mm) >= 7 - 1e-9 and max(drips.widths_mm) <= 10 + 1e-9)
        self.assertEqual(drips, grown(seed=seed, variation=variation, spacing_mm=spacing, length_mm=length))

    def test_as_uneven_as_is_asked_and_regular_at_nothing(self) -> None:
        regular = grown(variation=0)
        self.assertEqual((len(set(regular.gaps_mm)), set(regular.lengths_mm)), (1, {42.0}))
        many = [grown(seed=s, variation=0.3) for s in range(60)]
        lengths = np.concatenate([m.lengths_mm for m in many])
        self.assertAlmostEqual(float(lengths.std() / lengths.mean()), 0.3, delta=0.04)
        self.assertAlmostEqual(float(lengths.mean()), 42, delta=1.5)
        self.assertNotEqual(many[0].lengths_mm, many[1].lengths_mm)

    def test_neighbours_differ_more_than_by_chance(self) -> None:
        draw = np.random.default_rng(1)
        for seed in range(8):
            lengths = np.array(grown(seed=seed).lengths_mm)
            chance = [np.abs(p - np.roll(p, 1)).mean() for p in (draw.permutation(lengths) for _ in range(200))]
            self.assertGreater(np.abs(lengths - np.roll(lengths, 1)).mean(), float(np.mean(chance)))

    def test_what_would_run_together_or_reach_the_board_is_refused(self) -> None:
        self.assertEqual(least_gap_mm(10), 10 + 2 * FILLET_MM + CLEAR_MM)
        for changed, field in (
            ({"spacing_mm": 15.0}, "spacing_mm"),
            ({"length_mm": 100.0}, "length_mm"),
            ({"variation": 1.5}, "variation"),
            ({"variation": float("nan")}, "variation"),
            ({"width_mm": 0.0}, "width_mm"),
            ({"spacing_mm": float("inf")}, "spacing_mm"),
        ):
            with self.assertRaises(OutOfBounds) as data:
                grown(**changed)
            self.assertEqual(data.exception.fields["field"], field)
