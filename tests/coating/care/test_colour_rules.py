"""Rules on colours: Commission Regulation (EU) 2022/63, 21 CFR 73.575(c), Regulation (EC) 1333/2008 annex V."""

import unittest

from coating.care import REGIONS, WHITE_LIMIT_US, may_propose, rule_for
from coating.errors import UnknownName
from coating.stock.ingredients import DEMO_INGREDIENTS, demo_ingredient

WHITE = demo_ingredient("white_dispersion")


class Rules(unittest.TestCase):
    def test_white_is_out_in_the_eu_and_limited_in_the_us(self) -> None:
        self.assertEqual(WHITE_LIMIT_US, 0.01)
        self.assertIn("not allowed", rule_for(WHITE, "eu"))
        self.assertIn("too much", rule_for(WHITE, "us", share=0.0101))
        self.assertNotIn("too much", rule_for(WHITE, "us", share=0.0099))
        self.assertEqual([may_propose(WHITE, r) for r in REGIONS], [False, True, True])

    def test_the_six_colours_are_named_where_they_may_be(self) -> None:
        for name in ("yellow", "orange", "red", "red_powder", "red_butter"):
            self.assertIn("E 102, 104, 110, 122, 124, 129", rule_for(demo_ingredient(name), "eu"), name)
            self.assertEqual(rule_for(demo_ingredient(name), "us"), "")
        for name in ("blue", "ivory", "cocoa_butter", "yellow_coating"):
            self.assertEqual(rule_for(demo_ingredient(name), "eu"), "", name)

    def test_everything_may_be_asked_about(self) -> None:
        for ingredient in DEMO_INGREDIENTS.values():
            for region in REGIONS:
                self.assertIsInstance(rule_for(ingredient, region, share=0.5), str)
        with self.assertRaises(UnknownName):
            rule_for(WHITE, "moon")
