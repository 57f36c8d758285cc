"""Text in a line, round an edge, on a plaque; smoothed curves; turned over for film."""

from __future__ import annotations

import math
from unittest import TestCase

import numpy as np

from coating.errors import CoatingError, OutOfBounds
from coating.shape.curves import rounded, smoothed
from coating.shape.fitting import in_line, mirrored, on_arc, on_plaque
from coating.shape.lettering import letters
from coating.shape.strokes import Drawing, length_of


def points(drawing: Drawing) -> np.ndarray:
    return np.concatenate([*drawing.lines, *([np.array(drawing.presses)] if drawing.presses else [])])


class Fits(TestCase):
    def test_a_line_as_wide_as_there_is_room(self) -> None:
        """An H is 15.714 wide at cap 15 [published glyph]."""
        self.assertAlmostEqual(in_line("H", face="futural", width_mm=15.714).cap_mm, 15, delta=0.001)

    def test_round_an_edge_it_stays_on_the_piece(self) -> None:
        for below in (False, True):
            lettering = on_arc("Look up", face="futural", diameter_mm=120, margin_mm=6, below=below)
            far = np.hypot(*points(lettering.drawing).T)
            self.assertLess(far.max(), 54.2)
            self.assertGreater(far.min(), 20)
            middle = points(lettering.drawing)[:, 1].mean()
            self.assertTrue(middle > 0 if below else middle < 0)

    def test_the_formula_for_the_cap_height(self) -> None:
        """Along an arc of R theta with the base at R - cap: cap = R theta/(u + theta), where nothing hangs below."""
        lettering = on_arc("HHHH", face="futural", diameter_mm=112, margin_mm=6, spread_deg=120)
        u, theta = letters("HHHH", cap_mm=100).advance_mm / 100, math.radians(120)
        self.assertAlmostEqual(lettering.cap_mm, 50 * theta / (u + theta))

    def test_rows_that_make_it_largest(self) -> None:
        lettering = on_plaque("Clear skies", face="futural", width_mm=60, height_mm=60)
        self.assertEqual(lettering.rows, ("Clear", "skies"))
        wide = on_plaque("Clear skies", face="futural", width_mm=160, height_mm=30)
        self.assertEqual(wide.rows, ("Clear skies",))
        self.assertEqual(on_plaque("A\nB C", face="futural", width_mm=60).rows, ("A", "B C"))
        for size in ({"width_mm": 70.0}, {"width_mm": 90.0, "height_mm": 40.0}):
            drawn = points(on_plaque("Up we look tonight", face="cursive", **size).drawing)
            if "height_mm" in size:
                self.assertLess(np.abs(drawn).max(axis=0)[0], 40.1)
                self.assertLess(np.abs(drawn).max(axis=0)[1], 15.1)
            else:
                self.assertLess(np.hypot(*drawn.T).max(), 30.5)

    def test_no_room(self) -> None:
        for text in ("a very long text that goes on", "W" * 200):
            with self.assertRaises(OutOfBounds):
                in_line(text, face="futural", width_mm=10)
        with self.assertRaises(OutOfBounds):
            on_plaque("Hi", face="futural", width_mm=9)
        with self.assertRaises(CoatingError):
            on_plaque("\U0001f31f", face="futural", width_mm=90)


class Curves(TestCase):
    def test_through_all_points_and_round(self) -> None:
        """Twelve points of a circle: within .2 % of it all along; a right angle stays one."""
        turn = np.linspace(0, 2 * math.pi, 13)
        ring = smoothed(np.column_stack([np.cos(turn), np.sin(turn)]))
        self.assertLess(np.abs(np.hypot(*ring.T) - 1).max(), 0.002)
        corner = smoothed(np.array([(0.0, 0), (5, 0), (10, 0), (10, 5), (10, 10)]))
        self.assertAlmostEqual(length_of(corner), 20)
        self.assertEqual(len(smoothed(np.array([(0.0, 0)]))), 1)

    def test_corners_cut(self) -> None:
        square = rounded(np.array([(0.0, 0), (4, 0), (4, 4), (0, 4)]), 1, closed=True)
        self.assertEqual(len(square), 8)
        self.assertTrue(np.allclose(square[0], (1, 0)))


class Film(TestCase):
    def test_turned_over_twice_is_as_it_was(self) -> None:
        """Check value 6."""
        drawing = letters("Zoë up", cap_mm=20).drawing
        once, twice = mirrored(drawing), mirrored(mirrored(drawing))
        self.assertAlmostEqual(once.length_mm, drawing.length_mm)
        self.assertTrue(all(np.allclose(a, b) for a, b in zip(twice.lines, drawing.lines, strict=True)))
        self.assertTrue(np.allclose(once.lines[-1][:, 1], drawing.lines[0][:, 1]))
        self.assertEqual(once.presses[0][1], drawing.presses[-1][1])
