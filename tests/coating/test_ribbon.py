"""The ribbon of a day: rows that join, strands that are warm, threads that come back."""

from __future__ import annotations

from itertools import pairwise
from unittest import TestCase

from svgelements import Path

from coating.looks.ribbon import ROW, WIDE, RibbonRow, RibbonStep, RibbonWait, ribbon_of, waits_of
from coating.plan.day import HANDS, Day, DayBowl, DayStep, Lag, Melt
from coating.plan.day.plan import Plan

# A bowl is melted at 0; a collar piped from it waits on the board; mousse stands in the fridge; then both are used.
STEPS = [
    RibbonStep("melt 1", "blue", melt=True),
    RibbonStep("pour"),
    RibbonStep("pipe", "blue"),
    RibbonStep("wrap"),
    RibbonStep("melt 2", "blue", melt=True),
    RibbonStep("dip", "blue"),
    RibbonStep("release"),
]
WAITS = [
    RibbonWait("pour", "release", 180, 1980, "fridge", "stands"),
    RibbonWait("pipe", "wrap", 330, 790),
    RibbonWait("dip", None, 1600, 2800),
]


def ends(path: str) -> tuple[complex, complex]:
    """Where a path begins and ends."""
    drawn = Path(path)
    return complex(drawn.first_point), complex(drawn.current_point)


def borders(row: RibbonRow, y: float) -> list[float]:
    """Where anything but the ribbon meets a border of its row, from left to right."""
    pieces = [*row.threads, *(p for s in row.strands for p in (s.behind, s.before) if p)]
    return sorted(round(end.real, 2) for piece in pieces for end in ends(piece) if abs(end.imag - y) < 1e-6)


class Ribbons(TestCase):
    def test_what_leaves_a_row_enters_the_next_one(self) -> None:
        rows = ribbon_of(STEPS, WAITS)
        self.assertEqual(len(rows), len(STEPS))
        for above, below in pairwise(rows):
            self.assertEqual(ends(above.ribbon)[1].real, ends(below.ribbon)[0].real)
            self.assertEqual(borders(above, ROW), borders(below, 0.0))
        self.assertGreater(ends(rows[0].ribbon)[0].imag, 0)  # it begins and ends within the picture
        self.assertLess(ends(rows[-1].ribbon)[1].imag, ROW)

    def test_a_strand_runs_from_the_melt_to_the_last_use_before_the_next(self) -> None:
        rows = ribbon_of(STEPS, WAITS)
        self.assertEqual([len(row.strands) for row in rows], [1, 1, 1, 0, 1, 1, 0])

    def test_a_thread_runs_from_what_waits_to_what_needs_it(self) -> None:
        rows = ribbon_of(STEPS, WAITS)
        self.assertEqual([len(row.threads) for row in rows], [0, 1, 2, 2, 1, 1, 1])
        self.assertEqual(ends(rows[2].threads[0])[0], ends(rows[2].knot)[0])
        self.assertEqual(ends(rows[-1].threads[0])[1], ends(rows[-1].knot)[0])
        short, long = (ends(thread)[0].real for thread in rows[3].threads)
        self.assertGreater(short, long)  # a wait within another runs nearer to the ribbon

    def test_everything_stays_within_the_picture(self) -> None:
        """However much waits and is warm at once."""
        many = [RibbonStep(f"melt {k}", f"bowl {k}", melt=True) for k in range(8)]
        many += [RibbonStep(f"use {k}", f"bowl {k}") for k in range(8)]
        many += [RibbonStep(f"lift {k}") for k in range(8)]
        waits = [RibbonWait(f"use {k}", f"lift {k}", 20, 90) for k in range(8)]
        for row in ribbon_of(many, waits):
            for piece in (*row.threads, *(p for s in row.strands for p in (s.behind, s.before) if p)):
                left, top, right, low = Path(piece).bbox()
                self.assertTrue(0 <= left <= right <= WIDE and -1e-6 <= top <= low <= ROW + 1e-6, piece)

    def test_nothing_at_all_and_one_step(self) -> None:
        self.assertEqual(ribbon_of([], WAITS), [])
        self.assertEqual(ribbon_of([RibbonStep("pour")], WAITS)[0].threads, ())


class Waiting(TestCase):
    def test_waits_of_a_planned_day(self) -> None:
        """By hand: what stands in the fridge, a wait between two steps, and of two between the same the longer one."""
        steps = (
            DayStep("pour", 60, {HANDS: 1}),
            DayStep("stands", 600, {"fridge": 1}),
            DayStep("pipe", 120, {HANDS: 1}, "blue"),
            DayStep("wrap", 60, {HANDS: 1}),
        )
        lags = (
            Lag("pour", "stands"),
            Lag("stands", "wrap"),
            Lag("pipe", "wrap", 240, 480),
            Lag("pipe", "wrap", 100),
            Lag("pour", "pipe", 30),
        )
        day = Day(steps, lags, {HANDS: 1, "fridge": 1, "heat": 1}, {"blue": DayBowl(60, "heat", 10, 900)})
        plan = Plan({"pour": 0, "stands": 60, "pipe": 70, "wrap": 660}, (Melt("blue", 0),), 720, 0, optimal=False)
        self.assertEqual(
            waits_of(day, plan),
            [RibbonWait("pour", "wrap", 60, 660, "fridge", "stands"), RibbonWait("pipe", "wrap", 190, 430)],
        )
