"""What is in the pieces of a job: allergens, what to watch, fillings as batches, picks counted out and in, labels."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from datetime import date, timedelta

from django.contrib import messages
from django.http import HttpResponse
from django.shortcuts import redirect, render
from django.utils import timezone
from django.views.decorators.http import require_POST

from coating.care.allergens import Contents
from coating.care.cautions import Caution, cautions, keeps_days
from coating.job import Reckoning
from coating.piece.cores import Hollow
from coating.piece.extras import BatchOfFilling, batch_of, keeps_for
from coating.piece.kinds import KINDS
from coating.techniques import technique
from studio.common import clock
from studio.common.pages import page_of
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required, sent_once
from studio.common.words import many
from studio.cupboard.adapters import core_extra
from studio.cupboard.models import EATEN, Extra
from studio.cupboard.stock import Stock
from studio.pieces.adapters import labels_of
from studio.pieces.asks import PackSaid, packs_in
from studio.pieces.empty import empty_room
from studio.pieces.forms import PicksForm
from studio.pieces.models import Job, Layer, Piece
from studio.pieces.parts import given, with_parts
from studio.pieces.reckoned import core_of, counts_of, reckoned

BATCHES = ("filling", "icing", "modelling")


@dataclass(frozen=True)
class Inside:
    """A piece with what it contains, until when it can be eaten and why, and what to watch."""

    piece: Piece
    label: Contents
    until: tuple[date, str] | None
    cautions: list[Caution]
    picks_out: int
    packs: list[PackSaid]

    @property
    def contains_says(self) -> str:
        """Its allergens, and what nobody has looked at."""
        known = ", ".join(name for name, _ in self.label.contains)
        unsaid = f"not said: {', '.join(self.label.unsaid)}" if self.label.unsaid else ""
        return "; ".join(part for part in (known, unsaid) if part) or "nothing on record"


def _packs(piece: Piece, packs: Mapping[int, list[PackSaid]]) -> list[PackSaid]:
    """What went into the bowls of a piece, by the packs."""
    return [p for la in piece.stack for use in la.poured for p in packs.get(use.bowl_id, ())]


def keeps_says(keeps_days: int | None, *, cold: bool) -> str:
    """How long a filling keeps; nothing where nobody said.

    >>> keeps_says(1, cold=True), keeps_says(10, cold=False), keeps_says(None, cold=True)
    ('Keeps 1 day in the fridge.', 'Keeps 10 days.', '')
    """
    return "" if keeps_days is None else f"Keeps {many(keeps_days, 'day')}{' in the fridge' if cold else ''}."


@dataclass(frozen=True)
class Picks:
    """Picks of one layer: how many go in, how many came back."""

    layer: Layer
    out: int

    @property
    def missing(self) -> int:
        """How many did not come back."""
        return self.out - (self.layer.back or 0)


def days_of(job: Job) -> tuple[date, int | None]:
    """When it is made, and the days from then until it is eaten; None where no day is set."""
    today = timezone.localdate(clock.now())
    made_on = job.made_on or (max(today, job.due_on - timedelta(days=1)) if job.due_on else today)
    return made_on, (job.due_on - made_on).days if job.due_on else None


def picks_of(job: Job) -> list[Picks]:
    """Every layer with picks that come out again."""
    counts = counts_of(job)
    return [
        Picks(la, sum(counts[piece.pk]))
        for piece in job.pieces.all()
        for la in piece.stack
        if la.extra and la.extra.comes_out
    ]


def insides(job: Job, stock: Stock) -> list[Inside]:
    """Every piece of a job, from prefetched rows."""
    labels = labels_of(job, stock.rows)
    made_on, days = days_of(job)
    packs, missing = packs_in(job), dict[int, int]()
    for picks in picks_of(job):
        missing[picks.layer.piece_id] = missing.get(picks.layer.piece_id, 0) + picks.missing
    rows = []
    for piece in given(job):
        watch, keeps = list[Caution](), list[tuple[int, str]]()
        for part in with_parts(piece):
            kind, core = KINDS[part.core], core_of(part)
            extras = [core_extra(e) for la in part.stack for e in (la.extra, *la.also) if e]
            deep = core.depth_mm if isinstance(core, Hollow) else 0.0
            watch += cautions(kind, extras, little_ones=job.little_ones, days=days, deep_mm=deep)
            if kept := keeps_for(extras, keeps_days(kind)):
                keeps.append(kept)
            keeps += [((p.best_before - made_on).days, p.name) for p in _packs(part, packs) if p.best_before]
        first = min(keeps, default=None)
        until = (made_on + timedelta(days=first[0]), first[1]) if first else None
        out = sum(missing.get(part.pk, 0) for part in with_parts(piece))
        mine = list(dict.fromkeys(p for part in with_parts(piece) for p in _packs(part, packs)))
        rows.append(Inside(piece, labels[piece.pk], until, list(dict.fromkeys(watch)), out, mine))
    return rows


def batches_of(job: Job, reckoning: Reckoning) -> list[tuple[Extra, BatchOfFilling]]:
    """Every filling, icing and modelling chocolate of a job as one batch."""
    rows = {
        str(la.pk): la.extra
        for piece in job.pieces.all()
        for la in piece.stack
        if la.extra and la.extra.kind in BATCHES
    }
    grams: dict[Extra, float] = {}
    for line in reckoning.lines:
        if row := rows.get(line.layer):
            grams[row] = grams.get(row, 0.0) + line.made_g
    return [(row, batch_of(g, core_extra(row).parts)) for row, g in grams.items()]


@kitchen_required
def inside_page(request: KitchenRequest, pk: int) -> HttpResponse:
    """What is in it, and what to watch."""
    job = Job.objects.whole(request.kitchen, pk)
    return empty_room(request, job, "inside") or _page(request, job)


def _page(request: KitchenRequest, job: Job, form: PicksForm | None = None, status: int = 200) -> HttpResponse:
    rows = insides(job, Stock.of(request.kitchen))
    made_on, days = days_of(job)
    picks = picks_of(job)
    stops = [(i.piece, c) for i in rows for c in i.cautions if c.stops]
    context = {
        "job": job,
        "room": "inside",
        "insides": page_of(request, rows, word="pieces"),
        "made_on": made_on,
        "days": days,
        "batches": [
            (e, b, keeps_says(e.keeps_days, cold=e.cold)) for e, b in batches_of(job, reckoned(job, request.kitchen))
        ],
        "stops": stops,
        "picks": form or PicksForm(picks=picks),
        "picks_missing": sum(p.missing for p in picks),
        "watch": _watch(rows),
        "unsaid": _unsaid(job),
        "packs_unsaid": list(dict.fromkeys(name for i in rows for name in i.label.unsaid)),
    }
    return render(request, "pieces/inside.html", context, status=status)


def _watch(rows: Iterable[Inside]) -> list[tuple[Caution, list[str]]]:
    """Every caution once, with the pieces it is about, what stops first."""
    by: dict[Caution, list[str]] = {}
    for inside in rows:
        for caution in inside.cautions:
            by.setdefault(caution, []).append(inside.piece.name)
    return sorted(by.items(), key=lambda pair: not pair[0].stops)


def _unsaid(job: Job) -> list[str]:
    """Layers that are of something nobody named: what is in them is not on any label."""
    return [
        f"{piece.name}: {technique(la.technique).title.lower()}"
        for piece in job.pieces.all()
        for la in piece.stack
        if la.extra is None and technique(la.technique).extra in EATEN
    ]


@kitchen_required
@require_POST
@sent_once
def picks_back(request: KitchenRequest, pk: int) -> HttpResponse:
    """So many picks came back."""
    job = Job.objects.whole(request.kitchen, pk)
    form = PicksForm(request.POST, picks=picks_of(job))
    if not form.is_valid():
        return _page(request, job, form, 422)
    missing = form.keep()
    if missing:
        messages.error(request, f"{missing} still missing: look for them before anything is served.")
    else:
        messages.success(request, "Every pick is back.")
    return redirect("pieces:inside", pk=pk)


@kitchen_required
def labels_text(request: KitchenRequest, pk: int) -> HttpResponse:
    """A label for each piece, as text."""
    job = Job.objects.whole(request.kitchen, pk)
    lines: list[str] = []
    for inside in insides(job, Stock.of(request.kitchen)):
        lines += [inside.piece.name, inside.label.label]
        if inside.until:
            lines.append(f"Eat by {inside.until[0]:%d %B %Y}.")
        parts = with_parts(inside.piece)
        if any(la.extra and la.extra.cold for p in parts for la in p.stack) or any(
            keeps_days(KINDS[p.core]) for p in parts
        ):
            lines.append("Keep in the fridge.")
        lots = [f"{p.name} {p.lot}" for p in inside.packs if p.lot]
        if lots:
            lines.append(f"Lots: {', '.join(lots)}.")
        if inside.picks_out > 0:
            lines.append(f"NOT YET: {inside.picks_out} of its picks not counted in.")
        lines += [f"NOT YET: {c.text}" for c in inside.cautions if c.stops]
        lines.append("")
    response = HttpResponse("\n".join(lines), content_type="text/plain; charset=utf-8")
    response["Content-Disposition"] = 'attachment; filename="labels.txt"'
    return response
