"""Painted layers against the Riccati equation of Kubelka and Munk, from the front and from behind."""

from __future__ import annotations

import math
from unittest import TestCase

import numpy as np
from scipy.integrate import solve_ivp

from coating.colour.cie import lab_from_reflectance
from coating.colour.ciede2000 import colour_difference
from coating.colour.hiding import HIDES
from coating.colour.mixing import Part, mix
from coating.colour.painted import PaintLayer, painted, shaded
from coating.errors import CoatingError
from coating.stock.ingredients import demo_ingredient

BRIGHT, DARK = ([Part(demo_ingredient(name), 100)] for name in ("bright", "dark"))
BLUE = [Part(demo_ingredient("bright"), 100), Part(demo_ingredient("blue"), 0.5)]
UNDER = mix(DARK).reflectance()


def integrated(parts: list[Part], thick_mm: float, ground: np.ndarray) -> np.ndarray:
    """dR/dx = S - 2 (K + S) R + S R^2, a band at a time."""
    mixture = mix(parts)
    k, s = mixture.absorption, mixture.scattering
    done = solve_ivp(lambda _, r: s - 2 * (k + s) * r + s * r * r, (0, thick_mm), ground, rtol=1e-8, atol=1e-10)
    return np.asarray(done.y[:, -1])


class Layers(TestCase):
    def test_coats_to_hide_by_integration(self) -> None:
        """The least number of coats within 2 dE00 of the paint itself, found with the integrated equation."""
        (one,) = painted(UNDER, [PaintLayer(BRIGHT)])
        own = np.array(mix(BRIGHT).lab())
        off = [
            float(colour_difference(lab_from_reflectance(integrated(BRIGHT, 0.15 * n, UNDER)), own)) for n in range(15)
        ]
        self.assertEqual(one.enough, next(n for n, de in enumerate(off) if de <= HIDES))
        self.assertEqual(one.coats, one.enough)
        self.assertAlmostEqual(one.de00, off[one.coats], delta=0.01)

    def test_a_stack_is_film_upon_film(self) -> None:
        first, second = painted(UNDER, [PaintLayer(BRIGHT, 2), PaintLayer(BLUE, 1)])
        below = integrated(BRIGHT, 0.30, UNDER)
        seen = lab_from_reflectance(integrated(BLUE, 0.15, below))
        self.assertLess(float(colour_difference(lab_from_reflectance(below), np.array(first.lab))), 0.01)
        self.assertLess(float(colour_difference(seen, np.array(second.lab))), 0.01)

    def test_from_behind_the_first_is_in_front(self) -> None:
        front = painted(UNDER, [PaintLayer(BRIGHT, 2), PaintLayer(BLUE, 1)])
        behind = painted(UNDER, [PaintLayer(BLUE, 1), PaintLayer(BRIGHT, 2)], from_behind=True)
        self.assertEqual((behind[0].lab, behind[1].lab), (front[1].lab, front[0].lab))

    def test_dust_covers_part_and_no_coat_changes_nothing(self) -> None:
        (none,) = painted(UNDER, [PaintLayer(BRIGHT, 0)])
        np.testing.assert_allclose(none.lab, mix(DARK).lab(), atol=0.01)
        (dust,), (full,) = painted(UNDER, [PaintLayer(BRIGHT, 1, 0.5)]), painted(UNDER, [PaintLayer(BRIGHT, 1)])
        self.assertTrue(none.lab[0] < dust.lab[0] < full.lab[0])

    def test_a_row_from_pale_to_deep(self) -> None:
        """Each part about as far from the ground as its place says; the last one hides."""
        row = shaded(BLUE, UNDER, 5)
        under = np.array(mix(DARK).lab())
        off = [float(colour_difference(np.array(s.lab), under)) for s in row]
        for k, de in enumerate(off, 1):
            self.assertAlmostEqual(de, off[-1] * k / 5, delta=0.06 * off[-1])
        self.assertLessEqual(float(colour_difference(np.array(row[-1].lab), np.array(mix(BLUE).lab()))), HIDES)
        self.assertEqual([s.passes for s in row], sorted({s.passes for s in row}))

    def test_bad_input(self) -> None:
        for layers in ([], [PaintLayer(BRIGHT)] * 7, [PaintLayer(BRIGHT, 50)], [PaintLayer([], 1)]):
            with self.assertRaises(CoatingError):
                painted(UNDER, layers)
        with self.assertRaises(CoatingError):
            painted(UNDER, [PaintLayer(BRIGHT)], coat_mm=math.nan)
