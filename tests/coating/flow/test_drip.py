"""The drip: figures of two other models, the exact wave where there is one, and which way it moves."""

import math
import unittest

import numpy as np
from scipy.integrate import quad
from scipy.optimize import brentq

from coating.errors import OutOfBounds, UnknownName
from coating.flow.drip import _Film, drip_length, squeeze_for
from coating.flow.state import Conditions, flow_now
from coating.flow.trade_number import number_from_flow


def length(number: float = 20, *, volume_ml: float = 0.5, temperature_c: float = 38, **more: object) -> float:
    return drip_length(number, volume_ml=volume_ml, temperature_c=temperature_c, **more).length_mm  # type: ignore[arg-type]


class Lengths(unittest.TestCase):
    def test_two_independent_models(self) -> None:
        """Derived elsewhere, 9 mm wide, .5 ml at 38 degC: chilled 47 41 36 31 mm, room 55 48 41 34; 11 to 30 s."""
        chilled, room = ((47, 41, 36, 31), (48, 42, 36, 30)), ((55, 48, 41, 34), (56, 48, 40, 33))
        for wall, (first, second), (least, most) in (("chilled", chilled, (10, 18)), ("room", room, (19, 30))):
            for number, one, other in zip((15, 20, 27, 37), first, second, strict=True):
                drip = drip_length(number, volume_ml=0.5, temperature_c=38, wall=wall)
                self.assertAlmostEqual(drip.length_mm, (one + other) / 2, delta=1.3)
                self.assertTrue(least <= drip.stops_after_s <= most, drip)
                self.assertTrue(drip.low_mm < drip.length_mm < drip.high_mm)
        self.assertAlmostEqual(length(volume_ml=0.3), 26, delta=1.3)
        self.assertAlmostEqual(length(volume_ml=0.8), 63, delta=2.5)
        stands = {t: number_from_flow(flow_now(Conditions(20, temperature_c=t))) for t in (37, 39)}
        warmer = length(stands[39], temperature_c=39) - length(stands[37], temperature_c=37)
        self.assertAlmostEqual(warmer / 2, 0.9, delta=0.15, msg="about .9 mm a degree, its thinning counted")

    def test_without_cooling_it_is_the_kinematic_wave(self) -> None:
        """x/t = h * shear rate(rho g h) behind the front, which lies where the volume is used up."""
        film = _Film(20, 38.0, 38.0, 0.32)
        film.cooling = 0.0
        area, time_s = 0.5e-6 / 9e-3, 120.0
        ours, _ = film.run(area)
        y, eta, pull = film.yield_stress, film.viscosity, film.pull

        def place(h: float) -> float:
            return time_s * h * (math.sqrt(pull * h) - math.sqrt(y)) ** 2 / eta

        held = y / pull

        def spare(h: float) -> float:
            return h * place(h) - quad(place, held, h)[0] - area

        front = brentq(spare, held * (1 + 1e-9), 0.02)
        self.assertAlmostEqual(ours / place(front), 1, delta=0.05)

    def test_it_moves_the_right_way_everywhere(self) -> None:
        for grid, move, sign in (
            (np.linspace(12, 60, 25), length, -1),
            (np.linspace(0.2, 1.5, 25), lambda x: length(volume_ml=x), 1),
            (np.linspace(26, 44, 25), lambda x: length(temperature_c=x), 1),
            (np.linspace(5, 16, 25), lambda x: length(width_mm=x), -1),
        ):
            steps = np.diff([move(x) for x in grid]) * sign
            self.assertGreater(steps.min(), 0)
        self.assertLess(length(), length(wall="room"))

    def test_range_follows_what_is_known(self) -> None:
        wide, narrow = (drip_length(20, volume_ml=0.5, temperature_c=38, number_spread=s) for s in (0.3, 0.05))
        self.assertGreater(wide.high_mm - wide.low_mm, narrow.high_mm - narrow.low_mm)
        self.assertEqual(wide.length_mm, narrow.length_mm)

    def test_the_squeeze_for_a_length(self) -> None:
        for number, wanted, wall in ((15, 60, "chilled"), (27, 30, "room"), (60, 25, "chilled")):
            squeeze = squeeze_for(number, length_mm=wanted, temperature_c=36, wall=wall)
            self.assertAlmostEqual(
                length(number, volume_ml=squeeze.volume_ml, temperature_c=36, wall=wall) / wanted, 1, delta=0.01
            )
        with self.assertRaises(OutOfBounds) as refused:
            squeeze_for(200, length_mm=200, temperature_c=38)
        self.assertLess(refused.exception.fields["most_mm"], 200)
        with self.assertRaises(OutOfBounds):
            squeeze_for(20, length_mm=math.nan, temperature_c=38)

    def test_extremes(self) -> None:
        self.assertLess(length(400), 6)
        self.assertLessEqual(length(1, volume_ml=5, wall="room"), 250)
        for bad in ({"volume_ml": 0}, {"temperature_c": 200}, {"width_mm": math.nan}, {"number": 0}):
            with self.assertRaises(OutOfBounds):
                length(**bad)  # type: ignore[arg-type]
        with self.assertRaises(UnknownName):
            length(wall="oven")
