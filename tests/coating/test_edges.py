"""Units, limits and roots against libraries that know."""

import math
import unittest

from scipy import constants
from scipy.optimize import brentq

from coating import units
from coating.errors import CoatingError, NotANumber, OutOfBounds
from coating.limits import BOUNDS, check
from coating.roots import crossing


class Units(unittest.TestCase):
    def test_factors(self) -> None:
        """scipy.constants (CODATA, international yard and pound)."""
        self.assertAlmostEqual(units.ounces(100) * constants.oz * 1000, 100)
        self.assertAlmostEqual(units.inches(100) * constants.inch * 1000, 100)
        self.assertAlmostEqual(units.GAS_CONSTANT, constants.R, places=6)
        for celsius in (-40, 0, 28.5, 100):
            self.assertAlmostEqual(units.fahrenheit(celsius), constants.convert_temperature(celsius, "C", "F"))
            self.assertAlmostEqual(units.kelvin(celsius), constants.convert_temperature(celsius, "C", "K"))

    def test_a_difference_is_no_temperature(self) -> None:
        self.assertAlmostEqual(units.fahrenheit(38) - units.fahrenheit(28), units.fahrenheit_difference(10))


class Limits(unittest.TestCase):
    def test_ends_belong_and_nothing_beyond(self) -> None:
        for name, bound in BOUNDS.items():
            self.assertEqual(check(name, bound.low), bound.low)
            self.assertEqual(check(name, bound.high), bound.high)
            for outside in (math.nextafter(bound.low, -math.inf), math.nextafter(bound.high, math.inf)):
                with self.assertRaises(OutOfBounds):
                    check(name, outside)

    def test_what_is_no_number(self) -> None:
        for bad in (math.nan, math.inf, -math.inf, None, "12", True, [1], 10**400):
            with self.assertRaises(NotANumber) as caught:
                check("mass_g", bad, "bowl")
            self.assertEqual(caught.exception.as_dict()["field"], "bowl")

    def test_a_refusal_says_the_bounds_in_its_fields(self) -> None:
        with self.assertRaises(CoatingError) as caught:
            check("temperature_c", 500)
        refusal = caught.exception.as_dict()
        self.assertEqual((refusal["code"], refusal["high"], refusal["unit"]), ("out_of_bounds", 120, "°C"))


class Roots(unittest.TestCase):
    def test_agrees_with_brent(self) -> None:
        functions = (
            (lambda x: x**3 - 2 * x - 5, 2, 3),
            (lambda x: math.exp(-x) - x, 0, 1),
            (math.log, 0.1, 50),
            (lambda x: math.tanh(40 * (x - 0.3)), 0, 1),
            (lambda x: x - 1e-9, 0, 1),
        )
        for function, low, high in functions:
            self.assertAlmostEqual(crossing(function, low, high), brentq(function, low, high, xtol=1e-12), places=4)

    def test_ends_and_no_crossing(self) -> None:
        self.assertEqual(crossing(lambda x: x, 0, 5), 0)
        self.assertEqual(crossing(lambda x: x - 5, 0, 5), 5)
        with self.assertRaises(ValueError):
            crossing(lambda x: x * x + 1, -1, 1)
