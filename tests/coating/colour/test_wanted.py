"""Where a wanted colour comes from (photo, readings, chart), and several from one melt."""

import unittest

import numpy as np

from coating.colour import colour_difference, lab_from_srgb
from coating.colour.cie import lab_from_xyz
from coating.colour.ladder import BOWL_LOSS_G, Shade, tint_ladder
from coating.colour.mixing import Part, mix
from coating.colour.photo import PhotoPatch, colour_in_photo
from coating.colour.reach_map import LIGHTNESSES, chart, chart_reach, reach_cloud
from coating.colour.readings import lab_from_hex, read_readings
from coating.colour.ways import ColourWay, recipe_in, recipes_in_every_way
from coating.errors import EmptyBowl, OutOfBounds, Unreadable
from coating.stock.ingredients import DEMO_INGREDIENTS, demo_ingredient

LIQUIDS = tuple(i for i in DEMO_INGREDIENTS.values() if i.counted_in_drops)
WHITE = (demo_ingredient("bright"),)
WHITES = (*WHITE, demo_ingredient("yellow_coating"))


def scene(light: tuple[float, float, float]) -> np.ndarray:
    """White paper (reflecting .85) left, a shade #82aac4 right, under a light given as linear red, green, blue."""
    linear = np.empty((100, 200, 3))
    linear[:, :100] = 0.85
    linear[:, 100:] = ((np.array([130, 170, 196]) / 255 + 0.055) / 1.055) ** 2.4
    lit = np.clip(linear * light, 0, 1)
    return np.round(255 * np.where(lit <= 0.0031308, 12.92 * lit, 1.055 * lit ** (1 / 2.4) - 0.055)).astype(np.uint8)


class Photo(unittest.TestCase):
    SPOT, CARD = PhotoPatch(0.75, 0.5, 0.05), PhotoPatch(0.25, 0.5, 0.05)

    def test_the_card_takes_the_light_out(self) -> None:
        """Under daylight, lamplight and shade the same shade is found to within one, with the card and not without."""
        true = lab_from_srgb(np.array([130, 170, 196]) / 255)
        for light in ((1.0, 1.0, 1.0), (1.1, 0.8, 0.45), (0.3, 0.35, 0.4)):
            seen = colour_in_photo(scene(light), self.SPOT, card=self.CARD)
            self.assertLess(float(colour_difference(seen.lab, true)), 1.0, light)
            self.assertFalse(seen.uneven)
        plain = colour_in_photo(scene((1.1, 0.8, 0.45)), self.SPOT)
        self.assertGreater(float(colour_difference(plain.lab, true)), 10)

    def test_glints_do_not_count_and_edges_are_told(self) -> None:
        picture = scene((1.0, 1.0, 1.0))
        glint = picture.copy()
        glint[45:48, 140:160] = 255
        clean, shiny = (colour_in_photo(p, PhotoPatch(0.75, 0.5, 0.06)) for p in (picture, glint))
        self.assertLess(float(colour_difference(clean.lab, shiny.lab)), 0.5)
        self.assertTrue(colour_in_photo(picture, PhotoPatch(0.5, 0.5, 0.05)).uneven)

    def test_cards_that_cannot_be(self) -> None:
        for picture, card in (
            (scene((1.6, 1.6, 1.6)), self.CARD),
            (scene((0.005, 0.005, 0.005)), self.CARD),
            (scene((1, 1, 1)), PhotoPatch(2, 0)),
        ):
            with self.assertRaises(OutOfBounds) as caught:
                colour_in_photo(picture, self.SPOT, card=card)
            self.assertEqual(caught.exception.fields["field"], "card")
        with self.assertRaises(OutOfBounds):  # the shade taken for the paper
            colour_in_photo(scene((1.0, 1.0, 1.0)), self.CARD, card=PhotoPatch(0.75, 0.5), card_kind="white")
        for spot in (PhotoPatch(-0.1, 0), PhotoPatch(float("nan"), 0)):
            with self.assertRaises(OutOfBounds):
                colour_in_photo(scene((1, 1, 1)), spot)


class Readings(unittest.TestCase):
    def test_every_kind_of_file(self) -> None:
        bands = ",".join(f"SPECTRAL_NM{nm}" for nm in range(380, 731, 10))
        flat = ",".join(["18"] * 36)
        cgats = "CGATS.17\nBEGIN_DATA_FORMAT\nSAMPLE_NAME LAB_L LAB_A LAB_B\nEND_DATA_FORMAT\nBEGIN_DATA\n"
        for text, name, lab in (
            ("name,L,a,b\nDusk,68,-8,-17\n", "Dusk", (68, -8, -17)),
            ("LAB_L;LAB_A;LAB_B\n68,5;-8;-17", "", (68.5, -8, -17)),
            (f'{cgats}"Deep sea" 40 -5 -20\nEND_DATA\n', "Deep sea", (40, -5, -20)),
            ("R\tG\tB\n143\t176\t200", "", tuple(lab_from_hex("#8fb0c8"))),
            ("X,Y,Z\n30,32,50", "", tuple(lab_from_xyz((0.3, 0.32, 0.5)))),
            (f"id,{bands}\nx,{flat}", "x", (49.4961, 0, 0)),  # a flat 18 % is L* 49.4961
        ):
            (result,) = read_readings(text)
            self.assertEqual(result.name, name)
            np.testing.assert_allclose(result.lab, lab, atol=1e-3, err_msg=text[:40])

    def test_what_is_wrong_is_said(self) -> None:
        for text, says in (
            ("", "not a text"),
            ("\x00\x01", "not a text"),
            ("a\n1", "name no colour"),
            ("L,a,b", "no readings"),
            ("L,a,b\n1,2", "Line 2 has 2 columns"),
            ("L,a,b\nx,2,3", "'x' is not a number"),
            ("L,a,b\n500,2,3", "not a colour"),
            ("L,a,b\nnan,2,3", "not a colour"),
            ("R,G,B\n-1,0,300", "0 to 255"),
            ("L,a,b\n" + "50,0,0\n" * 501, "500 readings"),
            ("x" * 400_001, "too long"),
        ):
            with self.assertRaises(Unreadable) as caught:
                read_readings(text)
            self.assertIn(says, caught.exception.message, text[:30])
        with self.assertRaises(Unreadable):
            lab_from_hex("#12345")


class Chart(unittest.TestCase):
    def test_what_the_chart_calls_reachable_can_be_mixed(self) -> None:
        """Of every lightness: solved recipes come near what is drawn whole, and not near most of what is hatched."""
        cloud = reach_cloud(WHITES, LIQUIDS)
        near, far = [], []
        for lightness in LIGHTNESSES:
            reached = chart_reach(cloud, chart(lightness))
            for lab in list(reached)[::9]:
                recipe = recipe_in(lab, WHITES, LIQUIDS, 200.0, ColourWay(colourants=4))
                (near if reached[lab] else far).append(recipe.de00)
        self.assertGreater(np.mean(np.array(near) <= 3), 0.9)
        self.assertGreater(np.median(far), 3)
        self.assertEqual(reach_cloud((), LIQUIDS).shape, (0, 3))
        self.assertFalse(any(chart_reach(np.empty((0, 3)), chart(74)).values()))


class Ways(unittest.TestCase):
    def test_fewer_bottles_less_money_and_what_must_be_in(self) -> None:
        prices = {"bright": 0.02, "yellow_coating": 0.01, "yellow": 1.0, "orange": 1.0}
        recipes = recipes_in_every_way((66.0, -9.0, 30.0), WHITES, LIQUIDS, 250.0, ColourWay(), prices)
        self.assertLessEqual(len(recipes["fewest"].parts), len(recipes["best"].parts))
        self.assertLessEqual(recipes["best"].de00, recipes["fewest"].de00)

        def cost(way: str) -> float:
            return sum(p.mass_g * prices.get(p.ingredient.name, 0.0) for p in recipes[way].parts)

        self.assertLessEqual(cost("cheapest"), cost("best"))
        self.assertNotIn("cheapest", recipes_in_every_way((66.0, -9.0, 30.0), WHITES, LIQUIDS, 250.0, ColourWay()))
        way = ColourWay(locked=("purple",), forbidden=("blue", "yellow_coating"))
        names = {p.ingredient.name for p in recipe_in((68.0, -8.0, -17.0), WHITES, LIQUIDS, 200.0, way).parts}
        self.assertIn("purple", names)
        self.assertFalse(names & {"blue", "yellow_coating"})

    def test_impossible_wishes_are_refused(self) -> None:
        for way in (
            ColourWay(forbidden=("bright", "yellow_coating")),
            ColourWay(locked=("purple", "blue", "red"), colourants=2),
        ):
            with self.assertRaises(EmptyBowl):
                recipe_in((68.0, -8.0, -17.0), WHITES, LIQUIDS, 200.0, way)
        with self.assertRaises(OutOfBounds):  # a gram of white does not carry a drop
            recipe_in((68.0, -8.0, -17.0), WHITES, LIQUIDS, 1.0, ColourWay(locked=("purple",)))
        strange = ColourWay(locked=("ivory",))
        recipe = recipe_in((68.0, -8.0, -17.0), (*WHITES, demo_ingredient("ivory")), LIQUIDS, 200.0, strange)
        ivory = sum(p.mass_g for p in recipe.parts if p.ingredient.name == "ivory") / 200
        self.assertTrue(ivory > 0 and min(ivory, 1 - ivory) <= 0.05, ivory)

    def test_plain_coating_is_a_recipe_and_blue_in_ivory_turns_green(self) -> None:
        yellow = demo_ingredient("yellow_coating")
        recipe = recipe_in(mix([Part(yellow, 1.0)]).lab(), WHITES, LIQUIDS, 200.0, ColourWay())
        self.assertEqual([(p.ingredient.name, p.mass_g) for p in recipe.parts], [("yellow_coating", 200.0)])
        blue = demo_ingredient("blue")
        hues = {}
        for base in ("ivory", "bright"):
            for n in (2, 4, 8):
                _, a, b = mix([Part(demo_ingredient(base), 200.0), Part(blue, n * blue.unit_g)]).lab()
                hues[base, n] = np.degrees(np.arctan2(b, a)) % 360
        np.testing.assert_allclose([hues["ivory", n] for n in (2, 4, 8)], (166, 182, 193), atol=1)
        np.testing.assert_allclose([hues["bright", n] for n in (2, 4, 8)], (207, 211, 214), atol=1)


class Ladder(unittest.TestCase):
    def test_the_rest_of_each_becomes_the_next(self) -> None:
        shades = [Shade(str(i), (90.0 - 6 * i, -8.0 - 3 * i, -6.0 - 4 * i), 50.0) for i in range(5)]
        (bowl,) = tint_ladder(shades[::-1], WHITE, LIQUIDS)
        self.assertEqual([r.shade.name for r in bowl.rungs], list("01234"))
        self.assertEqual(bowl.base_g, 250 + BOWL_LOSS_G)
        self.assertTrue(all(r.recipe.de00 <= 2.5 for r in bowl.rungs))
        for one, after in zip(bowl.rungs, bowl.rungs[1:], strict=False):
            added = sum(p.mass_g for p in after.recipe.parts)
            self.assertAlmostEqual(after.mass_g, one.mass_g - 50 + added, places=6)
            self.assertFalse(any(p.ingredient.is_base for p in after.recipe.parts))

    def test_what_cannot_follow_gets_a_bowl_of_its_own(self) -> None:
        pink, green = Shade("pink", (76.0, 30.0, 0.0), 60.0), Shade("green", (66.0, -40.0, 30.0), 60.0)
        self.assertEqual(len(tint_ladder([pink, green], WHITE, LIQUIDS)), 2)
