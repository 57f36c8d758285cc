"""Cores, layers and their order, with hand arithmetic beside."""

import math
import unittest

from hypothesis import HealthCheck, settings

from coating.errors import OutOfBounds, UnknownName
from coating.flow.casson1959 import Flow
from coating.flow.windows import window
from coating.piece.cores import Block, Disc, Hollow, Rod, Round, Sheet, Tier
from coating.piece.kinds import KINDS, kind_of_core
from coating.stack.layers import Layer, on_one_g
from coating.stack.order import in_order, mistakes, spares_for
from coating.techniques.measures import DENSITY, film_mm

PRALINE, BISCUIT = Hollow(29, 24, 15), Disc(60, 8)
calm = settings(max_examples=150, deadline=None, derandomize=True, suppress_health_check=list(HealthCheck))


class Cores(unittest.TestCase):
    def test_areas_and_volumes_by_hand(self) -> None:
        """Closed forms: disc, block, rod, tier, sphere, prolate and oblate spheroid, frustum."""
        for core, whole in (
            (BISCUIT, 2 * math.pi * 30**2 + math.pi * 60 * 8),
            (Block(95, 25, 12), 2 * (95 * 25 + 95 * 12 + 25 * 12)),
            (Rod(190, 12), math.pi * 12 * 190 + 2 * math.pi * 36),
            (Round(32, 32), math.pi * 32**2),
            (Tier(200, 110), math.pi * 200 * 110 + math.pi * 100**2),
            (Sheet(300, 200), 60000),
        ):
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
        self.assertTrue(1.0 < film_mm(window("dip").aim, 30) < 1.7)
        half, whole = (on_one_g(BISCUIT, Layer("dip", share=s)) for s in (0.5, 1.0))
        self.assertTrue(4 < half < 7 and 2 * half < whole < 2.6 * half, (half, whole))
        self.assertGreater(on_one_g(BISCUIT, Layer("dip", share=0.5), flow=Flow(30, 5)), 1.3 * half)

    def test_what_cannot_be_is_refused(self) -> None:
        for core, layer in (
            (BISCUIT, Layer("lines")),
            (PRALINE, Layer("solid", volume_ml=50)),
            (BISCUIT, Layer("lines", length_mm=-1.0)),
            (BISCUIT, Layer("lines", length_mm=10.0, width_mm=float("nan"))),
            (BISCUIT, Layer("dip", share=2.0)),
        ):
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
            (BISCUIT, (), "0 There is nothing on it yet"),
            (BISCUIT, ("shell",), "something hollow"),
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
            (BISCUIT, ("topping",), "nothing under it"),
            (BISCUIT, ("dip", "stick"), "1 The stick is seated"),
            (PRALINE, ("drizzle",), "nothing under it"),
            (Sheet(300, 200), ("marbling", "pour"), "1 The ground is poured first"),
            (BISCUIT, ("angled_dip", "dip"), "1 A straight dip would cover"),
        ):
            self.assertTrue(any(says in s for s in self.said(core, *names)), (names, self.said(core, *names)))

    def test_good_stacks_and_the_order_proposed(self) -> None:
        good = (
            (BISCUIT, ("dip", Layer("topping", placed="wet"), "drizzle", "dust")),
            (PRALINE, ("shell", Layer("filling", volume_ml=6.0), "cap", "leaf")),
            (PRALINE, ("solid", "stick")),
            (BISCUIT, ("dip", "second_dip", "lettering")),
            (BISCUIT, ("dip", "dust", "drizzle")),
        )
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
