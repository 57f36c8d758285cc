"""A stretch of time looked back at: what was made when, what was wasted, what comes out best."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field
from datetime import UTC, date, datetime, time, timedelta
from typing import Any

from django.utils import timezone

from coating.colour.mixing import Part
from coating.evening import Came, Wasted, wasted
from coating.evening.wasted import SPOILT, TOO_MUCH
from studio.accounts.models import Kitchen
from studio.bowls.models import Bowl, BowlEvent
from studio.bowls.stock_left import stock_left_g
from studio.common import clock
from studio.common.templatetags.kitchen import how_much
from studio.common.words import lower
from studio.cupboard.stock import Stock
from studio.notebook.evenings import evenings, on_of
from studio.notebook.models import BowlSummary, Outcome
from studio.notebook.summaries import came, cost_of, kept_parts_of, rests_g, summaries_of
from studio.pieces.models import Job
from studio.rescue.models import Rescue
from studio.rescue.spoken.causes import CAUSES, avoid_says

A_DAY = timedelta(days=1)


@dataclass(frozen=True)
class WastedLine:
    """What was wasted, on what, how much it was and cost, and what would have saved it."""

    on: date
    job: Job | None
    bowl: Bowl
    what: str
    mass_g: float
    cost: float | None
    saved_by: str


@dataclass(frozen=True)
class BestLine:
    """A piece and how often and how well it came out: of so many made so many good, liked so often."""

    name: str
    times: int
    made: int
    good: int
    liked: int

    @property
    def share(self) -> float:
        """Of those that were made, the good ones."""
        return self.good / self.made if self.made else 0.0

    @property
    def of_times(self) -> str:
        """How often it was liked.

        >>> BestLine("x", 2, 10, 9, 1).of_times, BestLine("x", 1, 10, 9, 1).of_times
        ('liked 1 of 2 times', 'liked')
        """
        return "liked" if self.liked == self.times == 1 else f"liked {self.liked} of {self.times} times"


@dataclass
class TimeSpan:
    """Evenings of a time with all that is said of them together."""

    jobs: list[Job]
    days: dict[date, list[Job]] = field(default_factory=dict)
    labs: dict[int, list[tuple[float, float, float]]] = field(default_factory=dict)
    came: Came = field(default_factory=Came)
    of_rests_g: float = 0.0
    wasted: list[WastedLine] = field(default_factory=list)
    best: list[BestLine] = field(default_factory=list)

    @property
    def melted_g(self) -> float:
        """What was melted afresh, g."""
        return self.came.melted_g - self.came.given_g - self.of_rests_g

    @property
    def wasted_g(self) -> float:
        """All that was wasted, g."""
        return sum(line.mass_g for line in self.wasted)

    @property
    def wasted_cost(self) -> float | None:
        """What that cost, as far as prices are known; None where none is."""
        costs = [line.cost for line in self.wasted if line.cost is not None]
        return sum(costs) if costs else None


def stretch_of(kitchen: Kitchen, first: date, last: date) -> TimeSpan:
    """All evenings between two dates, both included: a fixed number of queries."""
    all_of_them: Any = evenings(kitchen)
    about = all_of_them.filter(made_at__gte=_moment(first - A_DAY), made_at__lt=_moment(last + 2 * A_DAY))
    mine = [job for job in about if first <= on_of(job) <= last]
    stock, of = Stock.of(kitchen), {job.pk: job for job in mine}
    bowls = list(Bowl.objects.for_kitchen(kitchen).filter(job__in=of).with_colour())
    summaries = summaries_of(kitchen, bowls, stock)
    stretch = TimeSpan(mine)
    for job in mine:
        stretch.days.setdefault(on_of(job), []).append(job)
    for bowl in bowls:
        row = summaries.get(bowl.pk)
        if row is not None and row.melted_g > 0:
            stretch.came += came(row)
            stretch.of_rests_g += rests_g(kept_parts_of(row, stock))
            if row.lab:
                stretch.labs.setdefault(bowl.job_id or 0, []).append(row.lab)
    stretch.wasted = _wasted(kitchen, bowls, summaries, stock, of)
    said = Outcome.objects.filter(job__in=of).exclude(piece=None).select_related("piece")
    stretch.best = best_of(said.only("good", "liked", "at", "piece__name", "piece__count"))
    return stretch


def _moment(on: date) -> datetime:
    return datetime.combine(on, time(), UTC)


def best_of(outcomes: Iterable[Outcome]) -> list[BestLine]:
    """Pieces by how well they came out, the best first; only what was said last of each counts."""
    last = {o.piece_id: o for o in outcomes}
    by_name: dict[str, list[Outcome]] = {}
    for outcome in last.values():
        if outcome.piece is not None and (outcome.good is not None or outcome.liked):
            by_name.setdefault(outcome.piece.name, []).append(outcome)
    lines = []
    for name, said in by_name.items():
        counted = [o for o in said if o.good is not None and o.piece]
        made, good = sum(o.piece.count for o in counted if o.piece), sum(o.good or 0 for o in counted)
        lines.append(BestLine(name, len(said), made, min(good, made), sum(o.liked == "yes" for o in said)))
    return sorted(lines, key=lambda line: (-line.liked / line.times, -line.share, -line.made, line.name))


def _wasted(
    kitchen: Kitchen, bowls: Sequence[Bowl], summaries: dict[int, BowlSummary], stock: Stock, of: dict[int, Job]
) -> list[WastedLine]:
    """Every bowl that something of was wasted, the most first."""
    done = {bowl.pk: bowl for bowl in bowls if bowl.finished_at and bowl.pk in summaries}
    causes = dict(
        Rescue.objects.for_kitchen(kitchen)
        .filter(bowl__in=done, undone=False, move="swap")
        .values_list("bowl", "cause")
    )
    gone = _gone_of(kitchen, done, stock)
    lines = []
    for pk, bowl in done.items():
        row, parts = summaries[pk], kept_parts_of(summaries[pk], stock)
        kept_g, gone_g = gone.get(pk, (None, 0.0))
        per_g = _per_g(parts, stock)
        for one in wasted(came(row), kept_g=kept_g, gone_g=gone_g):
            cost = None if per_g is None else per_g * one.mass_g
            job, on = of.get(bowl.job_id or 0), timezone.localtime(bowl.started_at).date()
            what, saved_by = _what(one, causes.get(pk)), _saved(one, bowl, causes.get(pk))
            lines.append(WastedLine(on, job, bowl, what, one.mass_g, cost, saved_by))
    return sorted(lines, key=lambda line: -line.mass_g)


def _what(one: Wasted, cause: str | None) -> str:
    if one.why == SPOILT:
        return f"thrown away: {CAUSES[cause].name}" if cause else "thrown away"
    return "left over and not kept" if one.why == TOO_MUCH else "kept past its day"


def _saved(one: Wasted, bowl: Bowl, cause: str | None) -> str:
    """What would have saved it."""
    if one.why == SPOILT:
        return avoid_says(cause) if cause else ""
    if one.why == TOO_MUCH:
        return f"Melt {how_much(one.less_g, bowl.white)} less of {lower(bowl.name)} next time."
    return "Begin the next bowl of a like colour with what is left: the cupboard offers it."


def _per_g(parts: Sequence[Part], stock: Stock) -> float | None:
    cost, mass_g = cost_of(parts, stock), sum(p.mass_g for p in parts)
    return cost / mass_g if cost is not None and mass_g else None


def _gone_of(kitchen: Kitchen, bowls: dict[int, Bowl], stock: Stock) -> dict[int, tuple[float | None, float]]:
    """What of the rest of each bowl was kept, and what of that was still there past its day, g; of bowls whose log
    does not name their rest nothing is known."""
    used = BowlEvent.objects.for_kitchen(kitchen).filter(bowl__in=bowls, kind="used", struck_by=None)
    rests = {pk: said.get("rest", "") for pk, said in used.values_list("bowl", "payload") if "left_g" in said}
    rows = {row.code: row for row in stock.rows if row.made_on}
    left, today = stock_left_g(kitchen, stock) if any(rests.values()) else {}, timezone.localdate(clock.now())
    known: dict[int, tuple[float | None, float]] = {}
    for pk, code in rests.items():
        row = rows.get(code)
        if row is not None:
            over = row.keep_until is not None and row.keep_until < today
            known[pk] = (None, left.get(code, 0.0) if over else 0.0)
    return known
