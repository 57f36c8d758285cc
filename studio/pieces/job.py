"""The page of a job: its pieces with how many of each, and its bowls, joined and split as the maker chooses."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Any

from django.contrib import messages
from django.http import Http404, HttpResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_POST

from coating.errors import CoatingError
from coating.job import Line as ReckonedLine
from coating.job import Reckoning
from coating.learning.factors import Factors
from coating.learning.names import COAT, HOLE, PACE, SET
from coating.techniques import technique
from studio.accounts.models import Kitchen
from studio.common.forms import VersionedForm
from studio.common.measures import current, refusal_text
from studio.common.models import ChangedMeanwhile
from studio.common.pages import page_of
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required, sent_once
from studio.common.templatetags.kitchen import how_much, mass
from studio.common.types import Context, Json
from studio.common.words import listed, lower
from studio.cupboard.stock import Stock
from studio.pieces.adapters import ColourNeed, cautions_told, colour_needs
from studio.pieces.asks import way_of_design
from studio.pieces.choices import turns_of
from studio.pieces.counting import count_family, count_piece, join, leave, scale_job
from studio.pieces.drips import drips_shown
from studio.pieces.forms import CountForm, ScaleForm, TogetherForm
from studio.pieces.known import concerning, known_to, learned_since
from studio.pieces.known_says import goes_by_says, thing_called
from studio.pieces.line_says import layer_says
from studio.pieces.models import Family, Job, Layer, Piece
from studio.pieces.parts import goes_on, picture_of
from studio.pieces.pictures import Pictured
from studio.pieces.reckoned import as_core_layer, kitchen_of, reckoned
from studio.pieces.says import counted_says, family_says, joint_says, order_says


@dataclass(frozen=True)
class JobLine:
    """A piece on the page of its job: its layers, how many are made and why, and its picture."""

    piece: Piece
    layers: list[Json]
    count: int
    spares: int
    on: tuple[Piece, ...] = ()

    @cached_property
    def picture(self) -> Pictured:
        """How it looks with all that goes on it."""
        return picture_of(self.piece)

    @property
    def says(self) -> str:
        """How many are made, and for what."""
        return counted_says(self.piece.name, self.piece.count, self.count, self.spares, [p.name for p in self.on])


def _line(layer: Layer, lines: Sequence[ReckonedLine]) -> Context:
    """A layer in one line, with what was reckoned of it; `planned`: there is more to plan than to draw about it."""
    kind, made = technique(layer.technique), way_of_design(layer)
    drips = drips_shown(layer) if kind.name == "cake_drip" else None
    core_layer = as_core_layer(layer)
    line = {
        "layer": layer,
        "kind": kind,
        "lab": layer.tone.lab,
        "told": core_layer,
        "designs": bool(made),
        "one_g": sum(line.on_one_g for line in lines),
        "made_g": sum(line.made_g for line in lines),
        "drips": drips,
        "joint": joint_says(core_layer) if layer.part else "",
        "planned": made == "planned",
    }
    return {**line, "says": layer_says(line)}


def _in_order(pieces: Sequence[Piece]) -> list[Piece]:
    """What is counted alone first; parts right after what they go on."""
    on = {la.part_id: p for p in pieces for la in p.stack if la.part_id}

    def place(piece: Piece) -> tuple[int, list[int]]:
        chain = [piece.pk]
        top = piece
        while top.pk in on and len(chain) <= len(pieces):
            top = on[top.pk]
            chain.append(top.pk)
        return top.family_id or 0, chain[::-1]

    return sorted(pieces, key=place)


def _groups(lines: Iterable[JobLine]) -> list[tuple[Family | None, list[JobLine], str]]:
    """Pieces by the family they are counted in and what is said of it, those that are counted alone first."""
    by_family: dict[Any, tuple[Family | None, list[JobLine]]] = {}
    for line in lines:
        family = line.piece.family
        key = ("family", family.pk) if family else ("alone",)
        by_family.setdefault(key, (family, []))[1].append(line)
    groups = sorted(by_family.values(), key=lambda group: group[0] is not None)
    return [(family, mine, family_says(family.kind, len(mine)) if family else "") for family, mine in groups]


def _total_says(needs: Sequence[ColourNeed]) -> str:
    """All that is melted: by mass, or wafers of coating and squares of chocolate where there is no scale."""
    if current().has_scale:
        return mass(sum(n.melt_g for n in needs))
    by = {
        white: [n.melt_g for n in needs if (n.white == "coating") == (white == "coating")]
        for white in ("coating", "tempered")
    }
    return listed([how_much(sum(grams), white) for white, grams in by.items() if grams])


@kitchen_required
def job_page(request: KitchenRequest, pk: int) -> HttpResponse:
    """A job: its pieces and what each colour takes."""
    return _page(request, Job.objects.whole(request.kitchen, pk))


def _page(request: KitchenRequest, job: Job, status: int = 200, **forms: Any) -> HttpResponse:
    reckoning = reckoned(job, request.kitchen)
    needs = colour_needs(job, request.kitchen, reckoning)
    pieces = list(job.pieces.all())
    most = max((p.family.count if p.family else p.count for p in pieces), default=1)
    page = page_of(request, _in_order(pieces), word="pieces")
    bowls = page_of(request, needs, word="bowls")
    by_layer: dict[str, list[ReckonedLine]] = {}
    for line in reckoning.lines:
        by_layer.setdefault(line.layer, []).append(line)
    order = _order(needs, request.kitchen, job)
    on = goes_on(pieces)
    lines = [
        JobLine(
            p,
            [_line(la, by_layer.get(str(la.pk), ())) for la in p.stack],
            *reckoning.counts[str(p.pk)],
            tuple(on.get(p.pk, ())),
        )
        for p in page
    ]
    context = {
        "job": job,
        "room": "pieces",
        "needs": needs,
        "goes_by": goes_by_says(
            _of_jobs(known_to(job, request.kitchen), concerning(reckoning.bowls)), Stock.of(request.kitchen).titles
        ),
        "offer": _offer(job, reckoning, request.kitchen),
        "order_says": order_says([(need.name, rest) for need, rest in order]),
        "first": order[0][0] if order else needs[0] if needs else None,
        "bowls": [(need, *_choices(need, needs, need.key == request.GET.get("choose"))) for need in bowls],
        "bowls_page": bowls,
        "cautions": cautions_told(reckoning, {n.key: n.name for n in needs}),
        "groups": _groups(lines),
        "count": len(pieces),
        "page": page,
        "total_says": _total_says(needs),
        "pieces_in_all": sum(p.count for p in pieces),
        "counting": forms.get("counting"),
        "scale": forms.get("scale") or ScaleForm(initial={"was": most, "will_be": most}),
        "together": forms.get("together") or (TogetherForm(job=job) if "together" in request.GET else None),
    }
    return render(request, "pieces/job.html", context, status=status)


def _of_jobs(known: Factors, mine: set[str]) -> dict[str, float]:
    """What concerns all of a job: of colours and bags each bowl says it."""
    return {name: factor.value for name, factor in known.only(COAT, HOLE, SET, PACE).of.items() if name in mine}


def _offer(job: Job, reckoning: Reckoning, kitchen: Kitchen) -> Context | None:
    """What became known since it was begun, with what is melted now and would be then; None where nothing did."""
    since = learned_since(job, kitchen)
    if not since:
        return None
    anew = reckoned(job, kitchen, around=kitchen_of(kitchen))
    mine = concerning((*reckoning.bowls, *anew.bowls))
    called = [word for name in since if name in mine and (word := thing_called(name, Stock.of(kitchen).titles))]
    if not called:
        return None
    melts = [sum(bowl.melt_g for bowl in one.bowls) for one in (reckoning, anew)]
    return {"called": listed(called), "now_g": melts[0], "then_g": melts[1], "same": abs(melts[0] - melts[1]) < 1.0}


def _order(needs: list[ColourNeed], kitchen: Kitchen, job: Job) -> list[tuple[ColourNeed, str]]:
    """What to melt in which order, each with the name of the bowl whose rest it begins with; nothing of one bowl."""
    by_key = {n.key: n for n in needs}
    turns = turns_of(needs, Stock.of(kitchen), kitchen, known_to(job, kitchen)) if len(needs) > 1 else []
    return [(by_key[t.wanted.name], by_key[t.after].name if t.after else "") for t in turns] if len(turns) > 1 else []


def _choices(need: ColourNeed, needs: list[ColourNeed], seen_to: bool) -> tuple[bool, list[tuple[str, str]]]:
    """Whether there is a choice of bowls, and where it is asked for what can be done: split it, or join it with
    another. Not once it was begun."""
    if need.bowl is not None or need.is_second:
        return False, []
    splits = len(need.layers) > 1
    alike = [n for n in needs if (n.tone.key, n.white, n.bowl, n.is_second) == (need.tone.key, need.white, None, False)]
    others = [other for other in alike if other is not need]
    if not seen_to:
        return splits or bool(others), []
    split = [(f"split {need.key}", "Split it into several bowls")] if splits else []
    return False, [*split, *((f"join {need.key} {o.key}", f"One bowl with {lower(o.name)}") for o in others)]


@kitchen_required
@require_POST
@sent_once
def bowls_chosen(request: KitchenRequest, pk: int) -> HttpResponse:
    """Join two bowls of a job, or split one."""
    job = Job.objects.whole(request.kitchen, pk)
    needs = {need.key: need for need in colour_needs(job, request.kitchen)}
    word, _, rest = request.POST.get("do", "").partition(" ")
    keys = rest.split(" ")
    if any(key not in needs or needs[key].bowl or needs[key].is_second for key in keys):
        raise Http404("no such bowl to begin in this job")
    need = needs[keys[0]]
    if word == "join" and len(keys) == 2:
        other = needs[keys[1]]
        if (other.tone.key, other.white) != (need.tone.key, need.white) or other is need:
            raise Http404("these two cannot be one")
        Layer.objects.filter(pk__in=[la.pk for la in other.layers]).update(apart=need.apart)
    elif word == "split":
        by_piece = len({la.piece_id for la in need.layers}) > 1
        apart: dict[int, list[int]] = {}
        for la in need.layers:
            apart.setdefault(la.piece_id if by_piece else la.pk, []).append(la.pk)
        last = max(n.apart for n in needs.values())
        for place, mine in enumerate(list(apart.values())[1:], last + 1):
            Layer.objects.filter(pk__in=mine).update(apart=place)
    return redirect("pieces:job", pk=pk)


# -- how many --------------------------------------------------------------------------------------------------
@kitchen_required
@require_POST
@sent_once
def counted(request: KitchenRequest, pk: int) -> HttpResponse:
    """So many of a piece or of a family."""
    job = Job.objects.whole(request.kitchen, pk)
    form = CountForm(request.POST)
    if not form.is_valid():
        return _miscounted(request, job, form, " ".join(str(e) for errors in form.errors.values() for e in errors))
    data = form.cleaned_data
    try:
        if data["family"]:
            family = Family.objects.get_for(request.kitchen, pk=data["family"], job=job)
            family.version = data["version"]
            count_family(family, data["count"])
        else:
            piece = Piece.objects.select_related("family").get_for(request.kitchen, pk=data["piece"], job=job)
            piece.version = data["version"]
            count_piece(piece, data["count"])
    except CoatingError as refusal:
        return _miscounted(request, job, form, refusal_text(refusal))
    except ChangedMeanwhile:
        return _miscounted(request, job, form, VersionedForm.CHANGED, 409)
    return redirect("pieces:job", pk=pk)


def _miscounted(request: KitchenRequest, job: Job, form: CountForm, why: str, status: int = 422) -> HttpResponse:
    """The job again, with what was typed and why not at the field it was typed in."""
    typed = {name: str(form.data.get(name, "")) for name in ("piece", "family", "count")}
    return _page(request, Job.objects.whole(request.kitchen, job.pk), status, counting={**typed, "why": why})


@kitchen_required
@require_POST
@sent_once
def scaled(request: KitchenRequest, pk: int) -> HttpResponse:
    """Every count of a job for so many instead of so many others."""
    job = Job.objects.whole(request.kitchen, pk)
    form = ScaleForm(request.POST)
    if form.is_valid():
        try:
            scale_job(job, form.cleaned_data["was"], form.cleaned_data["will_be"])
            messages.success(request, f"Counted for {form.cleaned_data['will_be']} now.")
            return redirect("pieces:job", pk=pk)
        except CoatingError as refusal:
            form.add_error("will_be", refusal_text(refusal))
    return _page(request, job, 422, scale=form)


@kitchen_required
@require_POST
@sent_once
def together(request: KitchenRequest, pk: int) -> HttpResponse:
    """Count pieces together as variants or as a motif."""
    job = Job.objects.whole(request.kitchen, pk)
    form = TogetherForm(request.POST, job=job)
    if form.is_valid():
        data = form.cleaned_data
        pieces = form.chosen()
        for piece in pieces:
            piece.share = form.each(piece)
        try:
            join(job, data["name"], data["kind"], pieces, data["count"])
            return redirect("pieces:job", pk=pk)
        except CoatingError as refusal:
            form.add_error(None, refusal_text(refusal))
    return _page(request, job, 422, together=form)


@kitchen_required
@require_POST
@sent_once
def alone(request: KitchenRequest, pk: int) -> HttpResponse:
    """Count a piece by itself again."""
    piece = Piece.objects.select_related("family", "job").get_for(request.kitchen, pk=pk)
    leave(piece)
    return redirect("pieces:job", pk=piece.job_id)
