"""What is done to a piece, as its pages and bowls speak of it, and how to find it."""

from __future__ import annotations

from collections.abc import Mapping

from coating.piece import layers as core_layers
from studio.pieces.models import Layer
from studio.pieces.techniques.base import Technique, core_of
from studio.pieces.techniques.cake_drip import CakeDrip

TECHNIQUES: Mapping[str, Technique] = {
    name: CakeDrip(name) if name == "cake_drip" else Technique(name) for name in core_layers.TECHNIQUES
}


def technique_of(layer: Layer) -> Technique:
    """The technique of a layer."""
    return TECHNIQUES[layer.technique]


def technique_for(flow: str) -> Technique:
    """The first technique that wants a flow: its words fit a bowl for it."""
    return next(t for t in TECHNIQUES.values() if t.flow == flow)


__all__ = ["TECHNIQUES", "Technique", "core_of", "technique_for", "technique_of"]
