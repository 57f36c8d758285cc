"""Who is at which task."""

from __future__ import annotations

import uuid

from django.db import models


class Beat(models.Model):
    """A task that a worker is at. `count` goes up as long as it is; no clock is read, so none can be wrong."""

    task = models.UUIDField(primary_key=True)
    worker = models.CharField(max_length=64)
    count = models.PositiveBigIntegerField(default=0)
    tries = models.PositiveSmallIntegerField(default=1)

    def __str__(self) -> str:
        return f"{self.worker} at {self.task}"

    @classmethod
    def begin(cls, task: uuid.UUID, worker: str) -> int:
        """This worker begins a task. Returns the how-manieth try it is."""
        Beat.objects.bulk_create([Beat(task=task, worker=worker, tries=0)], ignore_conflicts=True)
        cls.objects.filter(pk=task).update(worker=worker, count=models.F("count") + 1, tries=models.F("tries") + 1)
        return int(cls.objects.values_list("tries", flat=True).get(pk=task))

    @classmethod
    def go_on(cls, task: uuid.UUID, worker: str) -> bool:
        """Count on. Whether the task is still this worker's."""
        return bool(cls.objects.filter(pk=task, worker=worker).update(count=models.F("count") + 1))
