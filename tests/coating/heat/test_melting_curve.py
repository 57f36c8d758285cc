"""One melting curve for each family: the balance of heat against an integration, and what the fold makes of it."""

import unittest

from scipy.integrate import quad
from scipy.optimize import brentq

from coating.colour.mixing import Part
from coating.errors import UnknownName
from coating.heat.melting import warmth_of
from coating.heat.melting_curve import COCOA, LATENT_HEAT, PALM, Heap, brought_together, heat_j
from coating.heat.seed import seed
from coating.simulate.bowl import BowlContext, BowlState, Event
from coating.simulate.fold import fold
from coating.stock.ingredients import demo_ingredient


def bowl(code: str, melted_g: float, warm_c: float, added_g: float, *, white: str | None = None) -> BowlState:
    """Some base melted, then unmelted pieces of it stirred in."""
    base = demo_ingredient(code)
    events = [
        Event(1, "added", 0, (Part(base, melted_g),)),
        Event(2, "warmed", 0, to_c=warm_c),
        Event(3, "added", 0, (Part(base, added_g),)),
    ]
    return fold(events, BowlContext(room_c=21, white=white), at_s=0)


def specific_heat(at_c: float, *, solid: bool) -> float:
    return 1600.0 if solid and at_c < 32 else 1700.0


class Together(unittest.TestCase):
    def test_wafers_cool_a_warm_bowl_and_stay_solid(self) -> None:
        """By hand: 250 g from 38 and 170 g from 21 degC meet at (250 x 1700 x 38 + 170 x 1600 x 21)/(...) = 31.37."""
        state = bowl("bright", 250, 38, 170)
        self.assertAlmostEqual(state.temperature_c, 31.366, places=3)
        self.assertAlmostEqual(state.solid_fraction, 170 / 420)

    def test_against_an_integration(self) -> None:
        """Heat capacities integrated by quadrature, the end found by bisection; the heat of melting by its curve."""
        cases = (
            ([Heap(250, 41), Heap(60, 21, 1.0)], COCOA),
            ([Heap(200, 26, 0.4), Heap(90, 36)], COCOA),
            ([Heap(300, 45), Heap(100, 5, 1.0)], PALM),
            ([Heap(120, 34), Heap(30, 20, 1.0)], COCOA),
        )
        for heaps, curve in cases:
            solid_g, mass_g = sum(h.mass_g * h.solid_fraction for h in heaps), sum(h.mass_g for h in heaps)

            def missing(end_c: float, heaps=heaps, curve=curve, solid_g=solid_g, mass_g=mass_g) -> float:
                taken = LATENT_HEAT * (solid_g - min(solid_g, mass_g * curve.solid_fraction(end_c)))
                for heap in heaps:
                    for solid, share in ((True, heap.solid_fraction), (False, 1 - heap.solid_fraction)):
                        warm = quad(
                            lambda t, s=solid: specific_heat(t, solid=s), heap.temperature_c, end_c, points=[32]
                        )
                        taken += heap.mass_g * share * warm[0]
                return taken

            ours, _ = brought_together(heaps, curve)
            self.assertAlmostEqual(ours, brentq(missing, 0, 60, xtol=1e-9), places=4)

    def test_heat_is_kept(self) -> None:
        for curve in (PALM, COCOA):
            for given_j in (0.0, 800.0, 9000.0, 40000.0):
                heaps = [Heap(180, 23, 1.0), Heap(90, 39)]
                end_c, solid = brought_together(heaps, curve, given_j=given_j)
                self.assertTrue(0 <= solid <= 1)
                if not (curve is PALM and end_c == curve.until_c):
                    self.assertAlmostEqual(heat_j(heaps, end_c, curve), given_j, places=4)

    def test_seed_is_the_same_balance(self) -> None:
        """Share .330 from 45 degC; what the answer says is stirred in comes to the target in the fold."""
        for code, target_c in (("ivory", 28.5), ("milk", 29.5), ("dark", 31.5), ("ivory", 27.0)):
            seeding = seed(200, melt_c=45, target_c=target_c, seed_c=21)
            state = bowl(code, 200, 45, seeding.seed_g, white="tempered")
            self.assertAlmostEqual(state.temperature_c, target_c, delta=0.02)
        self.assertAlmostEqual(seed(200, melt_c=45, target_c=28.5, seed_c=21).share, 0.32981, places=5)


class Chocolates(unittest.TestCase):
    def test_warmth_follows_the_bag(self) -> None:
        """Handbook values, from memory: white worked at 28 to 29, milk 29 to 30, dark 31 to 32 degC."""
        for code, work_at_c in (("ivory", 28.5), ("milk", 29.5), ("dark", 31.5)):
            state = bowl(code, 200, 40, 0.001, white="tempered")
            self.assertEqual(state.warmth.work_at_c, work_at_c)
        ceilings = [warmth_of("untempered", c).ceiling_c for c in ("white", "milk", "dark")]
        self.assertEqual(ceilings, sorted(ceilings))
        self.assertEqual(warmth_of("coating", "dark"), warmth_of("coating"), "a dark coating is a coating")
        for bad in (("ruby", "white"), ("tempered", "ruby")):
            with self.assertRaises(UnknownName):
                warmth_of(*bad)

    def test_above_33_degrees_no_temper_is_left(self) -> None:
        state = bowl("ivory", 200, 40, 0.001, white="tempered")
        free = state.conditions(temperature_c=34.0)
        self.assertEqual(free.crystal_fraction(), 0.0)
        self.assertGreater(state.conditions(temperature_c=33.0).crystal_fraction(), 0.0)

    def test_dark_bears_more_heat_than_white(self) -> None:
        def harm(code: str) -> float:
            events = [Event(1, "added", 0, (Part(demo_ingredient(code), 200.0),)), Event(2, "warmed", 0, to_c=52)]
            return fold(events, BowlContext(), at_s=600).overheated_minutes

        self.assertLess(harm("dark"), harm("ivory") / 3)
