"""Causes, looks and moves together: what is believed before anything is known. A maker's own may take their place."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

from coating.care.diagnosis.cause import Cause
from coating.care.diagnosis.causes_in_bowls import IN_BOWLS
from coating.care.diagnosis.causes_on_pieces import ON_PIECES
from coating.care.diagnosis.looks import LOOKS, Look
from coating.care.diagnosis.moves import MOVES, Move


@dataclass(frozen=True)
class Tables:
    """All causes, looks and moves."""

    causes: tuple[Cause, ...] = (*IN_BOWLS, *ON_PIECES)
    looks: tuple[Look, ...] = LOOKS
    moves: tuple[Move, ...] = MOVES

    @cached_property
    def by_look(self) -> dict[str, Look]:
        """The looks by name."""
        return {look.name: look for look in self.looks}

    @cached_property
    def by_cause(self) -> dict[str, Cause]:
        """The causes by name."""
        return {cause.name: cause for cause in self.causes}

    def showing(self, symptom: str) -> tuple[Cause, ...]:
        """The causes that can show so."""
        return tuple(cause for cause in self.causes if symptom in cause.symptoms)


TABLES = Tables()
