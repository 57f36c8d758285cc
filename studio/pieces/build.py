"""Build a piece: pick what it is made on, put layers on it in order, and hear what it takes and what would go wrong."""

from __future__ import annotations

import uuid
from typing import Any

from django.contrib import messages
from django.db import transaction
from django.http import HttpResponse
from django.shortcuts import redirect, render
from django.template.loader import render_to_string
from django.urls import reverse

from coating.errors import CoatingError, OutOfBounds
from coating.piece.kinds import KINDS, CoreKind
from coating.stack.layers import Layer
from coating.stack.starts import start_called
from coating.techniques import TECHNIQUES, Technique
from coating.techniques.base import BAGGED, COATS, FILMED, FINISH, INSIDE, INTO
from studio.common.forms import asked_and_reckoned, changed_meanwhile
from studio.common.live import LiveView
from studio.common.measures import refusal_text
from studio.common.models import ChangedMeanwhile
from studio.common.requests import KitchenRequest
from studio.common.sending import acted, kitchen_required, sent_once
from studio.common.types import Context, Fields, Typed
from studio.cupboard.tones import Tone
from studio.pieces.begin import begin_page, initial_of
from studio.pieces.build_form import MOST_LAYERS, PART, BuildForm, changed
from studio.pieces.build_reckoned import plan_of_form, reckon_form
from studio.pieces.carried_out import piece_json
from studio.pieces.carry import plan_from
from studio.pieces.counting import count_family, join
from studio.pieces.models import Job, Piece, Template
from studio.pieces.parts import can_be, counted_by_others, glue_of, put_on
from studio.pieces.pictures import PictureStroke, strokes_of
from studio.pieces.put_on import back_to, keep_kept, put_something_on, shelf_of_parts
from studio.pieces.says import PICK
from studio.pieces.stacks import (
    PiecePlan,
    extra_for,
    first_extras,
    in_colours,
    keep_piece,
    keep_start,
    keep_together,
    palette,
    plan_of,
    plans_of,
)

BEGINS_WITH, PUT_ON = 12, "on:"
_TILE_LAB = (62.0, -8.0, -16.0)  # a technique on its tile: a dusky blue that shows on every core


def _page(
    request: KitchenRequest,
    job: Job,
    piece: Piece | None,
    form: BuildForm,
    status: int = 200,
    *,
    action: str = "",
    **reckoning: Any,
) -> HttpResponse:
    kind = form.kind
    context: Context = {
        "says": PICK,
        "action": action or request.get_full_path(),
        "form": form,
        "job": job,
        "piece_row": piece,
        "send_key": uuid.uuid4(),
        "made_for": _made_for(request, job),
        "full": len(form.names) >= MOST_LAYERS,
        "shelves": _shelves(kind),
        "cores": [(k, strokes_of(k, k.core(*k.usual), [], [])) for k in KINDS.values()],
    }
    reckoned = form
    if not form.is_bound:
        _, reckoned = asked_and_reckoned(
            lambda d: BuildForm(d, kitchen=job.kitchen, job=job, initial=form.initial), None
        )
    try:
        if not reckoning and reckoned.is_valid():
            reckoning = reckon_form(reckoned)
    except CoatingError as refusal:
        reckoning = {"refusal": refusal_text(refusal)}
    drawn = {d["place"]: d for d in reckoning.get("drawn", [])}
    context |= {**reckoning, "rows": [(row, drawn.get(row.place)) for row in form.rows()]}
    context |= shelf_of_parts(form) if not context["full"] else {}
    return render(request, "pieces/build.html", context, status=status)


def _shelves(kind: CoreKind) -> list[tuple[str, list[tuple[Technique, list[PictureStroke]]]]]:
    """Every technique with its picture on this core, shelf by shelf, what goes into something hollow first there; on
    what is cut open, what lies on top is shown from above."""
    hollow, shelves = bool(kind.core(*kind.usual).holds_ml), dict[str, list[tuple[Technique, list[PictureStroke]]]]()
    for each in TECHNIQUES.values():
        if (each.on == INSIDE and not hollow) or (each.only_on and each.only_on != kind.figure):
            continue
        inside = each.shelf == INTO and hollow
        seen = kind if inside or not hollow else KINDS["round_biscuit"]
        layer = Layer(each.name, share=0.5 if each.name == "dip" else 1.0)
        strokes = strokes_of(seen, seen.core(*seen.usual), [layer], [_TILE_LAB])
        shelves.setdefault(each.shelf, []).append((each, strokes))
    order = (INTO, COATS, BAGGED, FILMED, FINISH) if hollow else (COATS, BAGGED, FILMED, FINISH, INTO)
    return [(shelf, shelves[shelf]) for shelf in order if shelf in shelves]


@kitchen_required
@sent_once
def build_new(request: KitchenRequest, pk: int) -> HttpResponse:
    """A new piece of a job: from a picture to begin with, from a template, or from a bare core. With `for` it is made
    to go on a piece of the job."""
    job = Job.objects.get_for(request.kitchen, pk=pk)
    on = _made_for(request, job)
    if request.method == "POST":
        word, _, which = request.POST.get("do", "").partition(":")
        if word == "kept":
            return keep_kept(request, job, on, which)
        return _whole(job, which) if word == "whole" else _build(request, job, None)
    query, plan = request.GET, None
    if "begin" in query:
        try:
            plan = plans_of(start_called(query["begin"]), palette(job), first_extras(request.kitchen))[0]
        except CoatingError:
            return redirect("pieces:build-new", pk=pk)
    elif "template" in query:
        kept = Template.objects.get_for(request.kitchen, pk=query["template"])
        plan = plan_from(kept.piece, request.kitchen)
        if any(la.part for la in plan.layers):
            plan = None
    elif query.get("core") in KINDS:
        kind = KINDS[query["core"]]
        count = BEGINS_WITH if kind.breaks else 1  # a cake or a slab is made one at a time
        plan = PiecePlan(kind.plural if count > 1 else kind.title, count, kind, kind.usual, ())
    if plan is None:
        return begin_page(request, job, on)
    initial = initial_of(plan) | ({"count": 0, "goes_on": on.pk} if on else {})
    return _page(request, job, None, BuildForm(kitchen=request.kitchen, job=job, initial=initial))


def _made_for(request: KitchenRequest, job: Job) -> Piece | None:
    """The piece that a new one is to go on; another kitchen's does not exist."""
    pk = request.GET.get("for")
    return Piece.objects.get_for(request.kitchen, pk=pk, job=job) if pk else None


def _whole(job: Job, name: str) -> HttpResponse:
    """A start of several pieces goes into the job as it is."""
    try:
        start = start_called(name)
    except CoatingError:
        return redirect("pieces:build-new", pk=job.pk)
    keep_start(job, start)
    return redirect("pieces:job", pk=job.pk)


@kitchen_required
@sent_once
def build_edit(request: KitchenRequest, pk: int) -> HttpResponse:
    """A piece that was built."""
    piece = Piece.objects.select_related("job", "family").get_for(request.kitchen, pk=pk)
    return _build(request, piece.job, piece)


def _first(piece: Piece) -> Typed:
    """What the form shows of a piece that was built."""
    on = piece.put_on.values_list("piece_id", flat=True).first()
    return {**initial_of(plan_of(piece)), "version": piece.version, "piece": piece.pk, "goes_on": on}


def _build(request: KitchenRequest, job: Job, piece: Piece | None) -> HttpResponse:
    kitchen = request.kitchen
    if request.method != "POST":
        assert piece is not None
        initial = _first(piece)
        opened = int(initial["layers"]) - 1 if "open" in request.GET else -1
        return _page(request, job, piece, BuildForm(kitchen=kitchen, job=job, initial=initial, opened=opened))
    deed = request.POST.get("do", "save")
    action = request.get_full_path()
    if deed in ("copy", "variant") and piece is not None:
        data = {
            **request.POST.dict(),
            "version": "0",
            "piece": "",
            "goes_on": "",
            "name": f"{request.POST.get('name', '')} again"[:80],
        }
        to = reverse("pieces:build-new", args=[job.pk]) + (f"?beside={piece.pk}" if deed == "variant" else "")
        return _page(request, job, None, BuildForm(data, kitchen=kitchen, job=job), action=to)
    if deed not in ("save", "anyway", "template") and not deed.startswith(PUT_ON):
        data, opened = changed(request.POST.dict(), deed)
        if opened >= 0:
            data = _of_something(data, opened, job)
        return _page(request, job, piece, BuildForm(data, kitchen=kitchen, job=job, opened=opened), action=action)
    # What is shown rounded and sent back unchanged keeps its exact value.
    was = _first(piece) if piece is not None else None
    form = BuildForm(request.POST, kitchen=kitchen, job=job, initial=was)
    if not form.is_valid():
        return _page(request, job, piece, form, 422, action=action)
    reckoning: Context = {}
    try:
        reckoning = reckon_form(form)
        if not form.names or (reckoning["wrong"] and deed == "save"):
            raise OutOfBounds("Look at what would go wrong first." if form.names else "Put at least one layer on it.")
        if deed == "template":
            return _keep_template(request, form, job, piece)
        kept = _save(request, form, job, piece)
    except CoatingError as refusal:
        form.add_error(None, refusal_text(refusal))
        return _page(request, job, piece, form, 422, action=action, **reckoning)
    except ChangedMeanwhile:
        assert piece is not None
        status = changed_meanwhile(form, Piece.objects.get(pk=piece.pk).version)
        return _page(request, job, piece, form, status, action=action)
    if deed.startswith(PUT_ON):
        return put_something_on(request, kept, deed.removeprefix(PUT_ON))
    on = _made_for(request, job)
    return redirect(back_to(on)) if on and piece is None else redirect("pieces:job", pk=job.pk)


def _of_something(data: dict[str, str], place: int, job: Job) -> dict[str, str]:
    """A layer that was put on: of the first thing of its kind, and the first coat in the first colour of the job."""
    name = data[f"{place}-technique"]
    if name == PART:
        part = Piece.objects.get_for(job.kitchen, pk=data[f"{place}-part"], job=job)
        tone, white = glue_of(part)
        return {**data, f"{place}-colour": tone.key, f"{place}-white": white}
    extra = extra_for(name, first_extras(job.kitchen))
    coats = [i for i in range(place) if Layer(data.get(f"{i}-technique", "own")).takes_coating]
    colour = palette(job)["main"] if Layer(name).takes_coating and not coats else None
    return {
        **data,
        f"{place}-extra": str(extra.pk) if extra else "",
        f"{place}-colour": Tone(colour).key,
    }


def _keep_template(request: KitchenRequest, form: BuildForm, job: Job, piece: Piece | None) -> HttpResponse:
    plan = plan_of_form(form)
    Template.objects.update_or_create(kitchen=job.kitchen, name=plan.name, defaults={"piece": piece_json(plan)})
    messages.success(request, f"{plan.name} is kept: it is there to begin with from now on.")
    return acted(_page(request, job, piece, form))


@transaction.atomic
def _save(request: KitchenRequest, form: BuildForm, job: Job, piece: Piece | None) -> Piece:
    """Keep the piece, or all its variants; returns it, or the first. Raises OutOfBounds, ChangedMeanwhile."""
    plan, also, beside = plan_of_form(form), form.also_colours(), request.GET.get("beside", "")
    parts = {la.part.pk: la.part for la in plan.layers if isinstance(la.part, Piece)}
    first = [part for part in parts.values() if not part.put_on.exists()]
    if piece is not None:
        if piece.family_id and piece.count != plan.count:
            raise OutOfBounds("It is counted with others: change how many on the page of the job.", field="count")
        kept = keep_piece(job, plan, piece=piece, expected=form.cleaned_data["version"])
    elif also:
        family = keep_together(job, plan.name, "variants", plan.count, in_colours(plan, also))
        kept = family.pieces.all()[0]
    else:
        kept = keep_piece(job, plan)
        if on := _made_for(request, job):
            put_on(job, kept, on)
        if beside:
            _beside(Piece.objects.select_related("family").get_for(job.kitchen, pk=beside), kept)
    can_be(job)
    for part in first:
        if counted_by_others(part):
            said = f"{part.name}: counted by what they go on from now on. What you want besides, say here."
            messages.success(request, said)
    return kept


def _beside(first: Piece, kept: Piece) -> None:
    """A variant joins the piece it was made after."""
    family = first.family
    if family is None:
        join(first.job, first.name, "variants", [first, kept], first.count + kept.count)
        return
    motif = family.kind == "motif"
    Piece.objects.filter(pk=kept.pk).update(family=family, share=1 if motif else kept.count)
    count_family(family, family.count if motif else family.count + kept.count)


class BuildLive(LiveView):
    """What it takes while it is built."""

    part_templates = {role: f"pieces/parts/build_{role}.html" for role in ("answer", "stack", "needs")}

    def make_form(self, request: KitchenRequest, fields: Fields, **kwargs: Any) -> BuildForm:
        job = Job.objects.get_for(request.kitchen, pk=kwargs["pk"])
        return BuildForm(fields, kitchen=request.kitchen, job=job)

    def make_context(self, request: KitchenRequest, form: Any, **kwargs: Any) -> Context:
        return reckon_form(form)

    def more_parts(self, context: Context) -> dict[str, str]:
        """Each layer in one line."""
        return {
            f"line-{d['place']}": render_to_string("pieces/parts/build_line.html", {"d": d}) for d in context["drawn"]
        }
