"""What is done to a piece: one file a technique, and here how to find it."""

from __future__ import annotations

from studio.pieces.models import Layer
from studio.pieces.techniques.base import Technique
from studio.pieces.techniques.cake_drip import CakeDrip
from studio.pieces.techniques.dip import Dip
from studio.pieces.techniques.stacked import STACKED, by_flow, is_stacked

TECHNIQUES: dict[str, Technique] = {kind.word: kind for kind in (Dip(), CakeDrip())}
FIRST = "dip"


def technique_of(layer: Layer) -> Technique:
    """The technique of a layer: of a stack that was built, or of a piece with a form of its own."""
    return STACKED[layer.technique] if is_stacked(layer) else TECHNIQUES[layer.technique]


def technique_for(flow: str) -> Technique:
    """The technique whose words fit a bowl for a flow."""
    return TECHNIQUES.get(flow) or by_flow(flow)
