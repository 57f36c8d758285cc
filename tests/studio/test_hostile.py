"""Files, texts and names that were made to do harm: each is refused in words, or kept harmless; nothing falls over."""

from __future__ import annotations

import io
import json
import random
import struct
import threading
import time
import unicodedata
import zlib
from typing import Any

from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import connections
from django.test import Client, TestCase, TransactionTestCase
from hypothesis import given
from hypothesis import strategies as st
from PIL import Image

from studio.accounts.models import User
from studio.colours.models import Colour
from studio.common.models import Tally
from studio.common.names import free_name, plain
from studio.common.sheets import harmless
from studio.cupboard.models import Extra
from studio.pieces.carried_out import job_text
from studio.pieces.models import Job
from tests.fuzz import calm, hostile_json
from tests.studio.kitchens import PASSWORD, half_dip, maker

SVG = '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 200 200" width="200mm">{}</svg>'


def _file(content: str | bytes, name: str = "job.json") -> SimpleUploadedFile:
    return SimpleUploadedFile(name, content.encode("utf-8", "surrogatepass") if isinstance(content, str) else content)


def _scribble(points: int) -> str:
    data = random.Random(7)
    return "M" + " ".join(f"{data.uniform(0, 200):.1f} {data.uniform(0, 200):.1f}" for _ in range(points)) + "z"


def _png(side: int, *, kind: int, bits: int, bytes_a_dot: int) -> bytes:
    """A picture of nothing, so many dots a side, in a few hundred kB."""

    def chunk(name: bytes, data: bytes) -> bytes:
        return struct.pack(">I", len(data)) + name + data + struct.pack(">I", zlib.crc32(name + data))

    head = struct.pack(">IIBBBBB", side, side, bits, kind, 0, 0, 0)
    rows = zlib.compress(b"\0" * (1 + side * bytes_a_dot) * side, 6)
    return b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", head) + chunk(b"IDAT", rows) + chunk(b"IEND", b"")


class Files(TestCase):
    def setUp(self) -> None:
        _, self.kitchen, self.client = maker()

    def drawn(self, inside: str) -> str:
        begun = time.monotonic()
        page = self.client.post("/studio/shapes/bring/", {"name": "x", "file": _file(SVG.format(inside), "x.svg")})
        self.assertEqual(page.status_code, 422, inside[:60])
        self.assertLess(time.monotonic() - begun, 25)
        return str(page.context["form"].errors["file"][0])

    def test_drawings_that_never_end(self) -> None:
        self.assertIn("thousands of times", self.drawn(f'<path d="{_scribble(1000)}"/>'))
        squares = "".join(f"M{i * 0.02:.2f} {i * 0.02:.2f}h100v100h-100z" for i in range(2900))
        self.assertIn("thousands of times", self.drawn(f'<path fill-rule="evenodd" d="{squares}"/>'))
        arcs = "M0 0" + "".join(f"A{50 + i % 90} {60 + i % 70} 0 1 1 {i % 199} {i % 173}" for i in range(5000))
        self.assertRegex(self.drawn(f'<path d="{arcs}z"/>'), "far too long|points")
        self.assertIn("does not say where it begins", self.drawn('<path d="L10 10 20 20"/>'))

    def test_pictures_that_swell(self) -> None:
        for raw in (_png(7700, kind=6, bits=16, bytes_a_dot=8), _png(30_000, kind=0, bits=8, bytes_a_dot=1)):
            self.assertLess(len(raw), 1_000_000)
            page = self.client.post("/colours/photo/", {"picture": _file(raw, "x.png")})
            self.assertContains(page, "more points than a photo", status_code=422)
        noise = Image.effect_noise((600, 600), 255)
        out = io.BytesIO()
        noise.save(out, "PNG")
        begun = time.monotonic()
        self.client.post("/studio/shapes/bring/", {"name": "x", "file": _file(out.getvalue(), "x.png")})
        self.assertLess(time.monotonic() - begun, 10)

    def test_jobs_with_numbers_and_letters_that_are_none(self) -> None:
        half_dip(self.kitchen)
        text = job_text(Job.objects.whole(self.kitchen, Job.objects.get().pk))
        for old, new in (
            ('"count": 24', '"count": ' + "9" * 400),
            ('"count": 24', '"count": 1e999'),
            ('"name": "', '"name": "\\ud800'),
            ('"lab": [', '"lab": [NaN, '),
            ("{", "[" * 100_000),
        ):
            self.assertIn(old, text)
            page = self.client.post("/pieces/bring/", {"file": _file(text.replace(old, new, 1))})
            self.assertEqual(page.status_code, 422, new[:20])
            self.assertIn("file", page.context["form"].errors)

    def test_names_that_the_database_takes_for_the_same(self) -> None:
        """A full-width sign and its plain one, capitals, and what is not seen at all."""
        half_dip(self.kitchen)
        mine = Colour.objects.filter(kitchen=self.kitchen)
        text = job_text(Job.objects.whole(self.kitchen, Job.objects.get().pk)).replace("Dusk blue", "\uff1d1+1")
        Colour.objects.create(kitchen=self.kitchen, name="=1+1", lightness=9, a=0, b=0)
        for _ in range(2):
            self.assertEqual(self.client.post("/pieces/bring/", {"file": _file(text)}).status_code, 302)
        rows = [{"name": n, "lab": [20.0 + i, 0, 0]} for i, n in enumerate(("=1+1", "\uff1d1\u200b+1", "DUSK BLUE"))]
        data = json.dumps({"kind": "olive-ribbon-swatches", "v": 1, "colours": rows})
        self.assertEqual(self.client.post("/colours/bring-in/", {"file": _file(data)}).status_code, 302)
        named = [n for n in mine.values_list("name", flat=True) if unicodedata.normalize("NFKC", n).startswith("=1+1")]
        self.assertEqual(len(named), 5, named)
        bag = {"name": "Ｓｕｎ", "kind": "topping", "edible": "yes"}
        Extra.objects.create(kitchen=self.kitchen, kind="topping", name="sun")
        self.assertEqual(free_name(Extra.objects.filter(kitchen=self.kitchen), bag["name"], most=80), "Ｓｕｎ 2")

    def test_odd_shapes_in_files(self) -> None:
        half_dip(self.kitchen)
        whole = json.loads(job_text(Job.objects.whole(self.kitchen, Job.objects.get().pk)))
        swatches = {
            "kind": "olive-ribbon-swatches",
            "v": 1,
            "colours": [
                {
                    "name": "x",
                    "lab": [50, 0, 0],
                    "note": "",
                    "made": {
                        "on": "",
                        "white": "",
                        "parts": [{"code": "a", "name": "b", "mass_g": 1, "units": 1, "counted": ""}],
                        "lab": [1, 1, 1],
                        "de00": 1,
                    },
                }
            ],
        }
        fields = {"/pieces/bring/": whole, "/colours/bring-in/": swatches}

        @calm
        @given(st.data())
        def once(data: st.DataObject) -> None:
            Tally.objects.all().delete()
            to = data.draw(st.sampled_from(list(fields)))
            bent = _bent(data, fields[to], data.draw(hostile_json))
            page = self.client.post(to, {"file": _file(bent)})
            self.assertIn(page.status_code, (302, 422), bent[:2000])
            for name in Colour.objects.values_list("name", flat=True):
                self.assertEqual(name, plain(name))

        once()


def _bent(data: st.DataObject, value: Any, hostile: str) -> str:
    """The text of `told` with one of its values replaced by a hostile one."""
    places = list(_places(value))
    where = data.draw(st.sampled_from(places))
    copy = json.loads(json.dumps(value))
    at = copy
    for step in where[:-1]:
        at = at[step]
    at[where[-1]] = "HERE-IT-GOES"
    return json.dumps(copy).replace('"HERE-IT-GOES"', hostile)


def _places(data: Any, before: tuple[Any, ...] = ()) -> Any:
    steps = data.items() if isinstance(data, dict) else enumerate(data) if isinstance(data, list) else ()
    for step, value in steps:
        yield (*before, step)
        yield from _places(value, (*before, step))


class Live(TestCase):
    def test_numbers_of_requests_that_are_none(self) -> None:
        _, _, client = maker()
        addresses = ("/kitchen/live/", "/quick/live/", "/colours/live/", "/studio/live/lace/")
        for number in ("1e999", "-1e999", "NaN", "9" * 400, '"\\ud800"', "[]", "null", "{}", "1.5e300"):
            for address in addresses:
                body = f'{{"request": {number}, "fields": {{"what": "biscuit", "x": {number}}}}}'
                self.assertEqual(client.post(address, body, content_type="application/json").status_code, 400, body)


class SignedUp(TransactionTestCase):
    """Sent four times at the same moment: one kitchen, and every sender is in it."""

    def test_four_at_once(self) -> None:
        fields = {"email": "quick@example.org", "password": PASSWORD, "kitchen_name": "", "zone": "UTC"}
        go, codes = threading.Barrier(4), list[int]()

        def send() -> None:
            client = Client()
            go.wait()
            codes.append(client.post("/sign-up/", fields).status_code)
            connections.close_all()

        threads = [threading.Thread(target=send) for _ in range(4)]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
        self.assertEqual(codes, [302] * 4)
        self.assertEqual(User.objects.filter(email="quick@example.org").count(), 1)


class Unseen(TestCase):
    def test_what_leaves_a_name(self) -> None:
        """Unicode bidirectional algorithm, UAX 9: these characters turn what follows round."""
        for raw, shown in (
            ("\u202eevil\u202c", "evil"),
            ("a\r\nb\tc", "a b c"),
            ("\x1b[31mred", "[31mred"),
            ("\ufeffMoss\u200b ", "Moss"),
            ("\u2066x\u2069", "x"),
            ("\ud800half", "half"),
            ("👩\u200d🍳 kitchen", "👩\u200d🍳 kitchen"),
            ("Grün", "Grün"),
            ("", ""),
        ):
            self.assertEqual(plain(raw), shown)
        self.assertEqual(plain("200 g cream\r\n\u202e40 g sugar \n", lines=True), "200 g cream\n40 g sugar")

    def test_forms_keep_names_without_them(self) -> None:
        _, kitchen, client = maker()
        client.post("/pieces/jobs/new/", {"name": "Moon\u202e night\x07", "note": "a\u0000b"})
        self.assertEqual(client.post("/pieces/jobs/new/", {"name": "\u202e\u200b"}).status_code, 422)
        self.assertEqual(list(Job.objects.filter(kitchen=kitchen).values_list("name", "note")), [("Moon night", "ab")])

    def test_what_a_spreadsheet_would_reckon_with(self) -> None:
        for text in ("=1+1", "\r=1+1", "\n@SUM(A1)", " =1", "＝1+1", "＋1", "－1", "＠x", "\t=1", "\u200b=1", "'=1"):
            self.assertTrue(harmless(text).startswith("'"), repr(text))
            self.assertNotIn("\n", harmless(text))
        self.assertEqual(harmless("Moss - deep"), "Moss - deep")
