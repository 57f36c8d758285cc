"""Verbs of counting: how many of a piece, of variants, of a motif, and of a whole job."""

from __future__ import annotations

from collections.abc import Sequence

from django.db import transaction

from coating.errors import OutOfBounds
from coating.limits import check
from coating.piece.families import in_motifs, in_variants, scaled
from studio.pieces.models import Family, Job, Piece


def _count(piece: Piece, count: int) -> None:
    """A new count, and as many spares as usually break. Of what goes on others none besides is a count too."""
    if count or not piece.put_on.exists():
        check("count", count)
    piece.count, piece.spares = count, None
    piece.save_over(piece.version)


@transaction.atomic
def count_piece(piece: Piece, count: int) -> None:
    """So many of one piece; in variants the others stay, in a motif they follow.

    Raises OutOfBounds, ChangedMeanwhile.
    """
    family = piece.family
    if family is None:
        _count(piece, count)
    elif family.kind == "motif":
        if count % piece.share:
            raise OutOfBounds(
                f"{piece.share} go into each {family.name.lower()}: count in {piece.share}s.", field="count"
            )
        count_family(family, count // piece.share)
    else:
        _count(piece, count)
        piece.share = count
        Piece.objects.filter(pk=piece.pk).update(share=count)
        family.count = sum(p.count if p.pk != piece.pk else count for p in family.pieces.all())
        family.save_over(family.version)


@transaction.atomic
def count_family(family: Family, count: int) -> None:
    """So many of all variants, or so many motifs. Raises OutOfBounds, ChangedMeanwhile."""
    pieces = list(family.pieces.all())
    shares = [p.share for p in pieces]
    counts = in_motifs(count, shares) if family.kind == "motif" else in_variants(count, shares)
    for piece, each in zip(pieces, counts, strict=True):
        _count(piece, each)
    family.count = count
    family.save_over(family.version)


@transaction.atomic
def scale_job(job: Job, was: int, will_be: int) -> None:
    """Every count of a job for so many instead of so many others. Raises OutOfBounds, ChangedMeanwhile."""
    alone = [p for p in job.pieces.all() if p.family_id is None and p.count]  # parts follow what they go on
    families = list(job.families.all())
    counts = scaled([p.count for p in alone] + [f.count for f in families], was, will_be)
    for piece, count in zip(alone, counts, strict=False):
        _count(piece, count)
    for family, count in zip(families, counts[len(alone) :], strict=True):
        count_family(family, count)


@transaction.atomic
def join(job: Job, name: str, kind: str, pieces: Sequence[Piece], count: int) -> Family:
    """Count pieces together from now on: as variants of `count` in all, or as a motif with their shares in each.

    Raises OutOfBounds for fewer than two, or for pieces that are counted together already.
    """
    if len(pieces) < 2:
        raise OutOfBounds("Tick two pieces or more.", field="pieces", low=2)
    if any(p.family_id for p in pieces):
        raise OutOfBounds("One of them is counted with others already: take it out there first.", field="pieces")
    family = Family.objects.create(kitchen_id=job.kitchen_id, job=job, name=name, kind=kind, count=count)
    for piece in pieces:
        share = piece.share if kind == "motif" else piece.count
        Piece.objects.filter(pk=piece.pk).update(family=family, share=share)
    count_family(family, count)
    return family


@transaction.atomic
def leave(piece: Piece) -> None:
    """Count a piece alone again; a family of one is no family."""
    family = piece.family
    if family is None:
        return
    Piece.objects.filter(pk=piece.pk).update(family=None, share=1)
    rest = list(family.pieces.all())
    if len(rest) < 2:
        Piece.objects.filter(family=family).update(family=None, share=1)
        family.delete()
    elif family.kind == "variants":
        family.count = sum(p.count for p in rest)
        family.save_over(family.version)
