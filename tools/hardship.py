"""Kill -9 amid writes, again and again: `python -m tools.hardship [TIMES [MAKERS]]`.

Makers note drops in their bowls and steps at their benches over HTTP while the web worker, the database, the planner
of days or the supervisor is killed. A note that was acknowledged must be there once; one that was not is sent again
under its name until it is. A timer that runs at a bench is right afterwards, and days that were being planned are.
./start comes back.
"""

from __future__ import annotations

import argparse
import contextlib
import http.client
import itertools
import os
import random
import re
import shutil
import signal
import subprocess
import sys
import tempfile
import threading
import time
import uuid
from dataclasses import dataclass, field
from pathlib import Path
from urllib.parse import urlencode

from tools.bench import Maker
from tools.database import ROOT, CannotStart, Database, free_port

MAKERS, BETWEEN_S, LONGEST_AWAY_S = 3, 2.0, 150.0  # so many note drops, and so many are at the bench
TIMER_S = 2.0  # a timer may be off by so much from the time while it was asked
FORM = "application/x-www-form-urlencoded"
STUCK = "supervisor while the database hangs"
VICTIMS = ("web worker", "web master", "database", "worker", "supervisor", STUCK)


@dataclass
class Writer:
    """One maker who notes a drop in a bowl, over and over."""

    port: int
    stop: threading.Event
    acknowledged: list[uuid.UUID] = field(default_factory=list)
    repeats: int = 0
    trouble: str = ""

    def run(self) -> None:
        """Write until told to stop, and keep what went wrong."""
        try:
            self._write()
        except Exception as problem:
            self.trouble = f"{type(problem).__name__}: {problem}"

    def begin(self) -> None:
        """Open a kitchen and its first bowl."""
        self.maker = Maker(self.port)
        self.bowl = self.maker.open_demo()
        page = self.maker.ask("GET", self.bowl)[1]
        self.drops = _between(page, 'name="add-', '"', after="Less Blue")
        self.seq = int(_between(page, 'name="seq" value="', '"'))

    def _write(self) -> None:
        while not self.stop.is_set():
            key = uuid.uuid4()
            address, fields = self.note(key)
            for attempt in itertools.count():
                status = self._send(self.maker, address, fields)
                if status == 302:
                    break
                if status not in (0, 502, 503):
                    raise CannotStart(f"a note was answered {status}")
                self.repeats += attempt == 0
                time.sleep(0.1)
            self.acknowledged.append(self.kept_as(key, fields))

    def kept_as(self, key: uuid.UUID, fields: dict[str, object]) -> uuid.UUID:
        """Under which key the site keeps it."""
        return uuid.uuid5(key, "0")

    def note(self, key: uuid.UUID) -> tuple[str, dict[str, object]]:
        """Where the next note goes, and what it says."""
        seq, self.seq = self.seq, self.seq + 2  # the drop and the stir after it
        return f"{self.bowl}did/", {f"add-{self.drops}": "1", "seq": seq, "key": str(key)}

    def _send(self, maker: Maker, address: str, fields: dict[str, object]) -> int:
        """The status of the answer; 0 when there was none, so that nobody knows."""
        try:
            return maker.ask("POST", address, urlencode(fields), FORM)[0]
        except (OSError, http.client.HTTPException):
            maker.line.close()
            return 0


@dataclass
class Cook(Writer):
    """One maker at the bench, who taps for one piece after the other, and whose timers run."""

    def begin(self) -> None:
        """Open a kitchen, whose day is planned, and do steps until something waits."""
        self.maker = Maker(self.port)
        self.maker.open_demo()
        self.day = self.maker.ask("GET", "/day/")[2]
        while self.timer() is None:
            key, page = uuid.uuid4(), self.maker.ask("GET", f"{self.day}bench/")[1]
            step = _between(page, 'name="step" value="', '"', after="data-bench-main")
            fields: dict[str, object] = {"key": str(key), "step": step, "kind": "done"}
            if self._send(self.maker, f"{self.day}happened/", fields) != 302:
                raise CannotStart("a step at the bench was not taken")
            self.acknowledged.append(self.kept_as(key, fields))
        self.rings, self.step = self.timer() or (0.0, 0.0), step

    def kept_as(self, key: uuid.UUID, fields: dict[str, object]) -> uuid.UUID:
        return uuid.uuid5(key, f"{fields['step']} {fields['kind']}")

    def note(self, key: uuid.UUID) -> tuple[str, dict[str, object]]:
        return f"{self.day}happened/", {"key": str(key), "step": self.step, "kind": "one"}

    def timer(self) -> tuple[float, float] | None:
        """Between which times the timer that rings last rings, asked on a line of its own: what is left was reckoned
        somewhere between asking and hearing."""
        line, page = Maker(self.port), ""
        line.cookies = self.maker.cookies
        until = time.monotonic() + LONGEST_AWAY_S
        while not page and time.monotonic() < until:
            begun_s = time.monotonic()
            try:
                status, page, _ = line.ask("GET", f"{self.day}bench/")
                page = page if status == 200 else ""
            except (OSError, http.client.HTTPException):  # it was sent to a worker that is gone
                line.line.close()
        left = max((float(s) for s in re.findall(r'<li data-timer="(\d+)"', page)), default=None)
        return None if left is None else (begun_s + left, time.monotonic() + left)

    def timer_off_s(self) -> float:
        """By how much that is wrong."""
        now = self.timer()
        return max(0.0, now[0] - self.rings[1], self.rings[0] - now[1]) if now else float("inf")


def _between(page: str, before: str, behind: str, *, after: str = "") -> str:
    begin = page.index(before, page.index(after)) + len(before)
    return page[begin : page.index(behind, begin)]


class House:
    """A ./start of its own, in a folder of its own."""

    def __init__(self) -> None:
        self.runtime = Path(tempfile.mkdtemp(prefix="olive-hardship-"))
        self.port = free_port()
        self.process: subprocess.Popen[bytes] | None = None

    def start(self) -> None:
        """Start the site and wait until it answers."""
        env = {**os.environ, "OLIVE_RUNTIME": str(self.runtime), "OLIVE_PLANNING_S": "4,8"}
        command = [sys.executable, "-m", "tools.serve", "--port", str(self.port)]
        for _ in range(40):  # what the last one left behind may hold the port for a moment
            with open(self.runtime / "said", "ab") as said:
                self.process = subprocess.Popen(command, cwd=ROOT, env=env, stdout=said, stderr=said)
            if self.answers_within(LONGEST_AWAY_S):
                return
            if self.process.poll() is None:
                break
            time.sleep(0.5)
        raise CannotStart("./start did not come back")

    def answers_within(self, limit_s: float) -> bool:
        """Whether pages are served again before long; the process may also have ended, and then not."""
        begun = time.monotonic()
        while time.monotonic() - begun < limit_s:
            if self.healthy():
                return True
            if self.process and self.process.poll() is not None:
                return False
            time.sleep(0.05)
        return False

    def replaced_within(self, victim: str, pid: int, limit_s: float) -> bool:
        """Whether another process has taken the place of the one that was killed, and pages are served."""
        begun = time.monotonic()
        while time.monotonic() - begun < limit_s:
            with contextlib.suppress(IndexError, OSError, ValueError):
                others = self.all_of(victim)
                if others and pid not in others and self.healthy():
                    return True
            time.sleep(0.02)
        return False

    def healthy(self) -> bool:
        """Whether it answers well."""
        line = http.client.HTTPConnection("127.0.0.1", self.port, timeout=2)
        try:
            line.request("GET", "/healthz")
            return line.getresponse().status == 200
        except (OSError, http.client.HTTPException):
            return False
        finally:
            line.close()

    def kill(self, victim: str) -> float:
        """Kill -9 and say how many seconds it was away."""
        assert self.process
        pid = self.pid_of(victim)
        begun = time.monotonic()
        if victim == STUCK:  # it neither answers nor ends when it is told to
            os.kill(self.pid_of("database"), signal.SIGSTOP)
        os.kill(pid, signal.SIGKILL)
        if victim in ("supervisor", STUCK):
            self.process.wait()
            self.start()
        elif not self.replaced_within(victim, pid, LONGEST_AWAY_S):
            raise CannotStart(f"no answer for {LONGEST_AWAY_S:g} s after the {victim} was killed")
        return time.monotonic() - begun

    def pid_of(self, victim: str) -> int:
        """One of the processes of that part."""
        return random.choice(self.all_of(victim))

    def all_of(self, victim: str) -> list[int]:
        """The processes that may be meant by it."""
        assert self.process
        match victim:
            case "database":
                return [int((self.runtime / "mariadb" / "pid").read_text())]
            case "worker":
                return _children(self.process.pid, "manage.py\0worker")
            case "web master":
                return _children(self.process.pid, "gunicorn")
            case "web worker":
                return _children(self.pid_of("web master"), "gunicorn")
        return [self.process.pid]

    def run(self, *words: str) -> subprocess.Popen[bytes]:
        """Another ./start of the same folder, such as a backup."""
        env = {**os.environ, "OLIVE_RUNTIME": str(self.runtime)}
        with open(self.runtime / "said", "ab") as said:
            return subprocess.Popen(
                [sys.executable, "-m", "tools.serve", *words], cwd=ROOT, env=env, stdout=said, stderr=said
            )

    def end(self) -> None:
        """Stop it and take its folder away."""
        if self.process and self.process.poll() is None:
            self.process.terminate()
            self.process.wait(LONGEST_AWAY_S)
        shutil.rmtree(self.runtime, ignore_errors=True)


def _children(parent: int, words: str) -> list[int]:
    pids = []
    for entry in Path("/proc").glob("[0-9]*"):
        try:
            mine = f"\nPPid:\t{parent}\n" in (entry / "status").read_text()
            if mine and words.encode() in (entry / "cmdline").read_bytes():
                pids.append(int(entry.name))
        except OSError:
            continue
    return pids


def stored(house: House, writers: list[Writer]) -> tuple[int, int, int]:
    """How many notes there are, how many that were acknowledged are lost, and how many are there twice."""
    database = Database(house.runtime / "mariadb", durable=True)
    ask = "SELECT REPLACE(`key`, '-', ''), bowl_id, seq FROM bowls_bowlevent"
    rows = [line.split("\t") for line in database.sql(ask, database="olive").splitlines()]
    there = [key for key, _, _ in rows]
    taps = database.sql("SELECT REPLACE(`key`, '-', '') FROM day_dayevent", database="olive").split()
    wanted = [k.hex for w in writers for k in w.acknowledged]
    doubled = len(there) - len(set(there)) + len(rows) - len({(bowl, seq) for _, bowl, seq in rows})
    return len(there) + len(taps), len(set(wanted) - {*there, *taps}), doubled + len(taps) - len(set(taps))


def unplanned(house: House, limit_s: float = 90.0) -> int:
    """How many days are still not planned after a while."""
    database, begun, left = Database(house.runtime / "mariadb", durable=True), time.monotonic(), 0
    ask = "SELECT COUNT(*) FROM day_dayplan WHERE state IN ('asked', 'solving')"
    while time.monotonic() - begun < limit_s:
        left = int(database.sql(ask, database="olive").split()[0])
        if not left:
            return 0
        time.sleep(1)
    return left


def main() -> int:
    """Kill parts amid writes; the exit code."""
    words = argparse.ArgumentParser(prog="python -m tools.hardship")
    words.add_argument("times", nargs="?", type=int, default=20)
    words.add_argument("makers", nargs="?", type=int, default=MAKERS)
    options = words.parse_args()
    times, makers = options.times, options.makers
    house, stop = House(), threading.Event()
    cooks = [Cook(house.port, stop) for _ in range(makers)]
    writers = [*(Writer(house.port, stop) for _ in range(makers)), *cooks]
    threads = [threading.Thread(target=w.run, daemon=True) for w in writers]
    away: dict[str, list[float]] = {v: [] for v in VICTIMS}
    off = 0.0
    try:
        house.start()
        for writer in writers:
            writer.begin()
        for thread in threads:
            thread.start()
        time.sleep(BETWEEN_S)
        for i in range(times):
            victim = VICTIMS[i % len(VICTIMS)]
            away[victim].append(house.kill(victim))
            off = max(off, *(cook.timer_off_s() for cook in cooks))
            print(f"{i + 1:3} {victim} killed, back in {away[victim][-1]:.1f} s", flush=True)
            time.sleep(BETWEEN_S * random.uniform(0.3, 1.0))
        stop.set()
        for thread in threads:
            thread.join(LONGEST_AWAY_S)
        count, lost, doubled = stored(house, writers)
        waiting = unplanned(house)
    except CannotStart as problem:
        print(problem, file=sys.stderr)
        return 1
    finally:
        stop.set()
        house.end()
    for trouble in filter(None, (w.trouble for w in writers)):
        print(f"a maker met {trouble}", file=sys.stderr)
    acknowledged = sum(len(w.acknowledged) for w in writers)
    worst = ", ".join(f"{v} {max(t):.1f} s" for v, t in away.items() if t)
    repeats = sum(w.repeats for w in writers)
    print(f"{times} kills, {acknowledged} notes acknowledged, {repeats} of them sent more than once")
    print(f"{count} lines stored, {lost} lost, {doubled} doubled; longest away: {worst}")
    print(f"timers off by {off:.1f} s at most; {waiting} days not planned")
    good = not (lost or doubled or waiting) and off <= TIMER_S and not any(w.trouble for w in writers)
    return 0 if good else 1


if __name__ == "__main__":
    sys.exit(main())
