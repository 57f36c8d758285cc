"""The runtime folder: who owns it, whether there is room, and what the site runs with."""

from __future__ import annotations

import contextlib
import fcntl
import os
import secrets
import shutil
import socket
import struct
import subprocess
import sys
import time
from pathlib import Path

from tools.database import ROOT, CannotStart, Database

RUNTIME = Path(os.environ.get("OLIVE_RUNTIME", ROOT / ".runtime")).absolute()
LEAST_FREE_MB = 300
EVERYWHERE = ("0.0.0.0", "::")
_ADDRESS_OF_A_CARD = 0x8915  # SIOCGIFADDR of Linux


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


def own_names() -> list[str]:
    """What this machine is called, and its addresses on the networks it is on."""
    name = socket.gethostname().lower()
    addresses = []
    with socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as line:
        for _, card in socket.if_nameindex():
            with contextlib.suppress(OSError):  # a card without an address
                told = fcntl.ioctl(line, _ADDRESS_OF_A_CARD, struct.pack("256s", card.encode()[:15]))
                addresses.append(socket.inet_ntoa(told[20:24]))
    with contextlib.suppress(OSError):
        for words in map(str.split, Path("/proc/net/if_inet6").read_text().splitlines()):
            addresses.append(socket.inet_ntop(socket.AF_INET6, bytes.fromhex(words[0])))
    outward = [a for a in addresses if a not in ("127.0.0.1", "::1")]
    return [*outward, name, f"{name.partition('.')[0]}.local"]


def environment(database: Database, *, host: str = "127.0.0.1", port: int = 8000, demo: bool = True) -> dict[str, str]:
    """What the site runs with."""
    secret = RUNTIME / "secret"
    if not secret.exists():
        secret.touch(mode=0o600)
        secret.write_text(secrets.token_urlsafe(50))
    names = own_names() if host in EVERYWHERE else [host]
    hosts = {"127.0.0.1", "localhost", "[::1]", *(f"[{n}]" if ":" in n else n for n in names)}
    seen = next((n for n in names if n[:1].isdigit()), "127.0.0.1") if host in EVERYWHERE else host
    return {
        **os.environ,
        **database.environment(),
        "DJANGO_SETTINGS_MODULE": "studio.settings.production",
        "OLIVE_SECRET_KEY": secret.read_text(),
        "OLIVE_RUNTIME": str(RUNTIME),
        "OLIVE_HOSTS": os.environ.get("OLIVE_HOSTS") or ",".join(sorted(hosts)),
        "OLIVE_ORIGIN": os.environ.get("OLIVE_ORIGIN") or f"http://{seen}:{port}",
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
