"""Parts of a job: put on, counted, carried in files, refused in words; the nine starts that have them."""

from __future__ import annotations

from django.test import TestCase

from coating.piece.starts import STARTS
from studio.pieces.models import Job
from studio.pieces.stacks import keep_start
from tests.studio.kitchens import maker

JOINED = [start for start in STARTS.values() if start.joined]


class Starts(TestCase):
    def setUp(self) -> None:
        _, self.kitchen, self.client = maker()

    def test_each_opens_on_every_page(self) -> None:
        self.assertEqual(len(JOINED), 9)
        for start in JOINED:
            job = Job.objects.create(kitchen=self.kitchen, name=start.title)
            keep_start(job, start)
            kept = list(job.pieces.all())
            named = {piece.name: piece for piece in kept}
            self.assertEqual(len(kept), len(start.parts))
            for part in start.parts:
                drawn = named[part.title].layers.filter(designs__stale="").exists()
                self.assertEqual(drawn, bool(part.designs), (start.name, part.title))
            at = f"/pieces/jobs/{job.pk}/"
            pages = [*(f"{at}{p}" for p in ("", "choices/", "shopping/", "inside/", "boxes/")), f"/day/{job.pk}/"]
            for address in [*pages, *(f"/pieces/{p.pk}/build/" for p in kept)]:
                with self.subTest(start=start.name, address=address):
                    page = self.client.get(address)
                    self.assertEqual(page.status_code, 200, page.content[:300])
