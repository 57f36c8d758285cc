"""Serve: database, migrations, static files, web. Restarts what dies; INT or TERM ends all of it."""

from __future__ import annotations

import argparse
import contextlib
import errno
import os
import signal
import socket
import subprocess
import sys
import threading
import time
from pathlib import Path

from tools import runtime
from tools.database import ROOT, CannotStart, Database, free_port, tied_to_us
from tools.keep import Nights, back_up, restore
from tools.runtime import EVERYWHERE, environment, manage, own_the_runtime, room_on_the_disk, set_aside

WORKERS, THREADS = 2, 4
PORT_WAIT_TRIES = 30
_PLAINLY = {
    errno.ENOSPC: "The disk is full, so nothing was started. Make room, then start again",
    errno.EROFS: "This folder cannot be written to, it is read-only",
    errno.EACCES: "This may not be read or written by you",
    errno.EPERM: "This may not be read or written by you",
}


def _path(text: str) -> Path:
    """A path as seen from where ./start was called."""
    return Path(os.environ.get("OLIVE_CALLED_IN", ".")) / text


def options(arguments: list[str]) -> argparse.Namespace:
    parser = argparse.ArgumentParser(prog="./start", description="Serve Olive Ribbon on this machine.")
    parser.add_argument("--port", type=int, default=8000, help="port to serve on (8000)")
    parser.add_argument("--host", default="127.0.0.1", help="address to serve on; 0.0.0.0 for a tablet at home")
    parser.add_argument("--fresh", action="store_true", help="begin with an empty database; the old one is set aside")
    parser.add_argument("--no-demo", action="store_true", help="do not offer the demo kitchen")
    parser.add_argument("--backup", type=_path, metavar="FILE", help="write everything to FILE and end")
    parser.add_argument("--restore", type=_path, metavar="FILE", help="put back what is in FILE and end")
    return parser.parse_args(arguments)


def web_command(host: str, port: int) -> list[str]:
    shm = "/dev/shm" if os.access("/dev/shm", os.W_OK) else str(runtime.RUNTIME)
    bind = f"[{host}]:{port}" if ":" in host else f"{host}:{port}"
    return [
        sys.executable, "-m", "gunicorn", "studio.wsgi:application", "--bind", bind, "--workers", str(WORKERS),
        "--threads", str(THREADS), "--worker-class", "gthread", "--worker-tmp-dir", shm, "--no-control-socket",
        "--graceful-timeout", "4", "--timeout", "60", "--log-level", "warning", "--max-requests", "20000",
        "--max-requests-jitter", "2000",
    ]  # fmt: skip


def start_web(host: str, port: int, env: dict[str, str]) -> subprocess.Popen[bytes]:
    return subprocess.Popen(tied_to_us(web_command(host, port)), cwd=ROOT, env=env, start_new_session=True)


def start_solver(env: dict[str, str]) -> subprocess.Popen[bytes]:
    """Plans days outside of requests."""
    command = [sys.executable, "manage.py", "solver"]
    return subprocess.Popen(tied_to_us(command), cwd=ROOT, env=env, start_new_session=True)


def end_group(process: subprocess.Popen[bytes] | None, *, wait_s: float = 6) -> None:
    """End a process and its children, kindly first."""
    if process is None or process.poll() is not None:
        return
    with contextlib.suppress(ProcessLookupError):
        os.killpg(process.pid, signal.SIGTERM)
    try:
        process.wait(wait_s)
    except subprocess.TimeoutExpired:
        with contextlib.suppress(ProcessLookupError):
            os.killpg(process.pid, signal.SIGKILL)
        process.wait()


def answers(port: int, host: str = "127.0.0.1") -> bool:
    try:
        with socket.create_connection((host, port), timeout=2):
            return True
    except OSError:
        return False


def _comes_free(port: int) -> bool:
    """Whether the port is free, waiting for a server of ours that was killed to let go of it."""
    for _ in range(PORT_WAIT_TRIES):
        if free_port(port) == port:
            return True
        time.sleep(0.1)
    return False


class Ours:
    """The processes that serve: the web server, and the planner of days."""

    def __init__(self, host: str, port: int) -> None:
        self.host, self.port = host, port
        self.web: subprocess.Popen[bytes] | None = None
        self.solver: subprocess.Popen[bytes] | None = None

    def start(self, env: dict[str, str], local: str) -> None:
        """Both, once the web server answers. Raises CannotStart."""
        self.web = start_web(self.host, self.port, env)
        for _ in range(300):
            if answers(self.port, local) or self.web.poll() is not None:
                break
            time.sleep(0.1)
        if self.web.poll() is not None:
            raise CannotStart("The web server did not start; its messages are above.")
        self.solver = start_solver(env)

    def look(self, env: dict[str, str]) -> None:
        """Start again what died."""
        if self.web is None or self.web.poll() is not None:
            print("The web server went away: starting it again", flush=True)
            self.web = start_web(self.host, self.port, env)
        if self.solver is None or self.solver.poll() is not None:
            print("The planner went away: starting it again", flush=True)
            self.solver = start_solver(env)

    def end(self) -> None:
        end_group(self.solver, wait_s=2)
        end_group(self.web)


def _end_set_up(*_: object) -> None:
    """Told to stop before it serves: unwind from wherever it is."""
    raise SystemExit(0)


def serve(asked: argparse.Namespace) -> None:
    """Set up, serve and watch until told to stop."""
    _lock = own_the_runtime()
    room_on_the_disk()
    local = asked.host if asked.host not in EVERYWHERE else "127.0.0.1"
    if not _comes_free(asked.port):
        raise CannotStart(f"Port {asked.port} is taken. Try ./start --port {free_port()}.")
    stop = threading.Event()
    for number in (signal.SIGINT, signal.SIGTERM):
        signal.signal(number, _end_set_up)
    folder = runtime.RUNTIME / "mariadb"
    if asked.fresh:
        set_aside(folder)
    database = Database(folder, durable=True)
    ours = Ours(asked.host, asked.port)
    try:
        database.start()
        env = environment(database, host=asked.host, port=asked.port, demo=not asked.no_demo)
        manage(env, "migrate", "--noinput", "-v0")
        manage(env, "collectstatic", "--noinput", "-v0")
        manage(env, "tidy")
        ours.start(env, local)
        print(f"Olive Ribbon is at http://{local}:{asked.port}/  (Ctrl+C ends it)", flush=True)
        if asked.host != local:
            print(f"On a tablet: {env['OLIVE_ORIGIN']}/  (keeping its screen on needs HTTPS)", flush=True)
        for number in (signal.SIGINT, signal.SIGTERM):
            signal.signal(number, lambda *_: stop.set())
        nights = Nights(database)
        while not stop.wait(1):
            nights.look()
            if not database.alive():
                print("The database went away: starting it again", flush=True)
                with contextlib.suppress(CannotStart):
                    database.start()
                if env["OLIVE_DB_PORT"] != str(database.port):
                    env |= database.environment()
                    ours.end()
            ours.look(env)
    finally:
        for number in (signal.SIGINT, signal.SIGTERM):
            signal.signal(number, signal.SIG_IGN)
        ours.end()
        database.stop()


def main() -> int:
    asked = options(sys.argv[1:])
    try:
        if asked.backup:
            back_up(asked.backup)
        elif asked.restore:
            restore(asked.restore)
        else:
            serve(asked)
    except CannotStart as problem:
        print(problem, file=sys.stderr)
        return 1
    except OSError as problem:
        plainly = _PLAINLY.get(problem.errno or 0, problem.strerror)
        print(f"{plainly}: {problem.filename or runtime.RUNTIME}", file=sys.stderr)
        return 1
    return 0


if __name__ == "__main__":
    sys.exit(main())
