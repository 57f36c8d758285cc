"""Steps: kept and read back, and never with a window that is none."""

from __future__ import annotations

import json
import math
from unittest import TestCase

from coating.errors import OutOfBounds
from coating.steps import HALF_SET, SET, Step, hands_s, steps_from, steps_json


class Steps(TestCase):
    def test_there_and_back(self) -> None:
        steps = [Step("Spread.", 60), Step("Cut.", 40, HALF_SET, 8.3, 17.5), Step("Peel.", 5, SET, 20, None, "fridge")]
        self.assertEqual(steps_from(json.loads(json.dumps(steps_json(steps)))), steps)
        self.assertEqual(hands_s(steps), 105)
        self.assertEqual([(s.waits, s.closes) for s in steps], [(False, False), (True, True), (True, False)])

    def test_no_window_that_is_none(self) -> None:
        for wrong in (
            {"hands_s": -1.0},
            {"from_min": math.nan},
            {"until_min": math.inf},
            {"from_min": 5.0, "until_min": 4.0},
        ):
            with self.assertRaises(OutOfBounds):
                Step("Cut.", **wrong)  # type: ignore[arg-type]
