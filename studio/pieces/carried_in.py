"""What the file of a job says becomes rows of this kitchen; colours, bags and things that are the same are found."""

from __future__ import annotations

from django.db import transaction

from studio.accounts.models import Kitchen
from studio.colours.models import Colour
from studio.common.names import free_name
from studio.common.types import Json
from studio.cupboard.models import Extra, Ingredient
from studio.cupboard.tones import Tone
from studio.pieces.asks import layer_brought
from studio.pieces.carried_bags import CarriedBag, settle_bag
from studio.pieces.carried_out import EXTRA_FIELDS
from studio.pieces.carry import JobFile
from studio.pieces.models import Family, Job, Layer, Piece

_SAME = 0.5  # colours nearer than that in every coordinate are the same


@transaction.atomic
def bring_job(kitchen: Kitchen, job_file: JobFile) -> Job:
    """Keep what a file says as a new job of this kitchen."""
    for colour in job_file.colours:
        _settle_colour(kitchen, colour)
    bags = {bag: settle_bag(kitchen, bag) for bag in job_file.bags}
    for extra in job_file.extras:
        _settle_extra(kitchen, extra)
    job = Job.objects.create(kitchen=kitchen, **job_file.job)
    families = [Family.objects.create(kitchen=kitchen, job=job, **f) for f in job_file.families]
    boxes: Json = {}
    pieces, brought = list[Piece](), list[tuple[Layer, Json]]()
    for kept in job_file.pieces:
        family = families[kept["family"]] if kept["family"] is not None else None
        own = {n: v for n, v in kept.items() if n not in ("layers", "family", "box")}
        pieces.append(Piece.objects.create(kitchen=kitchen, job=job, family=family, **own))
    for piece, kept in zip(pieces, job_file.pieces, strict=True):
        layers = kept["layers"]
        for la in layers:
            la["part"] = None if la["part"] is None else pieces[la["part"]]
        designs = [la.pop("design", None) for la in layers]
        rows = [_row(kitchen, piece, i, la, bags) for i, la in enumerate(layers, 1)]
        for row, design in zip(Layer.objects.bulk_create(rows), designs, strict=True):
            if design:
                of = design.pop("of")
                design["tones"] = {
                    n: Tone(base=bags[v]) if isinstance(v, CarriedBag) else Tone(v) for n, v in of.items()
                }
                brought.append((row, design))
        if kept["box"]:
            boxes[str(piece.pk)] = kept["box"]
    for row, design in brought:  # once all is counted
        layer_brought(row, design)
    mixed = [{**mix, "of": {str(pieces[int(at)].pk): many for at, many in mix["of"].items()}} for mix in job_file.mixed]
    if boxes or mixed:
        job.boxes = {"v": 1, "by": boxes, "mixed": mixed}
        job.save_over(job.version)
    return job


def _row(kitchen: Kitchen, piece: Piece, order: int, data: Json, bags: dict[CarriedBag, Ingredient]) -> Layer:
    tone = Tone(None if data["base"] else data["colour"], bags.get(data["base"]))
    white = tone.white(data["white"])
    return Layer(
        kitchen=kitchen, piece=piece, order=order, **{**data, "colour": tone.colour, "base": tone.base, "white": white}
    )


def _settle_colour(kitchen: Kitchen, colour: Colour) -> None:
    """The colour of this kitchen that is the same, or a new one; another of the same name keeps its name."""
    known = Colour.objects.for_kitchen(kitchen)
    same = known.filter(name=colour.name).first()
    if same and max(abs(p - q) for p, q in zip(same.lab, colour.lab, strict=True)) < _SAME:
        colour.pk = same.pk
        return
    colour.kitchen, colour.name = kitchen, free_name(known, colour.name, most=60, tried=brought_name)
    colour.save()


def _settle_extra(kitchen: Kitchen, extra: Extra) -> None:
    """The same for what is no coating: what differs in what is in it is another thing."""
    known = Extra.objects.for_kitchen(kitchen).filter(kind=extra.kind)
    same = known.filter(name=extra.name).first()
    if same and all(getattr(same, n) == getattr(extra, n) for n in EXTRA_FIELDS):
        extra.pk = same.pk
        return
    extra.kitchen, extra.name = kitchen, free_name(known, extra.name, most=80, tried=brought_name)
    extra.save()


def brought_name(name: str, number: int) -> str:
    """A name that is taken, told apart."""
    return f"{name[:46]} (brought{'' if number == 2 else f' {number - 1}'})"
