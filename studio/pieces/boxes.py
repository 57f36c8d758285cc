"""Boxes for a job: how many pieces lie in one, does the lid close, and how many to have."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from django.http import HttpResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_POST

from coating.errors import CoatingError
from coating.piece.kinds import KINDS
from coating.plan.boxes import BOX_WORDS, USUAL_BOXES, Box, Packed, best_box, lie_in_all, lying, packed, seats
from studio.common.models import ChangedMeanwhile
from studio.common.pages import page_of
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required, sent_once
from studio.pieces.forms import BoxForm
from studio.pieces.models import Job, Piece
from studio.pieces.reckoned import core_of


@dataclass(frozen=True)
class Boxed:
    """A piece in its box: how it lies, how many there are to pack, what fits, or why it does not."""

    piece: Piece
    told: dict[str, Any]
    box: Box
    lies_mm: tuple[float, float, float]
    count: int
    fit: Packed | None
    refusal: str = ""

    @property
    def title(self) -> str:
        return BOX_WORDS.get(self.told["box"], "my own box")

    @property
    def is_round(self) -> bool:
        """Whether it is drawn round, seen from above."""
        figure = KINDS[self.piece.core].figure
        return figure in ("disc", "round", "tier", "hollow") and self.lies_mm[0] == self.lies_mm[1]

    @property
    def view(self) -> str:
        """The view box of the picture, with a margin."""
        return f"-6 -6 {self.box.length_mm + 12:.0f} {self.box.width_mm + 12:.0f}"

    @property
    def seats(self) -> list[tuple[float, float, float, float]]:
        """Where the pieces of the first layer lie."""
        return seats(self.box, self.fit, *self.lies_mm[:2]) if self.fit else []


def lies(piece: Piece) -> tuple[float, float, float]:
    """How a piece lies, mm: across, along, high."""
    kind = KINDS[piece.core]
    techniques = [la.technique for la in piece.stack]
    return lying(kind, core_of(piece), techniques)


def boxed(piece: Piece, told: dict[str, Any]) -> Boxed:
    """A piece in the box that was chosen for it, or in the one that suits it best."""
    across, along, high = lies_mm = lies(piece)
    count = lie_in_all(KINDS[piece.core], core_of(piece), piece.count)
    told = told or {"box": best_box(count, across, along, high) or "cake", "layers": 1, "shred_mm": 0.0}
    try:
        box = box_of(told)
        fit = packed(box, count, across_mm=across, along_mm=along, high_mm=high, layers=int(told["layers"]),
                     shred_mm=told.get("shred_mm") or 0.0)  # fmt: skip
        return Boxed(piece, told, box, lies_mm, count, fit)
    except CoatingError as refusal:
        box = USUAL_BOXES.get(told["box"], USUAL_BOXES["cake"])
        return Boxed(piece, told, box, lies_mm, count, None, refusal.message)


def chosen(form: BoxForm) -> dict[str, Any]:
    """What a valid form chooses, as a job keeps it."""
    return {k: v for k, v in form.cleaned_data.items() if k != "piece" and v not in (None, "")}


def box_of(told: dict[str, Any]) -> Box:
    """The box that was chosen. Raises OutOfBounds."""
    if told["box"] in USUAL_BOXES:
        return USUAL_BOXES[told["box"]]
    return Box(told["length_mm"], told["width_mm"], told["height_mm"], int(told.get("holes") or 0),
               float(told.get("hole_mm") or 0.0))  # fmt: skip


@kitchen_required
def boxes_page(request: KitchenRequest, pk: int) -> HttpResponse:
    """Every piece in its box."""
    job = Job.objects.whole(request.kitchen, pk)
    return _page(request, job)


def _page(request: KitchenRequest, job: Job, form: BoxForm | None = None, status: int = 200) -> HttpResponse:
    by = job.boxes.get("by", {})
    found = [boxed(p, by.get(str(p.pk), {})) for p in job.pieces.all()]
    page = page_of(request, found, word="pieces")
    asked = str(form["piece"].value()) if form else request.GET.get("change", "")
    told = next((b.told for b in page if str(b.piece.pk) == asked), None)
    if told is not None and form is None:
        form = BoxForm(initial={"piece": asked, **told})
    context = {
        "job": job, "room": "boxes", "page": page, "boxed": page, "asked": asked, "form": form,
        "boxes": sum(b.fit.boxes for b in found if b.fit), "refused": [b for b in found if b.refusal],
    }  # fmt: skip
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
    job.boxes = {"v": 1, "by": by}
    try:
        job.save_over(job.version)
    except ChangedMeanwhile:
        return _page(request, Job.objects.whole(request.kitchen, pk), form, 409)
    return redirect("pieces:boxes", pk=pk)
