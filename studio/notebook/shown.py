"""What the pages of the notebook show."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date

from django.utils import timezone

from studio.common import clock
from studio.common.types import Context
from studio.common.words import lower
from studio.cupboard.stock import Stock
from studio.learned.fitted import Taught, learnt_last
from studio.learned.says import taught_says
from studio.notebook.figures import RibbonPart, ribbon_of, threads_of
from studio.notebook.models import KeptPhoto, Note
from studio.notebook.record import BowlCame, Evening, PieceCame
from studio.notebook.says import came_says, headline, off_says, outcome_says, piece_says, when_says
from studio.pieces.models import Job
from studio.pieces.pictures import Pictured
from studio.rescue.models import Rescue
from studio.rescue.told import trouble_says

PICTURES, LEARNED = 4, 3


@dataclass(frozen=True)
class EveningLine:
    """An evening among others: its pictures, its date, a sentence, and its ribbon."""

    job: Job
    on: date
    when: str
    says: str
    photos: list[KeptPhoto]
    pictures: list[Pictured]
    ribbon: list[RibbonPart]
    under_way: bool


def line_of(record: Evening, today: date) -> EveningLine:
    """Photos before pictures, a few of them."""
    photos = record.photos[:PICTURES]
    pictures = [one.picture for one in record.pieces[: PICTURES - len(photos)]]
    ribbon = ribbon_of(record.bowls)
    return EveningLine(
        record.job, record.on, when_says(record.on, today), headline(record), photos, pictures, ribbon, record.under_way
    )


@dataclass(frozen=True)
class BowlLine:
    """A bowl on the page of its evening."""

    one: BowlCame
    came: str
    off: str
    notes: list[Note]


def _bowl_line(one: BowlCame, notes: list[Note]) -> BowlLine:
    says = came_says(one.came, finished=one.bowl.finished_at is not None)
    off = off_says("It", one.off) if one.off else ""
    return BowlLine(one, says, off[:1].upper() + off[1:], notes)


def _trouble(row: Rescue) -> str:
    """What went wrong, with the bowl it went wrong in."""
    return f"{row.bowl.name}, {lower(trouble_says(row))}" if row.bowl else trouble_says(row)


def _piece_line(one: PieceCame) -> Context:
    before = [(o.at, outcome_says(o, one.count)) for o in one.said[:-1]]
    return {"one": one, "says": piece_says(one), "before": before}


def page_of_evening(record: Evening) -> Context:
    """Everything on the page of an evening."""
    today, went, notes = timezone.localdate(clock.now()), record.went, record.notes_by_bowl
    return {
        "record": record,
        "job": record.job,
        "when": when_says(record.on, today),
        "says": headline(record),
        "ribbon": ribbon_of(record.bowls),
        "pieces": [_piece_line(one) for one in record.pieces],
        "bowls": [_bowl_line(one, notes.get(one.bowl.pk, [])) for one in record.bowls],
        "troubles": [(row, _trouble(row)) for row in record.troubles],
        "notes": record.notes,
        "went": went,
        "threads": threads_of(went) if went else [],
        "learned": [(one, taught_says(one)) for one in learned_in(record)],
    }


def learned_in(record: Evening) -> list[Taught]:
    """What this evening helped to learn, what is known best first."""
    mine = {str(one.bowl.pk) for one in record.bowls} | {f"job-{record.job.pk}"}
    things = learnt_last(record.kitchen, Stock.of(record.kitchen)).things.values()
    known = [t for t in things if t.said or t.bowls > 1]  # of one record nothing is concluded yet
    here = [t for t in known if any(n.record.bowl in mine for n in t.live)]
    return sorted(here, key=lambda t: (not t.said, -t.bowls))[:LEARNED]
