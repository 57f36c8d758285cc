"""What an archive brought in is worked out once before it is kept: what cannot be is not taken."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence

from studio.accounts.models import Kitchen
from studio.bowls.adapters import Desk
from studio.bowls.history import history
from studio.bowls.models import Bowl
from studio.bowls.settled import fetch_events
from studio.cupboard.adapters import core_ingredient
from studio.cupboard.models import Ingredient
from studio.cupboard.stock import Stock
from studio.day.models import DayPlan
from studio.designs.models import Design, Shape
from studio.designs.shapes import areas_from
from studio.notebook.archive.read import refuse
from studio.notebook.record import record_of
from studio.pieces.models import Job, Template, complete
from studio.pieces.parts import picture_of
from studio.pieces.reckoned import reckoned

AT_ONCE = 24


def check_that_it_works(kitchen: Kitchen, fresh: Mapping[str, Sequence[int]]) -> None:
    """Every job is reckoned and drawn, every bowl folded, every day and design read. Raises Unreadable."""
    for row in Ingredient.objects.filter(pk__in=fresh["ingredients"]).with_parameters():
        _works(f"what is said of {row.name}", lambda row=row: core_ingredient(row))
    stock = Stock.of(kitchen)
    _works("its cupboard", lambda: [stock.cores, stock.prices, stock.factors(kitchen)])
    for pks in _some(fresh["bowls"]):
        desks = [
            Desk.of(bowl, kitchen, stock=stock) for bowl in Bowl.objects.filter(pk__in=pks).with_colour().with_layers()
        ]
        fetch_events(desks)
        for desk in desks:
            _works(f"the bowl {desk.bowl.name}", lambda desk=desk: _bowl(desk))
    for pks in _some(fresh["jobs"]):
        jobs = list(Job.objects.filter(pk__in=pks))
        complete(jobs, kitchen)
        for job in jobs:
            _works(f"the job {job.name}", lambda job=job: _job(job, kitchen))
    for pks in _some(fresh["days"]):
        for day in DayPlan.objects.filter(pk__in=pks):
            _works("one of its days", lambda day=day: [day.day, day.found and day.plan])
    for pks in _some(fresh["designs"]):
        for design in Design.objects.filter(pk__in=pks):
            _works(f"the design {design.name}", lambda design=design: [design.sheets, design.strokes, design.tones])
    for shape in Shape.objects.filter(pk__in=fresh["shapes"]).defer("picture"):
        _works(f"the shape {shape.name}", lambda shape=shape: areas_from(shape.areas))
    for template in Template.objects.filter(pk__in=fresh["templates"]):
        _works(f"the piece {template.name}", lambda template=template: template.piece["piece"]["layers"])


def _bowl(desk: Desk) -> None:
    if not desk.now.empty:
        desk.now.mixture().lab()
    history(desk)


def _job(job: Job, kitchen: Kitchen) -> None:
    reckoned(job, kitchen)
    for piece in job.pieces.all():
        _ = picture_of(piece).front
    job.begun_at = None  # type: ignore[attr-defined]
    _ = record_of(job, kitchen).went


def _works(what: str, work: object) -> None:
    """Whatever goes wrong is what is wrong with the archive."""
    assert callable(work)
    try:
        work()
    except Exception as problem:
        raise refuse(f"{what[:100]} cannot be worked out") from problem


def _some(pks: Sequence[int]) -> Iterator[Sequence[int]]:
    return (pks[i : i + AT_ONCE] for i in range(0, len(pks), AT_ONCE))
