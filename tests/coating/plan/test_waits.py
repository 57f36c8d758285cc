"""Waits by shape and place, against the trade's own minutes."""

import math
import unittest

from coating.errors import OutOfBounds, UnknownName
from coating.heat.times import SHAPES
from coating.plan.waits import Wait, waits

ALL = ("room", "fridge", "freezer")


def by_place(
    shape: str, thickness_mm: float | None = None, room_c: float = 21, white: str = "coating"
) -> dict[str, Wait]:
    thick = SHAPES[shape].thickness_mm if thickness_mm is None else thickness_mm
    places = waits(shape, thick, pour_c=40, room_c=room_c, white="coating", places=ALL)
    return {w.place: w for w in places}


class Waits(unittest.TestCase):
    def test_the_trades_minutes(self) -> None:
        """Common practice, no source: loops 10 min in the room, moulds 20 in the fridge and 10 in the freezer, bits 2
        to 3.6 in the fridge; within the third that practice itself swings."""
        self.assertAlmostEqual(by_place("strip")["room"].setting.touch_min, 10, delta=3.5)
        mould = by_place("mould")
        self.assertAlmostEqual(mould["fridge"].setting.release_min, 20, delta=7)
        self.assertAlmostEqual(mould["freezer"].setting.release_min, 10, delta=3.5)
        bits = by_place("bits")
        self.assertTrue(1.2 < bits["freezer"].setting.release_min < bits["fridge"].setting.release_min < 3.6)

    def test_lace_bends_until_10_min(self) -> None:
        """Common practice, no source: a line of 2 mm, 1.4 high, bends until about 10 min in the room."""
        line = by_place("line")
        self.assertAlmostEqual(line["room"].pliable.until_min, 10, delta=0.6)
        self.assertLess(line["fridge"].pliable.until_min, line["room"].pliable.from_min)
        self.assertIsNone(by_place("coat")["room"].pliable)

    def test_warm_rooms_and_damp(self) -> None:
        hot = by_place("coat", room_c=30)
        self.assertEqual([hot[p].setting is None for p in ALL], [True, False, False])
        self.assertGreater(hot["freezer"].damp_min, hot["fridge"].damp_min)
        self.assertEqual(hot["room"].damp_min, 0)
        self.assertLess(by_place("line")["fridge"].damp_min, by_place("coat")["fridge"].damp_min, "thin warms quickly")
        self.assertEqual(waits("coat", 1, pour_c=40, room_c=21, white="coating", places=()), ())

    def test_thicker_takes_longer(self) -> None:
        for shape in SHAPES:
            times = [by_place(shape, mm)["fridge"].setting.release_min for mm in (0.5, 1, 2, 4, 8)]
            self.assertEqual(times, sorted(times))

    def test_bounds(self) -> None:
        with self.assertRaises(UnknownName):
            waits("cloud", 2, pour_c=40, room_c=21, white="coating", places=ALL)
        for bad in (math.nan, -1, 1e6):
            with self.assertRaises(OutOfBounds):
                by_place("coat", bad)
