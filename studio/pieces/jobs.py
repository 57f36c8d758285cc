"""All jobs: what is ahead, laid out on trays, and what is over."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date

from django.db.models import prefetch_related_objects
from django.http import HttpResponse
from django.shortcuts import render
from django.utils import timezone

from studio.common import clock
from studio.common.pages import page_of
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required
from studio.pieces.adapters import tones_of
from studio.pieces.models import Job, complete
from studio.pieces.parts import given, picture_of
from studio.pieces.pictures import Pictured
from studio.pieces.says import due_says, made_says, next_says, rest_says

TRAYS, ON_ONE = 8, 6  # jobs that are laid out, and pieces that lie on a tray


@dataclass(frozen=True)
class JobTray:
    """A job ahead: its pieces as they look, how many there are besides, when it is due and how much is made."""

    job: Job
    pictures: list[Pictured]
    besides: int
    due: str
    made: str


def _tray(job: Job, today: date) -> JobTray:
    pieces, kinds = given(job), len(job.pieces.all())
    made = made_says(kinds, sum(p.count for p in pieces), len(tones_of(job)))
    return JobTray(
        job,
        [picture_of(p) for p in pieces[:ON_ONE]],
        max(0, len(pieces) - ON_ONE),
        due_says(job.due_on, today),
        made,
    )


@kitchen_required
def jobs(request: KitchenRequest) -> HttpResponse:
    """Every job, the next one first."""
    today = timezone.localdate(clock.now())
    page = page_of(request, Job.objects.for_kitchen(request.kitchen).next_first(), word="jobs")
    ahead = [job for job in page if job.due_on is None or job.due_on >= today][:TRAYS]
    rest = [job for job in page if job not in ahead]
    complete(ahead, request.kitchen)
    prefetch_related_objects(rest, "pieces__layers__colour")
    context = {
        "page": page,
        "says": next_says([(job.name, job.due_on) for job in page], today),
        "trays": [_tray(job, today) for job in ahead],
        "rest": [(job, tones_of(job)) for job in rest],
        "rest_says": rest_says(bool(ahead), all(job.due_on is not None and job.due_on < today for job in rest)),
    }
    return render(request, "pieces/jobs.html", context)
