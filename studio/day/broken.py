"""Parts that break on the way: a spare is taken, and once there is none left one more is made."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from studio.day.folding import Happened, MadePieces
from studio.day.models import part_of
from studio.pieces.models import Job, Piece
from studio.pieces.reckoned import counts_of


@dataclass(frozen=True)
class Breaks:
    """A part that can have broken: what to tap for it, how many spares are left, and what that comes to."""

    piece: Piece
    step: str
    left: int

    @property
    def says(self) -> str:
        """What to do about it."""
        name = self.piece.name.lower()
        if self.left > 0:
            return f"One of the {name} broke: take a spare, {self.left} {'is' if self.left == 1 else 'are'} left"
        return f"One of the {name} broke, and no spare is left: make one more"


def parts_made(job: Job) -> dict[str, MadePieces]:
    """How many are made of each piece that goes on others, and spares, by each of its layers."""
    counts, pieces = counts_of(job), dict[str, MadePieces]()
    on = {la.part_id for piece in job.pieces.all() for la in piece.stack}
    for piece in job.pieces.all():
        if piece.pk in on:
            layers = frozenset(str(la.pk) for la in piece.stack)
            count, spares = counts[piece.pk]
            pieces |= dict.fromkeys(layers, MadePieces(count + spares, spares, layers))
    return pieces


def can_break(job: Job, step: str, steps: Mapping[str, object], had: Happened) -> list[Breaks]:
    """Parts that a step is done to: what it puts on, and what it makes."""
    rows = {str(la.pk): la for piece in job.pieces.all() for la in piece.stack}
    layer = rows.get(part_of(step))
    if layer is None:
        return []
    made, ways = parts_made(job), list[Breaks]()
    for piece in [p for p in (layer.part, layer.piece) if p is not None]:
        names = [n for n in steps if any(part_of(n) == str(la.pk) for la in piece.stack)]
        many = made.get(str(piece.stack[0].pk)) if piece.stack else None
        if many is not None and names:
            broke = sum(n for name, n in had.broke.items() if name in many.layers)
            ways.append(Breaks(piece, min(names), max(0, many.spares - broke)))
    return ways
