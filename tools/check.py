"""./test: lint, types, and every test, in two halves side by side, each against a memory-backed MariaDB of its own;
closes with `N passed, N failed, N skipped`."""

from __future__ import annotations

import os
import re
import shutil
import subprocess
import sys
import tempfile
import time
from concurrent.futures import ThreadPoolExecutor
from typing import IO

from tools.database import ROOT, CannotStart, Database, memory_folder

WAITING = ["tests.browser", "tests.tools"]  # these wait for other processes; the rest reckons
CLOSING = re.compile(r"^(\d+) passed, (\d+) failed, (\d+) skipped\n", re.MULTILINE)


def run(title: str, command: list[str], env: dict[str, str] | None = None, to: IO[str] | None = None) -> bool:
    """Run a command under a title; whether it was good."""
    begun = time.monotonic()
    print(f"== {title}", flush=True)
    code = subprocess.run(command, cwd=ROOT, env=env, check=False, stdout=to, stderr=to).returncode
    print(f"== {title}: {'good' if code == 0 else 'FAILED'} in {time.monotonic() - begun:.0f} s", flush=True)
    return code == 0


def tests(labels: list[str], to: IO[str] | None = None) -> bool:
    """Whether all of these pass; what they print goes to a file, if one is given. Raises CannotStart."""
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
        return run(" and ".join(labels), [python, "manage.py", "test", "--noinput", *labels], env, to) and made
    finally:
        database.stop()
        shutil.rmtree(folder, ignore_errors=True)


def types() -> bool:
    """Whether every type agrees."""
    env = {**os.environ, "PYTHONPATH": str(ROOT)}
    return run("types", [sys.executable, "-m", "mypy", "--no-error-summary"], env)


def both_halves() -> bool:
    """Every test, and types beside the longer half; what a half printed follows when both are over, and one count for
    both. Raises CannotStart."""
    folders = sorted(f"tests.{f.parent.name}" for f in (ROOT / "tests").glob("*/__init__.py"))
    reckoning = [name for name in folders if name not in WAITING]
    with tempfile.TemporaryFile("w+") as one, tempfile.TemporaryFile("w+") as other, ThreadPoolExecutor() as threads:
        waiting = threads.submit(tests, WAITING, one)
        good = [tests(reckoning, other), types(), waiting.result()]
        counts = [0, 0, 0]
        for said in (one, other):
            said.seek(0)
            printed = said.read()
            for match in CLOSING.findall(printed):
                counts = [a + int(b) for a, b in zip(counts, match, strict=True)]
            print(CLOSING.sub("", printed), flush=True)
    print("{} passed, {} failed, {} skipped".format(*counts), flush=True)
    return all(good)


def main() -> int:
    """Lint, types and tests; the exit code."""
    labels = sys.argv[1:]
    good = True
    if not labels:
        python = sys.executable
        good &= run("lint", [python, "-m", "ruff", "check", "--quiet", "."])
        good &= run("format", [python, "-m", "ruff", "format", "--check", "--quiet", "."])
    try:
        return 0 if (tests(labels) if labels else both_halves()) and good else 1
    except CannotStart as problem:
        print(problem, file=sys.stderr)
        return 1


if __name__ == "__main__":
    sys.exit(main())
