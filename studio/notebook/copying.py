"""A job made again: its pieces for other counts, in other sizes and colours, as a job of its own."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from datetime import date

from django.db import transaction

from coating.piece.families import in_motifs, in_variants
from studio.accounts.models import Kitchen
from studio.colours.models import Colour
from studio.common.types import Json
from studio.notebook.models import MadeAgain
from studio.pieces.carried_in import bring_job
from studio.pieces.carried_out import job_json
from studio.pieces.carry import job_from
from studio.pieces.models import Job

AGAIN = ", again"


@dataclass(frozen=True)
class Changes:
    """What is otherwise this time: how many of each piece and family, by its number, the size as a share of the last
    one, and which colour stands in for which, by theirs."""

    name: str = ""
    due_on: date | None = None
    counts: Mapping[int, int] = field(default_factory=dict)
    families: Mapping[int, int] = field(default_factory=dict)
    size: float = 1.0
    colours: Mapping[int, Colour] = field(default_factory=dict)


def name_again(name: str) -> str:
    """What a job is called that is made once more.

    >>> name_again("Equinox evening"), name_again("Equinox evening, again")
    ('Equinox evening, again', 'Equinox evening, again')
    """
    return name if name.endswith(AGAIN) else f"{name[: 80 - len(AGAIN)]}{AGAIN}"


@transaction.atomic
def make_again(job: Job, kitchen: Kitchen, changes: Changes) -> Job:
    """A whole job once more, as a new one. Raises Unreadable where a size or a count cannot be."""
    data = job_json(job)
    name = changes.name or name_again(job.name)
    due_on = changes.due_on.isoformat() if changes.due_on else None
    data["job"] |= {"name": name, "due_on": due_on, "made_on": None}
    _recolour(data, job, changes)
    _recount(data, job, changes)
    if changes.size != 1.0:
        for piece in data["pieces"]:
            piece["size"] = {**piece["size"], "mm": [round(mm * changes.size, 2) for mm in piece["size"]["mm"]]}
    new = bring_job(kitchen, job_from(data))
    MadeAgain.objects.create(kitchen=kitchen, job=new, of=job)
    return new


def _recolour(data: Json, job: Job, changes: Changes) -> None:
    """Other colours in place of those that the job had."""
    names = {c.name: c.pk for c in Colour.objects.for_kitchen(job.kitchen_id).filter(pk__in=changes.colours)}
    for row in data["colours"]:
        other = changes.colours.get(names.get(row["name"], 0))
        if other is not None:
            row |= {"name": other.name, "lab": list(other.lab), "note": other.note}


def _recount(data: Json, job: Job, changes: Changes) -> None:
    """So many of each; what is left out goes with all that only goes on it."""
    for place, (row, family) in enumerate(zip(data["families"], job.families.all(), strict=True)):
        count = changes.families.get(family.pk, row["count"])
        if count != row["count"]:
            row["count"] = count
            _share_out(row["kind"], count, [piece for piece in data["pieces"] if piece["family"] == place])
    for row, piece in zip(data["pieces"], job.pieces.all(), strict=True):
        count = changes.counts.get(piece.pk, row["count"])
        if count != row["count"]:
            row |= {"count": count, "spares": None}
    _drop(data, {i for i, row in enumerate(data["pieces"]) if not row["count"]})


def _share_out(kind: str, count: int, rows: list[Json]) -> None:
    """What is counted together, by its shares."""
    shares = [row["share"] for row in rows]
    counts = in_motifs(count, shares) if kind == "motif" else in_variants(count, shares)
    for row, each in zip(rows, counts, strict=True):
        row |= {"count": each, "spares": None}


def _drop(data: Json, empty: set[int]) -> None:
    """Pieces of which none are made stay only where they go on others that stay."""
    rows = data["pieces"]
    wanted, ahead = set[int](), [i for i in range(len(rows)) if i not in empty]
    while ahead:
        at = ahead.pop()
        if at not in wanted:
            wanted.add(at)
            ahead += [la["part"] for la in rows[at]["layers"] if la["part"] is not None]
    kept = sorted(wanted)
    place = {old: new for new, old in enumerate(kept)}
    data["pieces"] = [rows[i] for i in kept]
    for row in data["pieces"]:
        for la in row["layers"]:
            la["part"] = None if la["part"] is None else place[la["part"]]
    data["mixed"] = [
        {**mix, "of": {str(place[int(at)]): many for at, many in mix["of"].items()}}
        for mix in data["mixed"]
        if _all_there(mix["of"], wanted)
    ]


def _all_there(places: Iterable[str], wanted: set[int]) -> bool:
    return all(int(at) in wanted for at in places)


def layer_pairs(old: Job, new: Job) -> dict[int, int]:
    """The layer that each layer of a job stood for in the one before, by their numbers: of two whole jobs."""
    by_name = {piece.name: piece for piece in old.pieces.all()}
    pairs = {}
    for piece in new.pieces.all():
        before = by_name.get(piece.name)
        for la, of in zip(piece.stack, before.stack if before else (), strict=False):
            pairs[la.pk] = of.pk
    return pairs
