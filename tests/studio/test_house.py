"""Rules of the house that a test can read, and the pages for what goes wrong."""

import doctest
import importlib
import re
import xml.etree.ElementTree as ET
from pathlib import Path
from unittest import mock

from django.apps import apps
from django.conf import settings
from django.db import OperationalError
from django.db.models import CheckConstraint, FloatField, IntegerField
from django.test import Client, RequestFactory, TestCase

from studio.common.loaders import joined
from studio.demo.parts import parts

HOUSES_OWN = {
    *("version", "cupboard_version", "seq", "last_seq", "order", "apart"),
    *("tries", "kitchen_pk", "mark", "width", "height"),
}
COUNTS_OF_THE_HOUSE = ("Tally", "Beat", "BowlSummary", "CameFrom", "Carrying")
STUDIO = Path(settings.ROOT) / "studio"


class House(TestCase):
    def test_no_inline_script_or_style_in_markup(self) -> None:
        for path in [*STUDIO.rglob("*.html"), *STUDIO.rglob("*.svg")]:
            if "vendor" in path.parts:
                continue
            text = path.read_text()
            self.assertIsNone(re.search(r"<style|\sstyle=|\son[a-z]+=|\|safe|<script(?![^>]*\ssrc=)", text), path)

    def test_examples_in_docstrings_run(self) -> None:
        ran = 0
        for path in (p for p in STUDIO.rglob("*.py") if ">>> " in p.read_text() and "migrations" not in p.parts):
            name = ".".join(path.relative_to(settings.ROOT).with_suffix("").parts)
            result = doctest.testmod(importlib.import_module(name))
            self.assertEqual(result.failed, 0, name)
            ran += result.attempted
        self.assertGreater(ran, 6)

    def test_numbers_of_rows_have_bounds_in_the_database(self) -> None:
        """But for those that count what the house itself does."""
        ours = [m for m in apps.get_models() if m.__module__.startswith("studio.")]
        for model in (m for m in ours if m.__name__ not in COUNTS_OF_THE_HOUSE):
            checks = " ".join(str(c.condition) for c in model._meta.constraints if isinstance(c, CheckConstraint))
            for field in model._meta.concrete_fields:
                if (
                    isinstance(field, FloatField | IntegerField)
                    and field.name not in HOUSES_OWN
                    and not field.primary_key
                ):
                    self.assertRegex(checks, rf"['(]{field.name}(__|\))", model.__name__)
        self.assertGreater(len(ours), 20)

    def test_a_broken_line_is_a_blank_and_no_more(self) -> None:
        """What is put into a sentence from a template of its own has no blank after it."""
        self.assertEqual(joined("a.html", "<b>one</b>\n  two\n\n<i>x</i>"), "<b>one</b> two <i>x</i>")
        for name, text in (("letter.txt", "a\n\nb\n"), ("a.html", "<pre>a\nb</pre>")):
            self.assertEqual(joined(name, text), text)

    def test_modules_are_short(self) -> None:
        for path in (STUDIO / "static").rglob("*.js"):
            self.assertLess(len(path.read_text().splitlines()), 200, path)
        for path in [*STUDIO.rglob("*.py"), *(Path(settings.ROOT) / "coating").rglob("*.py")]:
            self.assertLessEqual(len(path.read_text().splitlines()), 400, path)

    def test_every_drawing_on_a_page_is_well_formed_and_named(self) -> None:
        self.client.post("/demo/open/")
        bowl = self.client.get("/bowls/").context["band"][0].bowl
        drawings = 0
        for address in ("/", "/bowls/", "/pieces/", "/cupboard/", f"/bowls/{bowl.pk}/"):
            for text in outermost_drawings(self.client.get(address).content.decode()):
                root = ET.fromstring(text)
                named = root.get("aria-hidden") == "true" or root.find("title") is not None
                self.assertTrue(named, text[:200])
                self.assertIsNone(re.search(r"\b(nan|inf)\b", text, re.IGNORECASE))
                drawings += 1
        self.assertGreater(drawings, 40)


def outermost_drawings(page: str) -> list[str]:
    """The svg elements of a page that lie in no other."""
    result, depth, begun = [], 0, 0
    for tag in re.finditer(r"<svg\b|</svg>", page):
        if tag.group() == "</svg>":
            depth -= 1
            if depth == 0:
                result.append(page[begun : tag.end()])
        else:
            begun = tag.start() if depth == 0 else begun
            depth += 1
    return result


class PartsPage(TestCase):
    def test_every_part_is_drawn_for_developers_only(self) -> None:
        request = RequestFactory().get("/parts/")
        request.kitchen, request.resolver_match = None, None
        page = parts(request)
        for part in ("btn-primary", "swatches", "ribbon-figure", "stepper", "vessel", "caution", "errorlist"):
            self.assertContains(page, part)
        self.assertEqual(self.client.get("/parts/").status_code, 404)


class Faults(TestCase):
    def test_health(self) -> None:
        self.assertEqual(self.client.get("/healthz").json(), {"status": "up"})

    def test_database_away_says_not_saved(self) -> None:
        with mock.patch("studio.common.views.connection.cursor", side_effect=OperationalError(2006, "gone")):
            response = self.client.get("/healthz")
        self.assertEqual(response.status_code, 503)
        self.assertContains(response, "Not saved", status_code=503)
        full = OperationalError(1114, "The table is full")
        with mock.patch("studio.common.views.connection.cursor", side_effect=full):
            self.assertContains(self.client.get("/healthz"), "no room left on the disk", status_code=503)
        broken = OperationalError(1054, "Unknown column")
        with (
            mock.patch("studio.common.views.connection.cursor", side_effect=broken),
            self.assertRaises(OperationalError),
        ):
            self.client.get("/healthz")

    def test_database_away_before_any_view_is_reached(self) -> None:
        client = Client(raise_request_exception=False)
        client.cookies["sessionid"] = "x" * 32
        gone = OperationalError(2013, "Lost connection")
        with mock.patch("django.contrib.sessions.backends.db.SessionStore._get_session_from_db", side_effect=gone):
            for kind in ("text/html", "application/json"):
                response = client.post("/bowls/1/live/", "{}", content_type=kind)
                self.assertEqual(response.status_code, 503)
                self.assertIn(b"othing was saved" if "json" in kind else b"Not saved", response.content)
        with mock.patch("studio.quick.views.card_context", side_effect=ZeroDivisionError):
            self.assertContains(client.get("/"), "our fault", status_code=500)

    def test_nothing_here(self) -> None:
        response = self.client.get("/nowhere/")
        self.assertContains(response, "no such page", status_code=404)
