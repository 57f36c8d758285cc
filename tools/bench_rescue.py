"""How soon there is an answer when something is wrong: its page, and a call of the scriptable core."""

from __future__ import annotations

import json
import subprocess
import sys
from functools import partial
from typing import Any

from tools.bench_timing import Report, median, p95, timed
from tools.database import ROOT

ANSWER_MS, CALL_MS = 150.0, 600.0
SEEN = ("clumpy", "thick", "thin", "stiffening", "too_dark", "specks", "grey", "coat_thick", "line_stops", "stuck")


def measure_rescue(report: Report, maker: Any) -> None:
    """Ten signs of a demo bowl one after the other, with all moves simulated; and the core alone."""
    number = maker.open_demo().rstrip("/").rsplit("/", 1)[-1]

    def answer(i: int) -> None:
        looked = "&look-lip=warm" if i % 3 else ""
        status, _ = maker.ask("GET", f"/wrong/{SEEN[i % len(SEEN)]}/?bowl={number}{looked}")[:2]
        if status != 200:
            raise RuntimeError(f"an answer came as {status}")

    timed(10, answer)
    report.time("rescue_answer_p95", p95(timed(60, answer)), ANSWER_MS)
    events = [
        {"seq": 1, "kind": "added", "at_s": 0, "ingredient": "ivory", "mass_g": 200},
        {"seq": 2, "kind": "warmed", "at_s": 240, "to_c": 58},
        {"seq": 3, "kind": "stirred", "at_s": 250, "seconds": 60},
    ]
    asked_for = {"context": {"room_c": 21}, "events": events, "at_s": 840, "symptom": "clumpy", "technique": "dip"}
    call = partial(
        subprocess.run,
        [sys.executable, "-m", "coating", "care.diagnose"],
        input=json.dumps(asked_for).encode(),
        capture_output=True,
        cwd=ROOT,
        check=True,
    )
    report.time("care_diagnose_median", median(timed(5, lambda _: call())), CALL_MS)
