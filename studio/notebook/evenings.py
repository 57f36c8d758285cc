"""Which jobs are in the notebook, and when each was made."""

from __future__ import annotations

from collections.abc import Iterable
from datetime import date, datetime
from typing import Any

from django.db.models import DateTimeField, Exists, F, Min, OuterRef, Q, QuerySet, Subquery
from django.db.models.functions import Cast, Coalesce
from django.utils import timezone

from coating.evening import season_of
from studio.accounts.models import Kitchen
from studio.bowls.models import Bowl
from studio.common import clock
from studio.day.models import DayEvent
from studio.notebook.models import KeptPhoto, Note, Outcome
from studio.pieces.models import Job, complete

# Where the year is the other way round, by the beginning of a zone's name.
SOUTH = (
    "Australia/", "Antarctica/", "Pacific/Auckland", "Pacific/Fiji", "Pacific/Tongatapu", "Africa/Johannesburg",
    "Africa/Harare", "Africa/Maputo", "Africa/Windhoek", "America/Argentina/", "America/Sao_Paulo", "America/Santiago",
    "America/Montevideo", "America/Asuncion", "America/La_Paz", "America/Lima", "Indian/Mauritius",
)  # fmt: skip


def is_south(kitchen: Kitchen) -> bool:
    """Whether a kitchen lies where summer is in January, by its zone."""
    return kitchen.zone.startswith(SOUTH)


def season_in(kitchen: Kitchen, on: date) -> str:
    """The season of a date where the kitchen is."""
    return season_of(on.month, south=is_south(kitchen))


def _first(rows: QuerySet[Any], of: str, field: str) -> Subquery:
    """The first moment of some rows of a job."""
    return Subquery(rows.filter(**{of: OuterRef("pk")}).order_by().values(of).annotate(at=Min(field)).values("at"))


def evenings(kitchen: Kitchen) -> QuerySet[Job]:
    """Every job of which something was done or said, or whose day is over, the newest first; `begun_at` is when it
    was, None where only its day is known."""
    begun = Bowl.objects.filter(job=OuterRef("pk"))
    mine = Job.objects.for_kitchen(kitchen).annotate(
        begun_at=Coalesce(
            _first(Bowl.objects.all(), "job", "started_at"), _first(DayEvent.objects.all(), "plan__job", "happened_at")
        )
    )
    said = [model.objects.filter(job=OuterRef("pk")) for model in (Outcome, KeptPhoto, Note)]
    today = timezone.localdate(clock.now())
    there = Q(Exists(begun)) | Q(begun_at__isnull=False) | Q(due_on__lt=today)
    for rows in said:
        there |= Q(Exists(rows))
    when = Coalesce(F("begun_at"), Cast("due_on", DateTimeField()), F("created_at"))
    return mine.filter(there).annotate(made_at=when).order_by("-made_at", "-pk")


A_PAGE = 8  # evenings with their pictures


def every_evening(kitchen: Kitchen) -> list[Any]:
    """All evenings by their numbers and moments alone, the newest first."""
    rows: Any = evenings(kitchen)
    return list(rows.values_list("pk", "begun_at", "due_on", "created_at", named=True))


def whole_evenings(kitchen: Kitchen, rows: Iterable[Any]) -> list[Job]:
    """Whole jobs of some of these, in their order."""
    begun = {row.pk: row.begun_at for row in rows}
    by_pk = Job.objects.for_kitchen(kitchen).in_bulk(list(begun))
    jobs: list[Any] = [by_pk[pk] for pk in begun if pk in by_pk]
    for job in jobs:
        job.begun_at = begun[job.pk]
    complete(jobs, kitchen)
    return jobs


def on_of(job: Any) -> date:
    """The date of an evening, whole or by its moments."""
    begun: datetime | None = job.begun_at
    if begun is not None:
        return timezone.localtime(begun).date()
    return job.due_on or timezone.localtime(job.created_at).date()


def one_evening(kitchen: Kitchen, pk: int) -> Job:
    """A whole job with when it was made; 404 for another's."""
    job = Job.objects.whole(kitchen, pk)
    moments = Bowl.objects.filter(job=job).aggregate(at=Min("started_at"))
    tapped = None if moments["at"] else DayEvent.objects.filter(plan__job=job).aggregate(at=Min("happened_at"))["at"]
    job.begun_at = moments["at"] or tapped  # type: ignore[attr-defined]
    return job
