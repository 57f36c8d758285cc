"""The search for recipes and corrections, against colours that are known to be there."""

import unittest
from dataclasses import replace

import numpy as np

from coating.colour import colour_difference
from coating.colour.correction import correct
from coating.colour.mixing import Part, mix
from coating.colour.recipe import PLAIN, UNBOUND, find_recipes, kitchen_weights
from coating.colour.search.nearness import Nearness
from coating.colour.search.space import Bounds
from coating.errors import EmptyBowl
from coating.stock.ingredients import demo_ingredient
from tests.coating.colour.known_bowls import BASE_G, BASES, COLOURS, overdosed_bowls, reachable_targets

MIXED = Bounds(mixed_fats=True)


class Solver(unittest.TestCase):
    def test_two_hundred_reachable_colours_are_found_again(self) -> None:
        """Median within .10 and worst within .8 of recipes of at most four colours; every recipe can be made."""
        differences = []
        for target in reachable_targets(200, seed=7):
            recipes = find_recipes(target, BASES, COLOURS, BASE_G, (PLAIN,), (), MIXED)[0]
            differences.append(recipes.de00)
            bases = [p.mass_g for p in recipes.parts if p.ingredient.is_base]
            self.assertLessEqual(len(bases), 2)
            self.assertAlmostEqual(sum(bases), BASE_G, places=9)
            self.assertLessEqual(len(recipes.parts) - len(bases), 4)
            self.assertLessEqual(mix(recipes.parts).load, 1 + 1e-9)
            for part in recipes.parts:
                self.assertGreater(part.mass_g, 0)
                self.assertAlmostEqual(part.units, round(part.units), places=6)
        self.assertLessEqual(np.median(differences), 0.10)
        self.assertLessEqual(max(differences), 0.8)

    def test_the_quick_difference_is_the_published_one(self) -> None:
        """Within .2 far away and exactly nearby, of the CIEDE2000 that the published pairs check."""
        rng = np.random.default_rng(2)
        for target in ((60.0, -30.0, 20.0), (40.0, 10.0, -60.0), (97.0, -0.6, 3.2), (30.0, 0.0, 0.0)):
            labs = np.array(target) + rng.normal(0, 12, (300, 3))
            gap = Nearness(target).de00(labs) - colour_difference(labs, np.array(target))
            self.assertLess(np.abs(gap).max(), 0.2)
            near = np.array(target) + rng.normal(0, 0.5, (300, 3))
            gap = Nearness(target).de00(near) - colour_difference(near, np.array(target))
            self.assertLess(np.abs(gap).max(), 1e-6)

    def test_one_family_of_fat_unless_allowed(self) -> None:
        target = mix([Part(demo_ingredient("ivory"), 120.0), Part(demo_ingredient("bright"), 130.0)]).lab()
        two = BASES[:2]
        kept = find_recipes(target, two, (), BASE_G, (PLAIN,))[0]
        palm = sum(p.mass_g for p in kept.parts if p.ingredient.family == "palm")
        self.assertLessEqual(min(palm, BASE_G - palm), 0.05 * BASE_G)
        mixed = find_recipes(target, two, (), BASE_G, (PLAIN,), (), MIXED)[0]
        self.assertLess(mixed.de00, 0.1)
        self.assertLess(mixed.de00, kept.de00)

    def test_what_is_locked_is_in_and_bottles_can_be_few(self) -> None:
        target = reachable_targets(3, seed=5)[2]
        locked = replace(MIXED, locked=("purple", "ivory"))
        recipes = find_recipes(target, BASES, COLOURS, BASE_G, (PLAIN,), (), locked)[0]
        self.assertLessEqual({"purple", "ivory"}, {p.ingredient.name for p in recipes.parts})
        best, few = find_recipes(
            target, BASES, COLOURS, BASE_G, (PLAIN, replace(PLAIN, colourant=3, base=3)), (), MIXED
        )
        self.assertLessEqual(len(few.parts), len(best.parts))
        self.assertLessEqual(best.de00, few.de00 + 1e-9)

    def test_extremes(self) -> None:
        plain = find_recipes((97.0, -0.6, 3.2), BASES[1:2], (), 1.0, (PLAIN,))[0]
        self.assertEqual([p.mass_g for p in plain.parts], [1.0])
        black = find_recipes((0.0, 0.0, 0.0), BASES[:1], COLOURS, 20000.0, (kitchen_weights(BASES[:1], 2e4),))[0]
        self.assertFalse(black.reachable)
        self.assertLessEqual(black.load, 1 + 1e-9)
        with self.assertRaises(EmptyBowl):
            find_recipes((50.0, 0.0, 0.0), (), COLOURS, 200.0, (PLAIN,), (), UNBOUND)


class Correction(unittest.TestCase):
    def test_overdosed_bowls_come_back(self) -> None:
        """At least 55 of 70, as a reference search brings 56, by at most twice the bowl and within the load."""
        came_back = []
        every_base = tuple(demo_ingredient(n) for n in ("red_coating", "black_coating")) + BASES
        for bowl, target in overdosed_bowls():
            correction = correct(bowl, target, every_base, COLOURS, None, True)
            before = mix(bowl)
            self.assertLessEqual(correction.added_g, 2 * before.mass_g + 1e-6)
            self.assertLessEqual(correction.recipe.load, max(1.0, before.load or 0.0) + 1e-9)
            self.assertLessEqual(len(correction.recipe.parts), 4)
            self.assertAlmostEqual(mix((*bowl, *correction.recipe.parts)).mass_g, correction.mass_g, places=6)
            for part in correction.recipe.parts:
                self.assertAlmostEqual(part.units, round(part.units), places=6)
            if correction.reachable:
                came_back.append(correction.added_g)
        self.assertGreaterEqual(len(came_back), 55)
        self.assertLess(np.median(came_back), 60)

    def test_nothing_is_added_to_what_is_right_and_no_grams_wasted(self) -> None:
        bowl = (Part(demo_ingredient("bright"), 200.0), Part(demo_ingredient("blue"), 0.8))
        self.assertEqual(correct(bowl, mix(bowl).lab(), BASES, COLOURS).recipe.parts, ())
        small = correct(bowl, (88.0, -16.0, -8.0), BASES[1:2], (), 220.0)
        self.assertLessEqual(small.mass_g, 220 + 1e-6)
        self.assertFalse(small.reachable)
        # Every 50 g brings about one nearer, then it stops: 400 g would bring 6.5 for the price of eight.
        far = correct(bowl, (88.0, -16.0, -8.0), BASES[1:2], ())
        self.assertTrue(60 < far.added_g < 160, far.added_g)
        none = correct(bowl, (88.0, -16.0, -8.0), BASES[1:2], (), 10.0)
        self.assertEqual((none.added_g, none.reachable), (0, False))
        with self.assertRaises(EmptyBowl):
            correct((), (50.0, 0.0, 0.0), BASES, COLOURS)
