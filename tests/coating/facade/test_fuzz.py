"""Whatever is asked of the scriptable core is answered or refused, in JSON."""

from __future__ import annotations

import json
import unittest
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from coating.errors import CoatingError
from coating.facade import answer, entries
from tests.fuzz import TIMES, calm, json_values, like

ASKED = max(TIMES, 500)  # of so many the share that is answered no longer hangs on luck


class Asked(unittest.TestCase):
    def test_anything(self) -> None:
        outcomes = {"answered": 0, "refused": 0}

        @settings(calm, max_examples=ASKED)
        @given(st.data())
        def ask(data: st.DataObject) -> None:
            entry = data.draw(st.sampled_from(entries()))
            payload: Any = data.draw(like(entry.inputs.schema()))
            names = list(entry.inputs.fields)
            if data.draw(st.integers(0, 3)) == 0:
                payload[data.draw(st.sampled_from([*names, "x"]))] = data.draw(json_values)
            elif data.draw(st.integers(0, 20)) == 0:
                payload = data.draw(json_values)
            try:
                json.dumps(answer(entry.name, payload), allow_nan=False)
                outcomes["answered"] += 1
            except CoatingError as refusal:
                json.dumps(refusal.as_dict(), allow_nan=False)
                outcomes["refused"] += 1

        ask()
        self.assertGreaterEqual(sum(outcomes.values()), ASKED)
        self.assertGreater(outcomes["answered"], ASKED // 4, outcomes)
        self.assertGreater(outcomes["refused"], ASKED // 20, outcomes)
        if TIMES > 1000:
            print(f"the core: {outcomes}")
