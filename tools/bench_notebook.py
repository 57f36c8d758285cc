"""How soon the pages of a notebook of five years are there, how soon something is found in it, and how long its archive
takes in how much memory."""

from __future__ import annotations

import json
import subprocess
import sys
from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import Any

from tools.bench_timing import Report, p95, slowest, timed, took
from tools.database import ROOT, CannotStart

PAGE_MS, FIND_MS, ARCHIVE_S, MORE_MB = 250.0, 300.0, 60.0, 120.0


def measure_notebook(report: Report, maker_of: Callable[[str], Any], env: dict[str, str], folder: Path) -> None:
    """Every page of it, warm; the archive in a process of its own."""
    env = {**env, "OLIVE_RUNTIME": str(folder)}
    who = json.loads(_run(env))
    maker, job = maker_of(who["login"]), f"/notebook/{who['job']}/"
    pages = {
        "all": "/notebook/",
        "evening": job,
        "close": f"{job}close/",
        "back": "/notebook/back/",
        "season": "/notebook/back/2026/spring/",
        "compare": f"/notebook/compare/?one={who['job']}&other={who['job'] - 1}",
        "again": f"{job}again/?times=2",
    }
    finds = {
        "words": "/notebook/find/?words=wet+lace",
        "colour": "/notebook/find/?near=68,-8,-17",
        "season and technique": "/notebook/find/?season=spring&technique=dip",
    }

    def look(address: str, _: int) -> None:
        status = maker.ask("GET", address)[0]
        if status != 200:
            raise CannotStart(f"{address} answered {status}")

    def measured(name: str, address: str) -> Any:
        first = took(look, address, 0)
        timed(8, partial(look, address))
        report.say(f"notebook_{name}_first", first)
        taken = p95(timed(30, partial(look, address)))
        report.say(f"notebook_{name}_p95", taken)
        return taken

    report.time("notebook_slowest_page_p95", slowest([measured(n, a) for n, a in pages.items()]), PAGE_MS)
    report.time("notebook_slowest_find_p95", slowest([measured(n, a) for n, a in finds.items()]), FIND_MS)
    written = json.loads(_run(env, str(who["kitchen"]), str(folder / "five-years.zip")))
    report.line("archive_of_five_years", written["s"], "s", ARCHIVE_S)
    report.line("archive_more_memory", written["mb"], "MB", MORE_MB)


def _run(env: dict[str, str], *words: str) -> str:
    done = subprocess.run(
        [sys.executable, "-m", "tools.five_years", *words],
        cwd=ROOT,
        env=env,
        capture_output=True,
        text=True,
        check=False,
    )
    if done.returncode:
        raise CannotStart(done.stderr[-2000:])
    return done.stdout
