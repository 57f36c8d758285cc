"""Two evenings side by side, with only what differed."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from django.http import Http404, HttpResponse
from django.shortcuts import render
from django.utils import timezone

from studio.bowls.models import Bowl
from studio.common import clock
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required
from studio.common.templatetags.kitchen import mass, money
from studio.common.words import listed, lower
from studio.notebook.evenings import one_evening, season_in
from studio.notebook.record import BowlCame, Evening, record_of
from studio.notebook.says import came_says, off_says, piece_says, when_says
from studio.notebook.where import parts_say
from studio.pieces.models import Job
from studio.rescue.spoken.causes import CAUSES

NOT_THERE = "not made"


@dataclass(frozen=True)
class ComparedLine:
    """One thing of two evenings."""

    what: str
    one: str
    other: str


def compared(one: Evening, other: Evening) -> list[ComparedLine]:
    """What differed between two evenings; what was the same is left out."""
    lines = [ComparedLine(what, say(one), say(other)) for what, say in _OF_ALL]
    names = list(dict.fromkeys(p.piece.name for record in (one, other) for p in record.pieces))
    lines += [ComparedLine(name, *(_piece(record, name) for record in (one, other))) for name in names]
    bowls = list(dict.fromkeys(b.bowl.name for record in (one, other) for b in record.bowls))
    for name in bowls:
        both = [_bowl(record, name) for record in (one, other)]
        lines.append(ComparedLine(name, *(_made(b) for b in both)))
        lines.append(ComparedLine(f"{name}, how it went", *(_went(b) for b in both)))
    return [line for line in lines if line.one != line.other]


def _took(record: Evening) -> str:
    return record.went.says[0] if record.went else "not tapped"


def _wrong(record: Evening) -> str:
    return listed([CAUSES[row.cause].name for row in record.troubles]) or "nothing"


_OF_ALL: tuple[tuple[str, Callable[[Evening], str]], ...] = (
    ("Season", lambda record: season_in(record.kitchen, record.on)),
    ("Melted", lambda record: mass(record.melted_g)),
    ("Left over", lambda record: mass(record.left_g) or "nothing"),
    ("Thrown away", lambda record: mass(record.came.lost_g) if record.came.lost_g else "nothing"),
    ("Coating and colours", lambda record: money(record.cost) if record.cost else "not known"),
    ("Time at the bench", _took),
    ("What went wrong", _wrong),
)


def _piece(record: Evening, name: str) -> str:
    said = next((p for p in record.pieces if p.piece.name == name), None)
    return f"{said.count}: {piece_says(said)}" if said else NOT_THERE


def _bowl(record: Evening, name: str) -> BowlCame | None:
    """The last bowl of that name, which is the one that was used."""
    return next((b for b in reversed(record.bowls) if b.bowl.name == name), None)


def _made(one: BowlCame | None) -> str:
    return parts_say(one.parts) if one else NOT_THERE


def _went(one: BowlCame | None) -> str:
    if one is None:
        return NOT_THERE
    came = came_says(one.came, finished=one.bowl.finished_at is not None)
    return f"{came}; {off_says('it', one.off).replace('*', '')}" if one.off else came


def before(record: Evening) -> Job | None:
    """The evening to compare one with: the last one before it with a colour of its own, or just the last."""
    bowls = Bowl.objects.for_kitchen(record.kitchen).exclude(job=None).exclude(job=record.job)
    earlier = bowls.filter(started_at__lt=_begun(record)).select_related("job").order_by("-started_at")
    colours = [one.bowl.colour_id for one in record.bowls if one.bowl.colour_id]
    same = earlier.filter(colour__in=colours).first() if colours else None
    other = same or earlier.first()
    return other.job if other else None


def _begun(record: Evening) -> Any:
    return record.job.begun_at or record.job.created_at  # type: ignore[attr-defined]


@kitchen_required
def compare(request: KitchenRequest) -> HttpResponse:
    """Side by side."""
    numbers = [request.GET.get(name, "") for name in ("one", "other")]
    if not all(n.isdecimal() and len(n) < 19 for n in numbers) or numbers[0] == numbers[1]:
        raise Http404("two evenings are compared")
    one, other = (record_of(one_evening(request.kitchen, int(n)), request.kitchen) for n in numbers)
    today = timezone.localdate(clock.now())
    context = {
        "one": one,
        "other": other,
        "whens": [when_says(record.on, today) for record in (one, other)],
        "lines": compared(one, other),
        "says": f"{one.job.name} beside {lower(other.job.name)}",
    }
    return render(request, "notebook/compare.html", context)
