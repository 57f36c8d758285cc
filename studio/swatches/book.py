"""The swatch book: the colours of a kitchen, how each was made last, out and in as files, and on paper."""

from __future__ import annotations

from django.contrib import messages
from django.db import transaction
from django.db.models import ProtectedError
from django.http import Http404, HttpResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_POST

from coating.colour.words import shade_words
from coating.errors import CoatingError, Unreadable
from studio.colours.files import as_csv, as_json, as_palette, read_swatches, recipe_words
from studio.colours.forms import free_colour_name
from studio.colours.models import Colour
from studio.common.measures import refusal_text
from studio.common.names import plain
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required, sent_once
from studio.common.throttle import takes_files
from studio.common.types import Context

FORMATS = {"csv": "text/csv", "json": "application/json", "gpl": "text/plain"}
MOST_FILE = 1_000_000
SAME = 0.05  # Lab units within which a colour of the same name is the same


def _colours(request: KitchenRequest) -> list[Colour]:
    return list(Colour.objects.for_kitchen(request.kitchen).order_by("pk"))


def _context(request: KitchenRequest) -> Context:
    colours = _colours(request)
    rows = [{"colour": c, "recipe": recipe_words(c)} for c in colours]
    return {"rows": rows, "made": sum(1 for c in colours if c.made), "count": len(colours)}


@kitchen_required
def book(request: KitchenRequest) -> HttpResponse:
    """Every colour by its swatch."""
    return render(request, "colours/book.html", _context(request))


@kitchen_required
def sheet(request: KitchenRequest) -> HttpResponse:
    """The book for paper: swatch, name, recipe, date."""
    return render(request, "colours/sheet.html", _context(request))


@kitchen_required
def out(request: KitchenRequest, suffix: str) -> HttpResponse:
    """The book as a file."""
    if suffix not in FORMATS:
        raise Http404("no such format")
    colours = _colours(request)
    text = {"csv": as_csv, "json": as_json}.get(suffix, lambda c: as_palette(c, request.kitchen.name))(colours)
    response = HttpResponse(text, content_type=f"{FORMATS[suffix]}; charset=utf-8")
    response["Content-Disposition"] = f'attachment; filename="swatches.{suffix}"'
    return response


@kitchen_required
@takes_files
@require_POST
@transaction.atomic
def bring_in(request: KitchenRequest) -> HttpResponse:
    """Colours from a file; one that is there already under its name is left as it is."""
    file = request.FILES.get("file")
    try:
        if file is None:
            raise Unreadable("Choose a file first.", field="file")
        if (file.size or 0) > MOST_FILE:
            raise Unreadable("That file is over 1 MB: 500 colours at most.", field="file")
        swatches = read_swatches(file.read())
    except CoatingError as refusal:
        return render(
            request, "colours/book.html", {**_context(request), "file_error": refusal_text(refusal)}, status=422
        )
    mine = Colour.objects.for_kitchen(request.kitchen)
    added = 0
    for reading, note, made in swatches:
        name = plain(reading.name) or shade_words(reading.lab)
        same = mine.filter(name=name).first()
        if same and max(abs(x - y) for x, y in zip(same.lab, reading.lab, strict=True)) < SAME:
            continue
        Colour.objects.create(
            kitchen=request.kitchen,
            name=free_colour_name(request.kitchen, name),
            lightness=reading.lab[0],
            a=reading.lab[1],
            b=reading.lab[2],
            came_from="brought",
            note=plain(note),
            made=made,
        )
        added += 1
    there = len(swatches) - added
    messages.success(request, f"{added} colours brought in" + (f", {there} were there already." if there else "."))
    return redirect("colours:book")


@kitchen_required
@require_POST
@sent_once
def remove(request: KitchenRequest, pk: int) -> HttpResponse:
    """Take a colour out of the book, unless a piece or a bowl wants it."""
    colour = Colour.objects.get_for(request.kitchen, pk=pk)
    try:
        with transaction.atomic():
            colour.delete()
    except ProtectedError:
        messages.error(request, f"{colour.name} is wanted by a piece or a bowl, so it stays.")
        return redirect("colours:recipe", pk=pk)
    messages.success(request, f"{colour.name} is out of the book.")
    return redirect("colours:book")
