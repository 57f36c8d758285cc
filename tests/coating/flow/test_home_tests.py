"""Spread, bag, card and spoon: published or derived figures first, then integration that knows none of our formulas."""

import math
import unittest

import numpy as np
from scipy.integrate import quad, solve_ivp
from scipy.optimize import brentq

from coating.errors import CoatingError, OutOfBounds, TestsDisagree, UnknownName, WillNotFlow
from coating.flow.casson1959 import Flow, pipe_flow
from coating.flow.home_tests import (
    calibrated_hole_mm,
    card_mass_g,
    drain_time_s,
    measured,
    number_from_card,
    number_from_drain,
    number_from_word,
    spread,
)
from coating.flow.home_tests.bag_drain import DENSITY_KG_M3, HALF_ANGLE, drip_out_m3_s
from coating.flow.home_tests.dipped_card import film_mm
from coating.flow.home_tests.roussel_coussot2005 import read_early
from coating.flow.ribbon import WORDS, flow_word
from coating.flow.trade_number import flow_from_number

G = 1259 * 9.81


def film_flux(h: np.ndarray, slope: np.ndarray, flow: Flow) -> np.ndarray:
    """Flux of a Casson film under a head gradient, from its shear rate: Q = (h/tau)^2 * integral of s * rate(s) ds."""
    tau, y = np.abs(slope) * G * h, flow.yield_stress_pa
    wall = np.maximum(tau, y)
    moment = wall**3 / 3 + y * wall**2 / 2 - 0.8 * math.sqrt(y) * wall**2.5 - y**3 / 30
    return np.where(tau > y, -np.sign(slope) * h**2 * moment / (flow.viscosity_pa_s * wall**2), 0.0)


class Spreading(unittest.TestCase):
    def test_published_widths(self) -> None:
        """Roussel & Coussot 2005, closed form: 10 Pa at rest is 69.174 mm across for 15 ml, and so on."""
        for stress, diameter in ((5, 79.5), (10, 69.174), (20, 60.2), (40, 52.4)):
            read = spread(volume_ml=15, diameter_mm=diameter, wait_s=60)
            self.assertAlmostEqual(read.yield_stress_pa * read_early(60) / stress, 1, delta=0.012)
        self.assertEqual(spread(volume_ml=5, diameter_mm=38.8).regime, "caution")

    def test_read_after_half_a_minute_it_looks_a_quarter_too_thick(self) -> None:
        """An axisymmetric Casson film solved here: 15 Pa, 2.5 Pa s, 15 ml; 1.25 at 30 s, 1.17 at 60, 1.09 at 120."""
        flow, volume, cells, reach = Flow(15, 2.5), 15e-6, 400, 0.045
        edges = np.linspace(0, reach, cells + 1)
        middle, dr = (edges[1:] + edges[:-1]) / 2, reach / cells
        begun_m = 0.019
        start = np.where(middle < begun_m, volume / (math.pi * begun_m**2), 0.0)

        def change(_: float, h: np.ndarray) -> np.ndarray:
            at = np.maximum(h[:-1], h[1:])
            across = np.concatenate(([0.0], film_flux(at, np.diff(h) / dr, flow), [0.0])) * edges
            return -np.diff(across) / (middle * dr)

        solved = solve_ivp(
            change, (0, 120), start, method="LSODA", lband=1, uband=1, t_eval=(30, 60, 120), rtol=1e-4, atol=1e-7
        )
        for h, time_s, published in zip(solved.y.T, (30, 60, 120), (1.25, 1.17, 1.09), strict=True):
            radius = middle[np.flatnonzero(h > 5e-4)[-1]] + dr / 2
            apparent = 225 * G * volume**2 / (128 * math.pi**2 * radius**5) / 15
            self.assertAlmostEqual(apparent, published, delta=0.06)
            self.assertAlmostEqual(read_early(time_s), published, delta=0.06)

    def test_wider_is_thinner_across_all_regimes(self) -> None:
        stresses = [spread(volume_ml=15, diameter_mm=d).yield_stress_pa for d in np.linspace(27.5, 140, 200)]
        self.assertEqual(stresses, sorted(stresses, reverse=True))
        regimes = [spread(volume_ml=15, diameter_mm=d).regime for d in (30, 50, 75)]
        self.assertEqual(regimes, ["slump", "caution", "spread"])
        thin = spread(volume_ml=15, diameter_mm=95)
        self.assertGreaterEqual(thin.high_pa / thin.yield_stress_pa, 1.5, "little is sure below 4 Pa")

    def test_nonsense(self) -> None:
        for bad in ({"diameter_mm": 10}, {"diameter_mm": math.nan}, {"diameter_mm": 69, "wait_s": 0}):
            with self.assertRaises(OutOfBounds):
                spread(volume_ml=15, **bad)


class Draining(unittest.TestCase):
    def test_times(self) -> None:
        """Derived figures: 150 to 50 g through 4 and 6 mm, N 20, 27, 37, 47."""
        for hole, times in ((4, (56, 88, 152, 245)), (6, (17, 26, 45, 70))):
            for number, time_s in zip((20, 27, 37, 47), times, strict=True):
                self.assertAlmostEqual(drain_time_s(flow_from_number(number), hole_mm=hole), time_s, delta=1)

    def test_the_cone_agrees_with_exact_pipe_flow_along_it(self) -> None:
        flow, hole, fill, slope = flow_from_number(37), 0.002, 0.03, math.tan(HALF_ANGLE)
        ours = drip_out_m3_s(flow, hole_m=hole, fill_m=fill)
        head = DENSITY_KG_M3 * 9.81 * (fill - hole) / slope

        def gradient(radius: float) -> float:
            held = 2 * flow.yield_stress_pa / radius
            ask = lambda p: pipe_flow(flow, radius_m=radius, length_m=1.0, pressure_pa=p) - ours  # noqa: E731
            return float(brentq(ask, held, held + 8e6, xtol=1e-6))

        lost, _ = quad(lambda r: gradient(r) / slope, hole, fill, limit=80)
        self.assertAlmostEqual(lost / head, 1, delta=0.03)

    def test_backwards(self) -> None:
        seconds = drain_time_s(flow_from_number(33), hole_mm=4.4)
        self.assertAlmostEqual(number_from_drain(seconds, hole_mm=4.4), 33, places=4)
        self.assertAlmostEqual(calibrated_hole_mm(seconds, 33), 4.4, places=4)
        with self.assertRaises(WillNotFlow):
            drain_time_s(Flow(400, 30), hole_mm=3)

    def test_two_tests_together(self) -> None:
        flow = Flow(9.0, 2.4)
        both = measured(9.0, drain_time_s(flow, hole_mm=4), hole_mm=4)
        self.assertAlmostEqual(both.flow.viscosity_pa_s, 2.4, places=5)
        with self.assertRaises(TestsDisagree):
            measured(60, 3, hole_mm=4)


class Card(unittest.TestCase):
    def test_derived_figure(self) -> None:
        """Derived closed form: 12 Pa, 2 Pa s, 50 mm below the edge after 30 s: 1.866 mm; Jeffreys at no yield."""
        self.assertAlmostEqual(film_mm(Flow(12, 2), depth_mm=50, wait_s=30, density_kg_m3=1259), 1.866, places=3)
        jeffreys = math.sqrt(2 * 0.05 / (1259 * 9.81 * 30)) * 1000
        self.assertAlmostEqual(film_mm(Flow(0, 2), depth_mm=50, wait_s=30, density_kg_m3=1259), jeffreys, places=4)

    def test_is_the_characteristic_of_the_draining_film(self) -> None:
        flow, depth, wait = Flow(12, 2), 0.05, 30.0

        def flux(h: float) -> float:
            return quad(lambda s: s * flow.shear_rate_per_s(G * s), 0, h, points=[12 / G], epsabs=1e-16)[0]

        h = film_mm(flow, depth_mm=50, wait_s=30, density_kg_m3=1259) / 1000
        self.assertAlmostEqual((flux(h * 1.001) - flux(h * 0.999)) / (0.002 * h) / (depth / wait), 1, delta=2e-3)

    def test_backwards_and_by_integration(self) -> None:
        flow = flow_from_number(37)
        mass = card_mass_g(flow, width_mm=60, dipped_mm=80, wait_s=30)
        mean, _ = quad(lambda z: film_mm(flow, depth_mm=z, wait_s=30), 0, 80)
        self.assertAlmostEqual(mass, 2 * 60 * mean * DENSITY_KG_M3 * 1e-6, places=3)
        self.assertAlmostEqual(number_from_card(mass, width_mm=60, dipped_mm=80, wait_s=30), 37, places=5)


class Spoon(unittest.TestCase):
    def test_words_tile_the_numbers(self) -> None:
        ranges = [number_from_word(w) for w in WORDS]
        for word, here, after in zip(WORDS, ranges, ranges[1:], strict=False):
            if after.low < 140:
                self.assertAlmostEqual(here.high, after.low, places=6)
            self.assertTrue(here.low < here.number < here.high)
            self.assertEqual(flow_word(flow_from_number(here.number)), word)
        with self.assertRaises(UnknownName):
            number_from_word("gloopy")
        with self.assertRaises(CoatingError):
            measured(math.nan, 20, hole_mm=4)
