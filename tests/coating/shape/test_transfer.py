"""Cut plans, straight cuts by brute force, and what goes round."""

from __future__ import annotations

import math
from itertools import combinations
from unittest import TestCase

import numpy as np
from scipy.special import ellipe

from coating.errors import OutOfBounds
from coating.shape.transfer import (
    CutPlan,
    WantedPieces,
    box_ring,
    cut_plan,
    cuts,
    disc_plan,
    oval_ring,
    oval_round_mm,
    ring,
    sleeve_mm,
)
from coating.shape.transfer.straight import Box


def counts(plan: CutPlan) -> list[int]:
    return [sum(p.sheet == k for p in plan.placed) for k in range(plan.sheets)]


def freed_by_brute_force(boxes: tuple[Box, ...]) -> bool:
    """Whether any sequence of edge-to-edge cuts parts all boxes: every way to part them in two is tried."""
    if len(boxes) < 2:
        return True
    for k in (0, 1):
        for at in {b[k] for b in boxes} | {b[k] + b[k + 2] for b in boxes}:
            if any(b[k] < at < b[k] + b[k + 2] for b in boxes):
                continue
            near = tuple(b for b in boxes if b[k] + b[k + 2] <= at)
            far = tuple(b for b in boxes if b[k] >= at)
            if near and far and freed_by_brute_force(near) and freed_by_brute_force(far):
                return True
    return False


class Plans(TestCase):
    def sound(self, plan: CutPlan, wanted: list[WantedPieces]) -> None:
        """On the sheet, a gap apart, each as often as wanted, turned only where it may be."""
        wide, high = plan.sheet_mm
        for p in plan.placed:
            self.assertTrue(p.x_mm > -1e-6 and p.y_mm > -1e-6)
            self.assertTrue(p.x_mm + p.width_mm < wide + 1e-6 and p.y_mm + p.height_mm < high + 1e-6)
            query = wanted[p.piece]
            straight = math.isclose(p.width_mm, query.width_mm, abs_tol=0.06)
            self.assertTrue(straight or (query.may_turn and math.isclose(p.width_mm, query.height_mm, abs_tol=0.06)))
        for a, b in combinations(plan.placed, 2):
            if a.sheet == b.sheet:
                gap_x = max(a.x_mm, b.x_mm) - min(a.x_mm + a.width_mm, b.x_mm + b.width_mm)
                gap_y = max(a.y_mm, b.y_mm) - min(a.y_mm + a.height_mm, b.y_mm + b.height_mm)
                self.assertGreater(max(gap_x, gap_y), plan.kerf_mm - 1e-6)
        for i, query in enumerate(wanted):
            self.assertEqual(sum(p.piece == i for p in plan.placed), query.count)

    def test_ten_strips(self) -> None:
        """Check value 21: identities of areas and lengths."""
        for kerf, turn, sheets in ((0, False, [10]), (1, False, [9, 1]), (1, True, [10])):
            wanted = [WantedPieces(40, 200, 10, turn)]
            plan = cut_plan((400, 250), wanted, kerf_mm=kerf)
            self.assertEqual(counts(plan), sheets)
            self.sound(plan, wanted)

    def test_the_pinwheel(self) -> None:
        """Check value 22: four 2 x 3 on 5 x 5 lie on one sheet, but no straight cut frees them [known small case]."""
        wanted = [WantedPieces(20, 30, 4, True)]
        plan = cut_plan((50, 50), wanted, kerf_mm=0)
        self.sound(plan, wanted)
        self.assertEqual((plan.sheets, plan.straight_cuts), (1, False))
        self.assertAlmostEqual(plan.waste_fraction, 1 / 25)

    def test_random_jobs_are_sound_and_near_their_area(self) -> None:
        draw = np.random.default_rng(5)
        for _ in range(25):
            wanted = [
                WantedPieces(float(w), float(h), int(n), bool(t))
                for w, h, n, t in zip(
                    draw.integers(15, 90, 3),
                    draw.integers(15, 90, 3),
                    draw.integers(1, 20, 3),
                    draw.integers(0, 2, 3),
                    strict=True,
                )
            ]
            plan = cut_plan((300, 200), wanted, kerf_mm=1.5, solver_s=0)
            self.sound(plan, wanted)
            least = math.ceil(sum(w.width_mm * w.height_mm * w.count for w in wanted) / 60000)
            self.assertLessEqual(plan.sheets, 2 * least + 1)

    def test_straight_cuts_as_brute_force_finds_them(self) -> None:
        draw, seen = np.random.default_rng(9), set[bool]()
        pinwheel: list[Box] = [(0, 0, 2, 3), (2, 0, 3, 2), (3, 2, 2, 3), (0, 3, 3, 2)]
        self.assertIsNone(cuts(pinwheel, (5, 5)))
        for _ in range(400):
            boxes: list[Box] = []
            for _ in range(9):
                x, y, w, h = (int(v) for v in draw.integers((0, 0, 1, 1), (6, 6, 4, 4)))
                free = all(x + w <= a or a + c <= x or y + h <= b or b + d <= y for a, b, c, d in boxes)
                if x + w <= 7 and y + h <= 7 and free:
                    boxes.append((x, y, w, h))
            can = freed_by_brute_force(tuple(boxes))
            self.assertEqual(cuts(boxes, (7, 7)) is not None, can)
            seen.add(can)
        self.assertEqual(seen, {True, False})

    def test_bad_input(self) -> None:
        for sheet, wanted in (
            ((100, 100), [WantedPieces(120, 20)]),
            ((100, 100), []),
            ((100, 100), [WantedPieces(9, 9, 0)]),
            ((100, 100), [WantedPieces(5, 5, 500)]),
            ((math.nan, 100), [WantedPieces(9, 9)]),
            ((100, 40), [WantedPieces(30, 60, 1, False)]),
        ):
            with self.assertRaises(OutOfBounds):
                cut_plan(sheet, wanted)
        self.assertEqual(cut_plan((100, 40), [WantedPieces(30, 60, 1, True)]).sheets, 1)


class Round(TestCase):
    def test_bent_and_flat(self) -> None:
        """Round 80 mm are 251 mm, so six of 40 mm bent to it. Six flat ones go round, as a hexagon round 80 mm
        has sides of 46 mm; seven do not, as a heptagon has sides of 38.5 mm."""
        self.assertEqual(ring(80, 40).count, 6)
        bent = ring(80, 40, gap_mm=3)
        self.assertAlmostEqual(bent.count * (40 + bent.gap_mm), math.pi * 80)
        flat = ring(80, 40, flat=True)
        self.assertEqual(flat.count, 6)
        self.assertGreater(flat.gap_mm, 0)
        self.assertEqual(ring(40, 40, flat=True).count, 4)  # a square box: each wall as long as the tin is wide
        self.assertAlmostEqual(ring(40, 40, flat=True).gap_mm, 0)
        with self.assertRaises(OutOfBounds):
            ring(30, 60, flat=True)

    def test_ovals_and_boxes(self) -> None:
        """The way round an oval against the elliptic integral; along sides, counted by hand."""
        for long, wide in ((120.0, 80.0), (200.0, 40.0)):
            exact = 2 * long * float(ellipe(1 - (wide / long) ** 2))
            self.assertAlmostEqual(oval_round_mm(long, wide), exact, delta=1e-3 * exact)
        self.assertEqual(oval_ring(80, 80, 40, gap_mm=3), ring(80, 40, gap_mm=3))
        on_long, on_wide, all_ = box_ring(100, 62, 30, gap_mm=2)
        self.assertEqual((on_long, on_wide, all_.count), (3, 2, 10))
        self.assertAlmostEqual(all_.gap_mm, 2.0)
        with self.assertRaises(OutOfBounds):
            box_ring(100, 20, 30)
        with self.assertRaises(OutOfBounds):
            oval_ring(20, 12, 80)

    def test_a_sleeve(self) -> None:
        self.assertAlmostEqual(sleeve_mm(60, 2, 8), math.pi * 62 + 8)


class Discs(TestCase):
    def test_the_best_of_three(self) -> None:
        """Rows, rows in gaps, columns in gaps: 24, 24 and 25 of 60 mm on 400 x 250, counted by hand."""
        plan = disc_plan((400, 250), 60, 60, kerf_mm=0)
        self.assertEqual((plan.laid, plan.a_sheet, plan.sheets), ("turned hex", 25, 3))
        self.assertEqual(disc_plan((120, 120), 60, 4, kerf_mm=0).laid, "square")
        for gap in (0.0, 2.0):
            plan = disc_plan((400, 250), 47, 40, kerf_mm=gap)
            for k, x, y in plan.placed:
                self.assertTrue(23.5 - 1e-9 <= x <= 376.5 + 1e-9 and 23.5 - 1e-9 <= y <= 226.5 + 1e-9)
                near = [math.hypot(x - a, y - b) for j, a, b in plan.placed if j == k and (a, b) != (x, y)]
                self.assertGreaterEqual(min(near), 47 + gap - 1e-9)
        with self.assertRaises(OutOfBounds):
            disc_plan((400, 250), 260, 1)
