"""Led to the colour: a step, a look, and the rest worked out anew; or the least that brings a bowl back."""

from __future__ import annotations

import uuid
from typing import Any

from django import forms
from django.contrib import messages
from django.core.exceptions import ValidationError
from django.db import transaction
from django.http import Http404, HttpResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_POST

from coating.colour.correction import nearest
from coating.colour.fitting import stronger
from coating.colour.mixing import mix
from coating.colour.readings import lab_from_hex
from coating.errors import Unreadable
from coating.plan.colouring import EYES, Colouring, colouring, seen_as, so_far
from studio.bowls.actions import BowlChanged, Line, append
from studio.bowls.adapters import Desk
from studio.bowls.added import added_line
from studio.bowls.colouring_says import added_says, learned_says, progress_says, step_says
from studio.bowls.kept import keep_recipe
from studio.bowls.sends import SendForm
from studio.bowls.views import CHANGED, desk_of
from studio.colours.forms import LabField, free_colour_name
from studio.colours.models import Colour
from studio.common.forms import WordsField
from studio.common.measures import refusal_text
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required, sent_once
from studio.common.types import Context, Typed
from studio.pieces.known_says import goes_by_says

ELSEWHERE, NEARER = 5.0, 2.0  # dE00 within which a bowl will do for another colour, and by how much it must be nearer
SHOWN_AHEAD = 5


class ColourForm(SendForm):
    """What was done or seen: the step as shown, how it looks beside its swatch, or a reading."""

    what = forms.ChoiceField(choices=[(w, w) for w in ("did", "eyes", "read")])
    word = forms.ChoiceField(choices=list(EYES.items()), required=False)
    much = forms.BooleanField(required=False)
    hex = WordsField(label="Shade, such as #8fb0c8", max_length=7, required=False)
    lab = LabField(widget=forms.HiddenInput, required=False, max_length=80)

    def clean(self) -> Typed:
        data = super().clean() or {}
        if data.get("what") == "eyes" and not data.get("word"):
            raise ValidationError("Say how it looks.")
        if data.get("what") == "read" and not data.get("lab"):
            try:
                data["lab"] = lab_from_hex(data.get("hex") or "")
            except Unreadable as refusal:
                self.add_error("hex", ValidationError(refusal_text(refusal)))
        return data


def _lines(desk: Desk, form: ColourForm, plan: Colouring) -> list[Line]:
    """Events of what was done or seen."""
    data = form.cleaned_data
    if data["what"] == "did":
        parts = plan.steps[0].parts if plan.steps else plan.correction.recipe.parts if plan.correction else ()
        return [*(added_line(desk, p) for p in parts), ("stirred", {})] if parts else []
    if data["what"] == "eyes":
        lab = seen_as(desk.now.parts, data["word"], much=data["much"])
        beside = [round(v, 3) for v in mix(desk.now.parts).lab()]
        how = {"how": "eyes", "word": data["word"], "much": data["much"], "beside": beside}
    else:
        lab, how = data["lab"], {"how": "read"}
    return [("read", {"lab": [round(v, 3) for v in lab], **how})]


def _elsewhere(desk: Desk, now: float) -> tuple[Colour, float] | None:
    """Another colour of the book that this bowl is much nearer to than to its own, `now` dE00 away."""
    mine = Colour.objects.for_kitchen(desk.kitchen).order_by("pk")
    others = [c for c in mine if c.pk != desk.bowl.colour_id]
    nearby = nearest(desk.now.mixture().lab(), [(str(c.pk), c.lab) for c in others])
    if nearby is None or nearby[1] > min(ELSEWHERE, now - NEARER):
        return None
    return next(c for c in others if str(c.pk) == nearby[0]), nearby[1]


def _context(desk: Desk, plan: Colouring) -> Context:
    now = desk.now
    strengths = dict(now.strengths)
    additions = [e.parts for e in desk.events if e.kind in ("added", "received")]
    done = so_far([stronger(p, strengths) for p in additions], desk.target_lab) if desk.target_lab else []
    more_ahead, titles = max(0, len(plan.steps) - SHOWN_AHEAD), {r.code: r.name for r in desk.stock.rows}
    before = desk.known.strengths
    moved = [(name, f / before.get(name, 1.0)) for name, f in now.strengths]
    learned = learned_says([(name, f) for name, f in moved if abs(f - 1) > 0.05], titles)
    context: Context = {
        "bowl": desk.bowl,
        "now": now,
        "plan": plan,
        "says": step_says(plan, desk.bowl.colour.name if desk.bowl.colour else ""),
        "done": [(shade, added_says(shade.parts, "✓")) for shade in done],
        "target_lab": desk.target_lab,
        "eyes": EYES,
        "ahead": [(shade, added_says(shade.parts, "+")) for shade in plan.steps[:SHOWN_AHEAD]],
        "now_lab": None if now.empty else now.mixture().lab(),
        "taught": goes_by_says(desk.taught_here, titles),
        "progress": " ".join([*progress_says(plan, now, more_ahead=more_ahead), learned]).strip(),
    }
    if plan.kind == "correct" and plan.correction:
        correction = plan.correction
        context |= {"recipe": correction.recipe, "elsewhere": _elsewhere(desk, plan.de00 or 0.0)}
    return context


@kitchen_required
def colour(request: KitchenRequest, pk: int) -> HttpResponse:
    """The next drops and what it should look like then; a post says what was done or seen."""
    desk = desk_of(request, pk)
    if desk.bowl.finished_at or desk.target_lab is None:
        return redirect("bowls:bowl", pk=pk)
    plan = colouring(desk.now, desk.wish, desk.cupboard)
    form, status = ColourForm(), 200
    if request.method == "POST":
        form = ColourForm(request.POST)
        if form.is_valid() and _noted(desk, form, plan):
            return redirect("bowls:colour", pk=pk)
        status = 422
    read = LabField(required=False)
    lab: Any = None
    try:
        lab = read.clean(request.GET.get("read", "")[:80])
    except ValidationError:
        messages.error(request, "That reading was no colour.")
    context = {
        **_context(desk, plan),
        "form": form,
        "send_key": uuid.uuid4(),
        "told": lab,
        "told_text": read.prepare_value(lab) if lab else "",
    }
    return render(request, "bowls/colour.html", context, status=status)


def _noted(desk: Desk, form: ColourForm, plan: Colouring) -> bool:
    """Append what the form says; False when there is nothing to append to or somebody else was quicker."""
    data = form.cleaned_data
    if desk.now.empty:
        form.add_error(None, "There is nothing in this bowl yet.")
        return False
    lines = _lines(desk, form, plan)
    if not lines:
        form.add_error(None, "Nothing you have brings it any nearer.")
        return False
    sent = f"colour {data['what']} {data.get('word')} {data.get('much')} {data.get('lab')}"
    try:
        append(desk.bowl, lines, expected_seq=data["seq"], key=data["key"], sent=sent)
    except BowlChanged:
        form.add_error(None, CHANGED)
        return False
    return True


@kitchen_required
@require_POST
@sent_once
@transaction.atomic
def keep(request: KitchenRequest, pk: int) -> HttpResponse:
    """Keep what is in the bowl as the recipe of its colour in the swatch book."""
    desk = desk_of(request, pk)
    now, colour = desk.now, desk.bowl.colour
    if now.empty:
        raise Http404("nothing in it")
    lab = now.mixture().lab()
    if colour is None:
        colour = Colour.objects.create(
            kitchen=request.kitchen,
            name=free_colour_name(request.kitchen, desk.bowl.name),
            lightness=lab[0],
            a=lab[1],
            b=lab[2],
            came_from="bowl",
        )
    keep_recipe(colour, now, white=desk.bowl.white)
    messages.success(request, f"The recipe of {colour.name} is in your swatch book.")
    return redirect("colours:recipe", pk=colour.pk)
