import unittest

import numpy as np

from coating.colour import Part, colour_difference, mix
from coating.colour.mixing import merge
from coating.errors import EmptyBowl, NotANumber, OutOfBounds
from coating.stock.ingredients import demo_ingredient


def part(name: str, mass_g: float) -> Part:
    return Part(demo_ingredient(name), mass_g)


def drops(name: str, count: int) -> Part:
    return Part(demo_ingredient(name), count * demo_ingredient(name).unit_g)


class Mixing(unittest.TestCase):
    def test_bases_as_described(self) -> None:
        """The invented demo bases, to the rounding of their description."""
        described = {
            "ivory": (90.8, 0.2, 14),
            "bright": (97.1, -0.6, 3.2),
            "yellow_coating": (91.4, -3.0, 66.8),
            "green_coating": (69.7, -39.8, 28.2),
            "red_coating": (41, 53, 22),
            "dark": (32, 3.6, 15.8),
            "black_coating": (17, 0, -1),
        }
        for name, lab in described.items():
            np.testing.assert_allclose(mix([part(name, 100)]).lab(), lab, atol=0.51, err_msg=name)

    def test_neither_order_nor_size_nor_itself_changes_the_colour(self) -> None:
        parts = [part("bright", 120), part("ivory", 80), drops("blue", 5), drops("red", 3)]
        lab = mix(parts).lab()
        halves = mix(mix(parts[:2]).parts + mix([*parts[2:]]).parts)
        doubled = mix([*parts, *parts])
        for other in (mix(parts[::-1]), halves, doubled):
            self.assertLess(float(colour_difference(other.lab(), lab)), 1e-6)
        twice = mix([part("bright", 100), part("bright", 150)])
        self.assertLess(float(colour_difference(twice.lab(), mix([part("bright", 1)]).lab())), 1e-6)

    def test_white_pigment_lightens_and_hardly_turns_the_hue(self) -> None:
        expected = [
            (90.753, 0.245, 13.956),
            (91.283, 0.111, 13.225),
            (91.718, 0.003, 12.605),
            (92.084, -0.087, 12.07),
            (92.396, -0.162, 11.603),
            (92.903, -0.284, 10.823),
        ]
        labs = [mix([part("ivory", 200), part("white_dispersion", w)]).lab() for w in (0, 1, 2, 3, 4, 6)]
        np.testing.assert_allclose(labs, expected, atol=0.01)

    def test_double_base_halves_the_excess_not_the_chroma(self) -> None:
        plain = mix([part("bright", 200)])
        tinted, twice = (mix([part("bright", g), drops("blue", 8)]) for g in (200, 400))
        excess = [m.absorption / m.scattering - plain.absorption / plain.scattering for m in (tinted, twice)]
        np.testing.assert_allclose(excess[1] / excess[0], 0.5, atol=1e-6)
        chroma = [np.hypot(*m.lab()[1:]) for m in (tinted, twice)]
        self.assertTrue(0.7 < chroma[1] / chroma[0] < 0.8)

    def test_fat_and_nothing_change_no_colour(self) -> None:
        lab = mix([part("ivory", 200), drops("blue", 4)]).lab()
        thinned = mix([part("ivory", 200), drops("blue", 4), part("cocoa_butter", 9), part("bright", 0)])
        self.assertLess(float(colour_difference(thinned.lab(), lab)), 1e-9)

    def test_load_counts_against_the_base(self) -> None:
        self.assertAlmostEqual(mix([part("ivory", 200), drops("blue", 50)]).load, 2.0 / (0.02 * 200))
        self.assertIsNone(mix([drops("blue", 3)]).load)

    def test_bad_amounts(self) -> None:
        with self.assertRaises(EmptyBowl):
            mix([])
        with self.assertRaises(OutOfBounds):
            part("ivory", -1)
        with self.assertRaises(NotANumber):
            part("ivory", float("nan"))
        self.assertEqual(merge([part("ivory", 0)]), ())
