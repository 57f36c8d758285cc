"""The runtime folder: who owns it, whether there is room, and what the site runs with."""

from __future__ import annotations

import fcntl
import os
import secrets
import shutil
import subprocess
import sys
import time
from pathlib import Path

from tools.database import ROOT, CannotStart, Database

RUNTIME = Path(os.environ.get("OLIVE_RUNTIME", ROOT / ".runtime")).absolute()
LEAST_FREE_MB = 300


class AlreadyRunning(CannotStart):
    """Another ./start holds this folder."""


def own_the_runtime() -> object:
    """Only one ./start a folder. The lock goes with the process, so it is never stale."""
    try:
        RUNTIME.mkdir(exist_ok=True)
        lock = open(RUNTIME / "lock", "w")  # noqa: SIM115 (held until the process ends)
    except OSError as problem:
        raise CannotStart(f"This folder cannot be written to ({problem.strerror}): {ROOT}") from problem
    try:
        fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except OSError as problem:
        raise AlreadyRunning("Olive Ribbon is already running from this folder.") from problem
    return lock


def room_on_the_disk() -> None:
    """A database that runs out of room stops in the middle of things: better not to begin. Raises CannotStart."""
    free_mb = shutil.disk_usage(RUNTIME).free // 2**20
    if free_mb < LEAST_FREE_MB:
        raise CannotStart(
            f"The disk is nearly full: {free_mb} MB are left for {RUNTIME}, and {LEAST_FREE_MB} are needed. Make room, "
            "then start again. Nothing of yours was touched."
        )


def set_aside(folder: Path) -> Path | None:
    """Keep a folder under another name; where, or None when there was none."""
    if not folder.exists():
        return None
    kept = folder.with_name(f"{folder.name}.before-{time.strftime('%Y%m%d-%H%M%S')}")
    shutil.move(str(folder), str(kept))
    print(f"What there was so far is kept in {kept}")
    return kept


def environment(database: Database, *, host: str = "127.0.0.1", port: int = 8000, demo: bool = True) -> dict[str, str]:
    """What the site runs with."""
    secret = RUNTIME / "secret"
    if not secret.exists():
        secret.touch(mode=0o600)
        secret.write_text(secrets.token_urlsafe(50))
    hosts = {"127.0.0.1", "localhost", "[::1]", host}
    if host in ("0.0.0.0", "::"):
        hosts.add("*")
    return {
        **os.environ,
        **database.environment(),
        "DJANGO_SETTINGS_MODULE": "studio.settings.production",
        "OLIVE_SECRET_KEY": secret.read_text(),
        "OLIVE_RUNTIME": str(RUNTIME),
        "OLIVE_HOSTS": ",".join(sorted(hosts)),
        "OLIVE_DEMO": "1" if demo else "0",
        "OPENBLAS_NUM_THREADS": "1",
        "OMP_NUM_THREADS": "1",
        "PYTHONPATH": str(ROOT),
    }


def manage(env: dict[str, str], *words: str) -> None:
    """A Django command; its last words on failure."""
    done = subprocess.run(
        [sys.executable, "manage.py", *words], cwd=ROOT, env=env, capture_output=True, text=True, check=False
    )
    if done.returncode:
        raise CannotStart(f"{' '.join(words)} failed:\n{(done.stdout + done.stderr)[-2000:]}")
