"""Shapes to lift off, our own ones, and traced pictures."""

from __future__ import annotations

import math
from unittest import TestCase

import numpy as np
from shapely import box

from coating.errors import CoatingError, EmptyDrawing, OutOfBounds, UnknownName
from coating.shape.areas import Areas
from coating.shape.ready_shapes import READY, ready_shape
from coating.shape.run_outs import run_out
from coating.shape.traced import otsu, traced


class RunOuts(TestCase):
    def test_a_square_by_hand(self) -> None:
        """40 x 40 mm, a 2 mm line: its middle runs round 38 x 38 = 152 mm, section pi/4 x 2 x 1.4 mm2; inside 36 x 36
        mm lie 1.26 mm deep."""
        design = run_out(Areas((box(0, 0, 40, 40),)), line_mm=2)
        density = 1.259e-3
        self.assertAlmostEqual(design.outline.length_mm, 152, delta=0.1)
        self.assertAlmostEqual(design.outline_g() / (math.pi / 4 * 2 * 1.4 * 152 * density), 1, delta=0.01)
        self.assertAlmostEqual(design.flood_mm2, 1296, delta=0.1)
        self.assertAlmostEqual(design.flood_g() / (1296 * 1.26 * density), 1, delta=0.01)
        self.assertEqual((design.pieces, design.thin_at), (1, ()))

    def test_thin_walls_are_found_where_they_are(self) -> None:
        bone = Areas((box(0, 0, 20, 20).union(box(20, 9, 40, 11)).union(box(40, 0, 60, 20)),))
        at = run_out(bone, line_mm=1.5).thin_at
        self.assertEqual(len(at), 1)
        self.assertTrue(20 < at[0][0] < 40 and 9 < at[0][1] < 11)

    def test_a_line_wider_than_the_shape(self) -> None:
        with self.assertRaises(OutOfBounds):
            run_out(Areas((box(0, 0, 3, 3),)), line_mm=4)
        with self.assertRaises(OutOfBounds):
            run_out(Areas((box(0, 0, 30, 30),)), line_mm=math.nan)

    def test_every_shape_of_ours_can_be_lifted(self) -> None:
        for name in READY:
            for wide in (25.0, 60.0, 200.0):
                shape = ready_shape(name, width_mm=wide)
                self.assertEqual(len(shape.parts), 1, name)
                self.assertAlmostEqual(shape.size_mm[0], wide, places=6)
                self.assertTrue(shape.parts[0].is_valid and run_out(shape, line_mm=1.2).flood_g() > 0, name)
        with self.assertRaises(UnknownName):
            ready_shape("logo", width_mm=50)


class Traced(TestCase):
    def test_a_disc_has_its_area(self) -> None:
        """Pixels 200 x 200, a dark disc of radius 60 on white, 100 mm wide: radius 30 mm."""
        y, x = np.mgrid[:200, :200]
        grey = np.where(np.hypot(x - 99.5, y - 99.5) < 60, 0.1, 0.95)
        result = traced(grey, width_mm=100)
        self.assertAlmostEqual(result.area_mm2 / (math.pi * 900), 1, delta=0.01)
        self.assertAlmostEqual(result.size_mm[0], 60, delta=0.6)
        self.assertEqual(len(result.parts[0].interiors), 0)
        around = traced(grey, width_mm=100, light=True)
        self.assertEqual(len(around.parts[0].interiors), 1)
        self.assertAlmostEqual(around.area_mm2 + result.area_mm2, 10000, delta=60)

    def test_specks_are_left_out_and_two_greys_are_parted(self) -> None:
        grey = np.full((120, 120), 0.8)
        grey[30:80, 30:80] = 0.3
        grey[5, 5] = 0.0
        self.assertEqual(len(traced(grey, width_mm=60).parts), 1)
        self.assertTrue(0.3 < otsu(grey) < 0.8)

    def test_what_cannot_be_traced(self) -> None:
        for grey, options, refusal in (
            (np.full((50, 50), 0.5), {}, EmptyDrawing),
            (np.zeros((2, 2)), {}, OutOfBounds),
            (np.full((50, 50), math.nan), {}, CoatingError),
            (np.zeros((5000, 10)), {}, OutOfBounds),
            (np.kron(np.indices((40, 40)).sum(axis=0) % 2, np.ones((10, 10))), {"smooth_px": 0.0}, OutOfBounds),
            (np.eye(50), {"threshold": 4}, OutOfBounds),
        ):
            with self.assertRaises(refusal):
                traced(grey, width_mm=60, **options)
