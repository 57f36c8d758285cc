"""How big is it, and how much goes on? Areas and coats of a piece."""

from coating.shape.coats import Coat, coat_thickness_mm, dip_coat
from coating.shape.pieces import RoundBiscuit

__all__ = ["Coat", "RoundBiscuit", "coat_thickness_mm", "dip_coat"]
