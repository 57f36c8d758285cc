"""The house goes on counting when somebody sets the clock of the machine."""

from __future__ import annotations

import os
import time
import unittest
from datetime import timedelta
from unittest import mock

from studio.common import clock


class SetWhileServing(unittest.TestCase):
    def at(self, *, booted_s: float, wall_s: float, anchor: str) -> float:
        with (
            mock.patch.dict(os.environ, {"OLIVE_CLOCK": anchor}),
            mock.patch.object(time, "clock_gettime", return_value=booted_s),
            mock.patch.object(time, "time", return_value=wall_s),
        ):
            return clock.now().timestamp()

    def test_an_hour_back_and_a_year_on(self) -> None:
        begun = 1.79e9
        for wall_s in (begun + 60, begun - 3600, begun + 3.2e7):
            self.assertAlmostEqual(self.at(booted_s=5060.0, wall_s=wall_s, anchor=f"5000.0:{begun}"), begun + 60)

    def test_what_has_just_been_booted_is_set_from_the_network(self) -> None:
        self.assertEqual(self.at(booted_s=90.0, wall_s=1.79e9, anchor="30.0:0.0"), 1.79e9)

    def test_without_an_anchor_it_is_the_clock_of_the_machine(self) -> None:
        self.assertLess(abs(clock.now().timestamp() - time.time()), 1)
        self.assertLess(abs(self.at(booted_s=7.0e3, wall_s=1.79e9, anchor="") - 1.79e9), 1)
        self.assertEqual(clock.now().utcoffset(), timedelta(0))
        booted_s, wall_s = map(float, clock.anchor().split(":"))
        self.assertLess(abs(wall_s - time.time()), 1)
        self.assertGreater(booted_s, 0)
