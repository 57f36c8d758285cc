"""How big is it, and how much goes on? Areas and coats of a piece."""

from coating.shape.coats import coat_thickness_mm
from coating.shape.pieces import RoundBiscuit

__all__ = ["RoundBiscuit", "coat_thickness_mm"]
