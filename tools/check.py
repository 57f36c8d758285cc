"""./test: lint, types, every test against a memory-backed MariaDB; closes with `N passed, N failed, N skipped`."""

from __future__ import annotations

import os
import shutil
import subprocess
import sys
import time

from tools.database import ROOT, CannotStart, Database, memory_folder


def run(title: str, command: list[str], env: dict[str, str] | None = None) -> bool:
    begun = time.monotonic()
    print(f"== {title}", flush=True)
    code = subprocess.run(command, cwd=ROOT, env=env, check=False).returncode
    print(f"== {title}: {'good' if code == 0 else 'FAILED'} in {time.monotonic() - begun:.0f} s", flush=True)
    return code == 0


def tests(labels: list[str]) -> bool:
    folder = memory_folder("test-database")
    database = Database(folder, durable=False)
    try:
        database.start()
        env = {
            **os.environ, **database.environment(), "DJANGO_SETTINGS_MODULE": "studio.settings.test",
            "PYTHONWARNINGS": "ignore", "OPENBLAS_NUM_THREADS": "1", "PYTHONPATH": str(ROOT),
        }  # fmt: skip
        python = sys.executable
        made = run("migrations", [python, "manage.py", "makemigrations", "--check", "--dry-run", "-v0"], env)
        return run("tests", [python, "manage.py", "test", "--noinput", *(labels or ["tests"])], env) and made
    finally:
        database.stop()
        shutil.rmtree(folder, ignore_errors=True)


def main() -> int:
    labels = sys.argv[1:]
    good = True
    if not labels:
        python = sys.executable
        env = {**os.environ, "PYTHONPATH": str(ROOT)}
        good &= run("lint", [python, "-m", "ruff", "check", "--quiet", "."])
        good &= run("format", [python, "-m", "ruff", "format", "--check", "--quiet", "."])
        good &= run("types", [python, "-m", "mypy", "--no-error-summary"], env)
    try:
        return 0 if tests(labels) and good else 1
    except CannotStart as problem:
        print(problem, file=sys.stderr)
        return 1


if __name__ == "__main__":
    sys.exit(main())
