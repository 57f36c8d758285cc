"""What pieces ask of the designs."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date
from typing import TYPE_CHECKING, Any

from studio.common.slot import Hook, Slot

if TYPE_CHECKING:
    from studio.pieces.models import Job, Layer, Piece
    from studio.pieces.stacks import PiecePlan


@dataclass(frozen=True)
class PackSaid:
    """What was read off a pack that went into a bowl: of what it is, its lot, and until when it is best."""

    name: str
    lot: str
    best_before: date | None


packs_in: Slot[[Job], dict[int, list[PackSaid]]] = Slot("the packs that went into the bowls of a job, by bowl")
poured_into: Slot[[Job], list[tuple[int, int]]] = Slot("what went into the bowls of a job: bowl and ingredient")
way_of_design: Slot[[Layer], str] = Slot("whether the studio draws a layer, plans it, or has no page for it")
drawn_plan: Slot[[PiecePlan, Any], PiecePlan] = Slot("a plan whose designed layers know how they look")
parts_designed: Slot[[Any], list[Any]] = Slot("what was designed for nothing yet and can be put on a piece")
piece_designed: Slot[[Job, str], Piece] = Slot("such a design as a piece of a job; 404 for what is none")
layer_brought: Hook[[Layer, Mapping[str, Any]]] = Hook("a layer came in with its design: kind, name, asked, colours")
piece_kept: Hook[[Piece]] = Hook("a piece and its layers were kept")
