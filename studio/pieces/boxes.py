"""Boxes for a job: how many pieces lie in one, does the lid close, and how many to have."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

from django.http import HttpResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_POST

from coating.errors import CoatingError
from coating.piece.kinds import KINDS
from coating.plan.boxes import (
    BOX_WORDS,
    USUAL_BOXES,
    Box,
    Packed,
    best_box,
    lie_in_all,
    lying,
    packed,
    packed_mix,
    seats,
    with_part,
)
from studio.common.measures import refusal_text
from studio.common.models import ChangedMeanwhile
from studio.common.pages import page_of
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required, sent_once
from studio.common.types import Json, Typed
from studio.common.words import lower
from studio.pieces.empty import empty_room
from studio.pieces.forms import BoxForm, MixForm
from studio.pieces.models import Job, Piece
from studio.pieces.parts import given, picture_of
from studio.pieces.pictures import PictureStroke
from studio.pieces.reckoned import as_core_layer, core_of

PART = "part"
UPRIGHT = ("tier", "round", "hollow")  # figures that look otherwise from above


class Shown:
    """Abstract: a box as it is called and drawn."""

    told: Json
    box: Box

    @property
    def title(self) -> str:
        """What it is called."""
        return BOX_WORDS.get(self.told["box"], "my own box")

    @property
    def view(self) -> str:
        """The view box of the picture, with a margin."""
        return f"-6 -6 {self.box.length_mm + 12:.0f} {self.box.width_mm + 12:.0f}"


@dataclass(frozen=True)
class Lying:
    """A piece as it is seen in its box: what the symbol is called that draws it, its strokes in a view box, and whether
    its seat is round."""

    name: str
    view: str
    strokes: list[PictureStroke]
    is_round: bool


def lying_of(piece: Piece, drawn_in: str) -> Lying:
    """From above, or from the front where that is how it lies."""
    picture, figure = picture_of(piece), KINDS[piece.core].figure
    upright = figure in UPRIGHT and not any(la.technique == "stick" for la in piece.stack)
    view, strokes = (picture.box_above, picture.above) if upright else (picture.box, picture.front)
    return Lying(f"lies-{drawn_in}-{piece.pk}", view, strokes, _is_round(piece))


@dataclass(frozen=True)
class Boxed(Shown):
    """A piece in its box: how it lies, how many there are to pack, what fits, or why it does not."""

    piece: Piece
    told: Json
    box: Box
    lies_mm: tuple[float, float, float]
    count: int
    fit: Packed | None
    refusal: str = ""

    @cached_property
    def lying(self) -> Lying:
        """How it is seen in the box."""
        return lying_of(self.piece, "b")

    @property
    def seats(self) -> list[tuple[float, float, float, float]]:
        """Where the pieces of the first layer lie."""
        return seats(self.box, self.fit, *self.lies_mm[:2]) if self.fit else []


def lies(piece: Piece) -> tuple[float, float, float]:
    """How a piece of a whole job lies with all that is on it, mm: across, along, high."""
    kind, techniques = KINDS[piece.core], [la.technique for la in piece.stack]
    size = lying(kind, core_of(piece), techniques, whole=PART in techniques)
    for layer in piece.stack:
        if layer.part is not None:
            core_layer, seen = as_core_layer(layer), picture_of(layer.part).size_mm
            size = with_part(size, kind, core_layer, lies(layer.part), seen, on_stick="stick" in techniques)
    return size


def boxed(piece: Piece, choice: Json, count: int) -> Boxed:
    """So many of a piece in the box that was chosen for it, or in the one that suits it best."""
    across, along, high = lies_mm = lies(piece)
    whole = any(la.technique == PART for la in piece.stack)
    count = lie_in_all(KINDS[piece.core], core_of(piece), count, whole=whole)
    choice = choice or {"box": best_box(count, across, along, high) or "tall cake", "layers": 1, "shred_mm": 0.0}
    try:
        box = box_of(choice)
        fit = packed(
            box,
            count,
            across_mm=across,
            along_mm=along,
            high_mm=high,
            layers=int(choice["layers"]),
            shred_mm=choice.get("shred_mm") or 0.0,
        )
        return Boxed(piece, choice, box, lies_mm, count, fit)
    except CoatingError as refusal:
        box = USUAL_BOXES.get(choice["box"], USUAL_BOXES["cake"])
        return Boxed(piece, choice, box, lies_mm, count, None, refusal_text(refusal))


@dataclass(frozen=True)
class Mixed(Shown):
    """Several kinds in one box: so many of each, how many such boxes, where they lie, or why they do not."""

    number: int
    told: Json
    of: list[tuple[Piece, int]]
    boxes: int
    box: Box
    seats: list[tuple[Lying, tuple[float, float, float, float]]]
    refusal: str = ""

    @property
    def kinds(self) -> list[Lying]:
        """Each kind of piece in it once."""
        return list({lying.name: lying for lying, _ in self.seats}.values())

    @property
    def holds(self) -> list[str]:
        """How many of each are in one."""
        return [f"{many} of {lower(piece.name)}" for piece, many in self.of]


def mixes(job: Job) -> tuple[list[Mixed], dict[int, int]]:
    """The mixed boxes of a whole job, and how many of each piece are left for boxes of their own. As many boxes are
    filled as there is enough of everything for."""
    rows = {p.pk: p for p in given(job)}
    left, mixed = {pk: p.count for pk, p in rows.items()}, list[Mixed]()
    for number, choice in enumerate(job.boxes.get("mixed", [])):
        of = [(rows[int(pk)], many) for pk, many in choice["of"].items() if int(pk) in rows]
        if len(of) != len(choice["of"]):
            continue  # one of them is not in the job any more
        boxes = min(left[piece.pk] // many for piece, many in of)
        each = [piece for piece, many in of for _ in range(many)]
        box, refusal, seated = USUAL_BOXES["cake"], "", []
        try:
            box = box_of(choice)
            places = packed_mix(box, [lies(piece) for piece in each], shred_mm=choice.get("shred_mm") or 0.0)
            seen = {piece.pk: lying_of(piece, f"m{number}") for piece, _ in of}
            seated = [(seen[piece.pk], seat) for piece, seat in zip(each, places, strict=True)]
        except CoatingError as problem:
            refusal = refusal_text(problem)
        if not refusal:
            for piece, many in of:
                left[piece.pk] -= many * boxes
        mixed.append(Mixed(number, choice, of, boxes, box, seated, refusal))
    return mixed, left


def _is_round(piece: Piece) -> bool:
    across, along, _ = lies(piece)
    return KINDS[piece.core].figure in ("disc", "round", "tier", "hollow") and across == along


def chosen(form: BoxForm) -> Typed:
    """What a valid form chooses, as a job keeps it."""
    return {k: v for k, v in form.cleaned_data.items() if k != "piece" and v not in (None, "")}


def box_of(choice: Json) -> Box:
    """The box that was chosen. Raises OutOfBounds."""
    if choice["box"] in USUAL_BOXES:
        return USUAL_BOXES[choice["box"]]
    return Box(
        choice["length_mm"],
        choice["width_mm"],
        choice["height_mm"],
        int(choice.get("holes") or 0),
        float(choice.get("hole_mm") or 0.0),
    )


@kitchen_required
def boxes_page(request: KitchenRequest, pk: int) -> HttpResponse:
    """Every piece in its box."""
    job = Job.objects.whole(request.kitchen, pk)
    return empty_room(request, job, "boxes") or _page(request, job)


def _page(
    request: KitchenRequest, job: Job, form: BoxForm | None = None, status: int = 200, mix: MixForm | None = None
) -> HttpResponse:
    by, (mixed, left) = job.boxes.get("by", {}), mixes(job)
    boxes = [boxed(p, by.get(str(p.pk), {}), left[p.pk]) for p in given(job) if left[p.pk]]
    page = page_of(request, boxes, word="pieces")
    chosen = str(form["piece"].value()) if form else request.GET.get("change", "")
    choice = next((b.told for b in page if str(b.piece.pk) == chosen), None)
    if choice is not None and form is None:
        form = BoxForm(initial={"piece": chosen, **choice})
    several = len(given(job)) > 1
    context = {
        "job": job,
        "room": "boxes",
        "page": page,
        "boxed": page,
        "asked": chosen,
        "form": form,
        "mixed": mixed,
        "mix": mix or (MixForm(pieces=given(job)) if several and "mix" in request.GET else None),
        "several": several,
        "boxes": sum(b.fit.boxes for b in boxes if b.fit) + sum(m.boxes for m in mixed if not m.refusal),
        "refused": [(b.piece.name, b.refusal) for b in boxes if b.refusal]
        + [(f"Mixed {m.title}", m.refusal) for m in mixed if m.refusal],
    }
    return render(request, "pieces/boxes.html", context, status=status)


@kitchen_required
@require_POST
@sent_once
def box_chosen(request: KitchenRequest, pk: int) -> HttpResponse:
    """Another box for a piece."""
    job = Job.objects.whole(request.kitchen, pk)
    form = BoxForm(request.POST)
    if not form.is_valid():
        return _page(request, job, form, 422)
    piece = Piece.objects.get_for(request.kitchen, pk=form.cleaned_data["piece"], job=job)
    by = {**job.boxes.get("by", {}), str(piece.pk): chosen(form)}
    return _kept(request, job, {**job.boxes, "v": 1, "by": by}) or _page(request, job, form, 409)


@kitchen_required
@require_POST
@sent_once
def box_mixed(request: KitchenRequest, pk: int) -> HttpResponse:
    """Several kinds go into one box, or a mix is taken apart."""
    job = Job.objects.whole(request.kitchen, pk)
    mixed = list(job.boxes.get("mixed", []))
    apart = request.POST.get("apart", "")
    if apart.isdecimal() and int(apart) < len(mixed):
        del mixed[int(apart)]
        return _kept(request, job, {"by": {}, **job.boxes, "v": 1, "mixed": mixed}) or _page(request, job, status=409)
    form = MixForm(request.POST, pieces=given(job))
    if not form.is_valid():
        return _page(request, job, status=422, mix=form)
    mixed.append(form.told())
    job.boxes = {"by": {}, **job.boxes, "v": 1, "mixed": mixed}
    made = mixes(job)[0][-1]
    if made.refusal or not made.boxes:
        form.add_error(None, made.refusal or "There are not enough of them left for one such box.")
        return _page(request, Job.objects.whole(request.kitchen, pk), status=422, mix=form)
    return _kept(request, job, job.boxes) or _page(request, job, status=409, mix=form)


def _kept(request: KitchenRequest, job: Job, boxes: Json) -> HttpResponse | None:
    """Keep the boxes of a job; None where somebody changed it meanwhile."""
    job.boxes = boxes
    try:
        job.save_over(job.version)
    except ChangedMeanwhile:
        return None
    return redirect("pieces:boxes", pk=job.pk)
