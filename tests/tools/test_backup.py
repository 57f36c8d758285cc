"""A backup is whole and comes back whole; a runtime folder with something missing is put right or explained."""

import io
import json
import shutil
import tarfile
import tempfile
import time
import unittest
from pathlib import Path
from unittest import mock

from tools import put_back, runtime
from tools.backup import COUNTED, KEPT_NIGHTS, counts, due, fill, forget_old, unpack, write_backup
from tools.database import CannotStart, Database, memory_folder

ROWS = ("Comet night 🌠", "Sea glass 'n' \"olive\"", "ends with spaces  ", "\\back\nslash\0", "Žluťoučký")
TABLES = "".join(f"CREATE TABLE {t} (id INT PRIMARY KEY AUTO_INCREMENT, name VARCHAR(99));" for t in COUNTED.values())
KITCHENS = "SELECT id, HEX(name) FROM accounts_kitchen ORDER BY id"


def say(database: Database, statement: str) -> str:
    return database.sql(statement, database="olive")


class ABackup(unittest.TestCase):
    """One database in memory for all; it is stopped and started by the tests."""

    def setUp(self) -> None:
        self.home = memory_folder("test-backup")
        self.addCleanup(shutil.rmtree, self.home, ignore_errors=True)
        self.database = self.begin("mariadb")
        say(self.database, TABLES + "CREATE TABLE django_migrations (app VARCHAR(50), name VARCHAR(99));")
        values = ", ".join(f"(CONVERT(0x{row.encode().hex()} USING utf8mb4))" for row in ROWS)
        say(self.database, f"INSERT INTO accounts_kitchen (name) VALUES {values};")
        self.media = self.home / "media"
        (self.media / "7").mkdir(parents=True)
        (self.media / "7" / "photo").write_bytes(bytes(range(256)))

    def begin(self, name: str) -> Database:
        database = Database(self.home / name, durable=False)
        self.addCleanup(database.stop)
        database.start()
        return database

    def test_everything_comes_back_and_damage_is_said(self) -> None:
        file = self.home / "copy.tar.gz"
        manifest = write_backup(self.database, self.media, file)
        self.assertEqual(manifest.counts["kitchens"], len(ROWS))
        self.assertEqual(file.stat().st_mode & 0o777, 0o600)
        with self.assertRaisesRegex(CannotStart, "left alone"):
            write_backup(self.database, self.media, file)
        other = self.begin("other")
        folder = self.home / "unpacked"
        self.assertEqual(unpack(file, folder), manifest)
        fill(other, folder)
        self.assertEqual(say(other, KITCHENS), say(self.database, KITCHENS))
        self.assertEqual(counts(other), manifest.counts)
        self.assertEqual((folder / "media" / "7" / "photo").read_bytes(), bytes(range(256)))
        whole = file.read_bytes()
        for spoilt in (whole[: len(whole) // 2], b"", b"nothing of the kind"):
            file.write_bytes(spoilt)
            with self.assertRaisesRegex(CannotStart, "damaged"):
                unpack(file, self.home / "again")
        self.a_failed_restore_leaves_everything(whole)
        self.parts_that_went_missing()

    def a_failed_restore_leaves_everything(self, whole: bytes) -> None:
        before = say(self.database, KITCHENS)
        self.database.stop()
        (self.home / "copy.tar.gz").write_bytes(whole)
        broken = mock.patch.object(put_back, "fill", side_effect=CannotStart("no"))
        here = mock.patch.object(runtime, "RUNTIME", self.home)
        with here, broken, mock.patch("builtins.print"), self.assertRaises(CannotStart):
            put_back.restore(self.home / "copy.tar.gz")
        self.database.start()
        self.assertEqual(say(self.database, KITCHENS), before)
        self.assertTrue((self.media / "7" / "photo").exists())

    def parts_that_went_missing(self) -> None:
        folder, before = self.database.folder, say(self.database, KITCHENS)
        for name in ("password", "port", "ready", "my.cnf", "tmp"):
            self.database.stop()
            gone = folder / name
            shutil.rmtree(gone) if gone.is_dir() else gone.unlink()
            self.database.start()
            self.assertEqual(say(self.database, KITCHENS), before, f"without {name}")
        self.database.stop()
        (folder / "port").write_text("not a number")
        self.database.start()
        self.database.stop()
        shutil.rmtree(folder / "data")
        with self.assertRaisesRegex(CannotStart, "--restore FILE"):
            self.database.start()


class NotABackup(unittest.TestCase):
    def packed(self, home: Path, **members: str) -> Path:
        file = home / "x.tar.gz"
        with tarfile.open(file, "w:gz") as tar:
            for name, text in members.items():
                info = tarfile.TarInfo(name.replace("__", "/"))
                info.size = len(text)
                tar.addfile(info, io.BytesIO(text.encode()))
        return file

    def test_foreign_files_are_refused_and_write_nothing_outside(self) -> None:
        said = json.dumps({"kind": "olive-ribbon-backup", "version": 1, "made_at": "", "migrations": [], "counts": {}})
        newer = said.replace("[]", '["bowls.9999_from_later"]')
        whole = "-- Dump completed"
        with tempfile.TemporaryDirectory() as text:
            home = Path(text)
            for members, what in (
                ({"..__evil": "x"}, "does not belong"),
                ({"__etc__evil": "x"}, "does not belong"),
                ({}, "damaged"),
                ({"manifest.json": "{", "olive.sql": whole}, "damaged"),
                ({"manifest.json": said}, "damaged"),
                ({"manifest.json": said, "olive.sql": "half"}, "damaged"),
                ({"manifest.json": newer, "olive.sql": whole}, "newer"),
            ):
                with self.assertRaisesRegex(CannotStart, what):
                    unpack(self.packed(home, **members), home / "inside")
                shutil.rmtree(home / "inside", ignore_errors=True)
            self.assertFalse((home / "evil").exists())
            with self.assertRaisesRegex(CannotStart, "no such backup"):
                unpack(home / "nowhere", home / "inside")


class Nights(unittest.TestCase):
    def test_one_a_day_after_three_and_the_last_seven(self) -> None:
        with tempfile.TemporaryDirectory() as text:
            folder = Path(text)
            night = time.mktime((2026, 11, 25, 3, 5, 0, 0, 0, -1))
            self.assertIsNone(due(folder, night - 3600))
            self.assertEqual(due(folder, night).name, "2026-11-25.tar.gz")
            for day in range(10, 26):
                (folder / f"2026-11-{day}.tar.gz").touch()
            (folder / "mine.tar.gz").touch()
            (folder / ".2026-11-24.tar.gz.part").touch()
            self.assertIsNone(due(folder, night))
            forget_old(folder)
            left = sorted(p.name for p in folder.iterdir())
            self.assertEqual(left, [*(f"2026-11-{d}.tar.gz" for d in range(19, 26)), "mine.tar.gz"])
            self.assertEqual(KEPT_NIGHTS, 7)


class Room(unittest.TestCase):
    def test_a_disk_that_is_nearly_full_is_said_before_anything_is_begun(self) -> None:
        usage = shutil._ntuple_diskusage(10**9, 10**9 - 10**6, 10**6)  # type: ignore[attr-defined]
        with mock.patch("shutil.disk_usage", return_value=usage), self.assertRaisesRegex(CannotStart, "nearly full"):
            runtime.room_on_the_disk()
