"""Studio: what will it look like, what do I pipe over?"""

from __future__ import annotations

import uuid
from typing import Any

from django.contrib import messages
from django.forms import ChoiceField
from django.http import Http404, HttpResponse
from django.shortcuts import redirect, render
from django.urls import reverse
from django.views.decorators.http import require_POST

from coating.errors import CoatingError
from coating.shape.tiling import PAPERS
from coating.techniques import TECHNIQUES
from studio.common import measures
from studio.common.coming import fault_pages
from studio.common.forms import changed_meanwhile
from studio.common.live import LiveView
from studio.common.measures import refusal_text
from studio.common.models import ChangedMeanwhile
from studio.common.pages import page_of
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required, sent_once
from studio.common.types import Context, Fields, Json, Typed
from studio.cupboard.tones import PLAIN, WHITES, tones_in
from studio.designs.actions import colours_of, keep, keep_over
from studio.designs.by_hands import by_hands
from studio.designs.kinds import GROUPS, KINDS, kinds_for
from studio.designs.kinds.base import DesignForm, DesignKind, Worked
from studio.designs.models import Design, Shape
from studio.designs.place import Place
from studio.designs.tiles import kind_tier, kind_tiles, lace_tiles, shape_tiles
from studio.pieces.models import Layer

MOST_LIKE = 8
_SOLID = [k.name for k in KINDS.values() if k.group != DesignKind.group]  # no template of theirs says what they are


@kitchen_required
def studio(request: KitchenRequest) -> HttpResponse:
    """Every kind by its picture, and what was designed."""
    mine = Design.objects.for_kitchen(request.kitchen).select_related("layer__piece__job", "colour")
    page = page_of(request, mine, word="designs")
    for design in page:
        design.on_g, _ = by_hands(design, request.kitchen)
    shapes = Shape.objects.for_kitchen(request.kitchen).defer("picture")[: Shape.MOST_A_KITCHEN]
    tiles = kind_tiles()
    groups = [(group, [(k, tiles.get(k.name)) for k in KINDS.values() if k.group == group]) for group in GROUPS]
    context = {
        "groups": groups,
        "tier": kind_tier(),
        "page": page,
        "tiles": {name: tiles[name] for name in _SOLID},
        "shapes": shapes,
        "laces": lace_tiles(),
        "ready": shape_tiles(),
    }
    return render(request, "designs/studio.html", context)


def _kind(name: str) -> DesignKind:
    if name not in KINDS:
        raise Http404("no such kind")
    return KINDS[name]


def _layer(request: KitchenRequest, pk: Any) -> Layer | None:
    """The layer a design is for; another kitchen's does not exist."""
    if not pk:
        return None
    layer: Layer = Layer.objects.select_related("piece__job", "colour", "base").get_for(request.kitchen, pk=pk)
    return layer


def _place(request: KitchenRequest, kind: DesignKind, data: Any, design: Design | None = None) -> Place:
    """What it is for, and the colour and white that are asked for; no layer that is not made so."""
    layer = design.layer if design else _layer(request, data.get("layer"))
    if layer is not None and layer.technique not in kind.techniques:
        raise Http404("made otherwise")
    white = data["white"] if data.get("white") in dict(WHITES) else "coating"  # the form refuses another
    tone = tones_in(request.kitchen).get(str(data.get("colour") or ""), PLAIN)
    return Place.of(request.kitchen, layer, tone, white)


def _form(kind: DesignKind, place: Place, data: Any = None, initial: Json | None = None) -> DesignForm:
    return kind.form(data, place=place, colours=colours_of(place), initial=initial)


def _reckoned(kind: DesignKind, form: DesignForm) -> Worked:
    """What a (valid) form comes to. Raises CoatingError."""
    return kind.work(form.asked(), form.place)


def _page(
    request: KitchenRequest,
    kind: DesignKind,
    form: DesignForm,
    design: Design | None,
    status: int = 200,
    refusal: str = "",
) -> HttpResponse:
    context: Context = {
        "kind": kind,
        "faults": fault_pages(s for name in kind.techniques if name in TECHNIQUES for s in TECHNIQUES[name].faults),
        "form": form,
        "design": design,
        "place": form.place,
        "send_key": uuid.uuid4(),
        "refusal": refusal,
        "papers": sorted(PAPERS, key=lambda paper: paper != measures.paper()),
        "others": _others(kind, form.place) if design is None else [],
        "likes": _likes(kind, form.place) if design is None else [],
    }
    shown = form
    if not form.is_bound or not form.is_valid():
        begun = form.initial or (design.asked | _kept(design) if design else kind.first(form.place))
        values = {name: "" if value is None else value for name, value in begun.items()}
        shown = _form(kind, form.place, values)
        shown.is_valid()
    if not refusal and not shown.is_valid():
        context["refusal"] = next(iter(shown.errors.values()))[0]
    elif not refusal:
        try:
            context |= _told(kind, _reckoned(kind, shown))
        except CoatingError as problem:
            context["refusal"] = refusal_text(problem)
        if kind.checks and "check" in request.GET and "worked" in context:
            context |= {"checked": True, **kind.check(shown.asked(), form.place)}
    context |= _picks(form, kind)
    return render(request, "designs/design.html", context, status=status)


def _others(kind: DesignKind, place: Place) -> list[DesignKind]:
    """What else the layer could be made as."""
    return [k for k in kinds_for(place.layer) if k is not kind] if place.layer else []


def _likes(kind: DesignKind, place: Place) -> list[Design]:
    """Designs of its kind that a layer could be made like."""
    if place.layer is None:
        return []
    mine = Design.objects.for_kitchen(place.kitchen).filter(kind=kind.name).exclude(layer=place.layer)
    return list(mine.select_related("colour", "base").defer("drawn")[:MOST_LIKE])


def _picks(form: DesignForm, kind: DesignKind) -> Context:
    """What is picked by its picture, what else can be, and whether it is picked now."""
    if not kind.pick:
        return {}
    field, now = form.fields[kind.pick], str(form[kind.pick].value())
    assert isinstance(field, ChoiceField)
    groups: list[Any] = list(field.widget.choices)  # type: ignore[attr-defined]
    every = [pair for group in groups for pair in (group[1] if not isinstance(group[1], str) else [group])]
    own = [pair for pair in every if ":" in str(pair[0])]
    return {
        "picks": [(tile, tile.name == now) for tile in kind.tiles()],
        "pick_errors": form[kind.pick].errors,
        "own_picks": [(value, title, str(value) == now) for value, title in own],
    }


def _kept(design: Design) -> Typed:
    return {
        "name": design.name,
        "colour": design.tone.key,
        "white": design.white,
        "layer": design.layer_id,
        "version": design.version,
    }


def _told(kind: DesignKind, worked: Worked) -> Json:
    """For the templates of its parts."""
    result = {
        "goes_on_g": worked.goes_on_g,
        "own_g": worked.own_g,
        "seconds": worked.seconds,
        "length_mm": worked.length_mm,
    }
    return {
        "kind": kind,
        "worked": worked,
        "place": worked.place,
        "bag": worked.bag,
        "result": result,
        **worked.context,
    }


@kitchen_required
@sent_once
def design_new(request: KitchenRequest, kind: str) -> HttpResponse:
    """A new design of a kind, for a layer or by itself."""
    known = _kind(kind)
    if request.method == "POST":
        return _save(request, known, None)
    place = _place(request, known, request.GET)
    begun = known.first(place)
    if begun.get("colour"):
        place = _place(request, known, begun)
    if like := request.GET.get("like"):
        kept = Design.objects.get_for(request.kitchen, pk=like, kind=known.name)
        begun |= {n: v for n, v in kept.asked.items() if n in known.asks and n != "count"} | known.fits(place)
    begin_with = request.GET.get("pattern") or request.GET.get("shape")
    if begin_with and len(begin_with) < 40:
        begun |= {"pattern": begin_with} if "pattern" in request.GET else {"shape": begin_with}
    return _page(request, known, _form(known, place, initial=begun), None)


@kitchen_required
def for_layer(request: KitchenRequest, pk: int) -> HttpResponse:
    """The design of a layer, or a new one of the kind that it takes."""
    layer = _layer(request, pk)
    assert layer is not None
    design = Design.objects.for_kitchen(request.kitchen).filter(layer=layer).first()
    if design:
        return redirect("designs:design", pk=design.pk)
    kinds = kinds_for(layer)
    if not kinds:
        raise Http404("nothing is designed for that layer")
    return redirect(reverse("designs:new", args=[kinds[0].name]) + f"?layer={pk}")


def _design(request: KitchenRequest, pk: int) -> Design:
    design: Design = Design.objects.select_related(
        "layer__piece__job", "layer__colour", "layer__base", "colour", "base"
    ).get_for(request.kitchen, pk=pk)
    return design


@kitchen_required
@sent_once
def design_page(request: KitchenRequest, pk: int) -> HttpResponse:
    """A design that was kept."""
    design = _design(request, pk)
    kind = KINDS[design.kind]
    if request.method == "POST":
        return _save(request, kind, design)
    place = Place.of(request.kitchen, design.layer, design.tone, design.white)
    return _page(request, kind, _form(kind, place, initial={**design.asked, **_kept(design)}), design)


def _save(request: KitchenRequest, kind: DesignKind, design: Design | None) -> HttpResponse:
    place = _place(request, kind, request.POST, design)
    begun = {**design.asked, **_kept(design)} if design else kind.first(place)
    form = _form(kind, place, request.POST, initial=begun)
    if not form.is_valid():
        return _page(request, kind, form, design, 422)
    try:
        worked, name = _reckoned(kind, form), form.cleaned_data["name"]
        if design is None:
            design = keep(form.place, kind.name, name, form.asked(), worked)
        else:
            keep_over(design, form.cleaned_data["version"], form.place, name, form.asked(), worked)
    except CoatingError as refusal:
        said_of = refusal.fields.get("field")
        field = kind.told_at.get(said_of, said_of) if said_of else None
        form.add_error(field if field in form.fields else None, refusal_text(refusal))
        return _page(request, kind, form, design, 422, refusal_text(refusal))
    except ChangedMeanwhile:
        assert design is not None
        status = changed_meanwhile(form, Design.objects.get(pk=design.pk).version)
        return _page(request, kind, form, design, status)
    if request.POST.get("do") == "print":
        paper = request.POST.get("paper") or measures.paper()
        return redirect(
            reverse("designs:template", args=[design.pk]) + f"?paper={paper if paper in PAPERS else measures.paper()}"
        )
    messages.success(request, f"{design.name} is kept.")
    return redirect("designs:design", pk=design.pk)


@kitchen_required
@require_POST
def design_remove(request: KitchenRequest, pk: int) -> HttpResponse:
    """Take a design away; its layer keeps its amounts."""
    _design(request, pk).delete()
    return redirect("designs:studio")


class DesignLive(LiveView):
    """A design while it is changed: drawn first."""

    def make_form(self, request: KitchenRequest, fields: Fields, **kwargs: Any) -> DesignForm:
        self.kind = _kind(kwargs["kind"])
        self.part_templates = {
            "answer": self.kind.says_template,
            "picture": self.kind.picture_template,
            "time": "designs/parts/time.html",
            "numbers": "designs/parts/numbers.html",
        }
        place = _place(request, self.kind, fields)
        return _form(self.kind, place, fields, initial=self.kind.first(place))

    def make_context(self, request: KitchenRequest, form: Any, **kwargs: Any) -> Context:
        return _told(self.kind, _reckoned(self.kind, form))


class DesignCheck(DesignLive):
    """What takes longer, behind the drawing: does it stay in one piece?"""

    def make_form(self, request: KitchenRequest, fields: Fields, **kwargs: Any) -> DesignForm:
        form = super().make_form(request, fields, **kwargs)
        if not self.kind.checks:
            raise Http404("nothing is checked behind")
        self.part_templates = {"held": "designs/parts/held.html", "ring": "designs/parts/ring.html"}
        return form

    def make_context(self, request: KitchenRequest, form: Any, **kwargs: Any) -> Context:
        return self.kind.check(form.asked(), form.place)
