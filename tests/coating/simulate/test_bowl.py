import unittest

from coating.colour.mixing import Part, mix
from coating.flow.windows import window
from coating.simulate.bowl import BowlContext, Event
from coating.simulate.fold import course, fold
from coating.stock.ingredients import demo_ingredient

IVORY, BLUE, BUTTER, WATER = (demo_ingredient(n) for n in ("ivory", "blue", "cocoa_butter", "water"))
CONTEXT = BowlContext(room_c=21, number=37, fat_fraction=0.32, window=window("dip"))


def added(seq: int, at_s: float, *parts: Part) -> Event:
    return Event(seq, "added", at_s, parts)


MELTED = [added(1, 0, Part(IVORY, 250.0)), Event(2, "warmed", 60, to_c=40)]


class Fold(unittest.TestCase):
    def test_cools_as_handbook_bowls_do(self) -> None:
        """Derived: 250 g from 40 to 32 degC in about 14 min."""
        self.assertAlmostEqual(fold(MELTED, CONTEXT, at_s=60 + 14 * 60).temperature_c, 32, delta=0.2)

    def test_colour_is_the_mixture_of_what_went_in(self) -> None:
        events = [*MELTED, added(3, 90, Part(BLUE, 0.08)), Event(4, "stirred", 91), added(5, 100, Part(BLUE, 0.12))]
        state = fold(events, CONTEXT, at_s=120)
        self.assertEqual(state.mixture().lab(), mix([Part(IVORY, 250.0), Part(BLUE, 0.2)]).lab())
        self.assertAlmostEqual(state.mass_g, 250.2)

    def test_order_of_arrival_does_not_matter(self) -> None:
        events = [*MELTED, added(3, 90, Part(BLUE, 0.08)), Event(4, "used", 200, mass_g=50)]
        self.assertEqual(fold(events, CONTEXT, at_s=300), fold(events[::-1], CONTEXT, at_s=300))

    def test_a_struck_event_counts_for_nothing(self) -> None:
        with_mistake = [*MELTED, added(3, 90, Part(BLUE, 4.0)), Event(4, "struck", 95, target_seq=3)]
        self.assertEqual(fold(with_mistake, CONTEXT, at_s=120), fold(MELTED, CONTEXT, at_s=120))
        self.assertGreater(fold(with_mistake, CONTEXT, at_s=94).load or 0, 0)

    def test_using_keeps_the_colour(self) -> None:
        events = [*MELTED, added(3, 90, Part(BLUE, 0.2))]
        used = fold([*events, Event(4, "used", 100, mass_g=100)], CONTEXT, at_s=100)
        self.assertAlmostEqual(used.mass_g, 150.2)
        for a, b in zip(used.mixture().lab(), fold(events, CONTEXT, at_s=100).mixture().lab(), strict=True):
            self.assertAlmostEqual(a, b)

    def test_more_used_than_there_was_is_said(self) -> None:
        state = fold([*MELTED, Event(3, "used", 90, mass_g=400)], CONTEXT, at_s=100)
        self.assertTrue(state.empty)
        self.assertEqual(len(state.notes), 1)

    def test_microwave_melts_and_fat_thins(self) -> None:
        burst = [MELTED[0], Event(2, "warmed", 10, seconds=106, power_w=800)]
        taken_w = 800 * 0.5 * (0.37 + 0.13 * 80 / 130)  # of a load of 250 g; 1.6 J/gK to 32 degC, 45 J/g, 1.7 above
        warm_c = 32 + (106 * taken_w / 250 - 45 - 1.6 * 11) / 1.7
        self.assertAlmostEqual(fold(burst, CONTEXT, at_s=10).temperature_c, warm_c, delta=1.5)
        thinned = fold([*MELTED, added(3, 60, Part(BUTTER, 8.0))], CONTEXT, at_s=60)
        self.assertAlmostEqual(thinned.stands_at() or 0, 27, delta=0.6)
        self.assertAlmostEqual(fold(MELTED, CONTEXT, at_s=60).stands_at() or 0, 37, places=3)

    def test_water_seizes_and_heat_harms_for_good(self) -> None:
        wet = fold([*MELTED, added(3, 60, Part(WATER, 5.0))], CONTEXT, at_s=61)
        self.assertEqual(wet.word, "stiff")
        hot = fold([MELTED[0], Event(2, "warmed", 0, to_c=70), Event(3, "cooled", 600, to_c=40)], CONTEXT, at_s=600)
        self.assertGreater(hot.overheated_minutes, 100)
        self.assertGreater(hot.stands_at() or 999, 37 * 2)

    def test_usable_until_it_leaves_the_window(self) -> None:
        state = fold(MELTED, CONTEXT, at_s=60)
        until = state.usable_until_s()
        assert until is not None
        self.assertEqual(CONTEXT.window and CONTEXT.window.verdict(state.flow()), "right")
        later = fold(MELTED, CONTEXT, at_s=until + 60)
        self.assertTrue(later.usable_until_s() is None)

    def test_empty_and_cold(self) -> None:
        empty = fold([], CONTEXT, at_s=1000)
        self.assertTrue(empty.empty and empty.load is None and empty.usable_until_s() is None)
        cold = fold(MELTED, CONTEXT, at_s=86400)
        self.assertTrue(cold.is_set)
        self.assertEqual((cold.word, cold.usable_until_s()), ("stiff", None))

    def test_the_course_is_the_fold_at_every_moment(self) -> None:
        events = [*MELTED, added(3, 60, Part(BUTTER, 8.0)), Event(4, "cooled", 300, to_c=33)]
        moments = [0, 60, 61, 299, 300, 4000]
        states = course(events, CONTEXT, moments)
        for at_s, state in zip(moments, states, strict=True):
            alone = fold(events, CONTEXT, at_s=at_s)
            self.assertAlmostEqual(state.temperature_c, alone.temperature_c, places=9)
            self.assertEqual((state.parts, state.is_set), (alone.parts, alone.is_set))
        self.assertLess(states[-1].warmest_c, 40, "what set has forgotten how warm it was")
        self.assertEqual(states[3].warmest_c, max(e.to_c or 0 for e in MELTED))
