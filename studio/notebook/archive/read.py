"""An archive as it is read: nothing of it is believed before it was checked, and nothing is unpacked."""

from __future__ import annotations

import re
import struct
import zipfile
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import fastjsonschema

from coating.errors import CoatingError, Unreadable
from studio.common.brought import strict_json
from studio.common.types import Json
from studio.notebook.archive.schema import checker
from studio.notebook.archive.tables import BY_NAME, KIND, MOST_ROWS, TABLES, VERSION, Carried

MOST_ENTRIES, MOST_DIRECTORY = 40_000, 12_000_000
MOST_ROWS_BYTES, MOST_PHOTO_BYTES, MOST_ABOUT_BYTES = 90_000_000, 12_000_000, 4_000_000
MOST_OF_ROWS_BYTES, MOST_RATIO = 2_000_000_000, 400
_NAMES = re.compile(
    r"kitchen\.json|events\.csv|schemas/[a-z]{1,20}\.json|photos/[0-9a-f]{32}\.jpg|rows/[a-z]{1,20}-\d{4}\.json"
)
_END = struct.Struct("<4s4H2LH")  # the end of the list of what is in a zip
_LOCATOR_LONG = 20
NOT_ONE = "That file is no archive of a kitchen."
BROKEN = "That archive is damaged: {what}. Nothing of it was brought in."
NEWER = "That archive was made by a newer Olive Ribbon: bring this one up to date first."
TOO_LARGE = "There is far more in that archive than in any kitchen. Nothing of it was brought in."


def refuse(what: str) -> Unreadable:
    """What is wrong with it, in a sentence."""
    return Unreadable(BROKEN.format(what=what), field="file")


@dataclass
class Archive:
    """A zip that is open, whose list of files was checked, and what its `kitchen.json` says."""

    zip: zipfile.ZipFile
    sizes: dict[str, int]
    about: Json

    @property
    def rows(self) -> int:
        """How many rows it says it has."""
        return sum(table["rows"] for table in self.about["tables"].values())

    def rows_of(self, table: Carried) -> Iterator[Json]:
        """The rows of a table, checked against its schema, one file at a time. Raises Unreadable."""
        said, count, last = self.about["tables"][table.name], 0, 0
        for name in said["files"]:
            if not name.startswith(f"rows/{table.name}-"):
                raise refuse(f"{name[:40]} holds no {table.name}")
            rows = self._json(name, MOST_ROWS_BYTES)
            _check(table.name, rows, name)
            for row in rows:
                if row["id"] <= last:
                    raise refuse(f"the rows of {name} are not in their order")
                last = row["id"]
                yield row
            count += len(rows)
        if count != said["rows"]:
            raise refuse(f"it should hold {said['rows']} {table.name}, and holds {count}")

    def photo(self, hexed: str) -> bytes | None:
        """A photo by the name of its file; None where it is not there."""
        name = f"photos/{hexed}.jpg"
        return self._read(name, MOST_PHOTO_BYTES) if name in self.sizes else None

    def _read(self, name: str, most: int) -> bytes:
        """What is in a file of it, and no more than it said."""
        if name not in self.sizes:
            raise refuse(f"{name[:60]} is missing")
        if self.sizes[name] > most:
            raise Unreadable(TOO_LARGE, field="file")
        try:
            with self.zip.open(name) as file:
                raw = file.read(self.sizes[name] + 1)
        except (OSError, zipfile.BadZipFile, EOFError, NotImplementedError, RuntimeError, ValueError) as broken:
            raise refuse(f"{name[:60]} cannot be read") from broken
        except Exception as broken:  # zlib.error and the like
            raise refuse(f"{name[:60]} cannot be unpacked") from broken
        if len(raw) != self.sizes[name]:
            raise refuse(f"{name[:60]} is not as long as it says")
        return raw

    def _json(self, name: str, most: int) -> Any:
        try:
            return strict_json(self._read(name, most))
        except CoatingError as problem:
            if problem.message.startswith("It cannot"):
                raise refuse(f"{name[:60]} cannot be read as JSON") from problem
            raise


def open_archive(path: Path) -> Archive:
    """An archive whose frame was checked. Whoever opens it closes `zip`. Raises Unreadable."""
    _frame(path)
    try:
        zipped = zipfile.ZipFile(path)
    except (OSError, zipfile.BadZipFile, ValueError, NotImplementedError) as broken:
        raise Unreadable(NOT_ONE, field="file") from broken
    try:
        archive = Archive(zipped, _listed(zipped), {})
        if "kitchen.json" not in archive.sizes:
            raise Unreadable(NOT_ONE, field="file")
        archive.about = _about(archive)
    except BaseException:
        zipped.close()
        raise
    return archive


def _frame(path: Path) -> None:
    """What a zip says at its end of how much is in it, before that is read. Raises Unreadable."""
    try:
        with open(path, "rb") as file:
            size = file.seek(0, 2)
            file.seek(max(0, size - 70_000))
            tail = file.read()
    except OSError as problem:
        raise Unreadable(NOT_ONE, field="file") from problem
    at = tail.rfind(b"PK\x05\x06")
    if at < 0 or len(tail) < at + _END.size:
        raise Unreadable(NOT_ONE, field="file")
    _, _, _, _, entries, directory, _, _ = _END.unpack_from(tail, at)
    larger = tail[max(0, at - _LOCATOR_LONG) : at].startswith(b"PK\x06\x07")  # says elsewhere how much more there is
    if larger or entries > MOST_ENTRIES or directory > MOST_DIRECTORY:
        raise Unreadable(TOO_LARGE, field="file")


def _listed(zipped: zipfile.ZipFile) -> dict[str, int]:
    """Every file of it with its size: names of ours only, each once, nothing hidden, and no more than fits. Raises
    Unreadable."""
    sizes: dict[str, int] = {}
    for info in zipped.infolist():
        name = info.filename
        if not _NAMES.fullmatch(name) or name in sizes:
            raise refuse(f"{name[:60]!r} does not belong in it")
        if info.flag_bits & 0x1 or info.compress_type not in (zipfile.ZIP_STORED, zipfile.ZIP_DEFLATED):
            raise refuse(f"{name[:60]} is locked or packed in another way")
        if info.file_size > 10_000 and info.file_size > MOST_RATIO * max(1, info.compress_size):
            raise Unreadable(TOO_LARGE, field="file")
        sizes[name] = info.file_size
    if sum(size for name, size in sizes.items() if name.startswith("rows/")) > MOST_OF_ROWS_BYTES:
        raise Unreadable(TOO_LARGE, field="file")
    return sizes


def _about(archive: Archive) -> Json:
    """What it is, of which version, and how much there is of each table. Raises Unreadable."""
    about = archive._json("kitchen.json", MOST_ABOUT_BYTES)
    if not isinstance(about, dict) or about.get("kind") != KIND:
        raise Unreadable(NOT_ONE, field="file")
    version = about.get("v")
    if isinstance(version, bool) or not isinstance(version, int) or version < 1:
        raise refuse("it says no version")
    if version > VERSION:
        raise Unreadable(NEWER, field="file")
    _check("kitchen", about, "kitchen.json")
    for table in TABLES:
        if about["tables"][table.name]["rows"] > table.most:
            raise Unreadable(TOO_LARGE, field="file")
    if sum(table["rows"] for table in about["tables"].values()) > MOST_ROWS:
        raise Unreadable(TOO_LARGE, field="file")
    named = [name for table in about["tables"].values() for name in table["files"]]
    if len(named) != len(set(named)) or set(named) != {n for n in archive.sizes if n.startswith("rows/")}:
        raise refuse("its list of files is not what is in it")
    return about


def _check(name: str, data: object, file: str) -> None:
    """By the schema of a table, or of `kitchen.json`. Raises Unreadable."""
    assert name == "kitchen" or name in BY_NAME
    try:
        checker(name)(data)
    except fastjsonschema.JsonSchemaValueException as wrong:
        where = re.sub(r"[^\w.\[\]-]", "", str(wrong.name or "data"))[:60].removeprefix("data")
        at = f", {where.strip('.')}," if where.strip(".") else ""
        raise refuse(f"{file}{at} is not as it should be") from wrong
