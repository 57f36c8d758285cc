"""Spectra from one colour, colourants from one tint, graded shades, coats, what to say of the impossible."""

import itertools
import unittest
import warnings
from dataclasses import replace

import numpy as np

from coating.colour import colour_difference, lab_from_reflectance
from coating.colour.drop_plan import drop_plan, past
from coating.colour.fitting import fit_colourant, learned_strengths, stronger
from coating.colour.grading import grade, grade_from_stock, stock_for
from coating.colour.hiding import coats_to_hide
from coating.colour.kubelka_munk1931 import ratio_from_reflectance, reflectance_from_ratio
from coating.colour.mixing import GEL, Part, mix
from coating.colour.reach import is_ready_coloured, out_of_reach, too_little_base
from coating.colour.recipe import find_recipe
from coating.colour.spectra import Curve
from coating.colour.upsampling import absorption_from_lab, reflectance_from_lab
from coating.errors import CoatingError, EmptyBowl, NoSuchColour, TooFewDrops
from coating.stock.ingredients import DEMO_INGREDIENTS, demo_ingredient

COLOURS = tuple(i for i in DEMO_INGREDIENTS.values() if i.is_colourant and i.kind != GEL)


def part(name: str, mass_g: float) -> Part:
    return Part(demo_ingredient(name), mass_g)


def chart() -> np.ndarray:
    """Reflectances of the 24 patches of a ColorChecker (BabelColor average), as colour-science ships them."""
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        import colour
    patches = colour.SDS_COLOURCHECKERS["BabelColor Average"]
    shape = colour.SpectralShape(400, 700, 10)
    return np.array([sd.copy().align(shape).values for sd in patches.values()])


class Upsampling(unittest.TestCase):
    def test_mixes_of_measured_patches_come_out_near(self) -> None:
        """Half-and-half mixes reckoned from Lab alone against those of the measured spectra: median under .8."""
        measured = chart()
        upsampled = np.array([reflectance_from_lab(lab) for lab in lab_from_reflectance(measured)])
        np.testing.assert_allclose(lab_from_reflectance(upsampled), lab_from_reflectance(measured), atol=1e-5)
        differences = []
        for i, j in itertools.combinations(range(len(measured)), 2):
            labs = [
                lab_from_reflectance(reflectance_from_ratio(ratio_from_reflectance(r[[i, j]]).mean(axis=0)))
                for r in (measured, upsampled)
            ]
            differences.append(float(colour_difference(*labs)))
        self.assertLess(np.median(differences), 0.8)

    def test_a_base_from_one_reading_has_that_colour(self) -> None:
        ivory = demo_ingredient("ivory")
        lab = (88.0, 1.0, 18.0)
        own = replace(ivory, absorption=absorption_from_lab(lab, ivory.scattering))
        self.assertLess(float(colour_difference(mix([Part(own, 1.0)]).lab(), lab)), 0.01)

    def test_no_coating_looks_like_that(self) -> None:
        self.assertAlmostEqual(float(lab_from_reflectance(reflectance_from_lab((100, 0, 0)))[0]), 99.9, places=6)
        for lab in ((50, 120, 0), (30, 0, -120), (0, 0, 0), (float("nan"), 0, 0), (99, 60, 60)):
            with self.assertRaises(NoSuchColour):
                reflectance_from_lab(lab)


class Fitting(unittest.TestCase):
    def test_one_tint_foretells_paler_and_deeper_ones(self) -> None:
        """At a quarter to four times the load: median within .2, worst within 2.1 (a second band of blue)."""
        errors = []
        for colour in COLOURS[:-1]:
            grams = 5.0 if colour.kind == "butter" else 8 * colour.unit_g
            lab = mix([part("bright", 200), Part(colour, grams)]).lab()
            fitted = fit_colourant([part("bright", 200)], grams, lab, scattering=colour.scattering)
            own = replace(colour, absorption=fitted.absorption)
            for times in (0.25, 0.5, 2, 4):
                pair = [mix([part("bright", 200), Part(c, grams * times)]).lab() for c in (colour, own)]
                errors.append(float(colour_difference(*pair)))
        self.assertLess(np.median(errors), 0.2)
        self.assertLess(max(errors), 2.1)

    def test_what_no_tint_can_be_is_refused(self) -> None:
        base = [part("ivory", 200)]
        for lab in ((97, 0, 2), (99.9, 0, 0)):
            with self.assertRaises(NoSuchColour):
                fit_colourant(base, 0.4, lab)
        with self.assertRaises(EmptyBowl):
            fit_colourant(base, 0.0, (80, 0, 0))
        self.assertIsInstance(fit_colourant(base, 0.4, mix(base).lab()).absorption, Curve)

    def test_a_reading_teaches_the_strength_of_what_is_in(self) -> None:
        bowl = [part("bright", 200), part("blue", 0.32), part("yellow", 0.08)]
        learned = learned_strengths(bowl, mix(stronger(bowl, {"blue": 1.4})).lab())
        self.assertTrue(1.3 < learned["blue"] < 1.42, learned)
        self.assertTrue(0.8 < learned["yellow"] < 1.2, learned)
        self.assertEqual(learned_strengths(bowl[:1], (90, 0, 0)), {})
        wild = learned_strengths(bowl, (10.0, 80.0, 80.0))
        self.assertTrue(all(0.1 < v < 8 for v in wild.values()), wild)


class Grading(unittest.TestCase):
    def test_steps_are_as_even_as_whole_drops_can_be(self) -> None:
        """Against every choice of whole numbers: least sum of squared steps from the base to the deepest."""
        base, blue = [part("bright", 200)], demo_ingredient("blue")
        grading = grade(base, blue, 4, 14)
        labs = [mix([*base, Part(blue, n * blue.unit_g)]).lab() for n in range(15)]

        def uneven(drops: tuple[int, ...]) -> float:
            way = (0, *drops)
            return sum(float(colour_difference(labs[a], labs[b])) ** 2 for a, b in itertools.pairwise(way))

        best = min((c for c in itertools.combinations(range(1, 15), 4) if c[-1] == 14), key=uneven)
        self.assertEqual(grading.amounts, best)
        np.testing.assert_allclose(grading.labs[-1], labs[14])

    def test_a_stock_is_even_where_drops_are_not(self) -> None:
        base, blue = [part("bright", 200)], demo_ingredient("blue")
        drops = grade(base, blue, 9, 9)
        self.assertEqual((drops.amounts, drops.even), (tuple(range(1, 10)), False))
        stock = stock_for(base, blue, 9, 300)
        mixed = grade_from_stock(base, stock, 9, 100)
        self.assertTrue(mixed.even)
        self.assertEqual(mixed.amounts[-1], 100)
        self.assertLess(float(colour_difference(mixed.labs[-1], drops.labs[-1])), 0.3)
        self.assertEqual(len(grade(base, blue, 9, 5000).amounts), 9)
        with self.assertRaises(TooFewDrops):
            grade(base, blue, 5, 4)
        with self.assertRaises(TooFewDrops):
            grade_from_stock(base, stock, 5, 4)


class Coats(unittest.TestCase):
    def test_coats_of_white_over_yellow_and_dark(self) -> None:
        """Plain 8 and 9; with 5 % white dispersion 5 and 4; with 20 % 2 and 2 (the models' own figures)."""
        for white_g, expected in ((0, (8, 9)), (5, (5, 4)), (20, (2, 2))):
            paint = [part("bright", 100 - white_g), *([part("white_dispersion", white_g)] if white_g else [])]
            grounds = (mix([part(n, 1)]).reflectance() for n in ("yellow_coating", "dark"))
            self.assertEqual(tuple(coats_to_hide(paint, g).coats for g in grounds), expected)

    def test_no_coats_on_its_own_colour_and_never_for_a_dye(self) -> None:
        paint = [part("bright", 100)]
        self.assertEqual(coats_to_hide(paint, mix(paint).reflectance()).coats, 0)
        thin = coats_to_hide(paint, np.zeros(31), coat_mm=0.01)
        self.assertIsNone(thin.coats)
        self.assertEqual(len(thin.labs), 61)
        self.assertTrue(0 < thin.contrast_ratio < coats_to_hide(paint, np.zeros(31)).contrast_ratio < 1)
        with self.assertRaises(CoatingError):
            coats_to_hide(paint, np.zeros(31), coat_mm=float("nan"))


class OutOfReach(unittest.TestCase):
    def test_deep_red_wants_an_absurd_dose_or_the_red_coating(self) -> None:
        ready = [i for i in DEMO_INGREDIENTS.values() if i.is_base and is_ready_coloured(i)]
        self.assertEqual([i.name for i in ready], ["yellow_coating", "green_coating", "red_coating", "black_coating"])
        why = out_of_reach((32.0, 48.0, 24.0), (demo_ingredient("bright"),), COLOURS, 200.0, ready)
        self.assertEqual((why.reason, why.ready[0][0].name), ("load", "red_coating"))
        self.assertTrue(2 < why.absurd.load <= 10)
        self.assertIn("red_coating", {p.ingredient.name for p in why.ready[0][1].parts})
        neon = out_of_reach((90.0, -80.0, 90.0), (demo_ingredient("bright"),), COLOURS, 200.0, [])
        self.assertEqual((neon.reason, neon.ready), ("range", ()))

    def test_a_whole_drop_too_much_for_so_little(self) -> None:
        bright, pink = demo_ingredient("bright"), demo_ingredient("pink")
        pale = mix([Part(bright, 100.0), Part(pink, 0.04)]).lab()  # a drop in 100 g
        why = out_of_reach(pale, (bright,), (pink,), 30.0, [])
        self.assertEqual(why.reason, "drop")
        least, whole = why.too_little.least_base_g, why.too_little.whole
        self.assertEqual((whole.ingredient.name, whole.mass_g), ("pink", pink.unit_g))
        off = [float(colour_difference(mix([Part(bright, g), whole]).lab(), pale)) for g in (least - 10, least)]
        self.assertTrue(off[0] > 3.0 >= off[1], off)  # ten grams less, and the drop is too much
        self.assertIsNone(too_little_base(pale, (bright,), (), 30.0))


class DropPlan(unittest.TestCase):
    def test_the_colour_that_makes_it_first_and_drops_singly_at_the_end(self) -> None:
        target = (70.0, -12.0, -18.0)
        recipe = find_recipe(target, (demo_ingredient("bright"),), COLOURS, 200.0)
        steps = drop_plan(recipe.parts, target)
        self.assertTrue(all(p.ingredient.is_base for p in steps[0].parts))
        together = mix([p for s in steps for p in s.parts])
        self.assertLess(float(colour_difference(together.lab(), recipe.lab)), 1e-6)
        self.assertAlmostEqual(steps[-1].de00, recipe.de00, places=6)
        self.assertTrue(all(s.lab[0] > target[0] - 1 for s in steps))

        def without(name: str) -> float:
            rest = [p for p in recipe.parts if p.ingredient.name != name]
            return float(colour_difference(mix(rest).lab(), recipe.lab))

        colours = [p.ingredient.name for p in recipe.parts if p.ingredient.is_colourant]
        first = next(p.ingredient for s in steps for p in s.parts if p.ingredient.is_colourant)
        self.assertEqual(first.name, max(colours, key=without))
        self.assertEqual([round(p.units) for s in steps[-2:] for p in s.parts], [1, 1])
        self.assertTrue(all(abs(p.units - round(p.units)) < 1e-6 for s in steps for p in s.parts))
        self.assertTrue(past(recipe.parts, demo_ingredient("black"), target))
        self.assertFalse(past(recipe.parts[:1], demo_ingredient("blue"), target))
        self.assertEqual(drop_plan((), target), [])
