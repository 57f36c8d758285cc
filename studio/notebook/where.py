"""Where a colour, something in the cupboard or a design was used, and how it came out."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

from django.http import HttpRequest
from django.utils import timezone

from coating.colour.mixing import Part
from studio.accounts.models import Kitchen
from studio.bowls.models import Bowl
from studio.common import clock
from studio.common.meant import meant
from studio.common.templatetags.kitchen import amount_text, colour_word, measured
from studio.common.types import Context
from studio.common.words import listed, lower
from studio.cupboard.stock import Stock
from studio.designs.models import Design
from studio.notebook.models import BowlSummary, OpenedPack, Outcome
from studio.notebook.record import BowlCame
from studio.notebook.says import many_evenings, off_says, outcome_says, when_says
from studio.notebook.summaries import kept_parts_of, summaries_of

MOST = 12
# Pages that show it.
ON = ("colours:recipe", "cupboard:edit", "designs:design")


@dataclass(frozen=True)
class UsedLine:
    """One time it was used: when, for what, how much of what, and how it came out."""

    on: date
    when: str
    job: object
    bowl: Bowl | None
    says: str
    came: str
    lab: tuple[float, float, float] | None = None


@dataclass(frozen=True)
class Used:
    """All the times it was used, the newest first, and what they come to."""

    says: str
    lines: Sequence[UsedLine]


def bowls_of_colour(kitchen: Kitchen, colour_pk: int, stock: Stock) -> Used | None:
    """Every bowl of a colour, with how it was made."""
    bowls = list(
        Bowl.objects.for_kitchen(kitchen).filter(colour=colour_pk).with_colour().order_by("-started_at")[:MOST]
    )
    summaries = summaries_of(kitchen, bowls, stock)
    came = [_came(bowl, summaries[bowl.pk], stock) for bowl in bowls if bowl.pk in summaries]
    begun = [one for one in came if one.summary.melted_g > 0]
    lines = [_line(one, parts_say(one.parts)) for one in begun]
    offs = [one.off for one in begun if one.off]
    return Used(many_evenings(len({one.bowl.job_id or -one.bowl.pk for one in begun}), offs), lines) if lines else None


def bowls_holding(kitchen: Kitchen, ingredient_pk: int, stock: Stock) -> Used | None:
    """Every bowl that something of the cupboard went into, with how much of it."""
    rows = BowlSummary.objects.for_kitchen(kitchen).select_related("bowl__job", "bowl__colour", "bowl__base")
    mine = rows.filter(parts__of__contains=[{"id": ingredient_pk}]).order_by("-bowl__started_at")[:MOST]
    lines = []
    for row in mine:
        one = _came(row.bowl, row, stock)
        core = stock.cores.get(ingredient_pk)
        of = [p for p in one.parts if core and p.ingredient.name == core.name]
        lines.append(_line(one, f"{amount_text(of[0])} in {lower(one.bowl.name)}" if of else lower(one.bowl.name)))
    return Used(many_evenings(len({line.on for line in lines}), []), lines) if lines else None


def designs_like(kitchen: Kitchen, design_pk: int) -> Used | None:
    """Where a design, or one of the same name and kind, was made."""
    this = Design.objects.for_kitchen(kitchen).filter(pk=design_pk).first()
    if this is None:
        return None
    same = Design.objects.for_kitchen(kitchen).filter(name=this.name, kind=this.kind).exclude(layer=None)
    rows = list(same.select_related("layer__piece__job")[:MOST])
    jobs = {row.layer.piece.job_id for row in rows if row.layer}
    begun = dict(
        Bowl.objects.filter(job__in=jobs).order_by("-started_at").values_list("job", "started_at")
    )  # the first of each comes last, and stays
    said: dict[int, Outcome] = {o.piece_id: o for o in Outcome.objects.filter(job__in=jobs) if o.piece_id}
    lines = []
    for row in rows:
        if row.layer is None or row.layer.piece.job_id not in begun:
            continue
        piece, outcome = row.layer.piece, said.get(row.layer.piece_id)
        on = timezone.localtime(begun[piece.job_id]).date()
        came = outcome_says(outcome, piece.count) if outcome else ""
        lines.append(UsedLine(on, _when(on), piece.job, None, f"{piece.count} {lower(piece.name)}", came))
    lines.sort(key=lambda line: line.on, reverse=True)
    return Used(many_evenings(len(lines), []), lines) if lines else None


def _came(bowl: Bowl, summary: BowlSummary, stock: Stock) -> BowlCame:
    return BowlCame(bowl, summary, kept_parts_of(summary, stock), None)


def _when(on: date) -> str:
    return when_says(on, timezone.localdate(clock.now()))


def _line(one: BowlCame, says: str) -> UsedLine:
    on = timezone.localtime(one.bowl.started_at).date()
    came = off_says("it", one.off) if one.off else ""
    return UsedLine(on, _when(on), one.bowl.job, one.bowl, says, came, one.summary.lab)


def parts_say(parts: Sequence[Part]) -> str:
    """What was stirred into how much: "21 drops blue and 9 drops red into 280 g bright white coating"."""
    stirred = [f"{measured(p)} {colour_word(p.ingredient.title)}" for p in parts if not p.ingredient.is_base]
    bases = [f"{measured(p)} {colour_word(p.ingredient.title)}" for p in parts if p.ingredient.is_base]
    return f"{listed(stirred)} into {listed(bases)}" if stirred and bases else listed(bases or stirred)


def used_here(request: HttpRequest) -> Context:
    """Where what this page is about was used."""
    kitchen, about, match = getattr(request, "kitchen", None), meant(request), request.resolver_match
    if not kitchen or about is None or match is None or match.view_name not in ON:
        return {}
    what, pk = about
    if what == "design":
        return {"used_here": designs_like(kitchen, pk)}
    if what == "colour":
        return {"used_here": bowls_of_colour(kitchen, pk, Stock.of(kitchen))}
    packs = OpenedPack.objects.for_kitchen(kitchen).filter(ingredient=pk).select_related("photo").order_by("-at", "-pk")
    return {"used_here": bowls_holding(kitchen, pk, Stock.of(kitchen)), "packs_here": list(packs[:MOST])}
