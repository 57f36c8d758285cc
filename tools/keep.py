"""Keeping a copy: --backup, and every night."""

from __future__ import annotations

import threading
import time
from pathlib import Path

from tools import runtime
from tools.backup import due, forget_old, summary, write_backup
from tools.database import CannotStart, Database
from tools.put_back import tidy_up
from tools.runtime import AlreadyRunning, own_the_runtime

BACKUPS, MEDIA = "backups", "media"
LOOK_FOR_NIGHT_S, NIGHT_ENDS_S = 60.0, 3.0


def back_up(file: Path) -> None:
    """--backup: from the running database, or from one started for it."""
    database = Database(runtime.RUNTIME / "mariadb", durable=True)
    try:
        _lock = own_the_runtime()
    except AlreadyRunning:
        manifest = write_backup(database, runtime.RUNTIME / MEDIA, file)
    else:
        tidy_up()
        if not database.data.is_dir():
            raise CannotStart("There is nothing to back up yet: run ./start first.")
        try:
            database.start()
            manifest = write_backup(database, runtime.RUNTIME / MEDIA, file)
        finally:
            database.stop()
    print(f"Backed up {summary(manifest.counts)} to {file.absolute()}")


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

    def end(self) -> None:
        """Wait for a copy that is under way: its database is gone, so it breaks off and tidies up."""
        if self.thread:
            self.thread.join(NIGHT_ENDS_S)

    def _copy(self, file: Path) -> None:
        try:
            write_backup(self.database, runtime.RUNTIME / MEDIA, file, even_empty=False)
            forget_old(self.folder)
        except CannotStart as problem:
            print(f"Tonight's copy could not be made: {problem}", flush=True)
            self.next_look = time.monotonic() + 60 * LOOK_FOR_NIGHT_S
