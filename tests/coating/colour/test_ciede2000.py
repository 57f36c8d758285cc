import unittest
import warnings

import numpy as np

from coating.colour.ciede2000 import colour_difference, difference_word
from tests.coating.colour.sharma2005 import PAIRS

with warnings.catch_warnings():
    warnings.simplefilter("ignore")
    import colour


class Ciede2000(unittest.TestCase):
    def test_published_pairs(self) -> None:
        table = np.array(PAIRS)
        self.assertEqual(len(table), 34)
        np.testing.assert_allclose(colour_difference(table[:, :3], table[:, 3:6]), table[:, 6], atol=1e-4)
        np.testing.assert_allclose(colour_difference(table[:, 3:6], table[:, :3]), table[:, 6], atol=1e-4)

    def test_agrees_with_colour_science(self) -> None:
        rng = np.random.default_rng(3)
        a, b = rng.uniform([0, -100, -100], [100, 100, 100], (2, 3000, 3))
        np.testing.assert_allclose(colour_difference(a, b), colour.delta_E(a, b, method="CIE 2000"), atol=1e-9)

    def test_no_chroma_no_hue(self) -> None:
        self.assertEqual(float(colour_difference([0, 0, 0], [0, 0, 0])), 0.0)
        self.assertTrue(np.isfinite(colour_difference([50, 0, 0], [50, 0, 40])))

    def test_words_change_at_their_numbers(self) -> None:
        words = [difference_word(v) for v in (0, 1, 1.001, 2, 2.001, 5, 5.001)]
        self.assertEqual(words, ["a match"] * 2 + ["close"] * 2 + ["visible"] * 2 + ["another colour"])
