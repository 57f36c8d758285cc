"""Backups and restores killed at every moment: `python -m tools.hardship_keeping [EVERY_S]`.

A restore that is killed ends, after the next ./start, as before or as the backup, and says which. A backup that is
killed leaves no file that looks whole. Nothing of either is left behind.
"""

from __future__ import annotations

import argparse
import shutil
import signal
import sys
import time
from pathlib import Path

from tools.backup import notes_in
from tools.database import CannotStart, Database
from tools.hardship import House

BEFORE, AFTER = "everything is as it was before", "Restored "


def kitchens(house: House) -> int:
    """How many kitchens there are."""
    database = Database(house.runtime / "mariadb", durable=True)
    return int(database.sql("SELECT COUNT(*) FROM accounts_kitchen", database="olive"))


def _one_more(house: House) -> None:
    from tools.bench import Maker

    Maker(house.port).open_demo()


def _stop(house: House) -> None:
    assert house.process
    house.process.terminate()
    house.process.wait(60)


def _said(house: House) -> str:
    said = house.runtime / "said"
    text = said.read_text()
    said.write_text("")
    return text


def _left(house: House) -> list[str]:
    return [p.name for p in house.runtime.iterdir() if p.name.startswith(("backup-", "restore"))]


def killed_after(house: House, wait_s: float, *words: str) -> bool:
    """Whether it had to be killed; False when it had ended by itself."""
    process = house.run(*words)
    until = time.monotonic() + wait_s
    while time.monotonic() < until and process.poll() is None:
        time.sleep(0.01)
    if process.poll() is not None:
        return False
    process.send_signal(signal.SIGKILL)
    process.wait()
    return True


def restores(house: House, file: Path, every_s: float) -> tuple[int, int, list[str]]:
    """How many ended as before and as after, and what was wrong."""
    saved = house.runtime.with_name(f"{house.runtime.name}-saved")
    shutil.copytree(house.runtime, saved)
    before, after, wrong, wait_s = 0, 0, list[str](), every_s
    try:
        while True:
            shutil.rmtree(house.runtime)
            shutil.copytree(saved, house.runtime)
            killed = killed_after(house, wait_s, "--restore", str(file))
            house.start()
            said, has = _said(house), kitchens(house)
            _stop(house)
            left = _left(house)
            before, after = before + (has == 2), after + (has == 1)
            good = {2: BEFORE in said or AFTER not in said, 1: AFTER in said}.get(has, False) and not left
            if not good:
                wrong.append(f"after {wait_s:.1f} s: {has} kitchens, {left}, said {said[-300:]!r}")
            print(f"restore killed after {wait_s:.1f} s: {'as before' if has == 2 else 'as the backup'}", flush=True)
            if not killed:
                return before, after, wrong
            wait_s += every_s
    finally:
        shutil.rmtree(saved, ignore_errors=True)


def backups(house: House, every_s: float) -> list[str]:
    """What was wrong with backups that were killed."""
    wrong, wait_s = list[str](), every_s
    while True:
        file = house.runtime / f"copy-{wait_s:.1f}.tar.gz"
        killed = killed_after(house, wait_s, "--backup", str(file))
        if file.exists() and notes_in(file) < 0:
            wrong.append(f"a broken backup after {wait_s:.1f} s")
        print(f"backup killed after {wait_s:.1f} s: {'whole' if file.exists() else 'no file'}", flush=True)
        if not killed:
            return wrong if file.exists() else [*wrong, "no backup was made"]
        wait_s += every_s


def main() -> int:
    """Kill restores and backups; the exit code."""
    words = argparse.ArgumentParser(prog="python -m tools.hardship_keeping")
    words.add_argument("every_s", nargs="?", type=float, default=0.2)
    every_s = words.parse_args().every_s
    house = House()
    try:
        house.start()
        _one_more(house)
        file = house.runtime.with_suffix(".tar.gz")
        house.run("--backup", str(file)).wait(60)
        _one_more(house)
        wrong = backups(house, every_s)
        _stop(house)
        before, after, more = restores(house, file, every_s)
    except CannotStart as problem:
        print(problem, file=sys.stderr)
        return 1
    finally:
        house.end()
        house.runtime.with_suffix(".tar.gz").unlink(missing_ok=True)
    for trouble in wrong + more:
        print(trouble, file=sys.stderr)
    print(f"{before} restores ended as before, {after} as the backup, {len(wrong + more)} otherwise")
    return 0 if before and after and not wrong + more else 1


if __name__ == "__main__":
    sys.exit(main())
