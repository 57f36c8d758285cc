"""A kitchen written into an archive, row after row: what is in memory does not grow with it."""

from __future__ import annotations

import base64
import csv
import io
import json
import zipfile
from collections.abc import Callable, Iterator, Sequence
from datetime import UTC, date, datetime
from pathlib import Path
from typing import Any
from uuid import UUID

from django.db import connection, models, transaction

from studio.accounts.models import Kitchen
from studio.bowls.models import BowlEvent
from studio.common import clock
from studio.common.sheets import harmless
from studio.common.types import Json
from studio.day.models import STOPPED
from studio.notebook.archive.inside import turned
from studio.notebook.archive.schema import SCHEMAS
from studio.notebook.archive.tables import KIND, PROFILE, TABLES, VERSION, Carried
from studio.notebook.models import CameFrom, KeptPhoto, KitchenMark

AT_ONCE = 500
Tell = Callable[[int], None]


def write_archive(kitchen: Kitchen, path: Path, tell: Tell = lambda done: None) -> Json:
    """Everything of a kitchen as a zip at a path; `tell` hears how many rows and photos are done. Returns what its
    `kitchen.json` says."""
    part = path.with_suffix(".part")
    path.parent.mkdir(mode=0o700, parents=True, exist_ok=True)
    try:
        with zipfile.ZipFile(part, "w", zipfile.ZIP_DEFLATED, compresslevel=4) as out, as_of_now():
            about = _Writing(kitchen, out, tell).all()
        part.replace(path)
    finally:
        part.unlink(missing_ok=True)
    return about


def as_of_now() -> transaction.Atomic:
    """All that is read within is as of one moment."""
    if not connection.in_atomic_block:
        with connection.cursor() as cursor:
            cursor.execute("SET TRANSACTION ISOLATION LEVEL REPEATABLE READ")
    return transaction.atomic()


def rows_of(table: Carried, kitchen: Kitchen) -> models.QuerySet[Any]:
    """The rows of a table that belong to a kitchen, as they were made."""
    rows = table.model._default_manager.filter(kitchen=kitchen).order_by("pk")
    return rows.exclude(colour=None) if table.name == "shades" else rows


def count_of(kitchen: Kitchen) -> int:
    """How many rows and photos there are to write."""
    return sum(rows_of(table, kitchen).count() for table in TABLES) + KeptPhoto.objects.for_kitchen(kitchen).count()


class _Writing:
    """One archive while it is written."""

    def __init__(self, kitchen: Kitchen, out: zipfile.ZipFile, tell: Tell) -> None:
        self.kitchen, self.out, self.tell, self.done = kitchen, out, tell, 0

    def all(self) -> Json:
        tables = {table.name: self._table(table) for table in TABLES}
        self._events()
        self._photos()
        for schema in sorted(SCHEMAS.glob("*.json")):
            self.out.write(schema, f"schemas/{schema.name}")
        about = {
            "kind": KIND,
            "v": VERSION,
            "made_at": as_json(clock.now()),
            "origin": KitchenMark.of(self.kitchen).hex,
            "kitchen": {name: as_json(getattr(self.kitchen, name)) for name in PROFILE},
            "tables": tables,
        }
        self.out.writestr("kitchen.json", json.dumps(about, indent=1, ensure_ascii=False))
        return about

    def _table(self, table: Carried) -> Json:
        """Its rows in files of so many."""
        files, count = list[str](), 0
        for rows in _in_files(rows_of(table, self.kitchen), table):
            name = f"rows/{table.name}-{len(files) + 1:04d}.json"
            came = self._came(table, [row.pk for row in rows])
            data = [row_json(table, row) | came.get(row.pk, {}) for row in rows]
            self.out.writestr(name, json.dumps(data, ensure_ascii=False, separators=(",", ":")))
            files.append(name)
            count += len(rows)
            self._on(len(rows))
        return {"rows": count, "files": files}

    def _came(self, table: Carried, pks: Sequence[int]) -> dict[int, Json]:
        mine = CameFrom.objects.for_kitchen(self.kitchen).filter(table=table.name, here__in=pks)
        return {here: {"came": [o.hex, n]} for here, o, n in mine.values_list("here", "origin", "number")}

    def _on(self, many: int) -> None:
        self.done += many
        self.tell(self.done)

    def _events(self) -> None:
        """What was done to every bowl, for spreadsheets."""
        with self.out.open("events.csv", "w") as raw:
            text = io.TextIOWrapper(raw, encoding="utf-8", newline="")
            writer = csv.writer(text)
            writer.writerow(["when", "job", "bowl", "what", "of", "typed", "g", "units", "degrees C", "struck out"])
            names = dict(rows_of(TABLES[1], self.kitchen).values_list("pk", "name"))
            rows = BowlEvent.objects.for_kitchen(self.kitchen).order_by("pk")
            fields = ("happened_at", "bowl__job__name", "bowl__name", "kind", "payload", "struck_by")
            for at, job, bowl, kind, said, struck in rows.values_list(*fields).iterator(chunk_size=AT_ONCE):
                of = names.get(said.get("ingredient"), "")
                words = [harmless(str(w or "")) for w in (job, bowl, kind, of, said.get("typed", ""))]
                numbers = [said.get("mass_g", ""), said.get("units", ""), said.get("to_c", "")]
                writer.writerow([as_json(at), *words, *numbers, "yes" if struck else ""])
            text.flush()
            text.detach()

    def _photos(self) -> None:
        """Every photo, large, as it lies on the disk; one whose file is gone is left out."""
        for photo in KeptPhoto.objects.for_kitchen(self.kitchen).order_by("pk").iterator(chunk_size=AT_ONCE):
            file = photo.path("large")
            if file.is_file():
                self.out.write(file, f"photos/{photo.uid.hex}.jpg", compress_type=zipfile.ZIP_STORED)
            self._on(1)


def _in_files(rows: models.QuerySet[Any], table: Carried) -> Iterator[list[Any]]:
    held: list[Any] = []
    for row in rows.iterator(chunk_size=min(AT_ONCE, table.rows_a_file)):
        held.append(row)
        if len(held) == table.rows_a_file:
            yield held
            held = []
    if held:
        yield held


def row_json(table: Carried, row: Any) -> Json:
    """A row as an archive has it."""
    values = {field.name: as_json(getattr(row, field.attname)) for field in table.fields}
    if table.name == "days" and row.under_way:
        values["state"] = STOPPED  # nobody plans it any more where it arrives
    return {"id": row.pk, **values}


def as_json(value: Any) -> Any:
    """A value of a column."""
    if isinstance(value, datetime):
        return value.astimezone(UTC).isoformat()
    if isinstance(value, date):
        return value.isoformat()
    if isinstance(value, UUID):
        return str(value)
    if isinstance(value, bytes | memoryview):
        return base64.b64encode(bytes(value)).decode()
    return value


def known_as(about: Json, row: Json) -> tuple[str, int]:
    """What a row is known by: where it was first, and its number there."""
    origin, number = row.get("came") or (about["origin"], row["id"])
    return origin, number


def bare(name: str, row: Json, named: Any) -> Json:
    """A row without what differs from kitchen to kitchen: every number becomes what `named` says of it."""
    values = {n: v for n, v in turned(name, row, named).items() if n not in ("id", "came", "uid")}
    return {**values, "known": named(name, row["id"])}
