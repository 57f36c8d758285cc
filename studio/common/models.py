"""What every row shares: a kitchen it belongs to, and a version that two tabs cannot both hold."""

from __future__ import annotations

import hashlib
from datetime import timedelta
from typing import Any, Self

from django.core.exceptions import ObjectDoesNotExist
from django.db import models
from django.http import Http404

from studio.common import clock


class ChangedMeanwhile(Exception):
    """Somebody saved this row since the page was opened."""


def lone(rows: models.QuerySet[Any]) -> Any:
    """The one row that these are, or None; they are not put in an order for it."""
    return next(iter(rows.order_by()[:1]), None)


def within(field: str, low: float, high: float, *, name: str) -> models.CheckConstraint:
    """A number is within its bounds, or not said; both are inclusive."""
    inside = models.Q(**{f"{field}__gte": low, f"{field}__lte": high})
    return models.CheckConstraint(condition=inside | models.Q(**{field: None}), name=name)


class KitchenQuerySet(models.QuerySet):
    """Rows that belong to one kitchen."""

    def for_kitchen(self, kitchen: Any) -> Self:
        """Only rows of this kitchen: the one place where rows are scoped."""
        return self.filter(kitchen=kitchen)

    def get_for(self, kitchen: Any, **lookup: Any) -> Any:
        """One row of this kitchen; somebody else's does not exist (404)."""
        try:
            return self.for_kitchen(kitchen).get(**lookup)
        except (ObjectDoesNotExist, ValueError, OverflowError) as missing:
            raise Http404(str(missing)) from missing


class KitchenOwned(models.Model):
    """Abstract: a row of one kitchen. Every model sets `objects` from KitchenQuerySet or a child of it."""

    kitchen = models.ForeignKey("accounts.Kitchen", on_delete=models.CASCADE, related_name="+")

    class Meta:
        abstract = True


class Versioned(models.Model):
    """Abstract: saving needs the version that was read."""

    version = models.PositiveIntegerField(default=1)

    class Meta:
        abstract = True

    def save_over(self, expected: int) -> None:
        """Save if the row still has the version `expected`. Raises ChangedMeanwhile."""
        model = type(self)
        taken = model._default_manager.filter(pk=self.pk, version=expected).update(version=expected + 1)
        if not taken:
            raise ChangedMeanwhile
        self.version = expected + 1
        self.save()


class Tally(models.Model):
    """How often somebody did something within a window of time; all workers count in the same row."""

    KEPT = timedelta(days=1)

    key = models.CharField(max_length=64, unique=True, db_collation="utf8mb4_bin")
    count = models.PositiveIntegerField(default=0)
    since = models.DateTimeField(auto_now_add=True, db_index=True)

    def __str__(self) -> str:
        return f"{self.count} since {self.since}"

    @classmethod
    def counted(cls, who: str, window_s: int) -> int:
        """Count once more; how often that was in this window. Who it was is kept as a digest only."""
        window = int(clock.now().timestamp() // window_s)
        key = hashlib.sha256(f"{who}:{window_s}:{window}".encode()).hexdigest()
        Tally.objects.bulk_create([Tally(key=key)], ignore_conflicts=True)
        cls.objects.filter(key=key).update(count=models.F("count") + 1)
        return int(cls.objects.values_list("count", flat=True).get(key=key))

    @classmethod
    def forget_old(cls) -> int:
        """Delete what is past every window. Returns how many."""
        return cls.objects.filter(since__lt=clock.now() - cls.KEPT).delete()[0]


class Change(models.Model):
    """When anything that a kitchen's jobs are made of was changed last, as a mark.

    Triggers of the database write it, so that no way of writing, one row, many rows or a cascade, goes past it. A mark
    is never used twice, not even after a transaction was rolled back: what was worked out under a mark may be kept as
    long as the mark is the same.
    """

    kitchen_pk = models.BigIntegerField(primary_key=True)
    mark = models.BigIntegerField()

    def __str__(self) -> str:
        return f"{self.kitchen_pk} {self.mark}"

    @classmethod
    def of(cls, kitchen_pk: int) -> int:
        """The mark of a kitchen now; 0 before the first change."""
        return lone(cls.objects.filter(pk=kitchen_pk).values_list("mark", flat=True)) or 0


class Sent(KitchenOwned):
    """A form that was sent and where it led. The same one sent again is led there again and does nothing."""

    KEPT = timedelta(days=2)

    key = models.UUIDField()
    content = models.CharField(max_length=64, db_collation="utf8mb4_bin")
    leads_to = models.CharField(max_length=200, blank=True)
    sent_at = models.DateTimeField(auto_now_add=True, db_index=True)

    objects = KitchenQuerySet.as_manager()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["kitchen", "key", "content"], name="a_form_sent_once")]

    def __str__(self) -> str:
        return f"{self.key} to {self.leads_to}"

    @classmethod
    def forget_old(cls) -> int:
        """Delete what was sent longer ago than a page stays open. Returns how many."""
        return cls.objects.filter(sent_at__lt=clock.now() - cls.KEPT).delete()[0]
