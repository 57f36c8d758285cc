"""--restore: a backup is filled in aside, and put in place by renames.

Whenever it is broken off, what is there afterwards is all of before or all of the backup. Until the filled folder is
called `restored`, nothing of what was there has been touched; once it is, `finish` carries the renames through, at the
end of the restore or at the beginning of the next ./start.
"""

from __future__ import annotations

import json
import os
import shutil
import time
from pathlib import Path

from tools import runtime
from tools.backup import counts, fill, summary, unpack
from tools.database import CannotStart, Database
from tools.runtime import AlreadyRunning, environment, manage, own_the_runtime, room_on_the_disk, work_folder

RESTORED, ABOUT, PLACES = "restored", "about.json", ("mariadb", "media")


def restore(file: Path) -> None:
    """The whole backup is read, checked and filled into a database of its own before anything is put in its place."""
    try:
        _lock = own_the_runtime()
    except AlreadyRunning as problem:
        raise CannotStart("Olive Ribbon is running from this folder: end it first, then restore.") from problem
    tidy_up()
    room_on_the_disk()
    try:
        with work_folder("restore") as side:
            whole = side / "whole"
            manifest = unpack(file, side)
            database = Database(whole / "mariadb", durable=True)
            try:
                database.start()
                fill(database, side)
                manage(environment(database), "migrate", "--noinput", "-v0")
                rows = summary(counts(database))
            finally:
                database.stop()
            (side / "media").mkdir(exist_ok=True)
            (side / "media").rename(whole / "media")
            _decide(whole, f"{rows}, as of {manifest.made_at}")
    except BaseException:
        if not (runtime.RUNTIME / RESTORED).exists():
            print("Everything is as it was before.", flush=True)
        raise
    finish()
    print("Now run ./start.")


def tidy_up() -> None:
    """What a restore or a backup that was broken off left behind: carried through, or taken away. Needs the lock."""
    if (runtime.RUNTIME / RESTORED).exists():
        finish()
    for folder in runtime.left_work_folders():
        Database(folder / "whole" / "mariadb", durable=True).end_leftover()
        shutil.rmtree(folder, ignore_errors=True)
        if folder.name.startswith("restore"):
            print("A restore was broken off before it was whole: everything is as it was before.", flush=True)


def _decide(whole: Path, what: str) -> None:
    """From here on the backup is what counts: one rename decides."""
    stamp = time.strftime("%Y%m%d-%H%M%S")
    kept = {name: f"{name}.before-{stamp}" for name in PLACES}
    (whole / ABOUT).write_text(json.dumps({"kept": kept, "what": what}))
    os.sync()
    whole.rename(runtime.RUNTIME / RESTORED)
    _sync(runtime.RUNTIME)


def finish() -> None:
    """Put in place what is called restored. Any of its steps may be done already."""
    restored = runtime.RUNTIME / RESTORED
    about = json.loads((restored / ABOUT).read_text())
    for name in PLACES:
        now, kept = runtime.RUNTIME / name, runtime.RUNTIME / about["kept"][name]
        if not (restored / name).exists():
            continue
        if now.exists():
            now.rename(kept)
        (restored / name).rename(now)
    _sync(runtime.RUNTIME)
    for kept in (runtime.RUNTIME / name for name in about["kept"].values()):
        if kept.exists():
            print(f"What there was so far is kept in {kept}")
    print(f"Restored {about['what']}.", flush=True)
    shutil.rmtree(restored)


def _sync(folder: Path) -> None:
    """The names in a folder are on the disk."""
    line = os.open(folder, os.O_RDONLY)
    try:
        os.fsync(line)
    finally:
        os.close(line)
