"""Serve: database, migrations, static files, web. Restarts what dies; INT or TERM ends all of it."""

from __future__ import annotations

import argparse
import contextlib
import fcntl
import os
import secrets
import shutil
import signal
import socket
import subprocess
import sys
import threading
import time
from pathlib import Path

from tools.database import ROOT, CannotStart, Database, free_port, tied_to_us

RUNTIME = ROOT / ".runtime"
WORKERS, THREADS = 2, 4


def options(arguments: list[str]) -> argparse.Namespace:
    parser = argparse.ArgumentParser(prog="./start", description="Serve Olive Ribbon on this machine.")
    parser.add_argument("--port", type=int, default=8000, help="port to serve on (8000)")
    parser.add_argument("--host", default="127.0.0.1", help="address to serve on; 0.0.0.0 for a tablet at home")
    parser.add_argument("--fresh", action="store_true", help="begin with an empty database; the old one is set aside")
    parser.add_argument("--no-demo", action="store_true", help="do not offer the demo kitchen")
    return parser.parse_args(arguments)


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


def web_command(host: str, port: int) -> list[str]:
    shm = "/dev/shm" if os.access("/dev/shm", os.W_OK) else str(RUNTIME)
    bind = f"[{host}]:{port}" if ":" in host else f"{host}:{port}"
    return [
        sys.executable, "-m", "gunicorn", "studio.wsgi:application", "--bind", bind, "--workers", str(WORKERS),
        "--threads", str(THREADS), "--worker-class", "gthread", "--worker-tmp-dir", shm, "--no-control-socket",
        "--graceful-timeout", "4", "--timeout", "60", "--log-level", "warning", "--max-requests", "20000",
        "--max-requests-jitter", "2000",
    ]  # fmt: skip


def start_web(host: str, port: int, env: dict[str, str]) -> subprocess.Popen[bytes]:
    return subprocess.Popen(tied_to_us(web_command(host, port)), cwd=ROOT, env=env, start_new_session=True)


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
        raise CannotStart("Olive Ribbon is already running from this folder.") from problem
    return lock


def set_aside(folder: Path) -> None:
    """--fresh: keep the old database under another name."""
    if folder.exists():
        kept = folder.with_name(f"{folder.name}.before-{time.strftime('%Y%m%d-%H%M%S')}")
        shutil.move(str(folder), str(kept))
        print(f"The database so far is kept in {kept}")


def serve(asked: argparse.Namespace) -> None:
    """Set up, serve and watch until told to stop."""
    _lock = own_the_runtime()
    local = asked.host if asked.host not in ("0.0.0.0", "::") else "127.0.0.1"
    if free_port(asked.port) != asked.port:
        raise CannotStart(f"Port {asked.port} is taken. Try ./start --port {free_port()}.")
    stop = threading.Event()
    for number in (signal.SIGINT, signal.SIGTERM):
        signal.signal(number, lambda *_: stop.set())
    folder = RUNTIME / "mariadb"
    if asked.fresh:
        set_aside(folder)
    database = Database(folder, durable=True)
    web: subprocess.Popen[bytes] | None = None
    try:
        database.start()
        env = environment(database, host=asked.host, port=asked.port, demo=not asked.no_demo)
        manage(env, "migrate", "--noinput", "-v0")
        manage(env, "collectstatic", "--noinput", "-v0")
        manage(env, "tidy")
        web = start_web(asked.host, asked.port, env)
        for _ in range(300):
            if answers(asked.port, local) or web.poll() is not None or stop.is_set():
                break
            time.sleep(0.1)
        if web.poll() is not None:
            raise CannotStart("The web server did not start; its messages are above.")
        print(f"Olive Ribbon is at http://{local}:{asked.port}/  (Ctrl+C ends it)", flush=True)
        if asked.host != local:
            print("On a tablet use this machine's own address; keeping its screen on needs HTTPS.", flush=True)
        while not stop.wait(1):
            if not database.alive():
                print("The database went away: starting it again", flush=True)
                with contextlib.suppress(CannotStart):
                    database.start()
                if env["OLIVE_DB_PORT"] != str(database.port):
                    env |= database.environment()
                    end_group(web)
            if web.poll() is not None:
                print("The web server went away: starting it again", flush=True)
                web = start_web(asked.host, asked.port, env)
    finally:
        end_group(web)
        database.stop()


def main() -> int:
    asked = options(sys.argv[1:])
    try:
        serve(asked)
    except CannotStart as problem:
        print(problem, file=sys.stderr)
        return 1
    return 0


if __name__ == "__main__":
    sys.exit(main())
