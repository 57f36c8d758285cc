"""What a kept design takes as this kitchen's hands make it: its grams and seconds are kept as they were drawn."""

from __future__ import annotations

from coating.job.lines import hand_on
from studio.accounts.models import Kitchen
from studio.designs.kinds import KINDS
from studio.designs.models import Design
from studio.pieces.known import known_to


def by_hands(design: Design, kitchen: Kitchen) -> tuple[float, float]:
    """What goes on in all, g, and how long it takes, s."""
    layer, techniques = design.layer, KINDS[design.kind].techniques
    known = known_to(layer.piece.job if layer else None, kitchen)
    technique = layer.technique if layer else techniques[0] if techniques else "own"
    return design.drawn["goes_on_g"] * hand_on(technique, known)[0], design.drawn["seconds"] * known.pace
