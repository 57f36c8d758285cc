"""Ranges of a job and of a bowl: nine kitchens in ten that are drawn lie within."""

from __future__ import annotations

import math
import unittest
from dataclasses import replace

import numpy as np

from coating.colour.mixing import Part
from coating.heat.cooling import BowlCooling
from coating.job import Kitchen, Piece, Shelf, Wanted, reckon
from coating.job.ranges import goes_on_range, hands_range, money_range, wait_range
from coating.job.reckoning import JobStep, Reckoning
from coating.learning.factors import NOTHING, Factor, Factors
from coating.learning.names import PRIORS
from coating.piece.kinds import KINDS
from coating.simulate.bowl import BowlContext, Event
from coating.simulate.fold import fold
from coating.stack.layers import Layer
from coating.stock.ingredients import DEMO_INGREDIENTS, demo_ingredient

SHELF = Shelf((DEMO_INGREDIENTS["bright"],), (), {"palm": DEMO_INGREDIENTS["palm_flakes"]})
LAYERS = (Layer("dip", id="1"), *(Layer(n, id=n, length_mm=300.0) for n in ("lines", "drizzle")))
BISCUITS = Wanted((Piece("a", "round_biscuit", KINDS["round_biscuit"].core(60.0, 8.0), 24, LAYERS, 0),))


def reckoned(factors: Factors = NOTHING) -> Reckoning:
    return reckon(BISCUITS, Kitchen(factors=factors), SHELF, steps=False)


class Ranges(unittest.TestCase):
    def test_what_goes_on_in_drawn_kitchens(self) -> None:
        draw, lines = np.random.default_rng(2), reckoned().lines
        low, high = goes_on_range(lines, NOTHING)
        held = []
        for _ in range(120):
            of = {"coat.dip": "coat", "hole": "hole", "flow.bright": "flow"}
            drawn = {name: Factor(math.exp(draw.normal(0, PRIORS[kind]))) for name, kind in of.items()}
            held.append(low <= sum(line.goes_on_g for line in reckoned(Factors(drawn)).lines) <= high)
        self.assertTrue(0.84 <= np.mean(held) <= 0.97, np.mean(held))
        made_g, costs = sum(line.goes_on_g for line in lines), [(3.0, 1.0), (1.0, 0.5)]  # coating, and what is bought
        likely = tuple(1.5 + 4.0 * end / made_g for end in (low, high))
        np.testing.assert_allclose(money_range(costs, lines, NOTHING), likely)
        self.assertEqual(money_range(costs, [], NOTHING), (5.5, 5.5))

    def test_alike_they_err_together_and_apart_they_do_not(self) -> None:
        """Two equal parts that err together are off by as much as one, apart by the root of a half of it."""
        dip, lines, _ = reckoned().lines
        one = goes_on_range([dip], NOTHING)
        twice = goes_on_range([dip, dip], NOTHING)
        self.assertAlmostEqual(twice[1] / dip.goes_on_g, 2 * one[1] / dip.goes_on_g, delta=1e-9)
        other = replace(dip, technique="flood", on_one_g=dip.on_one_g)
        flood = math.log(goes_on_range([other], NOTHING)[1] / other.goes_on_g)
        both = math.log(goes_on_range([dip, other], NOTHING)[1] / (2 * dip.goes_on_g))
        alone = math.log(one[1] / dip.goes_on_g)
        self.assertAlmostEqual(both, math.hypot(alone, flood) / 2, delta=1e-9)
        self.assertEqual(goes_on_range([replace(lines, typed=True)], NOTHING), (lines.goes_on_g,) * 2)
        self.assertEqual(goes_on_range([], NOTHING), (0.0, 0.0))

    def test_what_was_learned_narrows_it(self) -> None:
        learned = Factors({"coat.dip": Factor(1.1, 1.05, 1.15), "pace": Factor(0.8, 0.75, 0.86)})
        dip = reckoned().lines[0]
        wide, narrow = goes_on_range([dip], NOTHING), goes_on_range([dip], learned)
        self.assertLess(narrow[1] - narrow[0], wide[1] - wide[0])
        step = JobStep("s", "make", hands_s=100.0, from_min=10.0)
        self.assertLess(hands_range(step, learned)[1], hands_range(step, NOTHING)[1])
        low, high = wait_range(step, NOTHING)
        self.assertTrue(low < 10.0 < high)
        self.assertAlmostEqual(learned.sd_of("coat.dip"), math.log(1.15 / 1.05) / 3.29, delta=1e-4)

    def test_how_long_a_bowl_stays_usable_in_drawn_kitchens(self) -> None:
        events = [
            Event(1, "added", 0.0, (Part(demo_ingredient("bright"), 250.0),)),
            Event(2, "warmed", 60.0, to_c=40.0),
        ]
        state = fold(events, BowlContext(), at_s=60.0)
        ends, until = state.usable_range_s(), state.usable_until_s()
        assert ends and until
        draw, held = np.random.default_rng(3), []
        for _ in range(300):
            loss, warm_c = math.exp(draw.normal(0, PRIORS["loss"])), 40.0 + draw.normal(0, 0.7)
            left_s = BowlCooling(250.0, 21.0, loss).time_to_s(warm_c, state.leaves_window_c())
            held.append(ends[0] <= 60.0 + left_s <= ends[1])
        self.assertTrue(0.85 <= np.mean(held) <= 0.97, np.mean(held))
        self.assertTrue(ends[0] < until < ends[1])
        self.assertIsNone(fold([], BowlContext(), at_s=0.0).usable_range_s())
