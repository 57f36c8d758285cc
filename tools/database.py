"""A private MariaDB under .runtime: its own data, socket and free port on loopback. Never a system service's."""

from __future__ import annotations

import contextlib
import hashlib
import os
import pwd
import re
import secrets
import shutil
import signal
import socket
import subprocess
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
LONGEST_PATH = 90
SMALL_SHM = 512 * 1024 * 1024
END_WITHIN_S, BEGIN_WITHIN_S = 1.5, 60.0
LOOK_EVERY_S, SILENT_S = 3.0, 15.0

COMMON = """
bind-address = 127.0.0.1
skip-name-resolve
skip-log-bin
local-infile = OFF
performance-schema = OFF
character-set-server = utf8mb4
collation-server = utf8mb4_uca1400_as_ci
sql-mode = STRICT_ALL_TABLES,NO_ENGINE_SUBSTITUTION,ERROR_FOR_DIVISION_BY_ZERO
transaction-isolation = READ-COMMITTED
max-connections = 60
innodb-log-file-size = 64M
innodb-ft-min-token-size = 2
innodb-ft-enable-stopword = OFF
"""
DURABLE = "innodb-buffer-pool-size = 256M\ninnodb-flush-log-at-trx-commit = 1\n"
IN_MEMORY = (
    "innodb-buffer-pool-size = 128M\ninnodb-flush-log-at-trx-commit = 0\n"
    "innodb-doublewrite = 0\ninnodb-flush-method = nosync\n"
)


class CannotStart(Exception):
    """Set-up failed; the message is for the person at the terminal."""


def free_port(preferred: int | None = None) -> int:
    """`preferred` if nobody listens there, else any free port on loopback."""
    for port in (preferred, 0):
        if port is None:
            continue
        with socket.socket() as probe:
            probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
            try:
                probe.bind(("127.0.0.1", port))
            except OSError:
                continue
            return int(probe.getsockname()[1])
    raise CannotStart("No free port on this machine.")


def memory_folder(name: str) -> Path:
    """A folder in shared memory, or under .runtime where that is small."""
    shm = Path("/dev/shm")
    if shm.is_dir() and os.access(shm, os.W_OK):
        room = os.statvfs(shm)
        if room.f_bavail * room.f_frsize >= SMALL_SHM:
            return Path(tempfile.mkdtemp(prefix=f"olive-{name}-", dir=shm))
    folder = ROOT / ".runtime" / name
    shutil.rmtree(folder, ignore_errors=True)
    folder.mkdir(parents=True)
    return folder


class Database:
    """One mariadbd with one folder. `start` makes what is missing; `stop` ends it."""

    def __init__(self, folder: Path, *, durable: bool) -> None:
        self.folder, self.durable = folder, durable
        self.home = _plain_path(folder)
        self.data, self.cnf, self.socket = self.home / "data", self.home / "my.cnf", self.home / "sock"
        self.administrator = pwd.getpwuid(os.geteuid()).pw_name
        self.port = 0
        self.looked_at = self.answered_at = 0.0
        self.process: subprocess.Popen[bytes] | None = None

    # -- starting -----------------------------------------------------------------------------------------------
    def start(self) -> None:
        """Start it, making what is missing: data, user and time zones. Raises CannotStart."""
        self.folder.mkdir(parents=True, exist_ok=True)
        (self.folder / "tmp").mkdir(exist_ok=True)
        self.end_leftover()
        remembered = self.folder / "port"
        self.port = free_port(_number_in(remembered))
        remembered.write_text(str(self.port))
        self._write_configuration()
        ready = self.folder / "ready"
        if not (self.data / "olive").is_dir():
            if ready.exists():
                raise CannotStart(
                    f"The files of the database are missing from {self.folder / 'data'}. Put them back, or restore a "
                    "backup with ./start --restore FILE, or begin anew with ./start --fresh."
                )
            self._make_data()
        self._run()
        if not ready.exists() or not (self.folder / "password").exists():
            self._make_user()
            self._load_zones()
            ready.write_text("made\n")

    def _write_configuration(self) -> None:
        user = "user = root\n" if os.geteuid() == 0 else ""
        quoted = {
            "datadir": self.data,
            "socket": self.socket,
            "pid-file": self.home / "pid",
            "log-error": self.home / "error.log",
            "tmpdir": self.home / "tmp",
        }
        lines = "".join(f'{k} = "{v}"\n' for k, v in quoted.items())
        kind = DURABLE if self.durable else IN_MEMORY
        self.cnf.write_text(f"[mariadbd]\nport = {self.port}\n{user}{lines}{COMMON}{kind}")

    def _make_data(self) -> None:
        shutil.rmtree(self.data, ignore_errors=True)
        command = [
            program("mariadb-install-db"),
            f"--defaults-file={self.cnf}",
            f"--datadir={self.data}",
            "--auth-root-authentication-method=socket",
            f"--auth-root-socket-user={self.administrator}",
            "--skip-test-db",
        ]
        if os.geteuid() == 0:
            command.append("--user=root")
        done = subprocess.run(command, capture_output=True, text=True, check=False)
        if done.returncode:
            raise CannotStart(f"The database could not be made:\n{done.stdout[-800:]}{done.stderr[-800:]}")

    def _run(self) -> None:
        self.process = subprocess.Popen(
            tied_to_us([program("mariadbd"), f"--defaults-file={self.cnf}"]),
            stdout=subprocess.DEVNULL,
            stderr=subprocess.DEVNULL,
            start_new_session=True,
        )
        until = time.monotonic() + BEGIN_WITHIN_S
        while time.monotonic() < until and self.process.poll() is None:
            if self.answers():
                self.looked_at = self.answered_at = time.monotonic()
                return
            time.sleep(0.05)
        self.stop(wait_s=END_WITHIN_S)
        log = self.folder / "error.log"
        tail = log.read_text(errors="replace")[-1500:] if log.exists() else "(it said nothing)"
        raise CannotStart(f"The database did not start. Its last words:\n{tail}")

    def answers(self) -> bool:
        """Whether it answers on its socket."""
        try:
            with socket.socket(socket.AF_UNIX) as line:
                line.settimeout(2)
                line.connect(str(self.socket))
                return bool(line.recv(1))
        except OSError:
            return False

    def sql(self, statement: str, *, database: str = "") -> str:
        """Run statements as the administrator, over the socket."""
        command = [
            program("mariadb"),
            "--no-defaults",
            f"--socket={self.socket}",
            f"-u{self.administrator}",
            "-N",
            "-B",
        ]
        done = subprocess.run(
            command + ([database] if database else []), input=statement, capture_output=True, text=True, check=False
        )
        if done.returncode:
            raise CannotStart(f"The database refused: {done.stderr.strip()}")
        return done.stdout

    def _make_user(self) -> None:
        password = secrets.token_urlsafe(24)
        secret = self.folder / "password"
        secret.touch(mode=0o600)
        secret.write_text(password)
        statements = ["CREATE DATABASE IF NOT EXISTS olive;"]
        for host in ("localhost", "127.0.0.1"):
            who = f"'olive'@'{host}'"
            statements += [
                f"CREATE OR REPLACE USER {who} IDENTIFIED BY '{password}';",
                f"GRANT ALL ON olive.* TO {who};",
                f"GRANT ALL ON `test\\_olive%`.* TO {who};",
            ]
        self.sql("\n".join(statements))

    def _load_zones(self) -> None:
        zones = subprocess.run(
            [program("mariadb-tzinfo-to-sql"), "/usr/share/zoneinfo"], capture_output=True, text=True, check=False
        )
        self.sql(zones.stdout, database="mysql")

    # -- using and stopping -------------------------------------------------------------------------------------
    def environment(self) -> dict[str, str]:
        """What the site needs to reach it."""
        return {
            "OLIVE_DB_HOST": "127.0.0.1",
            "OLIVE_DB_PORT": str(self.port),
            "OLIVE_DB_PASSWORD": (self.folder / "password").read_text(),
        }

    def alive(self) -> bool:
        """Whether its process is there and has answered lately: one that hangs is as good as dead."""
        if self.process is None or self.process.poll() is not None:
            return False
        if time.monotonic() - self.looked_at > LOOK_EVERY_S:
            self.looked_at = time.monotonic()
            if self.answers():
                self.answered_at = time.monotonic()
        return time.monotonic() - self.answered_at < SILENT_S

    def stop(self, *, wait_s: float = 8) -> None:
        """End it and wait; kill it when it does not go."""
        if self.process is not None and self.process.poll() is None:
            self.process.terminate()
            try:
                self.process.wait(wait_s)
            except subprocess.TimeoutExpired:
                self.process.kill()
                self.process.wait()

    def end_leftover(self) -> None:
        """End a mariadbd of this very folder that an earlier run left behind; kill it when it does not go, as one that
        hangs in its start does not."""
        end_processes(lambda words, _: f"--defaults-file={self.cnf}" in words, kindly_s=END_WITHIN_S)


def end_processes(ours: Callable[[list[str], dict[str, str]], bool], *, kindly_s: float) -> int:
    """End the processes whose words and environment `ours` knows: TERM, and KILL after `kindly_s`. Returns how many."""
    pids = {entry: int(entry.name) for entry in Path("/proc").glob("[0-9]*") if _is(entry, ours)}
    pids = {entry: pid for entry, pid in pids.items() if pid != os.getpid()}
    for number in (signal.SIGTERM, signal.SIGKILL):
        for pid in pids.values():
            with contextlib.suppress(ProcessLookupError):
                os.kill(pid, number)
        until = time.monotonic() + kindly_s
        while any(_is(entry, ours) for entry in pids) and time.monotonic() < until:
            time.sleep(0.02)
        pids = {entry: pid for entry, pid in pids.items() if _is(entry, ours)}
    return len(pids)


def _is(entry: Path, ours: Callable[[list[str], dict[str, str]], bool]) -> bool:
    """Whether a process is there (and no more than waited for) and one of ours."""
    try:
        words = (entry / "cmdline").read_bytes().decode(errors="replace").split("\0")
        settings = (entry / "environ").read_bytes().decode(errors="replace").split("\0")
    except OSError:
        return False
    return any(words) and ours(words, dict(pair.split("=", 1) for pair in settings if "=" in pair))


def _number_in(file: Path) -> int | None:
    """The port number kept in a file; None when there is none or it is spoilt."""
    try:
        number = int(file.read_text())
    except (OSError, ValueError):
        return None
    return number if 1024 <= number < 65536 else None


def tied_to_us(command: list[str]) -> list[str]:
    """The command as a child that Linux ends when its parent is gone, however that came (util-linux's setpriv)."""
    setpriv = shutil.which("setpriv")
    return [setpriv, "--pdeathsig", "TERM", "--", *command] if setpriv else command


def _plain_path(folder: Path) -> Path:
    """`folder`, or a link to it where its own path is too long for a socket or has characters that the database's
    set-up script cannot take (a space is one)."""
    if len(str(folder)) <= LONGEST_PATH and re.fullmatch(r"[\w./-]+", str(folder), re.ASCII):
        return folder
    digest = hashlib.sha256(str(folder).encode()).hexdigest()[:12]
    link = Path(tempfile.gettempdir()) / f"olive-{os.geteuid()}-{digest}"
    if link.is_symlink() and link.lstat().st_uid == os.geteuid():
        link.unlink()
    try:
        link.symlink_to(folder)
    except FileExistsError:
        link = Path(tempfile.mkdtemp(prefix="olive-")) / "database"
        link.symlink_to(folder)
    return link


def program(name: str) -> str:
    """Where a program of the system is. Raises CannotStart."""
    path = shutil.which(name) or shutil.which(name, path="/usr/sbin:/usr/bin:/usr/local/sbin")
    if not path:
        raise CannotStart(f"{name} is not on this machine.")
    return path
