import unittest
from itertools import combinations

import numpy as np

from coating.colour.ciede2000 import colour_difference
from coating.colour.mixing import GEL, Part, mix
from coating.colour.recipe import find_recipe, find_recipes
from coating.errors import EmptyBowl
from coating.stock.ingredients import DEMO_INGREDIENTS, demo_ingredient

BASES = tuple(demo_ingredient(n) for n in ("ivory", "bright", "yellow_coating"))
COLOURS = tuple(i for i in DEMO_INGREDIENTS.values() if i.is_colourant and i.kind != GEL)


class Recipe(unittest.TestCase):
    def test_recovers_the_colour_of_known_recipes(self) -> None:
        """Targets made by mixing one to three colours into one base are found again in colour."""
        rng = np.random.default_rng(11)
        errors = []
        for _ in range(20):
            parts = [Part(BASES[rng.integers(3)], 250.0)]
            for index in rng.choice(len(COLOURS), rng.integers(1, 4), replace=False):
                most = COLOURS[index].cap_share * 250 / COLOURS[index].unit_g
                parts.append(Part(COLOURS[index], max(1, round(rng.uniform(0.02, 0.3) * most)) * COLOURS[index].unit_g))
            recipe = find_recipe(mix(parts).lab(), BASES, COLOURS, 250.0)
            errors.append(recipe.de00)
            self.assert_lawful(recipe.parts)
        self.assertLess(np.median(errors), 0.3)
        self.assertLess(max(errors), 1.0)

    def assert_lawful(self, parts: tuple[Part, ...]) -> None:
        bases = [p for p in parts if p.ingredient.is_base]
        self.assertLessEqual(len(bases), 2)
        self.assertEqual(len({p.ingredient.family for p in bases}), 1)
        self.assertAlmostEqual(sum(p.mass_g for p in bases), 250.0)
        self.assertLessEqual(len(parts) - len(bases), 3)
        self.assertLessEqual(mix(parts).load, 1.0 + 1e-9)
        for p in parts:
            self.assertAlmostEqual(p.units, round(p.units), places=6)
            self.assertGreater(p.mass_g, 0)

    def test_the_deepest_colours_are_on_the_limit_of_the_load(self) -> None:
        """Against every base with every two colourants sharing a full load in fortieths, looked through one by one."""
        bases = tuple(i for i in DEMO_INGREDIENTS.values() if i.is_base and i.name != "black_coating")
        colours = tuple(i for i in DEMO_INGREDIENTS.values() if i.is_colourant)
        for lab in ((10.4, 41.0, -52.0), (12.0, 60.0, 20.0)):
            best = min(
                colour_difference(
                    mix(
                        [
                            Part(base, 300.0),
                            *(
                                Part(c, c.cap_share * 300 * share)
                                for c, share in ((one, k / 40), (two, 1 - k / 40))
                                if share
                            ),
                        ]
                    ).lab(),
                    lab,
                )
                for base in bases
                for one, two in combinations(colours, 2)
                for k in range(0, 41, 4)
            )
            recipe = find_recipe(lab, bases, colours, 300.0)
            self.assertLess(recipe.de00, best + 0.6)  # what a second bag, a colour and a full load count for
            self.assertLessEqual(mix(recipe.parts).load, 1 + 1e-9)
        self.assertLess(find_recipe((10.4, 41.0, -52.0), bases, colours, 300.0).de00, 13.8)

    def test_same_question_same_answer(self) -> None:
        find_recipes.cache_clear()
        first = find_recipe((70.0, -10.0, -15.0), BASES, COLOURS, 200.0)
        find_recipes.cache_clear()
        self.assertEqual(find_recipe((70.0, -10.0, -15.0), BASES, COLOURS, 200.0), first)

    def test_a_bowl_is_only_added_to(self) -> None:
        bowl = (Part(demo_ingredient("ivory"), 200.0), Part(demo_ingredient("blue"), 0.6))
        before = mix(bowl).lab()
        added = find_recipe((88.0, -5.0, 4.0), BASES[:1], COLOURS, 0.0, bowl)
        self.assertTrue(all(p.mass_g > 0 for p in added.parts))
        self.assertTrue(any(p.ingredient.name == "ivory" for p in added.parts), "too dark is mended by base")
        self.assertLess(added.de00, float(np.linalg.norm(np.subtract(before, (88.0, -5.0, 4.0)))))

    def test_nothing_to_add_when_it_is_there(self) -> None:
        bowl = (Part(demo_ingredient("bright"), 200.0), Part(demo_ingredient("teal"), 0.24))
        self.assertEqual(find_recipe(mix(bowl).lab(), BASES[1:2], COLOURS, 0.0, bowl).parts, ())

    def test_what_cannot_be_reached_says_so(self) -> None:
        self.assertFalse(find_recipe((35.0, 70.0, 50.0), BASES[:1], COLOURS, 200.0).reachable)
        with self.assertRaises(EmptyBowl):
            find_recipe((50.0, 0.0, 0.0), (), COLOURS, 200.0)
