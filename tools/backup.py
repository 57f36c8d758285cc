"""One file that holds everything: a consistent dump of the database, with media. Written, checked, put back.

A backup is a gzipped tar of `manifest.json` (when, which migrations, how much), `olive.sql` and `media/`. Only makers'
data are in it, password hashes included, so it is readable by its owner alone.
"""

from __future__ import annotations

import json
import os
import shutil
import subprocess
import tarfile
import time
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path, PurePosixPath

from tools.database import ROOT, CannotStart, Database, program
from tools.runtime import work_folder

KIND, VERSION = "olive-ribbon-backup", 1
COUNTED = {"kitchens": "accounts_kitchen", "jobs": "pieces_job", "bowls": "bowls_bowl", "notes": "bowls_bowlevent"}
KEPT_NIGHTS = 7
NIGHT_FROM_HOUR = 3


@dataclass(frozen=True)
class Manifest:
    """What a backup says of itself; the counts are of about that moment."""

    made_at: str
    migrations: tuple[str, ...]
    counts: dict[str, int]


def summary(counted: dict[str, int]) -> str:
    """What a backup holds, in a line."""
    return ", ".join(f"{what} {n}" for what, n in counted.items())


# -- writing ------------------------------------------------------------------------------------------------------
def write_backup(database: Database, media: Path, file: Path, *, even_empty: bool = True) -> Manifest:
    """Write a backup of a running database and a media folder to `file`, whole or not at all; of a site without a
    kitchen only if `even_empty`. Raises CannotStart."""
    file = file.absolute()
    if file.exists():
        raise CannotStart(f"There is a file of that name already, and it is left alone: {file}")
    if not file.parent.is_dir():
        raise CannotStart(f"There is no folder {file.parent} to put the backup in.")
    part = file.with_name(f".{file.name}.part")
    try:
        with work_folder("backup", database.folder.parent) as work:
            dump, about = work / "olive.sql", work / "manifest.json"
            manifest = _dump(database, dump)
            if not (even_empty or manifest.counts["kitchens"]):
                return manifest
            about.write_text(json.dumps({"kind": KIND, "version": VERSION, **manifest.__dict__}, indent=1))
            part.touch(mode=0o600)
            with tarfile.open(part, "w:gz", compresslevel=6) as tar:
                tar.add(about, "manifest.json")
                tar.add(dump, "olive.sql")
                if media.is_dir():
                    tar.add(media, "media")
        with open(part, "rb") as written:
            os.fsync(written.fileno())
        part.replace(file)
    except OSError as problem:
        part.unlink(missing_ok=True)
        raise CannotStart(f"The backup could not be written: {problem.strerror or problem}.") from problem
    return manifest


def _dump(database: Database, dump: Path) -> Manifest:
    """Everything as of one moment: the dump is a single transaction."""
    command = [
        program("mariadb-dump"),
        "--no-defaults",
        f"--socket={database.socket}",
        f"-u{database.administrator}",
        "--single-transaction",
        "--quick",
        "--hex-blob",
        "--default-character-set=utf8mb4",
        "olive",
    ]
    with open(dump, "wb") as out:
        done = subprocess.run(command, stdout=out, stderr=subprocess.PIPE, check=False)
    if done.returncode:
        raise CannotStart(f"The database could not be copied: {done.stderr.decode(errors='replace').strip()[-400:]}")
    if not _whole(dump):
        raise CannotStart("The database could not be copied whole.")
    return Manifest(time.strftime("%Y-%m-%d %H:%M:%S %z"), _migrations(database), counts(database))


def _whole(dump: Path) -> bool:
    """Whether a dump has its last line."""
    with open(dump, "rb") as text:
        text.seek(max(0, dump.stat().st_size - 200))
        return b"-- Dump completed" in text.read()


def _migrations(database: Database) -> tuple[str, ...]:
    return tuple(database.sql("SELECT CONCAT(app, '.', name) FROM django_migrations", database="olive").split())


def counts(database: Database) -> dict[str, int]:
    """How many rows of each kind there are."""
    ask = " UNION ALL ".join(f"SELECT '{what}', COUNT(*) FROM {table}" for what, table in COUNTED.items())
    return {what: int(n) for what, n in (line.split("\t") for line in database.sql(ask, database="olive").splitlines())}


# -- reading ------------------------------------------------------------------------------------------------------
def _members(tar: tarfile.TarFile) -> Iterator[tuple[tarfile.TarInfo, PurePosixPath]]:
    for member in tar:
        path = PurePosixPath(member.name)
        if path.is_absolute() or ".." in path.parts or not (member.isfile() or member.isdir()):
            raise CannotStart(f"This is no backup of Olive Ribbon: {member.name} does not belong in one.")
        yield member, path


def unpack(file: Path, folder: Path) -> Manifest:
    """Check a backup and unpack it to `folder`. Raises CannotStart with what is wrong with it."""
    if not file.is_file():
        raise CannotStart(f"There is no such backup: {file}")
    try:
        with tarfile.open(file, "r:gz") as tar:
            for member, path in _members(tar):
                source = tar.extractfile(member)
                target = folder / path
                if source is None:
                    target.mkdir(parents=True, exist_ok=True)
                    continue
                target.parent.mkdir(parents=True, exist_ok=True)
                with source, open(target, "wb") as out:
                    shutil.copyfileobj(source, out)
        said = json.loads((folder / "manifest.json").read_text())
        manifest = Manifest(said["made_at"], tuple(said["migrations"]), dict(said["counts"]))
        if said["kind"] != KIND or said["version"] != VERSION or not _whole(folder / "olive.sql"):
            raise KeyError("kind")
    except (OSError, EOFError, tarfile.TarError, ValueError, KeyError, TypeError) as problem:
        raise CannotStart(f"{file} is no backup of Olive Ribbon, or it is damaged.") from problem
    unknown = [m for m in manifest.migrations if m.split(".")[0] in _ours() and m not in _known()]
    if unknown:
        raise CannotStart(
            f"This backup was made by a newer Olive Ribbon ({unknown[0]}): bring this one up to date first."
        )
    return manifest


def _ours() -> set[str]:
    return {p.parent.name for p in (ROOT / "studio").glob("*/migrations")}


def _known() -> set[str]:
    return {f"{p.parent.parent.name}.{p.stem}" for p in (ROOT / "studio").glob("*/migrations/0*.py")}


def fill(database: Database, unpacked: Path) -> None:
    """Load an unpacked backup into a fresh, running database. Raises CannotStart."""
    command = [
        program("mariadb"),
        "--no-defaults",
        f"--socket={database.socket}",
        f"-u{database.administrator}",
        "--default-character-set=utf8mb4",
        "olive",
    ]
    with open(unpacked / "olive.sql", "rb") as dump:
        done = subprocess.run(command, stdin=dump, stdout=subprocess.DEVNULL, stderr=subprocess.PIPE, check=False)
    if done.returncode:
        raise CannotStart(f"The backup could not be read in: {done.stderr.decode(errors='replace').strip()[-400:]}")


def notes_in(file: Path) -> int:
    """How many notes a backup holds, as it says of itself; -1 when it cannot be read."""
    try:
        with tarfile.open(file, "r:gz") as tar:
            first = tar.next()
            about = tar.extractfile(first) if first and first.name == "manifest.json" else None
            return int(json.loads(about.read(100_000))["counts"]["notes"]) if about else -1
    except (OSError, EOFError, tarfile.TarError, ValueError, KeyError, TypeError):
        return -1


# -- every night --------------------------------------------------------------------------------------------------
def due(folder: Path, now: float) -> Path | None:
    """The file for tonight's copy, or None when it is there or the night is young. One a day, from three o'clock on."""
    local = time.localtime(now)
    tonight = folder / f"{time.strftime('%Y-%m-%d', local)}.tar.gz"
    return None if local.tm_hour < NIGHT_FROM_HOUR or tonight.exists() else tonight


def forget_old(folder: Path) -> None:
    """Keep the newest seven copies, and the fullest there is: a site that lost its notes does not push it out."""
    copies = sorted(folder.glob("[0-9][0-9][0-9][0-9]-[0-9][0-9]-[0-9][0-9].tar.gz"))
    notes = {copy: notes_in(copy) for copy in copies}
    fullest = max(notes.values(), default=0)
    for old in copies[:-KEPT_NIGHTS]:
        if notes[old] <= 0 or notes[old] < fullest:
            old.unlink()
    for left in folder.glob(".*.part"):
        left.unlink()
