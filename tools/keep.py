"""Keeping a copy and putting one back: --backup, --restore, and every night."""

from __future__ import annotations

import shutil
import tempfile
import threading
import time
from pathlib import Path

from tools import runtime
from tools.backup import counts, due, fill, forget_old, summary, unpack, write_backup
from tools.database import CannotStart, Database
from tools.runtime import AlreadyRunning, environment, manage, own_the_runtime, room_on_the_disk, set_aside

BACKUPS, MEDIA = "backups", "media"
LOOK_FOR_NIGHT_S = 60.0


def back_up(file: Path) -> None:
    """--backup: from the running database, or from one started for it."""
    database = Database(runtime.RUNTIME / "mariadb", durable=True)
    try:
        _lock = own_the_runtime()
    except AlreadyRunning:
        manifest = write_backup(database, runtime.RUNTIME / MEDIA, file)
    else:
        if not database.data.is_dir():
            raise CannotStart("There is nothing to back up yet: run ./start first.")
        try:
            database.start()
            manifest = write_backup(database, runtime.RUNTIME / MEDIA, file)
        finally:
            database.stop()
    print(f"Backed up {summary(manifest.counts)} to {file.absolute()}")


def restore(file: Path) -> None:
    """--restore: the whole backup is read and checked before anything that is there is set aside."""
    try:
        _lock = own_the_runtime()
    except AlreadyRunning as problem:
        raise CannotStart("Olive Ribbon is running from this folder: end it first, then restore.") from problem
    room_on_the_disk()
    folders = [runtime.RUNTIME / "mariadb", runtime.RUNTIME / MEDIA]
    with tempfile.TemporaryDirectory(prefix="restore-", dir=runtime.RUNTIME) as work:
        unpacked = Path(work)
        manifest = unpack(file, unpacked)
        kept = {folder: set_aside(folder) for folder in folders}
        database = Database(folders[0], durable=True)
        try:
            database.start()
            fill(database, unpacked)
            manage(environment(database), "migrate", "--noinput", "-v0")
            found = summary(counts(database))
            if (unpacked / MEDIA).is_dir():
                shutil.move(str(unpacked / MEDIA), str(folders[1]))
        except BaseException:
            database.stop()
            for folder, before in kept.items():
                shutil.rmtree(folder, ignore_errors=True)
                if before:
                    shutil.move(str(before), str(folder))
            print("Everything is as it was before.")
            raise
        finally:
            database.stop()
    print(f"Restored {found}, as of {manifest.made_at}. Now run ./start.")


class Nights:
    """A copy every night, in a thread of its own so that the watch goes on."""

    def __init__(self, database: Database) -> None:
        self.database, self.folder = database, runtime.RUNTIME / BACKUPS
        self.next_look = 0.0
        self.thread: threading.Thread | None = None

    def look(self) -> None:
        """Begin a copy when one is due and none is under way."""
        if time.monotonic() < self.next_look or (self.thread and self.thread.is_alive()):
            return
        self.next_look = time.monotonic() + LOOK_FOR_NIGHT_S
        self.folder.mkdir(exist_ok=True)
        file = due(self.folder, time.time())
        if file:
            self.thread = threading.Thread(target=self._copy, args=(file,), daemon=True)
            self.thread.start()

    def _copy(self, file: Path) -> None:
        try:
            write_backup(self.database, runtime.RUNTIME / MEDIA, file)
            forget_old(self.folder)
        except CannotStart as problem:
            print(f"Tonight's copy could not be made: {problem}", flush=True)
            self.next_look = time.monotonic() + 60 * LOOK_FOR_NIGHT_S
