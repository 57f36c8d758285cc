import math
import unittest

from scipy.integrate import quad

from coating.errors import NotANumber, OutOfBounds
from coating.flow.casson1959 import Flow, pipe_flow


class Pipe(unittest.TestCase):
    def test_closed_form(self) -> None:
        got = pipe_flow(Flow(12, 2), radius_m=0.002, length_m=0.02, pressure_pa=1000)
        self.assertAlmostEqual(got / 3.1428e-08, 1, places=3)

    def test_agrees_with_integration_of_the_law(self) -> None:
        """Q = pi R^3/tau_w^3 * integral of tau^2 * shear rate, by scipy."""
        for yield_stress, viscosity, pressure in ((12, 2, 1000), (4, 0.8, 5000), (30, 5, 3300), (0, 1.5, 900)):
            flow, wall = Flow(yield_stress, viscosity), pressure * 0.002 / (2 * 0.02)
            integral, _ = quad(lambda t, f=flow: t * t * f.shear_rate_per_s(t), yield_stress, wall, epsabs=1e-9)
            expected = math.pi * 0.002**3 / wall**3 * integral
            self.assertAlmostEqual(
                pipe_flow(flow, radius_m=0.002, length_m=0.02, pressure_pa=pressure) / expected, 1, places=6
            )

    def test_stands_below_the_yield_stress(self) -> None:
        self.assertEqual(pipe_flow(Flow(12, 2), radius_m=0.002, length_m=0.02, pressure_pa=235), 0.0)
        self.assertEqual(pipe_flow(Flow(12, 2), radius_m=0.002, length_m=0.02, pressure_pa=0), 0.0)

    def test_refuses_nonsense(self) -> None:
        with self.assertRaises(OutOfBounds):
            Flow(-1, 2)
        with self.assertRaises(NotANumber):
            Flow(1, math.inf)
        with self.assertRaises(OutOfBounds):
            pipe_flow(Flow(1, 1), radius_m=0, length_m=1, pressure_pa=1)
