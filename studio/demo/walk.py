"""A walk through the demo kitchen: five places, one sentence each, to be left at any time."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import redirect
from django.urls import reverse
from django.utils.http import url_has_allowed_host_and_scheme
from django.views.decorators.http import require_POST

from studio.accounts.models import Kitchen
from studio.bowls.models import Bowl
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required
from studio.common.types import Context
from studio.pieces.models import Job

AT = "walk"  # how far a walk is, in the session


@dataclass(frozen=True)
class Stop:
    """One place of the walk: what to look at, and where that is."""

    title: str
    says: str
    address: Callable[[Kitchen], str]


def _bowl(kitchen: Kitchen) -> str:
    bowl = Bowl.objects.for_kitchen(kitchen).in_use().order_by("pk").first()
    return reverse("bowls:bowl", args=[bowl.pk]) if bowl else reverse("bowls:list")


def _job(kitchen: Kitchen) -> Job | None:
    job: Job | None = Job.objects.for_kitchen(kitchen).next_first().first()
    return job


def _of_job(name: str) -> Callable[[Kitchen], str]:
    def address(kitchen: Kitchen) -> str:
        job = _job(kitchen)
        return reverse(name, args=[job.pk]) if job else reverse("pieces:jobs")

    return address


STOPS = (
    Stop(
        "A bowl",
        "This bowl should become dusk blue. What goes in stands as a list to tick, and the ribbon shows how it falls.",
        _bowl,
    ),
    Stop(
        "A job",
        "Comet night: what is made, how many of each, which bowls that takes. Change a count, and all of it follows.",
        _of_job("pieces:job"),
    ),
    Stop(
        "The studio",
        "Lace, drips, lettering, marbling: draw it in its true size, print the template, and know how long it bends.",
        lambda kitchen: reverse("designs:studio"),
    ),
    Stop(
        "The day sheet",
        "The whole evening as one ribbon: what first, what waits meanwhile, and when everything is done.",
        _of_job("day:day"),
    ),
    Stop(
        "The bench",
        "One thing at a time, large enough to read with sticky hands. A tap, or a knock on the space bar, is enough.",
        _of_job("day:bench"),
    ),
)


def walk(request: HttpRequest) -> Context:
    """Where a walk is, for every page of the demo kitchen."""
    kitchen = getattr(request, "kitchen", None)
    at = request.session.get(AT) if kitchen and kitchen.is_demo else None
    if not isinstance(at, int) or not 0 <= at < len(STOPS):
        return {}
    return {"walk": {"stop": STOPS[at], "number": at + 1, "of": len(STOPS), "next": at + 1 < len(STOPS)}}


@kitchen_required
@require_POST
def walk_on(request: KitchenRequest) -> HttpResponse:
    """To the first stop, to the next one, or off the walk."""
    if not request.kitchen.is_demo:
        raise Http404("not a demo kitchen")
    if "leave" in request.POST:
        request.session.pop(AT, None)
        back = request.POST.get("back", "")
        ours = url_has_allowed_host_and_scheme(back, allowed_hosts=None) and back.startswith("/")
        return redirect(back if ours else "bowls:list")
    at = request.session.get(AT)
    at = at + 1 if isinstance(at, int) and "next" in request.POST else 0
    if at >= len(STOPS):
        request.session.pop(AT, None)
        return redirect("bowls:list")
    request.session[AT] = at
    return redirect(STOPS[at].address(request.kitchen))
