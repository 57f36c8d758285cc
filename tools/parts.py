"""The processes that serve: each with its group, watched, ended whole and started again."""

from __future__ import annotations

import contextlib
import os
import signal
import socket
import subprocess
import sys
import time

from tools import runtime
from tools.database import ROOT, CannotStart, end_processes, tied_to_us

OURS = ("studio.wsgi:application", "worker")  # the word by which a process of ours is known


def web_command(host: str, port: int) -> list[str]:
    """How the web server is started."""
    bind = f"[{host}]:{port}" if ":" in host else f"{host}:{port}"
    return [sys.executable, "-m", "gunicorn", OURS[0], "--bind", bind, "--config", "python:studio.serving"]


def worker_command() -> list[str]:
    """Does long work outside of requests."""
    return [sys.executable, "manage.py", OURS[1]]


class ServerPart:
    """One process with its children, in a group of its own.

    Parameters
    ----------
    name : as it is called when it goes away. command : what it runs. kindly_s : how long it may take to end.
    """

    def __init__(self, name: str, command: list[str], *, kindly_s: float) -> None:
        self.name, self.command, self.kindly_s = name, command, kindly_s
        self.process: subprocess.Popen[bytes] | None = None

    def start(self, env: dict[str, str]) -> None:
        """Begin its process."""
        self.process = subprocess.Popen(tied_to_us(self.command), cwd=ROOT, env=env, start_new_session=True)

    @property
    def pid(self) -> int:
        """The number of its process."""
        assert self.process
        return self.process.pid

    def alive(self) -> bool:
        """Whether its process runs."""
        return self.process is not None and self.process.poll() is None

    def look(self, env: dict[str, str]) -> None:
        """Start it again when it died: what is left of its group goes first, since it may hold the port."""
        if self.alive():
            return
        print(f"{self.name} went away: starting it again", flush=True)
        self.end(kindly_s=0.3)
        self.start(env)

    def end(self, *, kindly_s: float | None = None) -> None:
        """End the whole group: TERM, and KILL after a while. It is gone afterwards."""
        if self.process is None:
            return
        for number, wait_s in ((signal.SIGTERM, self.kindly_s if kindly_s is None else kindly_s), (signal.SIGKILL, 2)):
            with contextlib.suppress(ProcessLookupError):
                os.killpg(self.process.pid, number)
            until = time.monotonic() + wait_s
            while self._group_is_there() and time.monotonic() < until:
                time.sleep(0.02)
        self.process.wait()

    def _group_is_there(self) -> bool:
        assert self.process
        self.process.poll()  # its own end is waited for, or it would stay in the group
        try:
            os.killpg(self.process.pid, 0)
        except ProcessLookupError:
            return False
        return True


def end_leftovers() -> None:
    """End what an earlier ./start of this very folder left behind when it was killed. Needs the lock."""
    mine = str(runtime.RUNTIME)
    end_processes(lambda words, env: env.get("OLIVE_RUNTIME") == mine and bool({*words} & {*OURS}), kindly_s=0.5)


def answers(port: int, host: str = "127.0.0.1") -> bool:
    """Whether somebody listens there."""
    try:
        with socket.create_connection((host, port), timeout=2):
            return True
    except OSError:
        return False


def until_it_answers(web: ServerPart, port: int, host: str, *, within_s: float = 30.0) -> None:
    """Raises CannotStart when it ends, or does not answer."""
    until = time.monotonic() + within_s
    while time.monotonic() < until and web.alive():
        if answers(port, host):
            return
        time.sleep(0.05)
    raise CannotStart("The web server did not start; its messages are above.")
