"""A colour and how to mix it: what to stir into how much, how sure that is, and what to do when it cannot be had."""

from __future__ import annotations

import uuid
from typing import Any
from urllib.parse import urlencode

from django.contrib import messages
from django.http import HttpResponse
from django.middleware.csrf import get_token
from django.shortcuts import redirect, render
from django.urls import reverse
from django.views.decorators.http import require_POST

from coating.colour.ways import USUAL
from coating.colour.words import shade_words
from coating.errors import CoatingError
from studio.bowls.actions import begin_bowl
from studio.bowls.adapters import colour_way_json
from studio.bowls.context import band_items
from studio.bowls.models import Bowl
from studio.colours.forms import LabField, NameForm, free_colour_name
from studio.colours.models import Colour, Photo
from studio.common.forms import VersionedForm, asked_and_reckoned
from studio.common.live import LiveView
from studio.common.measures import refusal_text
from studio.common.models import ChangedMeanwhile
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required, sent_once
from studio.common.types import Context, Fields
from studio.common.words import close_says
from studio.cupboard.stock import Stock
from studio.swatches.adapters import ShadeQuestion
from studio.swatches.forms import RecipeForm
from studio.swatches.new import try_address
from studio.swatches.says import flows_says, ready_says, recipe_says, why_not_says

TITLES = {USUAL: "Recommended", "best": "Closest match", "fewest": "Fewest bottles", "cheapest": "Cheapest"}
NEIGHBOURS, MOST_READY = 5, 3
WORTH_SAYING = 0.5  # dE00 by which another base must come nearer


def question_of(request: KitchenRequest, form: RecipeForm, colour: Colour | None = None) -> ShadeQuestion:
    """What is asked of a colour, of one in the book or not."""
    data = form.cleaned_data
    stock = Stock.of(request.kitchen)
    return ShadeQuestion(request.kitchen, stock, data["lab"], data["white"], data["melt_g"], form.colour_way(), colour)


def _further(question: ShadeQuestion) -> str:
    """Where nothing sold in a colour comes closer."""
    if question.white == "coating":
        return "No coating sold in a colour comes closer either: choose a paler or a duller shade."
    return "Coloured coatings reach further: choose coating above."


def shown(question: ShadeQuestion, *, name: str) -> Context:
    """What the parts of the page say about a question. Raises CoatingError."""
    matches, chosen = question.matches, question.chosen
    de00, low, high = question.range()
    lamps_mix, lamps_target = question.lamps()
    columns = [
        {
            "way": way,
            "title": TITLES[way],
            "match": matches.get(way),
            "chosen": matches.get(way) is chosen,
            "rows": question.rows(matches[way].recipe) if way in matches else [],
            "close": close_says(matches[way].recipe.de00) if way in matches else "",
            "flows": flows_says(matches[way]) if way in matches else "",
            "same": way != USUAL and way in matches and matches[way].recipe.parts == matches[USUAL].recipe.parts,
        }
        for way in TITLES
    ]
    steps = question.steps()
    why, rows = question.why_not(), question.rows(chosen.recipe)
    better = [(b, r) for b, r in (why.ready if why and why.reason != "drop" else ()) if r.de00 < de00 - WORTH_SAYING]
    ready = [(b, r, question.in_cupboard(b), ready_says(r, b.name)) for b, r in better]
    return {
        "name": name,
        "lab": question.lab,
        "white": question.white,
        "match": chosen,
        "recipe": chosen.recipe,
        "rows": rows,
        "columns": columns,
        "low": low,
        "high": high,
        "de00": de00,
        "comes": close_says(de00, high),
        "band_labs": question.band(),
        "lamps_mix": lamps_mix,
        "lamps_target": lamps_target,
        "steps": steps,
        "why": why,
        "why_says": why_not_says(why, question.melt_g) if why else "",
        "why_more": _further(question) if why and why.reason != "drop" else "",
        "ready": ready[:MOST_READY],
        "says": recipe_says(rows, chosen.recipe, name, little=bool(why and why.reason == "drop")),
        "melt_g": question.melt_g,
        "back": try_address(question.lab, "shade"),
        "result": {
            "de00": chosen.recipe.de00,
            "lab": list(chosen.recipe.lab),
            "load": chosen.recipe.load,
            "reachable": matches["best"].recipe.reachable,
            "parts": {p.ingredient.name: round(p.mass_g, 4) for p in chosen.recipe.parts},
        },
    }


def _page(
    request: KitchenRequest,
    *,
    name: str,
    lab: tuple[float, float, float],
    colour: Colour | None,
    came_from: str,
    naming: NameForm | None = None,
    status: int = 200,
) -> HttpResponse:
    """`naming`: as it was typed, when it could not be kept."""
    stock, sent = Stock.of(request.kitchen), request.POST if naming else request.GET
    data = sent if "melt_g" in sent else None
    form, reckoned = asked_and_reckoned(lambda d: RecipeForm(d, stock=stock, initial={"lab": lab}), data)
    context: Context = {}
    try:
        context = shown(question_of(request, reckoned, colour), name=name)
    except CoatingError as refusal:
        context = {"refusal": refusal_text(refusal), "lab": lab, "name": name}
    pictures = Photo.objects.for_kitchen(request.kitchen).defer("pixels")
    photo = sent.get("photo", "")
    if colour:
        picture = pictures.filter(colour=colour).first()
    else:
        picture = pictures.filter(colour=None, pk=photo).first() if photo.isdecimal() and len(photo) < 19 else None
    beside = Bowl.objects.for_kitchen(request.kitchen).in_use().newest(NEIGHBOURS)
    context |= {
        "picture": picture,
        "form": form,
        "colour": colour,
        "came_from": came_from,
        "send_key": uuid.uuid4(),
        "beside": [b for b in band_items(request.kitchen, beside, stock=stock) if b.lab],
        "naming": naming
        or NameForm(
            kitchen=request.kitchen,
            colour=colour,
            initial={
                "name": colour.name if colour else free_colour_name(request.kitchen, name),
                "note": colour.note if colour else "",
            },
        ),
    }
    bad = form.is_bound and form.errors and status == 200
    return render(request, "colours/recipe.html", context, status=422 if bad else status)


@kitchen_required
def recipe(request: KitchenRequest, pk: int) -> HttpResponse:
    """A colour of the swatch book."""
    colour = Colour.objects.get_for(request.kitchen, pk=pk)
    return _page(request, name=colour.name, lab=colour.lab, colour=colour, came_from=colour.came_from)


@kitchen_required
def try_out(request: KitchenRequest) -> HttpResponse:
    """A colour that has no name yet."""
    form = RecipeForm({"lab": request.GET.get("lab", "")}, stock=Stock([]))
    form.is_valid()
    lab = form.cleaned_data.get("lab")
    if lab is None:
        messages.error(request, "That is no colour. Choose one here.")
        return redirect("colours:new")
    came_from = request.GET.get("from", "shade")
    came_from = came_from if came_from in dict(Colour.CAME_FROM) else "shade"
    return _page(request, name=shade_words(lab), lab=lab, colour=None, came_from=came_from)


class RecipeLive(LiveView):
    """The recipe while it is changed."""

    part_templates = {
        role: f"colours/parts/{role}.html" for role in ("answer", "swatches", "columns", "seen", "strip", "reach")
    }

    def make_form(self, request: KitchenRequest, fields: Fields, **kwargs: Any) -> RecipeForm:
        self.told = fields
        return RecipeForm(fields, stock=Stock.of(request.kitchen))

    def make_context(self, request: KitchenRequest, form: Any, **kwargs: Any) -> Context:
        name = str(self.told.get("called") or "")[:60] or shade_words(form.cleaned_data["lab"])
        pk = str(self.told.get("colour") or "")
        known = Colour.objects.for_kitchen(request.kitchen).filter(pk=pk if pk.isdecimal() and len(pk) < 19 else 0)
        return {"csrf_token": get_token(request), **shown(question_of(request, form, known.first()), name=name)}


@kitchen_required
@require_POST
@sent_once
def keep(request: KitchenRequest) -> HttpResponse:
    """Keep a colour in the book under a name, and begin a bowl of it when asked to."""
    form = RecipeForm(request.POST, stock=Stock.of(request.kitchen))
    pk = request.POST.get("colour", "")
    colour = Colour.objects.get_for(request.kitchen, pk=pk) if pk else None
    naming = NameForm(request.POST, kitchen=request.kitchen, colour=colour)
    came_from = request.POST.get("came_from", "shade")
    came_from = came_from if came_from in dict(Colour.CAME_FROM) else "shade"
    form.is_valid()
    lab = form.cleaned_data.get("lab") or (colour.lab if colour else None)
    if lab is None:
        messages.error(request, "That is no colour. Choose one here.")
        return redirect("colours:new")
    again = {"name": colour.name if colour else shade_words(lab), "lab": lab, "came_from": came_from, "naming": naming}
    if not naming.is_valid() or form.errors:
        return _page(request, colour=colour, status=422, **again)
    data = naming.cleaned_data
    if colour is None:
        colour = Colour(kitchen=request.kitchen, lightness=lab[0], a=lab[1], b=lab[2], came_from=came_from)
    colour.name, colour.note = data["name"], data["note"]
    try:
        colour.save_over(form_version(request)) if colour.pk else colour.save()
    except ChangedMeanwhile:
        naming.add_error(None, VersionedForm.CHANGED)
        return _page(request, colour=Colour.objects.get(pk=colour.pk), status=409, **again)
    photo = request.POST.get("photo", "")
    if "keep_photo" in request.POST and photo.isdecimal() and len(photo) < 19:
        Photo.objects.for_kitchen(request.kitchen).filter(pk=photo, colour=None).update(colour=colour)
    if "bowl" not in request.POST:
        messages.success(request, f"{colour.name} is in your swatch book.")
        fields = {n: request.POST[n] for n in form.fields if request.POST.get(n) and n != "lab"}
        lab = LabField().prepare_value(form.cleaned_data["lab"])
        return redirect(f"{reverse('colours:recipe', args=[colour.pk])}?{urlencode({**fields, 'lab': lab})}")
    bowl = begin_bowl(
        request.kitchen,
        name=colour.name,
        white=form.cleaned_data["white"],
        colour=colour,
        colours=colour_way_json(form.colour_way(), melt_g=form.cleaned_data["melt_g"]),
    )
    return redirect("bowls:bowl", pk=bowl.pk)


def form_version(request: KitchenRequest) -> int:
    """The version of the row that the page showed."""
    text = request.POST.get("version", "")
    return int(text) if text.isdecimal() and len(text) < 10 else 0
