"""What a maker says to what was learned. Rows are only added; the newest of a name counts."""

from __future__ import annotations

from django.db import models

from studio.common.models import KitchenOwned, KitchenQuerySet


class Said(KitchenOwned):
    """A word on one thing that was learned, by its name ("strength.blue").

    "label": the label's value is used. "use": what was learned is used, however much it changes. "forget": records from
    before count for nothing. "new bottle": what comes after is another bottle's; "same batch": it is as the one before.
    "same bottle": asked whether it was another one, it was not. Of a record, "record.17": "out" and "in", and "right":
    it was looked at once more.
    """

    LABEL, USE, FORGET, NEW_BOTTLE, SAME_BOTTLE = "label", "use", "forget", "new bottle", "same bottle"
    SAME_BATCH, OUT, IN, RIGHT = "same batch", "out", "in", "right"
    WORDS = [(w, w) for w in (LABEL, USE, FORGET, NEW_BOTTLE, SAME_BOTTLE, SAME_BATCH, OUT, IN, RIGHT)]
    name = models.CharField(max_length=60, db_collation="utf8mb4_bin")
    word = models.CharField(max_length=12, choices=WORDS)
    at = models.DateTimeField()

    objects = KitchenQuerySet.as_manager()

    class Meta:
        ordering = ["at", "pk"]
        indexes = [models.Index(fields=["kitchen", "name"])]

    def __str__(self) -> str:
        return f"{self.name}: {self.word}"
