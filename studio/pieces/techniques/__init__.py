"""What is done to a piece: one file a technique, and here how to find it."""

from __future__ import annotations

from studio.pieces.models import Layer
from studio.pieces.techniques.base import Technique
from studio.pieces.techniques.cake_drip import CakeDrip
from studio.pieces.techniques.dip import Dip

TECHNIQUES: dict[str, Technique] = {kind.word: kind for kind in (Dip(), CakeDrip())}
FIRST = "dip"


def technique_of(layer: Layer) -> Technique:
    """The technique of a layer."""
    return TECHNIQUES[layer.technique]
