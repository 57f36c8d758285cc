"""A kitchen as one file: out, in, out again; twice; into a used kitchen; damaged; hostile."""

from __future__ import annotations

import json
import random
import shutil
import struct
import tempfile
import uuid
import zipfile
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any
from unittest import mock

from django.test import TestCase

from coating.errors import CoatingError
from studio.accounts.models import Kitchen
from studio.bowls.models import Bowl, BowlEvent, Timer
from studio.colours.models import Colour, Photo
from studio.common import clock
from studio.common.models import KitchenOwned
from studio.common.types import Json
from studio.cupboard.models import Extra, Ingredient, Optics, Parameter
from studio.day.models import DayEvent, DayPlan
from studio.demo.load_demo import open_demo_kitchen
from studio.designs.models import Design, Shape
from studio.learned.models import Said
from studio.notebook.archive.bring import bring_archive
from studio.notebook.archive.inside import CODE
from studio.notebook.archive.read import NEWER, NOT_ONE, TOO_LARGE, open_archive
from studio.notebook.archive.schema import SCHEMAS, as_text, schemas
from studio.notebook.archive.tables import BY_NAME, TABLES
from studio.notebook.archive.write import bare, known_as, write_archive
from studio.notebook.models import CameFrom, KeptPhoto, MadeAgain, Note, OpenedPack
from studio.notebook.notes import put_otherwise
from studio.pieces.carried_out import piece_json
from studio.pieces.models import Job, Layer, Template
from studio.pieces.stacks import plan_of
from studio.rescue.models import Rescue
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


def told_everything(kitchen: Kitchen) -> None:
    """Whatever names other rows inside its JSON, once."""
    now, of = clock.now(), {"kitchen": kitchen}
    job = Job.objects.get(kitchen=kitchen, name="Comet night")
    pieces, blue = list(job.pieces.all()), Colour.objects.get(kitchen=kitchen, name="Dusk blue")
    layers = list(Layer.objects.filter(piece__job=job))
    bag, extra = (model.objects.filter(kitchen=kitchen).last() for model in (Ingredient, Extra))
    bowl = Bowl.objects.filter(kitchen=kitchen, finished_at=None).first()
    assert bowl is not None and bag is not None and extra is not None
    timer = Timer.objects.create(
        **of, bowl=bowl, says="A coat", seconds=60, rings_at=now, about={"v": 1, "place": "room"}
    )
    event = BowlEvent.objects.filter(bowl=bowl).last()
    plan = DayPlan.objects.filter(job=job).first()
    parameter = Parameter.objects.filter(kitchen=kitchen).last()
    assert event is not None and plan is not None and parameter is not None
    for name in ("strength.blue", f"record.{event.pk}", f"record.set-{timer.pk}", f"record.pace-{plan.pk}",
                 f"record.drops-{parameter.pk}", "coat.dip"):  # fmt: skip
        Said.objects.create(**of, name=name, word="label", at=now)
    job.boxes = {
        "v": 1,
        "by": {str(pieces[0].pk): {"box": "card", "layers": 2}},
        "mixed": [{"of": {str(pieces[0].pk): 2, str(pieces[1].pk): 1}, "box": "card"}],
    }
    job.taught = {"v": 1, "of": {"strength.blue": [1.1, 1.0, 1.2], "pace": [0.9, 0.8, 1.0]}}
    job.save()
    layer = layers[0]
    layer.parameters |= {
        "also": [extra.pk],
        "others": [{"colour": blue.pk, "base": None, "share": 0.2, "depth_g": 0.0}],
    }
    layer.save()
    Template.objects.create(
        **of, name="A piece", piece=piece_json(plan_of(Job.objects.whole(kitchen, job.pk).pieces.first()))
    )
    shape = Shape.objects.create(
        **of, name="Moon", areas={"v": 1, "parts": [[[0, 0, 9, 0, 9, 9]]], "lines": []}, picture=b"grey"
    )
    design = Design.objects.filter(kitchen=kitchen, kind="run_out", layer=None).first()
    assert design is not None
    design.asked |= {"shape": f"own:{shape.pk}", "second": str(blue.pk)}
    design.drawn |= {
        "others": [{"of": f"bag{bag.pk}", "g": 1.0, "depth_g": 0.0}],
        "also": [extra.pk],
        "steps": [{"says": "Fill it.", "seconds": 5.0, "of": str(blue.pk)}],
    }
    design.save()
    bowl.colours = {
        "v": 1,
        "way": "usual",
        "locked": ["blue"],
        "forbidden": ["red"],
        "mixed_fats": False,
        "colourants": 3,
        "melt_g": 200,
    }
    bowl.taught = {"strength.blue": 1.1}
    bowl.save()
    Photo.objects.create(**of, colour=blue, pixels=b"\xff\xd8", width=1, height=1)
    reading = Optics.objects.create(**of, ingredient=bag, curves={"v": 1}, told={"v": 1})
    event.payload = {**event.payload, "pins": {**event.payload.get("pins", {}), "optics": reading.pk}}
    event.save()
    step = f"{layer.pk}r1.0"
    for kind in ("broke", "mended"):
        DayEvent.objects.create(**of, plan=plan, key=uuid.uuid4(), step=step, kind=kind, happened_at=now)
    plan.told["holds"] = [{"resource": f"moulds:{layer.pk}", "steps": [step], "places": 1}]
    plan.told["resources"] |= {f"moulds:{layer.pk}": 2}
    plan.best |= {
        "by": {step: "helper1"},
        "again": {f"melt:bag.{bag.code}:coating": 60},
        "conflict": [f"bowl:{blue.pk}:coating"],
    }
    plan.save()
    Rescue.objects.create(
        **of,
        job=job,
        step=f"melt:{blue.pk}:coating",
        key=uuid.uuid4(),
        symptom="thick",
        cause="cold",
        move="warm",
        happened_at=now,
    )
    note = Note.objects.create(**of, job=job, text="One way", key=uuid.uuid4(), at=now, step=step)
    put_otherwise(note, "Another way")
    OpenedPack.objects.create(
        **of, ingredient=bag, lot="L1", photo=KeptPhoto.objects.filter(kitchen=kitchen).first(), at=now
    )
    MadeAgain.objects.create(**of, job=job, of=Job.objects.get(kitchen=kitchen, name="Launch day"))


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

    def test_whatever_names_another_row_names_it_there_too(self) -> None:
        """Every number inside JSON is turned: raw ones would differ between the two."""
        told_everything(self.kitchen)
        path, again = self.folder / "everything.zip", self.folder / "everything-again.zip"
        write_archive(self.kitchen, path)
        _, other, _ = maker()
        half_dip(maker("between@example.org")[1])
        with mock.patch("studio.notebook.archive.bring.check_that_it_works"):  # some of it is made up
            brought(other, path)
        other.refresh_from_db()
        write_archive(other, again)
        first, second = told_of(path), told_of(again)
        for name in BY_NAME:
            self.assertEqual(first["tables"][name], second["tables"][name], name)
            self.assertNotEqual(first["tables"][name], [], name)

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
        Job.objects.filter(kitchen=self.kitchen, name="Launch day").delete()  # in the kitchen it was written in, too
        self.assertGreater(brought(self.kitchen, self.path), 3)
        self.assertEqual(brought(self.kitchen, self.path), 0)

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
        path.write_bytes(
            raw[:at] + b"PK\x06\x07" + b"\0" * 16 + raw[at:]
        )  # a second list of files, as long as it likes
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
