"""./test: lint, types, and every test, in lanes side by side, each against a memory-backed MariaDB of its own;
closes with `N passed, N failed, N skipped`."""

from __future__ import annotations

import contextlib
import os
import re
import shutil
import subprocess
import sys
import tempfile
import time
from collections.abc import Sequence
from concurrent.futures import ThreadPoolExecutor
from typing import IO

from tools.database import ROOT, CannotStart, Database, memory_folder

LANES = (("tests.studio",), ("tests.browser",), ("tests.coating", "tests.tools"))
# The first reckons all the time and is the longest; the others often wait, so they are the ones that give way.
KINDLY = ["nice", "-n", "5"]
CLOSING = re.compile(r"^(\d+) passed, (\d+) failed, (\d+) skipped\n", re.MULTILINE)


def run(title: str, command: list[str], env: dict[str, str] | None = None, to: IO[str] | None = None) -> bool:
    """Run a command under a title; whether it was good."""
    begun = time.monotonic()
    print(f"== {title}", flush=True)
    code = subprocess.run(command, cwd=ROOT, env=env, check=False, stdout=to, stderr=to).returncode
    print(f"== {title}: {'good' if code == 0 else 'FAILED'} in {time.monotonic() - begun:.0f} s", flush=True)
    return code == 0


def tests(labels: list[str], to: IO[str] | None = None, before: Sequence[str] = ()) -> bool:
    """Whether all of these pass; what they print goes to a file, if one is given, and they run with a command before
    theirs. Raises CannotStart."""
    folder = memory_folder(f"test-database-{labels[0]}")
    database = Database(folder, durable=False)
    try:
        database.start()
        env = {
            **os.environ,
            **database.environment(),
            "DJANGO_SETTINGS_MODULE": "studio.settings.test",
            "PYTHONWARNINGS": "ignore",
            "OPENBLAS_NUM_THREADS": "1",
            "PYTHONPATH": str(ROOT),
        }
        python = sys.executable
        made = run("migrations", [python, "manage.py", "makemigrations", "--check", "--dry-run", "-v0"], env)
        command = [*before, python, "manage.py", "test", "--noinput", *labels]
        return run(" and ".join(labels), command, env, to) and made
    finally:
        database.stop()
        shutil.rmtree(folder, ignore_errors=True)


def all_lanes() -> bool:
    """Every test; what a lane printed follows when all are over, and one count for all. Raises CannotStart."""
    folders = {f"tests.{f.parent.name}" for f in (ROOT / "tests").glob("*/__init__.py")}
    assert folders == {name for lane in LANES for name in lane}, "every folder of tests has its lane"
    with contextlib.ExitStack() as files, ThreadPoolExecutor(len(LANES) + 1) as threads:
        printed_to = [files.enter_context(tempfile.TemporaryFile("w+")) for _ in LANES]
        typed = threads.submit(types)
        good = list(threads.map(tests, map(list, LANES), printed_to, ([], KINDLY, KINDLY)))
        good.append(typed.result())
        counts = [0, 0, 0]
        for said in printed_to:
            said.seek(0)
            printed = said.read()
            for found in CLOSING.findall(printed):
                counts = [a + int(b) for a, b in zip(counts, found, strict=True)]
            print(CLOSING.sub("", printed), flush=True)
    print("{} passed, {} failed, {} skipped".format(*counts), flush=True)
    return all(good)


def types() -> bool:
    """Whether the types are right."""
    env = {**os.environ, "PYTHONPATH": str(ROOT)}
    return run("types", [*KINDLY, sys.executable, "-m", "mypy", "--no-error-summary"], env)


def main() -> int:
    """Lint, types and tests; the exit code."""
    labels = sys.argv[1:]
    good = True
    if not labels:
        python = sys.executable
        good &= run("lint", [python, "-m", "ruff", "check", "--quiet", "."])
        good &= run("format", [python, "-m", "ruff", "format", "--check", "--quiet", "."])
    try:
        return 0 if (tests(labels) if labels else all_lanes()) and good else 1
    except CannotStart as problem:
        print(problem, file=sys.stderr)
        return 1


if __name__ == "__main__":
    sys.exit(main())
