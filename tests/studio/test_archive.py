"""A kitchen as one file: out, in, out again; twice; into a used kitchen; damaged; hostile."""

from __future__ import annotations

import json
import random
import shutil
import struct
import tempfile
import zipfile
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

from django.test import TestCase

from coating.errors import CoatingError
from studio.accounts.models import Kitchen
from studio.bowls.models import BowlEvent
from studio.common.models import KitchenOwned
from studio.common.types import Json
from studio.demo.load_demo import open_demo_kitchen
from studio.notebook.archive.bring import bring_archive
from studio.notebook.archive.inside import CODE
from studio.notebook.archive.read import NEWER, NOT_ONE, TOO_LARGE, open_archive
from studio.notebook.archive.schema import SCHEMAS, as_text, schemas
from studio.notebook.archive.tables import BY_NAME, TABLES
from studio.notebook.archive.write import bare, known_as, write_archive
from studio.notebook.models import CameFrom, KeptPhoto
from studio.pieces.models import Job
from tests.studio.kitchens import half_dip, maker


@contextmanager
def opened(path: Path) -> Iterator[Any]:
    archive = open_archive(path)
    try:
        yield archive
    finally:
        archive.zip.close()


def brought(kitchen: Kitchen, path: Path) -> int:
    with opened(path) as archive:
        return bring_archive(kitchen, archive)


def told_of(path: Path) -> Json:
    """All that an archive says, with every number as what it stands for, and without its dates."""
    with opened(path) as archive:
        rows = {table.name: list(archive.rows_of(table)) for table in TABLES}
        about = archive.about
        photos = {name: archive.zip.read(name) for name in archive.sizes if name.startswith("photos/")}
    known = {name: {row["id"]: known_as(about, row) for row in mine} for name, mine in rows.items()}

    def named(table: str, number: Any, *, soft: bool = False) -> Any:
        return number if table == CODE else f"{table} {known[table].get(number)}"

    said = {name: [_said(name, row, named) for row in mine] for name, mine in rows.items()}
    uids = {row["uid"].replace("-", ""): known["photos"][row["id"]] for row in rows["photos"]}
    files = {uids[name[7:-4]]: raw for name, raw in photos.items()}
    return {"kitchen": about["kitchen"], "tables": said, "photos": files}


def _said(name: str, row: Json, named: Callable[..., Any]) -> Json:
    return json.loads(json.dumps(bare(name, row, named), sort_keys=True))  # type: ignore[no-any-return]


def rewritten(path: Path, change: Callable[[str, bytes], bytes | None], more: Json | None = None) -> Path:
    """Another zip with its files changed; None leaves one out."""
    to = path.with_name(f"other-{random.randrange(10**9)}.zip")
    with zipfile.ZipFile(path) as source, zipfile.ZipFile(to, "w", zipfile.ZIP_DEFLATED) as out:
        for info in source.infolist():
            raw = change(info.filename, source.read(info))
            if raw is not None:
                out.writestr(info.filename, raw)
        for name, raw in (more or {}).items():
            out.writestr(name, raw)
    return to


class Archives(TestCase):
    @classmethod
    def setUpTestData(cls) -> None:
        cls.kitchen = open_demo_kitchen()
        cls.folder = Path(tempfile.mkdtemp(prefix="olive-archives-"))
        cls.addClassCleanup(shutil.rmtree, cls.folder, ignore_errors=True)
        cls.path = cls.folder / "first.zip"
        write_archive(cls.kitchen, cls.path)

    def counts(self, kitchen: Kitchen) -> dict[str, int]:
        return {t.name: t.model._default_manager.filter(kitchen=kitchen).count() for t in TABLES}

    def test_out_in_and_out_again_is_the_same(self) -> None:
        _, other, _ = maker()
        self.assertGreater(brought(other, self.path), 300)
        again = self.folder / "again.zip"
        other.refresh_from_db()
        write_archive(other, again)
        first, second = told_of(self.path), told_of(again)
        self.assertEqual(first["kitchen"], second["kitchen"])
        for name in BY_NAME:
            self.assertEqual(first["tables"][name], second["tables"][name], name)
        self.assertEqual(first["photos"], second["photos"])
        self.assertEqual(len(first["photos"]), 7)

    def test_the_same_twice_changes_nothing(self) -> None:
        _, other, _ = maker()
        brought(other, self.path)
        before = self.counts(other)
        self.assertEqual(brought(other, self.path), 0)
        self.assertEqual(brought(self.kitchen, self.path), 0)
        self.assertEqual(self.counts(other), before)
        again = self.folder / "from-there.zip"
        write_archive(other, again)
        self.assertEqual(brought(self.kitchen, again), 0)  # it knows its own rows wherever they have been

    def test_what_was_deleted_since_comes_back(self) -> None:
        _, other, _ = maker()
        brought(other, self.path)
        Job.objects.filter(kitchen=other, name="Launch day").delete()
        self.assertGreater(brought(other, self.path), 3)
        self.assertEqual(Job.objects.filter(kitchen=other, name="Launch day").count(), 1)

    def test_a_used_kitchen_keeps_what_it_has(self) -> None:
        _, other, client = maker()
        half_dip(other)
        mine = {
            t.name: set(t.model._default_manager.filter(kitchen=other).values_list("pk", flat=True)) for t in TABLES
        }
        name = other.name
        brought(other, self.path)
        other.refresh_from_db()
        self.assertEqual(other.name, name)
        for table in TABLES:
            now = set(table.model._default_manager.filter(kitchen=other).values_list("pk", flat=True))
            self.assertLessEqual(mine[table.name], now, table.name)
        evening = Job.objects.get(kitchen=other, name="Equinox evening")
        theirs = Job.objects.get(kitchen=self.kitchen, name="Equinox evening")
        self.assertContains(client.get(f"/notebook/{evening.pk}/"), "21 drops")
        blue = {e.payload["ingredient"] for e in BowlEvent.objects.filter(bowl__job=evening, kind="added")}
        self.assertFalse(
            blue & {e.payload["ingredient"] for e in BowlEvent.objects.filter(bowl__job=theirs, kind="added")}
        )
        self.assertEqual(client.get(f"/notebook/{theirs.pk}/").status_code, 404)

    def test_schemas_are_what_is_shipped(self) -> None:
        for name, schema in schemas().items():
            self.assertEqual((SCHEMAS / f"{name}.json").read_text(), as_text(schema), name)
        owned = {m for m in KitchenOwned.__subclasses__() if not m._meta.abstract}
        left_out = {m.__name__ for m in owned} - {t.model.__name__ for t in TABLES}
        self.assertEqual(left_out, {"Sent", "BowlSummary", "CameFrom", "Carrying"})

    # -- damaged and hostile -----------------------------------------------------------------------------------
    def refused(self, path: Path, *words: str) -> None:
        _, other, _ = maker(f"m{random.randrange(10**9)}@example.org")
        before = self.counts(other)
        with self.assertRaises(CoatingError) as caught:
            brought(other, path)
        for word in words:
            self.assertIn(word, caught.exception.message)
        self.assertEqual(self.counts(other), before)
        self.assertFalse(CameFrom.objects.filter(kitchen=other).exists())
        self.assertEqual(list((KeptPhoto(kitchen=other).path("large").parent).glob("*")), [])

    def changed(self, name: str, change: Callable[[Any], Any]) -> Path:
        def of(file: str, raw: bytes) -> bytes:
            return json.dumps(change(json.loads(raw))).encode() if file == name else raw

        return rewritten(self.path, of)

    def test_no_archive_at_all(self) -> None:
        for raw in (b"", b"PK\x05\x06", b"PK\x03\x04" + b"x" * 400, b"%PDF-1.7"):
            path = self.folder / "none.zip"
            path.write_bytes(raw)
            self.refused(path, NOT_ONE)
        self.refused(rewritten(self.path, lambda name, raw: None if name == "kitchen.json" else raw), NOT_ONE)
        whole = self.path.read_bytes()
        path.write_bytes(whole[: len(whole) // 2])
        self.refused(path)

    def test_versions(self) -> None:
        self.refused(self.changed("kitchen.json", lambda d: {**d, "v": 2}), NEWER)
        self.refused(self.changed("kitchen.json", lambda d: {**d, "v": "1"}), "says no version")
        self.refused(self.changed("kitchen.json", lambda d: {**d, "kind": "other"}), NOT_ONE)

    def test_names_that_lead_elsewhere(self) -> None:
        for name in ("../evil.json", "/etc/evil", "rows/../../x.json", "photos/x.php", "rows/colours-0001.json/x"):
            self.refused(rewritten(self.path, lambda _, raw: raw, {name: b"[]"}), "does not belong")

    def test_bombs(self) -> None:
        self.refused(
            rewritten(self.path, lambda n, raw: b" " * 60_000_000 if n.startswith("rows/jobs") else raw), TOO_LARGE
        )
        raw = self.path.read_bytes()
        at = raw.rfind(b"PK\x05\x06")
        bad = raw[: at + 10] + struct.pack("<H", 65_000) + raw[at + 12 :]
        path = self.folder / "many.zip"
        path.write_bytes(bad)
        self.refused(path, TOO_LARGE)
        deep = b"[" * 100_000 + b"]" * 100_000
        self.refused(rewritten(self.path, lambda n, raw: deep if n.startswith("rows/jobs") else raw))

    def test_a_hundred_thousand_rows(self) -> None:
        def many(about: Json) -> Json:
            about["tables"]["colours"]["rows"] = 100_000
            return about

        self.refused(self.changed("kitchen.json", many), TOO_LARGE)

    def test_rows_that_are_none(self) -> None:
        def first(**values: Any) -> Callable[[Any], Any]:
            return lambda rows: [{**rows[0], **values}, *rows[1:]]

        cases = (
            ("rows/colours-0001.json", first(lightness="70")),
            ("rows/colours-0001.json", first(lightness=1e300)),
            ("rows/colours-0001.json", first(lightness=5000)),
            ("rows/colours-0001.json", first(name="x" * 61)),
            ("rows/colours-0001.json", first(owner=1)),
            ("rows/colours-0001.json", lambda rows: [rows[0], rows[0], *rows[1:]]),
            ("rows/colours-0001.json", lambda rows: rows[1:]),
            ("rows/jobs-0001.json", first(due_on="2026-13-45")),
            ("rows/pieces-0001.json", first(size={"v": 3, "mm": []})),
            ("rows/pieces-0001.json", first(core="spaceship")),
            ("rows/layers-0001.json", first(technique="magic")),
            ("rows/layers-0001.json", first(parameters={"v": 2, "share": "half"})),
            ("rows/events-0001.json", first(payload={"mass_g": 3})),
            ("rows/events-0001.json", first(payload={})),
            ("rows/events-0001.json", first(seq=999_999_999_999)),
            ("rows/days-0001.json", first(told={"v": 1})),
        )
        for name, change in cases:
            with self.subTest(name=name):
                self.refused(self.changed(name, change))

    def test_rows_of_somebody_else(self) -> None:
        _, stranger, _ = maker("stranger@example.org")
        job = half_dip(stranger).job_id

        def theirs(rows: Any) -> Any:
            return [{**rows[0], "job": job}, *rows[1:]]

        self.refused(self.changed("rows/pieces-0001.json", theirs), "points to")
        theirs_too = {"ingredient": 10**9, "mass_g": 10.0}
        self.refused(
            self.changed("rows/events-0001.json", lambda rows: [{**rows[0], "payload": theirs_too}, *rows[1:]]),
            "points to",
        )

    def test_photos_that_are_none(self) -> None:
        self.refused(
            rewritten(self.path, lambda n, raw: b"\xff\xd8nothing" if n.startswith("photos/") else raw), "photos"
        )

    def test_bits_that_fell_over(self) -> None:
        """Whatever single bytes are wrong, it is refused or read; it never ends otherwise."""
        random.seed(11)
        raw = self.path.read_bytes()
        for _ in range(40):
            at = random.randrange(len(raw))
            path = self.folder / "bits.zip"
            path.write_bytes(raw[:at] + bytes([raw[at] ^ (1 << random.randrange(8))]) + raw[at + 1 :])
            try:
                with opened(path) as archive:
                    for table in TABLES:
                        for _row in archive.rows_of(table):
                            pass
            except CoatingError:
                continue
