"""The page that a job writes by itself: everything that was noted of it, gathered, with nothing typed for it."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date, datetime
from functools import cached_property
from typing import Any

from django.db.models import Prefetch, Q
from django.utils import timezone

from coating.colour.mixing import Part
from coating.evening import Came, Off, off_by
from studio.accounts.models import Kitchen
from studio.bowls.adapters import Desk
from studio.bowls.history import HistoryLine, history
from studio.bowls.models import Bowl
from studio.bowls.settled import fetch_events
from studio.common import clock
from studio.cupboard.stock import Stock
from studio.day.broken import parts_made
from studio.day.folding import fold
from studio.day.models import DayEvent, DayPlan
from studio.day.went import Went, went_of
from studio.notebook.evenings import on_of
from studio.notebook.models import BowlSummary, KeptPhoto, Note, OpenedPack, Outcome
from studio.notebook.summaries import came, cost_of, kept_parts_of, rests_g, summaries_of
from studio.pieces.models import Job, Piece
from studio.pieces.parts import given, picture_of
from studio.pieces.pictures import Pictured
from studio.pieces.reckoned import counts_of
from studio.rescue.models import Rescue


@dataclass(frozen=True)
class PieceCame:
    """A piece, how many were planned and made extra, how many broke at the bench, and what was said of it since, the
    newest last."""

    piece: Piece
    count: int
    spares: int
    broke: int
    said: tuple[Outcome, ...]

    @property
    def outcome(self) -> Outcome | None:
        """What counts of it."""
        return self.said[-1] if self.said else None

    @property
    def picture(self) -> Pictured:
        """How it looks."""
        return picture_of(self.piece)

    @property
    def missing(self) -> int:
        """How many are missing, by what was said, or else by the bench."""
        good = self.outcome.good if self.outcome else None
        return max(0, self.count - (self.likely_good if good is None else good))

    @property
    def likely_good(self) -> int:
        """How many came out, as far as the bench knows."""
        return max(0, min(self.count, self.count + self.spares - self.broke))


@dataclass(frozen=True)
class BowlCame:
    """A bowl as it was really made: what went in, what became of it, and how its colour came out, where anybody
    looked."""

    bowl: Bowl
    summary: BowlSummary
    parts: list[Part]
    cost: float | None
    packs: tuple[OpenedPack, ...] = ()
    desk: Desk | None = None

    @property
    def came(self) -> Came:
        """Where it all went."""
        return came(self.summary)

    @property
    def off(self) -> Off | None:
        """How its colour came out; None where no colour was wanted, or nobody looked."""
        look = self.summary.parts.get("look")
        if self.bowl.colour is None or self.summary.lab is None or look is None:
            return None
        if look.get("word"):
            return Off(look["word"], bool(look.get("much")))
        return off_by(self.summary.lab, self.bowl.colour.lab)

    @property
    def history(self) -> list[HistoryLine]:
        """What was done with it, as its own page says, from the first on."""
        return history(self.desk)[::-1] if self.desk else []


@dataclass
class Evening:
    """A job as it went."""

    job: Job
    kitchen: Kitchen
    on: date
    pieces: list[PieceCame]
    bowls: list[BowlCame]
    troubles: list[Rescue]
    notes: list[Note] = field(default_factory=list)
    photos: list[KeptPhoto] = field(default_factory=list)
    closed: bool = False
    plan: DayPlan | None = None

    @property
    def came(self) -> Came:
        """All its bowls together; what went from one into another was melted once."""
        return sum((one.came for one in self.bowls), Came())

    @property
    def melted_g(self) -> float:
        """What was melted afresh, g: without what came from other bowls, and what was left of bowls before."""
        return self.came.melted_g - self.came.given_g - sum(rests_g(one.parts) for one in self.bowls)

    @property
    def left_g(self) -> float:
        """What is left of its bowls, g, but for what went into a later one of them."""
        rests = {one.summary.parts.get("rest") for one in self.bowls}
        within = (p.mass_g for one in self.bowls for p in one.parts if p.ingredient.name in rests)
        return max(0.0, self.came.left_g - sum(within))

    @property
    def cost(self) -> float | None:
        """What its coating cost; None where a price is not known."""
        costs = [one.cost for one in self.bowls if one.summary.melted_g]
        return sum(c for c in costs if c is not None) if costs and None not in costs else None

    @property
    def missing(self) -> int:
        """How many did not come out, by what was said, or else by the bench."""
        return sum(one.missing for one in self.pieces)

    @property
    def under_way(self) -> bool:
        """Whether it is still being made: nothing was said of how it went, and its day is not over, or a bowl of it is
        in use."""
        ahead = self.job.due_on is not None and self.job.due_on >= timezone.localdate(clock.now())
        return not self.closed and (ahead or any(one.bowl.finished_at is None for one in self.bowls))

    @cached_property
    def went(self) -> Went | None:
        """Its day."""
        return went_of(self.job, self.plan, self.kitchen) if self.plan else None

    @property
    def notes_by_bowl(self) -> Mapping[int, list[Note]]:
        """What was noted of each bowl."""
        lines: dict[int, list[Note]] = {}
        for row in self.notes:
            if row.bowl_id:
                lines.setdefault(row.bowl_id, []).append(row)
        return lines


def record_of(job: Job, kitchen: Kitchen) -> Evening:
    """All of one whole job that has `begun_at`: a fixed number of queries."""
    (record,) = records_of([job], kitchen, whole=True)
    packs = _packs(kitchen, {pk for one in record.bowls for pk in _ids(one.summary)})
    record.bowls = [_with_packs(one, packs) for one in record.bowls]
    return record


def records_of(jobs: Sequence[Job], kitchen: Kitchen, *, whole: bool = False) -> list[Evening]:
    """What was noted of whole jobs that have `begun_at`, each kind fetched once; step by step only if `whole`."""
    stock = Stock.of(kitchen)
    bowls = list(Bowl.objects.for_kitchen(kitchen).filter(job__in=jobs).with_colour().with_layers())
    desks = {bowl.pk: Desk.of(bowl, kitchen, stock=stock) for bowl in bowls} if whole else {}
    fetch_events(desks.values())
    summaries = summaries_of(kitchen, bowls, stock)
    wrong = Rescue.objects.for_kitchen(kitchen).filter(Q(job__in=jobs) | Q(bowl__job__in=jobs), undone=False)
    wrong = wrong.select_related("bowl").order_by("happened_at", "pk").distinct()
    plans = DayPlan.objects.filter(job__in=jobs).prefetch_related(_in_order(whole=whole))
    if not whole:
        plans = plans.defer("told", "best", "asked")
    by = _By(jobs)
    gathered = (
        by.job(bowls),
        by.part(wrong),
        by.part(_notes(kitchen, jobs)),
        by.job(KeptPhoto.objects.filter(job__in=jobs).order_by("taken_at", "pk")),
        by.job(Outcome.objects.filter(job__in=jobs)),
        by.job(plans),
    )
    records = []
    for job in jobs:
        of_bowls, troubles, notes, photos, outcomes, mine = (rows.get(job.pk, []) for rows in gathered)
        plan = next(iter(mine), None)
        came = [_bowl(bowl, summaries[bowl.pk], stock, desks.get(bowl.pk)) for bowl in of_bowls if bowl.pk in summaries]
        pieces = pieces_of(job, outcomes, broke_by(job, plan))
        record = Evening(job, kitchen, on_of(job), pieces, came, troubles, notes, photos, bool(outcomes), plan)
        records.append(record)
    return records


class _By:
    """Rows by the job they belong to."""

    def __init__(self, jobs: Sequence[Job]) -> None:
        self.wanted = {job.pk for job in jobs}

    def job(self, rows: Iterable[Any]) -> dict[int, list[Any]]:
        """Of rows that name it, in the order they come."""
        mine: dict[int, list[Any]] = {}
        for row in rows:
            mine.setdefault(row.job_id, []).append(row)
        return mine

    def part(self, rows: Iterable[Any]) -> dict[int, list[Any]]:
        """Of rows whose bowl or piece may name it, which come with them."""
        mine: dict[int, list[Any]] = {}
        for row in rows:
            of = [row.job_id, *(getattr(getattr(row, name, None), "job_id", None) for name in ("bowl", "piece"))]
            pk = next((pk for pk in of if pk in self.wanted), None)
            if pk is not None:
                mine.setdefault(pk, []).append(row)
        return mine


def _in_order(*, whole: bool) -> Prefetch[Any]:
    """What happened at the bench; only what says how many broke unless all of it is wanted."""
    rows = DayEvent.objects.order_by("happened_at", "pk")
    return Prefetch("events", queryset=rows if whole else rows.filter(kind__in=("broke", "anew")))


def _notes(kitchen: Kitchen, jobs: Sequence[Job]) -> Iterable[Note]:
    """Every line of words that belongs to jobs, as they came."""
    mine = Q(job__in=jobs) | Q(bowl__job__in=jobs) | Q(piece__job__in=jobs)
    rows = Note.objects.for_kitchen(kitchen).filter(mine).standing()
    return rows.select_related("bowl", "piece", "design").distinct()


def broke_by(job: Job, plan: DayPlan | None) -> dict[str, int]:
    """How many broke at the bench, by layer."""
    return fold(plan.events.all(), {}, parts_made(job)).broke if plan else {}


def pieces_of(job: Job, outcomes: Iterable[Outcome], broke: Mapping[str, int]) -> list[PieceCame]:
    """Every piece that was given away, with what was said of it."""
    said: dict[int, list[Outcome]] = {}
    for outcome in outcomes:
        if outcome.piece_id:
            said.setdefault(outcome.piece_id, []).append(outcome)
    counts = counts_of(job)
    return [
        PieceCame(
            piece,
            *counts[piece.pk],
            sum(broke.get(str(la.pk), 0) for la in piece.stack),
            tuple(said.get(piece.pk, ())),
        )
        for piece in given(job)
    ]


def _bowl(bowl: Bowl, summary: BowlSummary, stock: Stock, desk: Desk | None) -> BowlCame:
    parts = kept_parts_of(summary, stock)
    return BowlCame(bowl, summary, parts, cost_of(parts, stock), desk=desk)


def _ids(summary: BowlSummary) -> set[int]:
    return {part["id"] for part in summary.parts["of"]}


def _packs(kitchen: Kitchen, ids: set[int]) -> dict[int, list[OpenedPack]]:
    packs: dict[int, list[OpenedPack]] = {}
    for pack in OpenedPack.objects.for_kitchen(kitchen).filter(ingredient__in=ids).select_related("ingredient"):
        packs.setdefault(pack.ingredient_id, []).append(pack)
    return packs


def _with_packs(one: BowlCame, packs: Mapping[int, list[OpenedPack]]) -> BowlCame:
    """The packs that were open when something of them went in."""
    if one.desk is None or not packs:
        return one
    used: dict[int, OpenedPack] = {}
    for event in one.desk.rows:
        if event.kind in ("added", "received") and event.struck_by_id is None:
            pack = open_at(packs.get(event.payload["ingredient"], ()), event.happened_at)
            if pack:
                used[pack.pk] = pack
    return BowlCame(one.bowl, one.summary, one.parts, one.cost, tuple(used.values()), one.desk)


def on_of_bowl(bowl: Bowl) -> date:
    """The date a bowl was begun."""
    return timezone.localtime(bowl.started_at).date()


def open_at(packs: Iterable[OpenedPack], at: datetime) -> OpenedPack | None:
    """The last pack that was opened by then."""
    return next((pack for pack in reversed(list(packs)) if pack.at <= at), None)
