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
from coating.piece.kinds import KINDS, Kind
from coating.piece.layers import Layer
from coating.piece.stack import Mistake, mistakes
from coating.piece.starts import start_called
from coating.techniques import TECHNIQUES, Technique
from coating.techniques.base import BAGGED, COATS, FILMED, FINISH, INSIDE, INTO
from studio.common.forms import asked_and_reckoned, changed_meanwhile
from studio.common.live import LiveView
from studio.common.models import ChangedMeanwhile
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required, sent_once
from studio.pieces.adapters import cautions_told
from studio.pieces.begin import begin_page, initial_of
from studio.pieces.build_form import MOST_LAYERS, BuildForm, changed
from studio.pieces.carry import piece_json, plan_from
from studio.pieces.counting import count_family, join
from studio.pieces.models import PLAIN, WHITES, Job, Piece, Template, Tone
from studio.pieces.pictures import Stroke, strokes_of
from studio.pieces.reckoned import keys_of, reckoned_plans
from studio.pieces.stacks import (
    LayerPlan,
    PiecePlan,
    extra_for,
    first_extras,
    in_colours,
    keep_piece,
    keep_together,
    palette,
    plan_of,
    plans_of,
    with_drawings,
)  # fmt: skip

BEGINS_WITH = 12
_TILE_LAB = (62.0, -8.0, -16.0)  # a technique on its tile: a dusky blue that shows on every core


def _reckon(form: BuildForm) -> dict[str, Any]:
    """What the (valid) form takes and what would go wrong: as the job would say it with this piece alone. Raises
    CoatingError."""
    plan = _plan(form)
    core, stack, data = plan.core, plan.core_layers(), form.cleaned_data
    also = form.also_colours()
    made = in_colours(plan, also) if also else [plan]
    found = reckoned_plans(made, form.kitchen)
    labs = [la.tone.lab for la in plan.layers]
    whites, one_g = dict(WHITES), dict[str, float]()
    for line in found.lines:
        one_g[line.layer] = one_g.get(line.layer, 0.0) + line.on_one_g
    drawn = [
        {"place": i, "layer": layer, "plan": kept, "white": whites[kept.white], "one_g": one_g.get(f"0.{i}", 0.0),
         "strokes": strokes_of(form.kind, core, [layer], [labs[i]])}
        for i, (layer, kept) in enumerate(zip(stack, plan.layers, strict=True))
    ]  # fmt: skip
    wrong: list[Mistake] = mistakes(core, stack)
    tones = {keys_of(la.tone): la.tone for p in made for la in p.layers}
    needs = [(tones.get((bowl.colour, bowl.base), PLAIN), bowl) for bowl in found.bowls]
    spares = sum(found.spares.values())
    return {
        "core": core, "core_kind": form.kind, "drawn": drawn, "wrong": wrong, "spares": spares, "needs": needs,
        "strokes": strokes_of(form.kind, core, stack, labs), "variants": len(made),
        "cautions": cautions_told(found, {bowl.key: tone.name for tone, bowl in needs}),
        "mendable": any(m.reorder for m in wrong), "count": data["count"], "name": data["name"],
        "melt_g": found.melt_g, "on_g": sum(bowl.made_g for _, bowl in needs),
        "result": {"melt_g": found.melt_g, "spares": spares, "wrong": [m.place for m in wrong]},
    }  # fmt: skip


def _plan(form: BuildForm) -> PiecePlan:
    """The (valid) form as a piece to keep."""
    data = form.cleaned_data
    layers = []
    for i, name in enumerate(form.names):
        tone = data.get(f"{i}-colour") or PLAIN
        white = tone.white(data.get(f"{i}-white") or "coating")
        layers.append(LayerPlan(name, white, tone.colour, form.extra(i), form.parameters(i), tone.base))
    plan = PiecePlan(data["name"], data["count"], form.kind, tuple(form.size_mm()), tuple(layers), data.get("spares"),
                     contains=form.contents())  # fmt: skip
    piece = Piece.objects.for_kitchen(form.kitchen).filter(pk=data["piece"]).first() if data.get("piece") else None
    return with_drawings(plan, piece) if piece else plan


def _page(
    request: KitchenRequest, job: Job, piece: Piece | None, form: BuildForm, status: int = 200, *, action: str = "",
    **found: Any,
) -> HttpResponse:  # fmt: skip
    kind = form.kind
    context: dict[str, Any] = {
        "action": action or request.path, "form": form, "job": job, "piece_row": piece, "send_key": uuid.uuid4(),
        "full": len(form.names) >= MOST_LAYERS, "shelves": _shelves(kind),
        "cores": [(k, strokes_of(k, k.core(*k.usual), [], [])) for k in KINDS.values()],
    }  # fmt: skip
    reckoned = form
    if not form.is_bound:
        _, reckoned = asked_and_reckoned(lambda d: BuildForm(d, kitchen=job.kitchen, initial=form.initial), None)
    try:
        if not found and reckoned.is_valid():
            found = _reckon(reckoned)
    except CoatingError as refusal:
        found = {"refusal": refusal.message}
    drawn = {d["place"]: d for d in found.get("drawn", [])}
    context |= {**found, "rows": [(row, drawn.get(row.place)) for row in form.rows()]}
    return render(request, "pieces/build.html", context, status=status)


def _shelves(kind: Kind) -> list[tuple[str, list[tuple[Technique, list[Stroke]]]]]:
    """Every technique with its picture on this core, shelf by shelf, what goes into something hollow first there; on
    what is cut open, what lies on top is shown from above."""
    hollow, found = bool(kind.core(*kind.usual).holds_ml), dict[str, list[tuple[Technique, list[Stroke]]]]()
    for each in TECHNIQUES.values():
        if (each.on == INSIDE and not hollow) or (each.only_on and each.only_on != kind.figure):
            continue
        inside = each.shelf == INTO and hollow
        seen = kind if inside or not hollow else KINDS["round_biscuit"]
        layer = Layer(each.name, share=0.5 if each.name == "dip" else 1.0)
        strokes = strokes_of(seen, seen.core(*seen.usual), [layer], [_TILE_LAB])
        found.setdefault(each.shelf, []).append((each, strokes))
    order = (INTO, COATS, BAGGED, FILMED, FINISH) if hollow else (COATS, BAGGED, FILMED, FINISH, INTO)
    return [(shelf, found[shelf]) for shelf in order if shelf in found]


@kitchen_required
@sent_once
def build_new(request: KitchenRequest, pk: int) -> HttpResponse:
    """A new piece of a job: from a picture to begin with, from a template, or from a bare core."""
    job = Job.objects.get_for(request.kitchen, pk=pk)
    if request.method == "POST":
        whole = request.POST.get("do", "").partition("whole:")[2]
        return _whole(job, whole) if whole else _build(request, job, None)
    asked = request.GET
    if "begin" in asked:
        try:
            plans = plans_of(start_called(asked["begin"]), palette(job), first_extras(request.kitchen))
        except CoatingError:
            return redirect("pieces:build-new", pk=pk)
        return _page(request, job, None, BuildForm(kitchen=request.kitchen, initial=initial_of(plans[0])))
    if "template" in asked:
        kept = Template.objects.get_for(request.kitchen, pk=asked["template"])
        plan = plan_from(kept.piece, request.kitchen)
        return _page(request, job, None, BuildForm(kitchen=request.kitchen, initial=initial_of(plan)))
    if asked.get("core") in KINDS:
        kind = KINDS[asked["core"]]
        count = BEGINS_WITH if kind.breaks else 1  # a cake or a slab is made one at a time
        bare = PiecePlan(kind.plural if count > 1 else kind.title, count, kind, kind.usual, ())
        return _page(request, job, None, BuildForm(kitchen=request.kitchen, initial=initial_of(bare)))
    return begin_page(request, job)


def _whole(job: Job, name: str) -> HttpResponse:
    """A start of several parts goes into the job as it is."""
    try:
        start = start_called(name)
    except CoatingError:
        return redirect("pieces:build-new", pk=job.pk)
    plans = plans_of(start, palette(job), first_extras(job.kitchen))
    keep_together(job, start.title, "motif", start.count, plans)
    return redirect("pieces:job", pk=job.pk)


@kitchen_required
@sent_once
def build_edit(request: KitchenRequest, pk: int) -> HttpResponse:
    """A piece that was built."""
    piece = Piece.objects.select_related("job", "family").get_for(request.kitchen, pk=pk)
    return _build(request, piece.job, piece)


def _build(request: KitchenRequest, job: Job, piece: Piece | None) -> HttpResponse:
    if request.method != "POST":
        assert piece is not None
        initial = {**initial_of(plan_of(piece)), "version": piece.version, "piece": piece.pk}
        return _page(request, job, piece, BuildForm(kitchen=request.kitchen, initial=initial))
    deed = request.POST.get("do", "save")
    if deed in ("copy", "variant") and piece is not None:
        data = {
            **request.POST.dict(),
            "version": "0",
            "piece": "",
            "name": f"{request.POST.get('name', '')} again"[:80],
        }
        to = reverse("pieces:build-new", args=[job.pk]) + (f"?beside={piece.pk}" if deed == "variant" else "")
        return _page(request, job, None, BuildForm(data, kitchen=request.kitchen), action=to)
    if deed not in ("save", "anyway", "template"):
        data, opened = changed(request.POST.dict(), deed)
        if opened >= 0:
            data = _of_something(data, opened, job)
        return _page(request, job, piece, BuildForm(data, kitchen=request.kitchen, opened=opened))
    # What is shown rounded and sent back unchanged keeps its exact value.
    was = initial_of(plan_of(piece)) if piece is not None else None
    form = BuildForm(request.POST, kitchen=request.kitchen, initial=was)
    if not form.is_valid():
        return _page(request, job, piece, form, 422)
    found: dict[str, Any] = {}
    try:
        found = _reckon(form)
        if not form.names or (found["wrong"] and deed == "save"):
            raise OutOfBounds("Look at what would go wrong first." if form.names else "Put at least one layer on it.")
        if deed == "template":
            return _keep_template(request, form, job, piece)
        _save(form, job, piece, request.GET.get("beside", ""))
    except CoatingError as refusal:
        form.add_error(None, refusal.message)
        return _page(request, job, piece, form, 422, **found)
    except ChangedMeanwhile:
        assert piece is not None
        status = changed_meanwhile(form, Piece.objects.get(pk=piece.pk).version)
        return _page(request, job, piece, form, status)
    return redirect("pieces:job", pk=job.pk)


def _of_something(data: dict[str, str], place: int, job: Job) -> dict[str, str]:
    """A layer that was put on: of the first thing of its kind, and the first coat in the first colour of the job."""
    name = data[f"{place}-technique"]
    extra = extra_for(name, first_extras(job.kitchen))
    coats = [i for i in range(place) if Layer(data.get(f"{i}-technique", "own")).takes_coating]
    colour = palette(job)["main"] if Layer(name).takes_coating and not coats else None
    return {
        **data,
        f"{place}-extra": str(extra.pk) if extra else "",
        f"{place}-colour": Tone(colour).key,
    }


def _keep_template(request: KitchenRequest, form: BuildForm, job: Job, piece: Piece | None) -> HttpResponse:
    plan = _plan(form)
    Template.objects.update_or_create(kitchen=job.kitchen, name=plan.name, defaults={"piece": piece_json(plan)})
    messages.success(request, f"{plan.name} is kept: it is there to begin with from now on.")
    return _page(request, job, piece, form)


@transaction.atomic
def _save(form: BuildForm, job: Job, piece: Piece | None, beside: str) -> None:
    """Keep the piece, or all its variants. Raises OutOfBounds, ChangedMeanwhile."""
    plan, also = _plan(form), form.also_colours()
    if piece is not None:
        if piece.family_id and piece.count != plan.count:
            raise OutOfBounds("It is counted with others: change how many on the page of the job.", field="count")
        keep_piece(job, plan, piece=piece, expected=form.cleaned_data["version"])
        return
    if also:
        plans = in_colours(plan, also)
        keep_together(job, plan.name, "variants", plan.count, plans)
        return
    kept = keep_piece(job, plan)
    if beside:
        _beside(Piece.objects.select_related("family").get_for(job.kitchen, pk=beside), kept)


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

    def make_form(self, request: KitchenRequest, fields: dict[str, Any], **kwargs: Any) -> BuildForm:
        return BuildForm(fields, kitchen=request.kitchen)

    def make_context(self, request: KitchenRequest, form: Any, **kwargs: Any) -> dict[str, Any]:
        return _reckon(form)

    def more_parts(self, context: dict[str, Any]) -> dict[str, str]:
        """Each layer in one line."""
        return {
            f"line-{d['place']}": render_to_string("pieces/parts/build_line.html", {"d": d}) for d in context["drawn"]
        }
