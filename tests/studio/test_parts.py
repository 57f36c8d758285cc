"""Parts of a job: put on, counted, carried in files, refused in words; the nine starts that have them."""

from __future__ import annotations

from coating.piece.starts import STARTS, Start
from studio.pieces.models import Job
from tests.studio.agreeing import Agreeing

JOINED = [start for start in STARTS.values() if start.joined]


class Starts(Agreeing):
    """Each of the nine is reckoned, drawn, planned and boxed, and every page says the same of it."""

    def begun(self, start: Start) -> Job:
        job = Job.objects.create(kitchen=self.kitchen, name=start.title)
        self.client.post(f"/pieces/jobs/{job.pk}/build/", {"do": f"whole:{start.name}"})
        return job

    def test_all_nine(self) -> None:
        self.assertEqual(len(JOINED), 9)
        for start in JOINED:
            job = self.begun(start)
            named = {piece.name: piece for piece in job.pieces.all()}
            self.assertEqual(len(named), len(start.parts))
            for part in start.parts:
                drawn = named[part.title].layers.filter(designs__stale="").exists()
                self.assertEqual(drawn, bool(part.designs), (start.name, part.title))
            with self.subTest(start.name):
                self.agrees(job)
