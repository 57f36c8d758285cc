"""What must hold whatever comes in, searched by hypothesis."""

import json
import math
import unittest

import numpy as np
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from coating.colour.cie import lab_from_reflectance
from coating.colour.ciede2000 import colour_difference
from coating.colour.kubelka_munk1931 import film_reflectance
from coating.colour.mixing import Ingredient, Part, mix
from coating.colour.upsampling import reflectance_from_lab
from coating.errors import NoSuchColour, WillNotFlow
from coating.facade import answer
from coating.flow.ribbon import WORDS
from coating.flow.state import Conditions, flow_now
from coating.flow.trade_number import number_from_flow
from coating.flow.windows import window
from coating.piece.cores import Disc
from coating.simulate.bowl import KINDS, BowlContext, Event
from coating.simulate.fold import fold
from coating.stack.layers import Layer, coat_of_dip_mm, on_one_g
from coating.stock.ingredients import DEMO_INGREDIENTS

ALL = list(DEMO_INGREDIENTS.values())
COLOURS = [i for i in ALL if i.is_colourant]
parts = st.builds(Part, st.sampled_from(ALL), st.floats(0, 2000))
calm = settings(max_examples=120, deadline=None, derandomize=True, suppress_health_check=list(HealthCheck))


class Colour(unittest.TestCase):
    @calm
    @given(st.lists(parts, min_size=1, max_size=8))
    def test_every_mixture_has_a_colour(self, chosen: list[Part]) -> None:
        if sum(p.mass_g for p in chosen) <= 0:
            return
        mixture = mix(chosen)
        lab = mixture.lab()
        self.assertTrue(all(math.isfinite(v) for v in lab))
        self.assertTrue(-1e-6 <= lab[0] <= 100 + 1e-6)
        self.assertTrue(((mixture.reflectance() >= 0) & (mixture.reflectance() <= 1)).all())

    @calm
    @given(*[st.floats(0, v) for v in (200, 50, 10, 1)])
    def test_a_film_lies_between_dark_and_white(self, k: float, s: float, x: float, ground: float) -> None:
        value = float(film_reflectance(k, s, x, ground))
        self.assertTrue(0 <= value <= 1)
        thicker = float(film_reflectance(k, s, 2 * x, 0.0)) - float(film_reflectance(k, s, x, 0.0))
        self.assertGreaterEqual(thicker, -1e-9, "over black a thicker film is never darker")

    @calm
    @given(*[st.tuples(st.floats(0, 100), st.floats(-90, 90), st.floats(-90, 90))] * 2)
    def test_a_difference_is_symmetric_and_none_to_itself(self, one: tuple, other: tuple) -> None:
        there, back = float(colour_difference(one, other)), float(colour_difference(other, one))
        self.assertAlmostEqual(there, back, places=7)
        self.assertAlmostEqual(float(colour_difference(one, one)), 0.0, places=7)

    @calm
    @given(
        st.sampled_from([i for i in ALL if i.is_colourant]), st.floats(0.02, 1), st.sampled_from(["ivory", "bright"])
    )
    def test_more_base_always_brings_a_tint_nearer_to_it(self, colour: Ingredient, load: float, name: str) -> None:
        base = DEMO_INGREDIENTS[name]
        plain = mix([Part(base, 1.0)]).lab()
        tints = [mix([Part(base, g), Part(colour, load * colour.cap_share * 100)]).lab() for g in (100, 150, 300, 900)]
        gaps = [float(colour_difference(lab, plain)) for lab in tints]
        self.assertEqual(gaps, sorted(gaps, reverse=True))

    @calm
    @given(st.tuples(st.floats(1, 100), st.floats(-60, 60), st.floats(-60, 60)))
    def test_a_colour_has_a_spectrum_or_none(self, lab: tuple[float, float, float]) -> None:
        try:
            spectrum = reflectance_from_lab(lab)
        except NoSuchColour:
            return
        self.assertTrue(((spectrum > 0) & (spectrum < 1)).all())
        again = lab_from_reflectance(spectrum)
        self.assertLess(abs(again[0] - min(lab[0], 99.9)) + abs(again[1] - lab[1]) + abs(again[2] - lab[2]), 0.5)


class Flowing(unittest.TestCase):
    @calm
    @given(st.floats(10, 80), st.floats(0.28, 0.4), st.floats(30, 50), st.floats(0, 0.08))
    def test_fat_and_warmth_never_thicken(self, number: float, fat: float, warm: float, more: float) -> None:
        plain = flow_now(Conditions(number, fat, temperature_c=warm))
        thinned = flow_now(Conditions(number, fat, temperature_c=warm, new_fat_fraction=(fat + more) / (1 + more)))
        warmer = flow_now(Conditions(number, fat, temperature_c=warm + 3))
        for other in (thinned, warmer):
            self.assertLessEqual(number_from_flow(other), number_from_flow(plain) * (1 + 1e-9))

    @calm
    @given(st.floats(1, 400), st.floats(0.2, 0.6), st.floats(-30, 120), st.floats(0, 0.4), st.floats(0, 1e4))
    def test_anything_flows_or_says_that_it_does_not(
        self, n: float, fat: float, t: float, w: float, hot: float
    ) -> None:
        for kind in ("chocolate", "coating"):
            try:
                flow = flow_now(Conditions(n, fat, kind, t, water_fraction=w, overheated_minutes=hot))
            except WillNotFlow:
                continue
            self.assertTrue(math.isfinite(flow.yield_stress_pa) and flow.viscosity_pa_s > 0)

    @calm
    @given(st.floats(10, 300), st.floats(1, 80), st.floats(0.1, 1))
    def test_a_coat_weighs_its_area_times_its_thickness(self, across: float, thick: float, share: float) -> None:
        core = Disc(across, thick)
        by_hand = core.wetted_mm2(share) * coat_of_dip_mm(core, share) * 1.2591e-3
        self.assertAlmostEqual(on_one_g(core, Layer("dip", share=share)) / by_hand, 1, places=3)


def _event(seq: int, kind: str, at_s: float, part: Part, value: float, target: int) -> Event:
    return Event(
        seq,
        kind,
        at_s,
        (part,) if kind in ("added", "received") else (),
        to_c=min(value, 120.0),
        mass_g=value,
        seconds=value,
        power_w=800,
        test="number",
        value=max(1.0, min(value, 400.0)),
        target_seq=target,
    )


events = st.lists(
    st.tuples(st.sampled_from(KINDS), st.floats(0, 9000), parts, st.floats(0, 500), st.integers(1, 12)), max_size=12
)


class Bowls(unittest.TestCase):
    @calm
    @given(events, st.floats(0, 20000))
    def test_any_list_of_events_folds(self, drawn: list[tuple], at_s: float) -> None:
        made = [_event(i, *row) for i, row in enumerate(drawn, start=1)]
        state = fold(made, BowlContext(room_c=21, window=window("dip")), at_s=at_s)
        self.assertTrue(state.mass_g >= 0 and math.isfinite(state.temperature_c))
        self.assertGreaterEqual(state.overheated_minutes, 0)
        self.assertIn(state.word, WORDS)
        until = state.usable_until_s()
        self.assertTrue(until is None or until >= at_s)
        self.assertEqual(state, fold(made[::-1], state.context.__class__(room_c=21, window=window("dip")), at_s=at_s))

    @calm
    @given(st.floats(20, 60), st.floats(0, 5000), st.floats(0, 5000))
    def test_waiting_twice_is_waiting_once(self, warm: float, first: float, second: float) -> None:
        base = [Event(1, "added", 0, (Part(DEMO_INGREDIENTS["ivory"], 250.0),)), Event(2, "warmed", 0, to_c=warm)]
        pause = [*base, Event(3, "stirred", first)]
        one, two = (fold(e, BowlContext(room_c=20), at_s=first + second) for e in (base, pause))
        self.assertAlmostEqual(one.temperature_c, two.temperature_c, places=6)


class Facade(unittest.TestCase):
    @calm
    @given(st.floats(1, 400), st.floats(-30, 120), st.floats(0, 60), st.booleans())
    def test_flow_state_answers_everything_within_bounds(self, n: float, t: float, w: float, tempered: bool) -> None:
        given_ = {"number": n, "temperature_c": t, "water_g_per_100g": w, "tempered": tempered}
        json.dumps(answer("flow.state", given_), allow_nan=False)
        self.assertTrue(np.isfinite(answer("flow.from_number", {"number": n})["yield_stress_pa"]))
