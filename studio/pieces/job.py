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
from coating.piece.kinds import KINDS
from coating.plan.sharing import sharing
from studio.common.measures import current
from studio.common.models import ChangedMeanwhile
from studio.common.pages import page_of
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required, sent_once
from studio.common.templatetags.kitchen import how_much, mass
from studio.designs.kinds import KINDS_OF
from studio.pieces.adapters import ColourNeed, colour_needs
from studio.pieces.counting import count_family, count_piece, join, leave, scale_job
from studio.pieces.forms import CountForm, ScaleForm, TogetherForm
from studio.pieces.models import Family, Job, Layer, Piece
from studio.pieces.pictures import Stroke, strokes_of
from studio.pieces.says import listed
from studio.pieces.techniques import core_of, technique_of
from studio.pieces.techniques.base import told_of


@dataclass(frozen=True)
class Line:
    """A piece on the page of its job: its layers and its picture."""

    piece: Piece
    layers: list[dict[str, Any]]

    @cached_property
    def strokes(self) -> list[Stroke]:
        """How a piece that was built looks."""
        rows = [line["layer"] for line in self.layers]
        labs = [la.tone.lab for la in rows]
        return strokes_of(KINDS[self.piece.core], core_of(self.piece), [told_of(la) for la in rows], labs)


def _line(layer: Layer) -> dict[str, Any]:
    """A layer in one line; `planned`: there is more to plan than to draw about it."""
    kind, made = technique_of(layer), [k for k in KINDS_OF.get(layer.technique, ()) if k.takes(layer)]
    planned = any(k.group == "Made" for k in made)
    return {"layer": layer, "kind": kind, "lab": layer.tone.lab, "shown": kind.shown(layer), "designs": bool(made),
            "planned": planned}  # fmt: skip


def _groups(lines: Iterable[Line]) -> list[tuple[Family | None, list[Line]]]:
    """Pieces by the family they are counted in, those that are counted alone first."""
    found: dict[Any, tuple[Family | None, list[Line]]] = {}
    for line in lines:
        family = line.piece.family
        key = ("family", family.pk) if family else ("alone",)
        found.setdefault(key, (family, []))[1].append(line)
    return sorted(found.values(), key=lambda group: group[0] is not None)


def _total_says(needs: Sequence[ColourNeed]) -> str:
    """All that is melted: by mass, or wafers of coating and squares of chocolate where there is no scale."""
    if current().has_scale:
        return mass(sum(n.quantity.melt_g for n in needs))
    by = {white: [n.quantity.melt_g for n in needs if (n.white == "coating") == (white == "coating")]
          for white in ("coating", "tempered")}  # fmt: skip
    return listed([how_much(sum(grams), white) for white, grams in by.items() if grams])


@kitchen_required
def job_page(request: KitchenRequest, pk: int) -> HttpResponse:
    """A job: its pieces and what each colour takes."""
    return _page(request, Job.objects.whole(request.kitchen, pk))


def _page(request: KitchenRequest, job: Job, status: int = 200, **forms: Any) -> HttpResponse:
    needs = colour_needs(job)
    pieces = list(job.pieces.all())
    most = max((p.family.count if p.family else p.count for p in pieces), default=1)
    page = page_of(request, sorted(pieces, key=lambda p: (p.family_id or 0, p.pk)), word="pieces")
    bowls = page_of(request, needs, word="bowls")
    lines = [Line(p, [_line(la) for la in p.stack]) for p in page]
    context = {
        "job": job, "room": "pieces", "needs": needs,
        "bowls": [(need, *_choices(need, needs, need.key == request.GET.get("choose"))) for need in bowls],
        "bowls_page": bowls,
        "groups": _groups(lines), "count": len(pieces), "page": page, "total_says": _total_says(needs),
        "pieces_in_all": sum(p.count for p in pieces),
        "scale": forms.get("scale") or ScaleForm(initial={"was": most, "will_be": most}),
        "together": forms.get("together") or (TogetherForm(job=job) if "together" in request.GET else None),
    }  # fmt: skip
    return render(request, "pieces/job.html", context, status=status)


def _choices(
    need: ColourNeed, needs: list[ColourNeed], asked: bool
) -> tuple[bool, bool, list[tuple[ColourNeed, Any]]]:  # fmt: skip
    """Whether there is a choice of bowls, and where it is asked for: can it be split, and what could it be joined
    with? Not once it was begun."""
    if need.bowl is not None or need.is_second:
        return False, False, []
    splits = len({la.piece_id for la in need.layers}) > 1 or need.is_joined
    alike = [n for n in needs if (n.tone.key, n.white, n.bowl, n.is_second) == (need.tone.key, need.white, None, False)]
    if not asked:
        return splits or len(alike) > 1, False, []
    return False, splits, [(other, sharing(need.technique, other.technique)) for other in alike if other is not need]


@kitchen_required
@require_POST
@sent_once
def bowls_chosen(request: KitchenRequest, pk: int) -> HttpResponse:
    """Join two bowls of a job, or split one."""
    job = Job.objects.whole(request.kitchen, pk)
    needs = {need.key: need for need in colour_needs(job)}
    word, _, rest = request.POST.get("do", "").partition(" ")
    keys = rest.split(" ")
    if any(key not in needs or needs[key].bowl or needs[key].is_second for key in keys):
        raise Http404("no such bowl to begin in this job")
    need = needs[keys[0]]
    if word == "join" and len(keys) == 2:
        other = needs[keys[1]]
        if (other.tone.key, other.white) != (need.tone.key, need.white) or other is need:
            raise Http404("these two cannot be one")
        for layer in other.layers:
            flow = technique_of(layer).flow
            joined = "" if flow == need.technique else need.technique
            Layer.objects.filter(pk=layer.pk).update(joined=joined, apart=need.apart)
    elif word == "split":
        _split(need, max(n.apart for n in needs.values()))
    return redirect("pieces:job", pk=pk)


def _split(need: ColourNeed, last: int) -> None:
    """Back to a bowl a flow where it was joined; else a bowl a piece."""
    if need.is_joined:
        Layer.objects.filter(pk__in=[la.pk for la in need.layers]).update(joined="", apart=0)
        return
    _, *others = dict.fromkeys(la.piece_id for la in need.layers)
    for place, piece_id in enumerate(others, 1):
        mine = [la.pk for la in need.layers if la.piece_id == piece_id]
        Layer.objects.filter(pk__in=mine).update(apart=last + place)


# -- how many --------------------------------------------------------------------------------------------------
@kitchen_required
@require_POST
@sent_once
def counted(request: KitchenRequest, pk: int) -> HttpResponse:
    """So many of a piece or of a family."""
    job = Job.objects.whole(request.kitchen, pk)
    form = CountForm(request.POST)
    if not form.is_valid():
        return _refused(request, job, " ".join(str(e) for errors in form.errors.values() for e in errors))
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
        return _refused(request, job, refusal.message)
    except ChangedMeanwhile:
        return _refused(request, job, "Somebody changed this since you opened it: look again.", 409)
    return redirect("pieces:job", pk=pk)


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
            form.add_error("will_be", refusal.message)
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
            form.add_error(None, refusal.message)
    return _page(request, job, 422, together=form)


@kitchen_required
@require_POST
@sent_once
def alone(request: KitchenRequest, pk: int) -> HttpResponse:
    """Count a piece by itself again."""
    piece = Piece.objects.select_related("family", "job").get_for(request.kitchen, pk=pk)
    leave(piece)
    return redirect("pieces:job", pk=piece.job_id)


def _refused(request: KitchenRequest, job: Job, why: str, status: int = 422) -> HttpResponse:
    messages.error(request, why)
    return _page(request, job, status)
