"""A first job in two pages, the walk through the demo, an application of a device, and compressed pages."""

from __future__ import annotations

import gzip
from datetime import date

from django.test import TestCase

from studio.pieces.first import PICTURES, days_from
from studio.pieces.models import Job, Layer
from tests.studio.kitchens import maker


class FirstJob(TestCase):
    def setUp(self) -> None:
        _, self.kitchen, self.client = maker()
        self.address = "/pieces/first/pops/"

    def send(self, **changed: object) -> dict[str, object]:
        form = self.client.get(self.address).context["form"]
        keys = [key for key, tone in form.all_tones.items() if tone.name in ("Dusk blue", "Apricot")]
        return {"count": "21", "tones": keys, "when": "tomorrow", "due_on": "", "name": "", **changed}

    def test_a_count_is_shared_out_among_colours(self) -> None:
        self.assertRedirects(self.client.post(self.address, self.send()), f"/pieces/jobs/{Job.objects.get().pk}/")
        job = Job.objects.get()
        self.assertEqual(sorted(p.count for p in job.pieces.all()), [10, 11])
        self.assertEqual({la.colour and la.colour.name for la in Layer.objects.filter(technique="dip")},
                         {"Dusk blue", "Apricot"})  # fmt: skip
        self.assertRegex(job.name, r"^Balls on sticks for \w+day$")

    def test_every_picture_becomes_a_job_that_can_be_planned(self) -> None:
        for name in PICTURES:
            sent = {"count": "2", "tones": ["plain"], "when": "today", "name": name}
            self.assertEqual(self.client.post(f"/pieces/first/{name}/", sent).status_code, 302, name)
            job = Job.objects.get(name=name)
            self.assertEqual(sum(p.count for p in job.pieces.all()), 2)
            self.assertGreater(len(self.client.get(f"/day/{job.pk}/").context["lines"]), 2, name)

    def test_bad_input_is_told_at_the_field_and_nothing_is_lost(self) -> None:
        for field, changed in (
            ("count", {"count": "0"}),
            ("count", {"count": "lots"}),
            ("tones", {"tones": []}),
            ("tones", {"tones": ["999999"]}),
            ("when", {"when": "some day"}),
            ("due_on", {"when": "other"}),
            ("due_on", {"when": "other", "due_on": "soon"}),
        ):
            page = self.client.post(self.address, self.send(name="Open evening", **changed))
            self.assertEqual(page.status_code, 422, changed)
            self.assertIn(field, page.context["form"].errors, changed)
            self.assertContains(page, "Open evening", status_code=422)
        self.assertEqual(Job.objects.count(), 0)
        self.assertEqual(self.client.get("/pieces/first/gilding/").status_code, 404)

    def test_days_that_are_a_tap_away(self) -> None:
        """By the calendar: 5 December 2026 is a Saturday."""
        for day, keys in ((2, "today tomorrow saturday"), (4, "today tomorrow"), (5, "today tomorrow")):
            self.assertEqual([key for key, _, _ in days_from(date(2026, 12, day))], keys.split(), day)
        self.assertEqual(days_from(date(2026, 12, 6))[-1][2], date(2026, 12, 12))

    def test_rooms_of_an_empty_job(self) -> None:
        job = Job.objects.create(kitchen=self.kitchen, name="Lantern walk")
        for room in ("shopping", "inside", "boxes", "choices"):
            page = self.client.get(f"/pieces/jobs/{job.pk}/{room}/")
            self.assertContains(page, "Add the first piece", count=1)


class Walk(TestCase):
    def test_the_way_through_and_out(self) -> None:
        _, _, client = maker()
        self.assertEqual(client.post("/demo/walk/on/", {"next": "1"}).status_code, 404, "a kitchen of one's own")
        self.client.post("/demo/walk/")
        self.assertEqual(self.client.session["walk"], 0)
        self.client.post("/demo/walk/on/", {"next": "1"})
        self.assertContains(self.client.get("/bowls/"), "2 of 5")
        for back, to in (
            ("/cupboard/", "/cupboard/"),
            ("https://example.org/", "/bowls/"),
            ("//example.org", "/bowls/"),
        ):
            self.assertRedirects(self.client.post("/demo/walk/on/", {"leave": "1", "back": back}), to)
        self.assertNotContains(self.client.get("/bowls/"), "A walk through the demo")
        session = self.client.session
        session["walk"] = "x"
        session.save()
        self.assertEqual(self.client.get("/bowls/").status_code, 200)


class Application(TestCase):
    def test_what_a_device_asks_for(self) -> None:
        manifest = self.client.get("/olive-ribbon.webmanifest")
        self.assertEqual(manifest.headers["Content-Type"], "application/manifest+json")
        self.assertEqual(manifest.json()["start_url"], "/day/")
        worker = self.client.get("/day/bench-worker.js")
        self.assertEqual(worker.headers["Content-Type"], "text/javascript")

    def test_long_pages_go_out_compressed(self) -> None:
        self.client.post("/demo/open/")
        day = self.client.get("/day/").headers["Location"]
        page = self.client.get(day, headers={"accept-encoding": "gzip"})
        self.assertEqual(page.headers["Content-Encoding"], "gzip")
        self.assertIn(b"knot", gzip.decompress(page.content))
        self.assertNotIn("Content-Encoding", self.client.get("/about/", headers={"accept-encoding": "gzip"}).headers)
