"""Serve: database, migrations, static files, web. Restarts what dies; INT or TERM ends all of it."""

from __future__ import annotations

import argparse
import contextlib
import errno
import os
import signal
import subprocess
import sys
import threading
import time
from pathlib import Path

from studio.serving import graceful_timeout
from tools import runtime
from tools.database import END_WITHIN_S, ROOT, CannotStart, Database, free_port, tied_to_us
from tools.keep import Nights, back_up
from tools.parts import ServerPart, end_leftovers, until_it_answers, web_command, worker_command
from tools.put_back import restore, tidy_up
from tools.runtime import EVERYWHERE, environment, own_the_runtime, room_on_the_disk, set_aside, set_up

PORT_WAIT_TRIES = 30
LOOK_EVERY_S, TIDY_EVERY_S = 0.3, 24 * 3600.0
_PLAINLY = {
    errno.ENOSPC: "The disk is full, so nothing was started. Make room, then start again",
    errno.EROFS: "This folder cannot be written to, it is read-only",
    errno.EACCES: "This may not be read or written by you",
    errno.EPERM: "This may not be read or written by you",
}


def _path(text: str) -> Path:
    """A path as seen from where ./start was called."""
    return Path(os.environ.get("OLIVE_CALLED_IN", ".")) / text


def _count(text: str) -> int:
    """A number of processes."""
    if not text.isdecimal() or not 1 <= int(text) <= 16:
        raise argparse.ArgumentTypeError("a whole number from 1 to 16")
    return int(text)


def options(arguments: list[str]) -> argparse.Namespace:
    """What was asked for on the command line."""
    parser = argparse.ArgumentParser(prog="./start", description="Serve Olive Ribbon on this machine.")
    parser.add_argument("--port", type=int, default=8000, help="port to serve on (8000)")
    parser.add_argument("--host", default="127.0.0.1", help="address to serve on; 0.0.0.0 for a tablet at home")
    parser.add_argument("--fresh", action="store_true", help="begin with an empty database; the old one is set aside")
    parser.add_argument("--no-demo", action="store_true", help="do not offer the demo kitchen")
    parser.add_argument("--workers", type=_count, default=1, help="processes that plan days beside the pages (1)")
    parser.add_argument("--backup", type=_path, metavar="FILE", help="write everything to FILE and end")
    parser.add_argument("--restore", type=_path, metavar="FILE", help="put back what is in FILE and end")
    return parser.parse_args(arguments)


def _comes_free(port: int) -> bool:
    """Whether the port is free, waiting for a server of ours that was killed to let go of it."""
    for _ in range(PORT_WAIT_TRIES):
        if free_port(port) == port:
            return True
        time.sleep(0.1)
    return False


def _end_set_up(*_: object) -> None:
    """Told to stop before it serves: unwind from wherever it is."""
    raise SystemExit(0)


def serve(options: argparse.Namespace) -> None:
    """Set up, serve and watch until told to stop."""
    _lock = own_the_runtime()
    end_leftovers()
    tidy_up()
    room_on_the_disk()
    local = options.host if options.host not in EVERYWHERE else "127.0.0.1"
    if not _comes_free(options.port):
        raise CannotStart(f"Port {options.port} is taken. Try ./start --port {free_port()}.")
    stop = threading.Event()
    for number in (signal.SIGINT, signal.SIGTERM):
        signal.signal(number, _end_set_up)
    folder = runtime.RUNTIME / "mariadb"
    if options.fresh:
        set_aside(folder)
    database = Database(folder, durable=True)
    web = ServerPart("The web server", web_command(options.host, options.port), kindly_s=graceful_timeout + 2)
    nights = Nights(database)
    workers = [ServerPart(f"Worker {i + 1}", worker_command(), kindly_s=2) for i in range(options.workers)]
    try:
        database.start()
        env = environment(database, host=options.host, port=options.port, demo=not options.no_demo)
        set_up(env, database)
        web.start(env)
        for worker in workers:
            worker.start(env)
        until_it_answers(web, options.port, local)
        print(f"Olive Ribbon is at http://{local}:{options.port}/  (Ctrl+C ends it)", flush=True)
        if options.host != local:
            print(f"On a tablet: {env['OLIVE_ORIGIN']}/  (keeping its screen on needs HTTPS)", flush=True)
        for number in (signal.SIGINT, signal.SIGTERM):
            signal.signal(number, lambda *_: stop.set())
        _watch(stop, nights, [web, *workers], env)
    finally:
        for number in (signal.SIGINT, signal.SIGTERM):
            signal.signal(number, signal.SIG_IGN)
        for part in (*workers, web):
            part.end()
        database.stop()
        nights.end()


def _watch(stop: threading.Event, nights: Nights, parts: list[ServerPart], env: dict[str, str]) -> None:
    """Keep all of it running, a copy every night, and what is old put away, until told to stop."""
    database, tidied = nights.database, -TIDY_EVERY_S
    while not stop.wait(LOOK_EVERY_S):
        nights.look()
        if not database.alive():
            print("The database went away: starting it again", flush=True)
            with contextlib.suppress(CannotStart):
                database.stop(wait_s=END_WITHIN_S)
                database.start()
            if env["OLIVE_DB_PORT"] != str(database.port):
                env |= database.environment()
                for part in parts:
                    part.end()
        for part in parts:
            part.look(env)
        if time.monotonic() - tidied > TIDY_EVERY_S:
            tidied = time.monotonic()
            subprocess.Popen(
                tied_to_us([sys.executable, "manage.py", "tidy"]), cwd=ROOT, env=env, stdout=subprocess.DEVNULL
            )


def main() -> int:
    """Serve, back up or restore; the exit code."""
    chosen_options = options(sys.argv[1:])
    try:
        if chosen_options.backup:
            back_up(chosen_options.backup)
        elif chosen_options.restore:
            restore(chosen_options.restore)
        else:
            serve(chosen_options)
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
