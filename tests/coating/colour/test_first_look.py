"""The range of the first look: held by kitchens that are drawn, narrower for what is known, the same every time."""

from __future__ import annotations

import math
import unittest

import numpy as np

from coating.colour.ciede2000 import colour_difference
from coating.colour.first_look import DROP_SD, STRENGTH_SD, first_look
from coating.colour.fitting import with_strength
from coating.colour.mixing import Part, mix
from coating.colour.recipe import find_recipe
from coating.errors import EmptyBowl
from coating.stock.ingredients import demo_ingredient

WHITE = demo_ingredient("bright")
COLOURS = tuple(map(demo_ingredient, ("yellow", "red", "pink", "purple", "blue", "teal", "green", "black")))
TARGETS = ((70.0, -10.0, -15.0), (80.0, 14.0, 4.0), (60.0, 40.0, 20.0), (85.0, -12.0, 8.0))


class FirstLook(unittest.TestCase):
    def test_nine_kitchens_in_ten_lie_within(self) -> None:
        """200 kitchens for each of four recipes, drawn by another generator: drops sd .2 of ln, bottles .3."""
        draw, held = np.random.default_rng(4), []
        for target in TARGETS:
            parts = find_recipe(target, (WHITE,), COLOURS, 200.0).parts
            _, low, high = first_look(parts, target)
            for _ in range(200):
                drop = math.exp(draw.normal(0, DROP_SD))
                own = []
                for p in parts:
                    strong = {p.ingredient.name: math.exp(draw.normal(0, STRENGTH_SD))}
                    heavy = drop if p.ingredient.counted_in_drops else 1.0
                    own.append(
                        Part(with_strength(p.ingredient, strong if p.ingredient.is_colourant else {}), p.mass_g * heavy)
                    )
                held.append(low <= float(colour_difference(mix(own).lab(), target)) <= high)
        self.assertTrue(0.85 <= np.mean(held) <= 0.97, np.mean(held))

    def test_what_is_known_narrows_it_and_white_alone_has_none(self) -> None:
        parts = find_recipe(TARGETS[0], (WHITE,), COLOURS, 200.0).parts
        wide, known = first_look(parts, TARGETS[0]), dict.fromkeys((c.name for c in COLOURS), 0.06)
        narrow = first_look(parts, TARGETS[0], known=known)
        self.assertEqual(wide[0], narrow[0])
        self.assertLess(narrow[2], 0.5 * wide[2])
        self.assertLessEqual(first_look(parts, TARGETS[0], drop_sd=0.03)[2], wide[2])
        plain = first_look((Part(WHITE, 200.0),), TARGETS[0])
        self.assertAlmostEqual(plain[1], plain[2], delta=1e-9)
        self.assertEqual(first_look(parts, TARGETS[0]), wide)

    def test_as_reckoned_is_as_mixed(self) -> None:
        parts = find_recipe(TARGETS[1], (WHITE,), COLOURS, 200.0).parts
        reckoned, low, high = first_look(parts, TARGETS[1])
        self.assertAlmostEqual(reckoned, float(colour_difference(mix(parts).lab(), TARGETS[1])), delta=1e-9)
        self.assertTrue(low <= reckoned <= high)
        with self.assertRaises(EmptyBowl):
            first_look((), TARGETS[1])
