import unittest

import numpy as np
from scipy.integrate import solve_ivp

from coating.colour.kubelka_munk1931 import film_reflectance, ratio_from_reflectance, reflectance_from_ratio


class OpaqueLayer(unittest.TestCase):
    def test_closed_form(self) -> None:
        """Kubelka & Munk 1931: R of q, computed in closed form."""
        ratios = [0.001, 0.01, 0.05, 0.25, 1, 4, 20]
        expected = [0.9562674615, 0.8682255312, 0.7298437881, 0.5, 0.2679491924, 0.1010205144, 0.0238230366]
        np.testing.assert_allclose(reflectance_from_ratio(ratios), expected, atol=1e-9)
        np.testing.assert_allclose(ratio_from_reflectance(expected), ratios, rtol=1e-7)

    def test_ratio_of_reflectance(self) -> None:
        np.testing.assert_allclose(
            ratio_from_reflectance([0.05, 0.25, 0.5, 0.75, 0.9]),
            [9.025, 1.125, 0.25, 0.04166667, 0.00555556],
            atol=1e-7,
        )

    def test_extremes_stay_finite(self) -> None:
        self.assertTrue(np.isfinite(ratio_from_reflectance([0.0, 1.0])).all())
        self.assertEqual(float(reflectance_from_ratio(0.0)), 1.0)
        self.assertGreater(float(reflectance_from_ratio(1e12)), 0.0)


class Film(unittest.TestCase):
    def test_closed_form(self) -> None:
        rows = [
            (0.1, 5, 0.2, 0),
            (0.1, 5, 0.2, 1),
            (0.1, 5, 0.2, 0.5),
            (1, 5, 0.5, 0.04),
            (2, 1, 1, 0.9),
            (0.02, 7, 0.15, 0.3),
        ]
        expected = [0.49177977, 0.96129396, 0.64999049, 0.52343512, 0.17449224, 0.59463788]
        np.testing.assert_allclose(film_reflectance(*zip(*rows, strict=True)), expected, atol=1e-7)

    def test_limits_without_absorption_or_scatter(self) -> None:
        got = film_reflectance([0, 0, 0.5], [1, 2, 0], [1, 0.5, 1], [0, 0.2, 0.8])
        np.testing.assert_allclose(got, [0.5, 0.55555556, 0.29430355], atol=1e-6)

    def test_thick_film_is_opaque_and_thin_film_shows_its_ground(self) -> None:
        np.testing.assert_allclose(film_reflectance(0.2, 10, 50, [0.0, 1.0]), 0.81900249, atol=1e-8)
        np.testing.assert_allclose(film_reflectance(0.2, 10, 0, [0, 0.37, 1]), [0, 0.37, 1], atol=1e-12)

    def test_agrees_with_the_riccati_equation(self) -> None:
        """dR/dx = S - 2(K + S)R + S R^2, integrated by scipy."""
        for k, s, x, ground in ((0.3, 5, 0.4, 0.1), (4, 2, 0.7, 0.95), (1e-4, 8, 1.5, 0.3), (2, 1e-3, 0.5, 0.6)):
            solved = solve_ivp(
                lambda _, r, k=k, s=s: s - 2 * (k + s) * r + s * r * r, (0, x), [ground], rtol=1e-10, atol=1e-12
            )
            self.assertAlmostEqual(float(film_reflectance(k, s, x, ground)), solved.y[0, -1], places=7)
