"""The page of all jobs: what is ahead lies on trays, what is over stands on lines."""

from __future__ import annotations

from datetime import timedelta

from django.utils import timezone

from studio.pieces.models import Job
from tests.studio.kitchens import half_dip
from tests.studio.test_jobs import JobTest


class AllJobs(JobTest):
    def test_what_is_ahead_lies_on_trays_and_what_is_over_on_lines(self) -> None:
        today = timezone.localdate()
        Job.objects.filter(pk=self.job.pk).update(due_on=today + timedelta(days=1))
        half_dip(self.kitchen)
        old = Job.objects.create(kitchen=self.kitchen, name="Launch", due_on=today - timedelta(days=30))
        page = self.client.get("/pieces/")
        self.assertEqual(page.context["says"], "Next is Comet night, due tomorrow.")
        self.assertEqual([t.made for t in page.context["trays"]], ["no pieces yet", "24 pieces, 1 colour"])
        self.assertContains(page, "Made before")
        self.assertEqual([job for job, _ in page.context["rest"]], [old])
        for number in range(9):
            Job.objects.create(kitchen=self.kitchen, name=f"Further {number}")
        page = self.client.get("/pieces/")
        self.assertEqual(len(page.context["trays"]), 8)
        self.assertContains(page, "Further jobs")
