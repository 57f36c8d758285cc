"""Cores, layers, their order and a whole job, with hand arithmetic beside."""

import math
import unittest
from dataclasses import replace

from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from coating.errors import OutOfBounds, UnknownName
from coating.flow.casson1959 import Flow
from coating.piece.amounts import BAG_HOLDS_G, Batch, amounts, depth_g
from coating.piece.cores import Block, Core, Disc, Hollow, Rod, Round, Sheet, Tier
from coating.piece.kinds import KINDS, kind_of_core
from coating.piece.layers import DENSITY, Layer, film_mm, on_one_g
from coating.piece.stack import in_order, mistakes, spares_for

PRALINE, BISCUIT = Hollow(29, 24, 15), Disc(60, 8)
calm = settings(max_examples=150, deadline=None, derandomize=True, suppress_health_check=list(HealthCheck))


class Cores(unittest.TestCase):
    def test_areas_and_volumes_by_hand(self) -> None:
        """Closed forms: disc, block, rod, tier, sphere, prolate and oblate spheroid, frustum."""
        for core, whole in (
            (BISCUIT, 2 * math.pi * 30**2 + math.pi * 60 * 8), (Block(95, 25, 12), 2 * (95 * 25 + 95 * 12 + 25 * 12)),
            (Rod(190, 12), math.pi * 12 * 190 + 2 * math.pi * 36), (Round(32, 32), math.pi * 32**2),
            (Tier(200, 110), math.pi * 200 * 110 + math.pi * 100**2), (Sheet(300, 200), 60000),
        ):  # fmt: skip
            self.assertAlmostEqual(core.whole_mm2 / whole, 1, places=4, msg=repr(core))
        e = math.sqrt(1 - (32 / 42) ** 2)
        prolate = 2 * math.pi * 16**2 * (1 + 21 / (16 * e) * math.asin(e))
        self.assertAlmostEqual(Round(32, 42).whole_mm2 / prolate, 1, places=4)
        self.assertAlmostEqual(Round(32, 32).wetted_mm2(0.25), math.pi * 32 * 8, places=3)
        self.assertAlmostEqual(PRALINE.holds_ml, math.pi * 15 / 12 * (29**2 + 29 * 24 + 24**2) / 1000)
        self.assertAlmostEqual(PRALINE.inside_mm2, math.pi * 26.5 * math.hypot(2.5, 15) + math.pi * 12**2)

    def test_every_kind_in_every_size_grows_with_its_dip(self) -> None:
        for kind in KINDS.values():
            for title, size in kind.sizes:
                core = kind.core(*size)
                wetted = [core.wetted_mm2(s / 10) for s in range(11)]
                self.assertEqual(wetted, sorted(wetted), (kind.name, title))
                self.assertTrue(core.top_mm2 > 0 and core.outline_mm > 0 and wetted[0] == 0)
                self.assertEqual(core.holds_ml > 0, isinstance(core, Hollow))

    def test_bad_sizes(self) -> None:
        for size in ((0, 8), (float("nan"), 8), (60, -1), (10**6, 8)):
            with self.assertRaises(OutOfBounds):
                Disc(*size)
        with self.assertRaises(OutOfBounds):
            BISCUIT.wetted_mm2(1.2)
        with self.assertRaises(UnknownName):
            kind_of_core("brick")


class Layers(unittest.TestCase):
    def test_grams_by_hand(self) -> None:
        """1000 mm of a bead 2 mm wide and 1.4 high: 2199 mm3; a shell 1.7 mm on a praline; a brim-full mould."""
        line = on_one_g(BISCUIT, Layer("lace", length_mm=1000.0))
        self.assertAlmostEqual(line, math.pi / 4 * 4 * 0.7 * 1000 * DENSITY * 1e-6)
        self.assertAlmostEqual(on_one_g(PRALINE, Layer("shell")), PRALINE.inside_mm2 * 1.7 * DENSITY * 1e-6)
        self.assertAlmostEqual(on_one_g(PRALINE, Layer("solid")), PRALINE.holds_ml * DENSITY / 1000)
        self.assertAlmostEqual(on_one_g(BISCUIT, Layer("topping", count=5, each_g=0.4)), 2.0)
        coats = on_one_g(BISCUIT, Layer("paint", coats=3, share=0.5))
        self.assertAlmostEqual(coats, 3 * 0.15 * 0.5 * math.pi * 900 * DENSITY * 1e-6)
        self.assertEqual(on_one_g(BISCUIT, Layer("dust")), 0)
        self.assertEqual(on_one_g(BISCUIT, Layer("dip", goes_on_g=7.5)), 7.5)

    def test_a_dip_leaves_what_its_window_promises_and_more_when_thick(self) -> None:
        self.assertTrue(1.0 < film_mm("dip", 30) < 1.7)
        half, whole = (on_one_g(BISCUIT, Layer("dip", share=s)) for s in (0.5, 1.0))
        self.assertTrue(4 < half < 7 and 2 * half < whole < 2.6 * half, (half, whole))
        self.assertGreater(on_one_g(BISCUIT, Layer("dip", share=0.5), flow=Flow(30, 5)), 1.3 * half)

    def test_what_cannot_be_is_refused(self) -> None:
        for core, layer in (
            (BISCUIT, Layer("lines")), (PRALINE, Layer("solid", volume_ml=50)),
            (BISCUIT, Layer("lines", length_mm=-1.0)),
            (BISCUIT, Layer("lines", length_mm=10.0, width_mm=float("nan"))), (BISCUIT, Layer("dip", share=2.0)),
        ):  # fmt: skip
            with self.assertRaises(OutOfBounds):
                on_one_g(core, layer)
        with self.assertRaises(UnknownName):
            on_one_g(BISCUIT, Layer("gilding"))


class Order(unittest.TestCase):
    def said(self, core: object, *names: str | Layer) -> list[str]:
        layers = [n if isinstance(n, Layer) else Layer(n) for n in names]
        return [f"{m.place} {m.why}" for m in mistakes(core, layers)]  # type: ignore[arg-type]

    def test_what_goes_wrong_and_why(self) -> None:
        for core, names, says in (
            (BISCUIT, (), "0 There is nothing on it yet"), (BISCUIT, ("shell",), "something hollow"),
            (BISCUIT, ("second_dip", "dip"), "0 A second dip lies on a first"),
            (PRALINE, ("shell", "cap", "filling"), "1 Fill it before the lid"),
            (PRALINE, ("filling", "shell"), "0 The shell is made"),
            (PRALINE, ("shell", Layer("filling", volume_ml=8.0)), "above the rim"),
            (PRALINE, ("stick", "solid"), "0 The stick goes in after"),
            (BISCUIT, ("drizzle", "dip"), "0 Drizzle comes after the last coat"),
            (BISCUIT, ("dip", Layer("drizzle", placed="wet")), "1 Drizzle wants the coat under it set"),
            (BISCUIT, ("dip", Layer("topping", placed="set")), "1 Nothing sticks"),
            (BISCUIT, ("dip", Layer("topping", placed="wet", each_g=5.0)), "ploughs"),
            (BISCUIT, ("dip", "leaf", "second_dip"), "1 Leaf comes last"),
            (BISCUIT, ("topping",), "nothing under it"), (BISCUIT, ("dip", "stick"), "1 The stick is seated"),
            (PRALINE, ("drizzle",), "nothing under it"),
        ):  # fmt: skip
            self.assertTrue(any(says in s for s in self.said(core, *names)), (names, self.said(core, *names)))

    def test_good_stacks_and_the_order_proposed(self) -> None:
        good = (
            (BISCUIT, ("dip", Layer("topping", placed="wet"), "drizzle", "dust")),
            (PRALINE, ("shell", Layer("filling", volume_ml=6.0), "cap", "leaf")), (PRALINE, ("solid", "stick")),
            (BISCUIT, ("dip", "second_dip", "lettering")),
        )  # fmt: skip
        for core, names in good:
            self.assertEqual(self.said(core, *names), [], names)
            layers = [n if isinstance(n, Layer) else Layer(n) for n in names]
            mended = [layers[::-1][i] for i in in_order(layers[::-1])]
            self.assertEqual(self.said(core, *mended), [], names)

    def test_spares(self) -> None:
        self.assertEqual(spares_for(24, 0.04, [Layer("dip")]), 1)
        self.assertEqual(spares_for(24, 0.04, [Layer("lace", length_mm=1.0)]), 6)
        self.assertEqual((spares_for(1, 0.0, [Layer("own")]), spares_for(12, 0.1, [])), (0, 2))
        self.assertEqual(spares_for(1, 0.0, [Layer("marbling")]), 0)


class Left(unittest.TestCase):
    def test_shells_want_four_cavities_full_at_once(self) -> None:
        """Four pralines of 8.3 ml, less the 3.7 g that stay in each as a shell."""
        shell = Layer("shell")
        by_hand = 4 * (PRALINE.holds_ml * DENSITY / 1000 - PRALINE.inside_mm2 * 1.7 * DENSITY * 1e-6)
        self.assertAlmostEqual(depth_g(PRALINE, shell), by_hand)
        (amount,) = amounts([Batch(PRALINE, (shell,), 12)])
        self.assertAlmostEqual(amount.left_g, by_hand)


stacks = st.lists(st.sampled_from(["dip", "drizzle", "dots", "shell", "paint", "topping", "glue"]), max_size=5)


class Job(unittest.TestCase):
    def test_twenty_four_half_dipped_in_two_colours_with_a_drizzle(self) -> None:
        """Half dips of 5.4 g in blue and white, 200 mm of a 1 mm thread: by hand."""
        layers = (Layer("dip", "blue", share=0.5), Layer("drizzle", "gold", length_mm=200.0))
        plain = (Layer("dip", "white", share=0.5), layers[1])
        found = {(a.colour, a.flow): a for a in amounts([Batch(BISCUIT, layers, 12, 1), Batch(BISCUIT, plain, 12, 1)])}
        one = on_one_g(BISCUIT, layers[0])
        blue, gold = found["blue", "dip"], found["gold", "drizzle"]
        self.assertAlmostEqual(blue.goes_on_g, 12 * one)
        self.assertAlmostEqual(blue.spare_g, one)
        self.assertAlmostEqual(blue.left_g, math.pi / 4 * 75**2 * 38 * 0.5 * DENSITY * 1e-6)
        self.assertAlmostEqual(gold.goes_on_g, 24 * math.pi / 4 * 0.7 * 200 * DENSITY * 1e-6)
        self.assertEqual((gold.bags, gold.lost_g, gold.left_g), (1, 20.0, 0.0))
        self.assertAlmostEqual(blue.melt_g, blue.goes_on_g + blue.spare_g + 12 + blue.left_g)

    @calm
    @given(st.lists(st.tuples(stacks, st.integers(1, 200), st.integers(0, 20)), max_size=4), st.sampled_from([2, 3, 7]))
    def test_in_is_on_and_lost_and_left_and_scaling_is_exact(self, drawn: list, times: int) -> None:
        def batches(by: int) -> list[Batch]:
            return [
                Batch(PRALINE, tuple(replace(Layer(n, "c"), length_mm=50.0) for n in names), count * by, spares * by)
                for names, count, spares in drawn
            ]

        one, many = amounts(batches(1)), amounts(batches(times))
        self.assertEqual([(a.colour, a.flow) for a in one], [(a.colour, a.flow) for a in many])
        for a, b in zip(one, many, strict=True):
            self.assertAlmostEqual(b.goes_on_g, times * a.goes_on_g, places=6)
            self.assertAlmostEqual(b.spare_g, times * a.spare_g, places=6)
            self.assertAlmostEqual(a.melt_g, a.goes_on_g + a.spare_g + a.lost_g + a.left_g, places=9)
            self.assertEqual(a.left_g, b.left_g)

    def test_bags_are_filled_again(self) -> None:
        much = Layer("lines", "c", length_mm=1e5)
        (found,) = amounts([Batch(BISCUIT, (much,), 1)])
        self.assertEqual(found.bags, math.ceil(on_one_g(BISCUIT, much) / BAG_HOLDS_G))
        self.assertEqual(amounts([]), [])


class Fixtures(unittest.TestCase):
    """Pieces that anybody new should be able to build, with the arithmetic by hand."""

    def takes(self, core: Core, *layers: Layer, count: int, spares: int = 0) -> dict[str, float]:
        self.assertEqual(mistakes(core, layers), [])
        return {a.flow: a.goes_on_g for a in amounts([Batch(core, layers, count, spares)])}

    def test_twelve_filled_pralines_with_sticks(self) -> None:
        layers = (Layer("shell"), Layer("stick"), Layer("filling", volume_ml=5.0), Layer("cap", thickness_mm=2.0))
        takes = self.takes(PRALINE, *layers, count=12)
        wall, lid = PRALINE.inside_mm2 * 1.7, math.pi / 4 * 29**2 * 2
        self.assertAlmostEqual(takes["shell"], 12 * (wall + lid) * DENSITY * 1e-6)
        self.assertTrue(60 < takes["shell"] < 80, takes)  # twelve of about 5 to 6 g

    def test_a_marbled_slab_with_toppings(self) -> None:
        """A ground of 3 mm and as much swirled in: 75900 mm2 by 6 mm, 573 g in all."""
        layers = (Layer("pour", thickness_mm=3.0), Layer("marbling", thickness_mm=3.0))
        takes = self.takes(Sheet(330, 230), *layers, Layer("topping", count=80, placed="wet"), count=1)
        self.assertAlmostEqual(takes["marbling"], 330 * 230 * 6 * DENSITY * 1e-6)
        self.assertTrue(560 < takes["marbling"] < 590)

    def test_layered_cups(self) -> None:
        """A tablespoon of base (15 ml) in a cup that holds 38 ml, a filling, a lid of 2 mm."""
        cup = Hollow(50, 38, 25)
        layers = (Layer("solid", volume_ml=15.0), Layer("filling", volume_ml=12.0), Layer("cap"))
        self.assertTrue(37 < cup.holds_ml < 39, cup.holds_ml)
        takes = self.takes(cup, *layers, count=10)
        self.assertAlmostEqual(takes["solid_mould"], 10 * 15 * DENSITY / 1000)
        self.assertAlmostEqual(takes["shell"], 10 * math.pi / 4 * 2500 * 2 * DENSITY * 1e-6)

    def test_fruit_in_four_variants_shares_its_bowls(self) -> None:
        berry = Round(32, 42)
        plain = Layer("dip", "white", share=0.667)
        variants = [(plain,), (plain, Layer("drizzle", "blue", length_mm=150.0)),
                    (plain, Layer("topping", placed="wet")), (Layer("dip", "blue", share=0.667),)]  # fmt: skip
        found = {(a.colour, a.flow): a for a in amounts([Batch(berry, v, 6) for v in variants])}
        one = on_one_g(berry, plain)
        self.assertAlmostEqual(found["white", "dip"].goes_on_g, 18 * one)
        self.assertAlmostEqual(found["blue", "dip"].goes_on_g, 6 * one)
        self.assertEqual(set(found), {("white", "dip"), ("blue", "drizzle"), ("blue", "dip")})

    def test_a_house_of_flat_panels_is_glued(self) -> None:
        walls = Batch(Block(120, 90, 6), (Layer("flood", "white", share=0.5), Layer("glue", "white", count=6)), 4)
        roof = Batch(Block(140, 80, 6), (Layer("glue", "white", count=4),), 2)
        found = {a.flow: a for a in amounts([walls, roof])}
        self.assertAlmostEqual(found["glue"].goes_on_g, (4 * 6 + 2 * 4) * 0.6)
        self.assertAlmostEqual(found["flood"].goes_on_g, 4 * 0.5 * 120 * 90 * 3 * DENSITY * 1e-6)
