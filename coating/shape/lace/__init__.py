"""Lace: patterns, strips that close round a tier, panels that can be lifted in time, and whether it holds together."""

from coating.shape.lace.collar import Lace, lace
from coating.shape.lace.holds import Held, held
from coating.shape.lace.patterns import PATTERNS

__all__ = ["PATTERNS", "Held", "Lace", "held", "lace"]
