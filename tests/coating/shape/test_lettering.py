"""Letters of one stroke: the published glyph, what scales, accents, what cannot be drawn, and what blocks up."""

import math
import string
import unittest

import numpy as np

from coating.errors import EmptyDrawing, OutOfBounds, UnknownName
from coating.flow.material import ORDINARY
from coating.shape.legible import legible, narrowest_mm, room_in, room_wanted_mm
from coating.shape.lettering import FACES, letters
from coating.shape.strokes import Drawing, joined


class Letters(unittest.TestCase):
    def test_the_published_h(self) -> None:
        """Hershey glyph 508, roman simplex: cap 21, advance 22, lines of 21, 21 and 14 units; at a cap of 15 mm."""
        lettering = letters("H", cap_mm=15)
        self.assertEqual((lettering.drawing.strokes, lettering.drawing.lifts), (3, 2))
        self.assertAlmostEqual(lettering.drawing.length_mm, 40.0)
        self.assertAlmostEqual(lettering.advance_mm, 15.714, places=3)

    def test_two_words_in_two_faces(self) -> None:
        """The words at a cap of 15: 428 mm in 26 strokes plain, 574 mm in 13 joined (computed independently)."""
        for face, length, strokes in (("futural", 428, 26), ("cursive", 574, 13)):
            drawing = letters("Happy Birthday", face=face, cap_mm=15).drawing
            self.assertAlmostEqual(drawing.length_mm, length, delta=0.6)
            self.assertEqual(drawing.strokes, strokes)

    def test_twice_as_high_is_twice_of_all(self) -> None:
        for face in FACES:
            small, large = (letters("Look up, Zoë", face=face, cap_mm=c) for c in (12, 24))
            self.assertAlmostEqual(large.drawing.length_mm, 2 * small.drawing.length_mm, places=9)
            self.assertAlmostEqual(large.advance_mm, 2 * small.advance_mm, places=9)
            self.assertEqual(large.drawing.lifts, small.drawing.lifts)

    def test_accents_are_drawn_however_they_are_written(self) -> None:
        composed, apart = letters("Noël"), letters("Noe\u0308l")
        self.assertEqual(len(composed.drawing.presses), 2)
        for a, b in zip(composed.drawing.lines, apart.drawing.lines, strict=True):
            np.testing.assert_array_equal(a, b)
        self.assertEqual(len(letters("í").drawing.presses), 0)  # its dot goes under the accent
        self.assertEqual(len(letters("i").drawing.presses), 1)
        for character in "éèêñçåőøłæœß":
            self.assertEqual(letters(character).undrawable, (), character)
            self.assertGreater(letters(character).drawing.length_mm, letters("o").drawing.length_mm * 0.6)

    def test_what_cannot_be_drawn_is_named_and_never_dropped(self) -> None:
        lettering = letters("Sky 星 🌠 שלום")
        self.assertEqual(lettering.undrawable[:2], ("星", "🌠"))
        self.assertEqual(len(lettering.undrawable), 6)
        for text in ("", "   ", "星", "\n"):
            with self.assertRaises(EmptyDrawing):
                letters(text)
        with self.assertRaises(OutOfBounds):
            letters("x" * 201)
        with self.assertRaises(UnknownName):
            letters("x", face="comic")
        for cap in (0.0, float("nan"), 1e6):
            with self.assertRaises(OutOfBounds):
                letters("x", cap_mm=cap)
        self.assertEqual(letters("Look\nup").drawing.strokes, letters("Look up").drawing.strokes)


class Strokes(unittest.TestCase):
    def test_grams_and_seconds_by_hand(self) -> None:
        """100 mm of a bead 2 mm wide and 1.4 high, and two presses: pi/4 2 1.4 100 and twice pi/6 4 1.4 mm3."""
        drawing = Drawing((np.array([(0.0, 0.0), (60.0, 80.0)]),), ((1.0, 1.0), (2.0, 2.0)))
        volume = math.pi / 4 * 2 * 1.4 * 100 + 2 * math.pi / 6 * 4 * 1.4
        self.assertAlmostEqual(drawing.mass_g(2.0), volume * ORDINARY.g_per_mm3)
        self.assertAlmostEqual(drawing.duration_s(15, 1.5), 100 / 15 + 3 * 1.5)

    def test_near_ends_are_drawn_through_and_far_ones_are_not(self) -> None:
        lines = [np.array([(0.0, 0), (10, 0)]), np.array([(30.0, 0), (10.2, 0)]), np.array([(0.0, 50), (5, 50)])]
        result = joined(lines, 0.3)
        self.assertEqual(len(result), 2)
        np.testing.assert_allclose(result[0][[0, -1]], [(0, 0), (30, 0)])
        self.assertEqual(len(joined(lines, 0.1)), 3)
        self.assertEqual(joined([], 1.0), [])


class Blocking(unittest.TestCase):
    def test_a_ring_leaves_what_its_line_leaves(self) -> None:
        """A circle of 4 mm: 2.5 mm stay free of a line of 1.5, nothing of a line of 4 (identity)."""
        turn = np.linspace(0, 2 * math.pi, 181)
        ring = np.column_stack([2 * np.cos(turn), 2 * np.sin(turn)])
        self.assertAlmostEqual(narrowest_mm([ring], 4.0) - 1.5, 2.5, delta=0.0125)
        self.assertAlmostEqual(narrowest_mm([ring], 4.0) - 4.0, 0.0, delta=0.02)
        self.assertEqual(narrowest_mm([ring[:20]], 4.0), math.inf)
        self.assertEqual(narrowest_mm([], 4.0), math.inf)

    def test_smallest_caps_of_every_face(self) -> None:
        """The smallest cap for lines of 1, 1.5 and 2 mm, for the worst letter, in whole mm
        (computed independently)."""
        for face, caps in (("futural", (7, 11, 15)), ("cursive", (11, 16, 21)), ("gothiceng", (34, 51, 68))):
            worst = min(room_in(c, face) for c in string.ascii_letters)
            for line_mm, cap_mm in zip((1.0, 1.5, 2.0), caps, strict=True):
                self.assertAlmostEqual(room_wanted_mm(line_mm) / worst, cap_mm, delta=0.65, msg=(face, line_mm))

    def test_which_letters_and_from_where_on_none(self) -> None:
        small = legible("Look up", face="futural", cap_mm=6, line_mm=1.5)
        self.assertIn("p", small.blocked)
        self.assertNotIn("L", small.blocked)
        self.assertEqual(
            legible("Look up", face="futural", cap_mm=small.smallest_cap_mm + 0.01, line_mm=1.5).blocked, ()
        )
        self.assertEqual(legible("ill", face="futural", cap_mm=5, line_mm=1).smallest_cap_mm, 0.0)
