"""Lines over pieces, and pages at true size."""

from __future__ import annotations

import math
from unittest import TestCase

import numpy as np
from shapely import LineString

from coating.errors import OutOfBounds, UnknownName
from coating.shape.face_lines import FACE_PATTERNS, Face, face_lines
from coating.shape.tiling import POINTS_A_MM, pages_for, tiling

ROUND = Face(60, 60)


class FaceLines(TestCase):
    def test_stripes_are_chords(self) -> None:
        """Plane geometry: a chord at y is 2 sqrt(r^2 - y^2)."""
        lines = face_lines("stripes", ROUND, line_mm=1.5, spacing_mm=10)
        wanted = sum(2 * math.sqrt(900 - y**2) for y in (-25, -15, -5, 5, 15, 25))
        self.assertAlmostEqual(lines.length_mm / wanted, 1, delta=0.002)

    def test_a_line_over_a_ball_is_half_its_girth(self) -> None:
        lines = face_lines("rays", Face(40, 40, ball=True), line_mm=1, spacing_mm=30)
        rays = len(lines.one.lines)
        self.assertAlmostEqual(lines.length_mm / (rays * math.pi / 2 * 20), 1, delta=0.03)

    def test_the_dip_line_is_an_edge(self) -> None:
        half = Face(60, 60, dipped=0.5)
        for name in FACE_PATTERNS:
            lines = face_lines(name, half, line_mm=1.5)
            ys = np.concatenate([*[line[:, 1] for line in lines.one.lines], *[[y] for _, y in lines.one.presses]])
            self.assertGreater(ys.min(), -0.01, name)
            self.assertTrue(all(half.field.buffer(0.01).covers(LineString(line)) for line in lines.one.lines), name)

    def test_a_row_takes_what_lies_on_its_pieces_and_what_falls_beside(self) -> None:
        for name in FACE_PATTERNS:
            face = Face(60, 60, dipped=0.5) if name == "dip_border" else ROUND
            lines = face_lines(name, face, line_mm=1.5, pieces=5)
            self.assertEqual(lines.pieces, 5)
            self.assertTrue(0 <= lines.lost_share < 0.75, (name, lines.lost_share))
            self.assertGreaterEqual(lines.row_g() * (1 + 1e-9), 5 * lines.one_g(), name)
            self.assertTrue(math.isfinite(lines.row_s))

    def test_dots_all_over_lie_as_far_from_each_other_every_way(self) -> None:
        dots = np.array(face_lines("all_over", ROUND, line_mm=1.5, spacing_mm=9).one.presses)
        apart = np.hypot(*(dots[:, None] - dots[None]).T) + 1e3 * np.eye(len(dots))
        self.assertAlmostEqual(float(apart.min()), 9)
        each = math.sqrt(3) / 2 * 81  # a hexagonal row has a dot to each
        self.assertAlmostEqual(len(dots) * each / (math.pi * (30 - 1.2) ** 2), 1, delta=0.1)
        with self.assertRaisesRegex(OutOfBounds, "dipped all over"):
            face_lines("dip_border", ROUND, line_mm=1.5)

    def test_bad_input(self) -> None:
        with self.assertRaises(UnknownName):
            face_lines("scribble", ROUND, line_mm=1)
        for options in ({"line_mm": 9.0}, {"line_mm": math.nan}, {"line_mm": 1, "spacing_mm": 1.2},
                        {"line_mm": 1, "pieces": 0}):  # fmt: skip
            with self.assertRaises(OutOfBounds):
                face_lines("dots", ROUND, **options)


class Pages(TestCase):
    def test_the_strip_of_the_check_value(self) -> None:
        """Check value 13: ceil((L - o)/(usable - o))."""
        for paper in ("A4", "Letter"):
            pages = tiling(594.75, 40, paper=paper)
            self.assertEqual((pages.pages, pages.lying), (3, True))
        self.assertAlmostEqual(100 * POINTS_A_MM, 283.4646, places=4)
        self.assertEqual(pages_for(5, 277), 1)

    def test_pages_cover_it_all_and_overlap(self) -> None:
        pages = tiling(600, 500, paper="Letter", head_mm=12, foot_mm=20)
        for a in pages.tiles:
            for b in pages.tiles:
                if (a.row, a.column + 1) == (b.row, b.column):
                    self.assertAlmostEqual(a.left_mm + a.width_mm - b.left_mm, 10)
        self.assertGreaterEqual(max(t.left_mm + t.width_mm for t in pages.tiles), 600)
        self.assertGreaterEqual(max(t.top_mm + t.height_mm for t in pages.tiles), 500)

    def test_too_many_pages(self) -> None:
        with self.assertRaises(OutOfBounds):
            tiling(9000, 3000)
        with self.assertRaises(UnknownName):
            tiling(10, 10, paper="A3")
