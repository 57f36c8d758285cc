import unittest

import numpy as np

from coating.colour import colour_difference
from coating.colour.fitting import stronger, with_strength
from coating.colour.mixing import Part, mix
from coating.colour.recipe import recipe_of
from coating.errors import OutOfBounds
from coating.flow.gel import gel_harm
from coating.plan.colouring import colouring, seen_as
from coating.plan.matches import match, under_warm_lamps
from coating.plan.proposal import Cupboard, Wish
from coating.simulate.bowl import BowlContext, BowlState, Event
from coating.simulate.fold import fold
from coating.stock.ingredients import DEMO_INGREDIENTS, demo_ingredient
from coating.units import DAB_G, WATER_IN_GEL

COLOURS = tuple(i for i in DEMO_INGREDIENTS.values() if i.counted_in_drops)
CUPBOARD = Cupboard((demo_ingredient("bright"),), COLOURS)
DUSK = (68.0, -8.0, -17.0)
WISH = Wish(DUSK, None, "coating", 200.0)


def part(name: str, amount: float) -> Part:
    ingredient = demo_ingredient(name)
    return Part(ingredient, amount * (ingredient.unit_g if ingredient.counted_in_drops else 1.0))


def events(*parts: Part) -> list[Event]:
    return [Event(i + 1, "added", float(i), (p,)) for i, p in enumerate(parts)]


class DropByDrop(unittest.TestCase):
    def test_steps_followed_to_the_end_arrive(self) -> None:
        done = events(part("bright", 200))
        for turn in range(30):
            plan = colouring(fold(done, BowlContext(), at_s=99.0), WISH, CUPBOARD)
            if plan.kind != "drops":
                break
            self.assertTrue(all(p.ingredient.is_colourant for p in plan.steps[0].parts))
            done.append(Event(len(done) + 1, "added", 10.0 + turn, plan.steps[0].parts))
        self.assertEqual(plan.kind, "there")
        self.assertLessEqual(plan.de00, 2)

    def test_a_surprise_moves_what_follows(self) -> None:
        """Blue half as strong again as thought: with the reading it arrives, without it would not."""
        done = events(part("bright", 200), part("blue", 8))
        true = mix([part("bright", 200), Part(demo_ingredient("blue"), 8 * 0.04 * 1.5)]).lab()
        read = [*done, Event(3, "read", 5.0, lab=true)]
        before, after = (fold(e, BowlContext(), at_s=9.0) for e in (done, read))
        self.assertTrue(1.3 < dict(after.strengths)["blue"] < 1.55)
        self.assertLess(float(colour_difference(after.mixture().lab(), true)), 1.0)

        def ends_at(state: BowlState, cupboard: Cupboard) -> float:
            """How far off the bowl truly is once every step was followed."""
            added = [p for s in colouring(state, WISH, cupboard).steps for p in s.parts]
            held = [Part(demo_ingredient(p.ingredient.name), p.mass_g) for p in (*state.parts, *added)]
            return float(colour_difference(mix(stronger(held, {"blue": 1.5})).lab(), DUSK))

        taught = Cupboard(CUPBOARD.bases, tuple(with_strength(c, dict(after.strengths)) for c in CUPBOARD.colourants))
        self.assertGreater(ends_at(before, CUPBOARD), 3)
        self.assertLess(ends_at(after, taught), 2)
        more = fold([*read, Event(4, "added", 6.0, (part("blue", 2),))], BowlContext(), at_s=9.0)
        strengths = [p.ingredient.strength for p in more.parts if p.ingredient.name == "blue"]
        self.assertEqual(strengths, [dict(after.strengths)["blue"]])

    def test_too_far_is_brought_back_by_adding(self) -> None:
        state = fold(events(part("bright", 200), part("blue", 60)), BowlContext(), at_s=9.0)
        plan = colouring(state, WISH, CUPBOARD)
        self.assertEqual(plan.kind, "correct")
        self.assertTrue(any(p.ingredient.is_base for p in plan.correction.recipe.parts))
        self.assertLess(plan.correction.recipe.de00, plan.de00)
        self.assertEqual(colouring(fold([], BowlContext(), at_s=0.0), WISH, CUPBOARD).kind, "empty")

    def test_eyes(self) -> None:
        parts = [part("bright", 200), part("blue", 8)]
        plain, seen, much = mix(parts).lab(), seen_as(parts, "green"), seen_as(parts, "green", much=True)
        self.assertTrue(much[1] < seen[1] < plain[1])
        self.assertEqual((seen[0], seen[2]), (plain[0], plain[2]))


class Consequences(unittest.TestCase):
    def test_what_a_recipe_does_to_flow_firmness_and_purse(self) -> None:
        def what(*parts: Part, white: str = "coating", **prices: float):
            recipe = recipe_of(parts, DUSK)
            return match(recipe, white=white, room_c=21.0, temperature_c=38.0, prices=prices)

        plain = what(part("bright", 200), bright=0.02)
        self.assertEqual((plain.flow_word, plain.firmness.verdict), ("as it is", "firm"))
        self.assertAlmostEqual(plain.cost, 4.0)
        self.assertEqual(what(part("bright", 200), part("blue", 80)).flow_word, "thinner")
        self.assertEqual(what(part("bright", 150), part("ivory", 50)).firmness.verdict, "soft")
        self.assertIsNone(what(part("bright", 200)).cost)

    def test_under_warm_lamps_white_stays_white(self) -> None:
        mixed, target = under_warm_lamps((part("bright", 100),), (97.0, -0.6, 3.2))
        np.testing.assert_allclose(mixed, target, atol=1.5)
        self.assertIsNone(under_warm_lamps((part("bright", 100),), (50.0, 120.0, 0.0))[1])


class Gel(unittest.TestCase):
    def test_a_dab_does_no_harm_and_a_spoon_seizes(self) -> None:
        """One school dabs gel with a toothpick and sees no harm, a few drops turn it to paste: common practice."""
        self.assertLess(gel_harm(200, 3 * DAB_G).thicker, 1.1)
        self.assertFalse(gel_harm(200, 3 * DAB_G).seizes)
        self.assertTrue(gel_harm(200, 10.0).seizes)
        harmless = gel_harm(200, 0.0).harmless_g
        self.assertAlmostEqual(harmless * WATER_IN_GEL / (200 + harmless), 0.001)  # a trace, and that thickens little
        self.assertLess(gel_harm(200, harmless).thicker, 1.1)
        self.assertGreater(gel_harm(400, 0.0).harmless_g, harmless)
        self.assertEqual(gel_harm(200, 20.0, water_fraction=0.0).thicker, 1.0)
        with self.assertRaises(OutOfBounds):
            gel_harm(float("nan"), 1.0)
