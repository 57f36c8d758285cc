"""What was wrong, what was done about it, and whether it helped."""

from __future__ import annotations

from django.db import models

from coating.care.diagnosis import SYMPTOMS, TABLES
from studio.bowls.models import Bowl
from studio.common.models import KitchenOwned, KitchenQuerySet
from studio.pieces.models import Job


class Rescue(KitchenOwned):
    """Something was wrong with a bowl, or with a step of a job; the same `key` is kept once.

    `answers` is what was looked at and seen, by look; `step` the step of the day it was said at, or "".
    `undone`: it was taken back, with all that it wrote.
    """

    YES, PARTLY, NO = "yes", "partly", "no"
    HELPED = [(YES, "It is right again"), (PARTLY, "It is better"), (NO, "It did not help")]

    bowl = models.ForeignKey(Bowl, on_delete=models.CASCADE, null=True, blank=True, related_name="rescues")
    job = models.ForeignKey(Job, on_delete=models.CASCADE, null=True, blank=True, related_name="rescues")
    step = models.CharField(max_length=80, blank=True)
    key = models.UUIDField(unique=True)
    symptom = models.CharField(max_length=20, choices=[(s, s) for s in SYMPTOMS])
    cause = models.CharField(max_length=20, choices=[(c.name, c.name) for c in TABLES.causes])
    move = models.CharField(max_length=20, choices=[(m.name, m.name) for m in TABLES.moves])
    answers = models.JSONField(default=dict)
    happened_at = models.DateTimeField()
    undone = models.BooleanField(default=False)
    helped = models.CharField(max_length=6, choices=HELPED, blank=True)

    objects = KitchenQuerySet.as_manager()

    class Meta:
        ordering = ["happened_at", "pk"]
        indexes = [models.Index(fields=["kitchen", "happened_at"])]

    def __str__(self) -> str:
        return f"{self.symptom}: {self.move}"
