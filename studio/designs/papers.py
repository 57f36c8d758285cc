"""Templates to take away: PDF at true size, SVG, and practice sheets."""

from __future__ import annotations

import re

from django.contrib import messages
from django.http import Http404, HttpResponse
from django.shortcuts import redirect
from django.template.loader import render_to_string

from coating.errors import CoatingError
from coating.figures.practice import practice_sheets
from coating.flow.ribbon import flow_word
from coating.flow.windows import window
from coating.quantities import length_text, mass_text
from studio.common import measures
from studio.common.measures import current, refusal_text
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required
from studio.designs.by_hands import by_hands
from studio.designs.models import Design
from studio.designs.paper import PageHead
from studio.designs.paper import template_pdf as pdf_of
from studio.designs.tiles import solid_tiles


def _design(request: KitchenRequest, pk: int) -> Design:
    design: Design = Design.objects.select_related("layer__piece__job", "colour", "base").get_for(
        request.kitchen, pk=pk
    )
    return design


def _told(design: Design, film: bool) -> PageHead:
    """Job, piece and count, then line, colour, flow in a word and seconds."""
    drawn, measures = design.drawn, current()
    on_g, takes_s = by_hands(design, design.kitchen)
    piece = design.layer.piece if design.layer else None
    job = f"{piece.job.name} · {piece.name}, {piece.count}" if piece else ""
    colour = design.layer.colour if design.layer else design.colour
    aim = window(drawn["window"]).aim
    figures = [
        *([f"{length_text(drawn['line_mm'], measures.length)} line"] if drawn["length_mm"] else []),
        colour.name if colour else "plain",
        flow_word(aim),
        f"{mass_text(on_g, measures.mass)} in all",
        f"{takes_s / 60:.0f} min in all" if takes_s > 100 else f"{takes_s:.0f} s in all",
    ]
    return PageHead(design.name, job, " · ".join(figures), film)


def _file(content: bytes | str, kind: str, name: str, suffix: str) -> HttpResponse:
    response = HttpResponse(content, content_type=kind)
    plain = re.sub(r"[^a-z0-9]+", "-", name.lower()).strip("-")[:60] or "template"
    response["Content-Disposition"] = f'inline; filename="{plain}.{suffix}"'
    return response


@kitchen_required
def template_pdf(request: KitchenRequest, pk: int) -> HttpResponse:
    """The template of a design on paper, mirrored for film where that is asked."""
    design = _design(request, pk)
    try:
        made = pdf_of(
            design.sheets, _told(design, "film" in request.GET), paper=request.GET.get("paper") or measures.paper()
        )
    except CoatingError as refusal:
        messages.error(request, refusal_text(refusal))
        return redirect("designs:design", pk=pk)
    return _file(made, "application/pdf", design.name, "pdf")


@kitchen_required
def template_svg(request: KitchenRequest, pk: int) -> HttpResponse:
    """One sheet of a design as a drawing, in mm."""
    design = _design(request, pk)
    number = request.GET.get("sheet", "1")
    sheets = design.sheets
    if not number.isdecimal() or len(number) > 4 or not 1 <= int(number) <= len(sheets):
        raise Http404("no such sheet")
    sheet = sheets[int(number) - 1]
    sheet = sheet.turned_over() if "film" in request.GET else sheet
    text = render_to_string("designs/sheet.svg", {"sheet": sheet, "design": design})
    return _file(text, "image/svg+xml", design.name, "svg")


@kitchen_required
def tile_svg(request: KitchenRequest, name: str) -> HttpResponse:
    """The picture of a kind or a pattern that stands in space, by itself: a page with many stays light."""
    tile = solid_tiles().get(name)
    if tile is None:
        raise Http404("no such picture")
    response = HttpResponse(render_to_string("designs/tile.svg", {"view": tile.view}), content_type="image/svg+xml")
    response["Cache-Control"] = "private, max-age=86400"
    return response


@kitchen_required
def practice_pdf(request: KitchenRequest) -> HttpResponse:
    """Sheets to practise on: put them under film or parchment."""
    head = PageHead("Practice", request.kitchen.name, "under film or parchment; scrape off and melt again")
    try:
        made = pdf_of(practice_sheets(), head, paper=request.GET.get("paper") or measures.paper())
    except CoatingError:
        raise Http404("no such paper") from None
    return _file(made, "application/pdf", "practice", "pdf")
