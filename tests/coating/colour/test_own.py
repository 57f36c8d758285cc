"""Bags and bottles of a maker's own: the shade said is the shade had, and the rest is assumed from its like."""

import math
import unittest

from coating.colour.ciede2000 import colour_difference
from coating.colour.mixing import SORTS, Part, mix
from coating.colour.recipe import find_recipe
from coating.errors import EmptyBowl, NoSuchColour, UnknownName
from coating.stock.ingredients import demo_ingredient
from coating.stock.own import TINTED_G, TINTS, own_base, own_colour

RED, PINK, BLACK, GREEN = (42.0, 55.0, 32.0), (74.0, 28.0, 4.0), (14.0, 1.0, 1.0), (55.0, -35.0, 30.0)


class Bases(unittest.TestCase):
    def test_the_shade_said_is_the_shade_of_the_bag(self) -> None:
        for lab in (RED, PINK, BLACK, GREEN):
            for family in ("palm", "cocoa"):
                base = own_base("mine", "Mine", family, "coloured", lab)
                self.assertLess(float(colour_difference(mix([Part(base, 50.0)]).lab(), lab)), 0.05, (family, lab))

    def test_the_rest_is_as_of_its_like(self) -> None:
        dark, milk = own_base("d", "D", "cocoa", "dark"), own_base("m", "M", "palm", "milk")
        self.assertEqual((dark.chocolate, dark.number), ("dark", demo_ingredient("dark").number))
        self.assertEqual((milk.family, milk.number, milk.fat_fraction), ("palm", 58, 0.32), "it flows as a coating")
        self.assertLess(mix([Part(dark, 1.0)]).lab()[0], mix([Part(milk, 1.0)]).lab()[0])
        self.assertEqual({own_base("x", "X", "cocoa", s, RED).chocolate for s in SORTS}, {"white", "milk", "dark"})

    def test_ready_coloured_bags_mix_with_each_other_and_with_drops(self) -> None:
        """Between a red and a white bag lies pink; found with the two bags, better than with the white alone."""
        red = own_base("mine", "Mine", "palm", "coloured", RED)
        bright, target = demo_ingredient("bright"), mix([Part(red, 60.0), Part(demo_ingredient("bright"), 40.0)]).lab()
        recipe = find_recipe(target, (bright, red), (), 200.0)
        self.assertLess(recipe.de00, 0.5)
        self.assertEqual({p.ingredient.name for p in recipe.parts}, {"mine", "bright"})
        darker = mix([Part(red, 100.0), Part(demo_ingredient("black"), 0.4)]).lab()
        with_drops = find_recipe(darker, (red,), (demo_ingredient("black"),), 200.0)
        self.assertLess(with_drops.de00, 0.5)

    def test_what_cannot_be(self) -> None:
        with self.assertRaises(EmptyBowl):
            own_base("x", "X", "palm", "coloured")
        for bad in (("lard", "white"), ("palm", "ruby")):
            with self.assertRaises(UnknownName):
                own_base("x", "X", *bad)
        for lab in ((90.0, 120.0, 90.0), (math.nan, 0.0, 0.0), (0.0, 0.0, 0.0)):
            with self.assertRaises(NoSuchColour):
                own_base("x", "X", "palm", "coloured", lab)


class Colours(unittest.TestCase):
    def test_a_tint_gives_that_tint(self) -> None:
        for kind, code in (("liquid", "pink"), ("powder", "red_powder"), ("butter", "red_butter")):
            shown = [Part(demo_ingredient("bright"), TINTED_G), Part(demo_ingredient(code), TINTS[kind].grams)]
            tint = mix(shown).lab()
            mine = own_colour("mine", "Mine", kind, tint=tint)
            again = mix([shown[0], Part(mine, TINTS[kind].grams)]).lab()
            self.assertLess(float(colour_difference(again, tint)), 1.0, code)
            self.assertEqual((mine.kind, mine.unit_g), (kind, demo_ingredient(code).unit_g))

    def test_like_one_of_ours(self) -> None:
        blue = demo_ingredient("blue")
        self.assertEqual(own_colour("m", "M", "liquid", like=blue).absorption, blue.absorption)
        powder = own_colour("m", "M", "powder", like=blue)
        self.assertAlmostEqual(powder.absorption.bands[0][0], 3 * blue.absorption.bands[0][0])

    def test_what_cannot_be(self) -> None:
        with self.assertRaises(EmptyBowl):
            own_colour("m", "M", "liquid")
        with self.assertRaises(UnknownName):
            own_colour("m", "M", "paint", like=demo_ingredient("blue"))
        with self.assertRaises(NoSuchColour):
            own_colour("m", "M", "liquid", tint=(85.0, 80.0, -60.0))
