import unittest

from coating.care.allergens import contents, remelted
from coating.colour.mixing import Part
from coating.errors import OutOfBounds
from coating.plan.boxes import Box, packed
from coating.plan.shopping import Pack, instead_of, paid_back, shopping, total_cost
from coating.stock.ingredients import DEMO_INGREDIENTS, demo_ingredient

BRIGHT, BLUE = demo_ingredient("bright"), demo_ingredient("blue")


class Shopping(unittest.TestCase):
    def test_what_is_short_in_whole_packs(self) -> None:
        """300 and 250 g wanted, 200 there, bags of 340 at 6: 350 short, two bags, 330 over, 12."""
        parts = [Part(BRIGHT, 300.0), Part(BLUE, 0.8), Part(BRIGHT, 250.0)]
        bright, blue = shopping(parts, {"bright": 200.0, "blue": 5.0}, {"bright": Pack(340.0, 6.0)})
        self.assertEqual((bright.short_g, bright.packs, bright.over_g, bright.cost), (350, 2, 330, 12))
        self.assertEqual((blue.short_g, blue.packs, blue.cost), (0, 0, 0))
        self.assertEqual(total_cost([bright, blue]), 12)
        unknown = shopping(parts, {}, {"bright": Pack(340.0)})
        self.assertIsNone(total_cost(unknown))
        self.assertEqual(shopping([], {}, {}), [])
        with self.assertRaises(OutOfBounds):
            shopping(parts, {"bright": float("nan")}, {})
        self.assertEqual(paid_back(24.0, 4, 12), 0.5)

    def test_a_substitute_is_solved_not_looked_up(self) -> None:
        liquids = tuple(i for i in DEMO_INGREDIENTS.values() if i.counted_in_drops)
        recipe = instead_of("blue", (68.0, -8.0, -17.0), (BRIGHT,), liquids, 200.0)
        self.assertNotIn("blue", {p.ingredient.name for p in recipe.parts})
        self.assertLess(recipe.de00, 2)
        self.assertIsNone(instead_of("bright", (68.0, -8.0, -17.0), (BRIGHT,), liquids, 200.0))


class Allergens(unittest.TestCase):
    def test_what_is_in_and_what_may_be(self) -> None:
        things = [("Round biscuit", ("wheat",)), ("Bright white coating", ("milk", "soya")), ("Filling", ("milk",))]
        result = contents(things, [("Bark", ("nuts", "milk"))])
        self.assertEqual(dict(result.contains)["milk"], ("Bright white coating", "Filling"))
        self.assertEqual(result.label, "Contains milk, soya and wheat. May contain nuts.")
        self.assertIn("No allergens are known", contents([]).label)
        self.assertEqual(remelted({"leftover": ("nuts",)}, ("milk",)), ("milk", "nuts"))


class Boxes(unittest.TestCase):
    def test_rows_layers_and_the_lid(self) -> None:
        """Pieces of 45 by 45 by 12 in 200 by 150 by 40: four by three, two layers, 24 a box; 50 want three."""
        result = packed(Box(200, 150, 40), 50, across_mm=45, along_mm=45, high_mm=12, layers=3)
        self.assertEqual((result.in_layer, result.layers, result.in_box, result.boxes), (12, 2, 24, 3))
        self.assertAlmostEqual(result.free_mm, 40 - 26)
        turned = packed(Box(100, 61, 40), 1, across_mm=30, along_mm=48, high_mm=12)
        self.assertEqual(turned.in_layer, 3)
        self.assertEqual(packed(Box(200, 150, 40, 6, 50), 7, across_mm=45, along_mm=45, high_mm=30).boxes, 2)
        for box, size in ((Box(40, 40, 40), 45), (Box(200, 150, 14), 45), (Box(200, 150, 40, 6, 40), 45)):
            with self.assertRaises(OutOfBounds):
                packed(box, 1, across_mm=size, along_mm=size, high_mm=12)
