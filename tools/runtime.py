"""The runtime folder: who owns it, whether there is room, and what the site runs with."""

from __future__ import annotations

import contextlib
import fcntl
import hashlib
import os
import secrets
import shutil
import socket
import struct
import subprocess
import sys
import tempfile
import time
from collections.abc import Iterable, Iterator
from pathlib import Path

from studio.common.clock import anchor
from tools.database import ROOT, CannotStart, Database

RUNTIME = Path(os.environ.get("OLIVE_RUNTIME", ROOT / ".runtime")).absolute()
LEAST_FREE_MB = 300
WORK = ("backup", "restore")
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


@contextlib.contextmanager
def work_folder(kind: str, inside: Path | None = None) -> Iterator[Path]:
    """A folder for work that may be broken off, and gone afterwards; it is locked as long as somebody works in it."""
    folder = Path(tempfile.mkdtemp(prefix=f"{kind}-", dir=inside or RUNTIME))
    try:
        with open(folder / "lock", "w") as lock:
            fcntl.flock(lock, fcntl.LOCK_EX)
            yield folder
    finally:
        shutil.rmtree(folder, ignore_errors=True)


def left_work_folders() -> list[Path]:
    """Those that nobody works in any more."""
    return [folder for kind in WORK for folder in sorted(RUNTIME.glob(f"{kind}-*")) if not _in_use(folder)]


def _in_use(folder: Path) -> bool:
    try:
        with open(folder / "lock", "a") as lock:
            fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except BlockingIOError:
        return True
    except OSError:
        return not folder.is_dir()
    return False


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
                card_address = fcntl.ioctl(line, _ADDRESS_OF_A_CARD, struct.pack("256s", card.encode()[:15]))
                addresses.append(socket.inet_ntoa(card_address[20:24]))
    with contextlib.suppress(OSError):
        for words in map(str.split, Path("/proc/net/if_inet6").read_text().splitlines()):
            addresses.append(socket.inet_ntop(socket.AF_INET6, bytes.fromhex(words[0])))
    outward = [a for a in addresses if a not in ("127.0.0.1", "::1")]
    return [*outward, name, f"{name.partition('.')[0]}.local"]


def _secret() -> str:
    """The key of this site. Whoever comes first makes it, whole or not at all."""
    kept = RUNTIME / "secret"
    if not kept.exists():
        RUNTIME.mkdir(parents=True, exist_ok=True)
        with tempfile.NamedTemporaryFile("w", dir=RUNTIME, prefix="secret-") as new:  # only its owner can read it
            new.write(secrets.token_urlsafe(50))
            new.flush()
            with contextlib.suppress(FileExistsError):
                os.link(new.name, kept)
    return kept.read_text()


def environment(database: Database, *, host: str = "127.0.0.1", port: int = 8000, demo: bool = True) -> dict[str, str]:
    """What the site runs with."""
    names = own_names() if host in EVERYWHERE else [host]
    hosts = {"127.0.0.1", "localhost", "[::1]", *(f"[{n}]" if ":" in n else n for n in names)}
    seen = next((n for n in names if n[:1].isdigit()), "127.0.0.1") if host in EVERYWHERE else host
    return {
        **os.environ,
        **database.environment(),
        "DJANGO_SETTINGS_MODULE": "studio.settings.production",
        "OLIVE_SECRET_KEY": _secret(),
        "OLIVE_RUNTIME": str(RUNTIME),
        "OLIVE_HOSTS": os.environ.get("OLIVE_HOSTS") or ",".join(sorted(hosts)),
        "OLIVE_ORIGIN": os.environ.get("OLIVE_ORIGIN") or f"http://{seen}:{port}",
        "OLIVE_CLOCK": anchor(),
        "OLIVE_DEMO": "1" if demo else "0",
        "OPENBLAS_NUM_THREADS": "1",
        "OMP_NUM_THREADS": "1",
        "PYTHONPATH": str(ROOT),
    }


def set_up(env: dict[str, str], database: Database) -> None:
    """Migrations and static files, where anything of them changed since they were set up last."""
    for stamp, patterns, words in (
        (database.folder / "migrated", ("studio/*/migrations/*.py",), ("migrate", "--noinput", "-v0")),
        (
            RUNTIME / "static.collected",
            ("studio/static/**/*", "studio/*/static/**/*", "requirements.txt", "studio/settings/*.py"),
            ("collectstatic", "--noinput", "-v0"),
        ),
    ):
        now = _looks(patterns)
        if not stamp.exists() or stamp.read_text() != now or not (RUNTIME / "static").is_dir():
            manage(env, *words)
            stamp.write_text(now)


def _looks(patterns: Iterable[str]) -> str:
    """A digest of names, sizes and times of files: it differs when any of them changed."""
    files = sorted({p for pattern in patterns for p in ROOT.glob(pattern) if p.is_file()})
    text = "".join(f"{p}:{p.stat().st_size}:{p.stat().st_mtime_ns};" for p in files)
    return hashlib.sha256(text.encode()).hexdigest()


def manage(env: dict[str, str], *words: str) -> None:
    """A Django command; its last words on failure."""
    done = subprocess.run(
        [sys.executable, "manage.py", *words], cwd=ROOT, env=env, capture_output=True, text=True, check=False
    )
    if done.returncode:
        raise CannotStart(f"{' '.join(words)} failed:\n{(done.stdout + done.stderr)[-2000:]}")
