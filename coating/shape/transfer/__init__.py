"""Transfer sheets: how pieces lie on them, whether straight cuts free them, how many go round."""

from coating.shape.transfer.cut_plan import CutPlan, PlacedPiece, WantedPieces, cut_plan
from coating.shape.transfer.discs import DiscPlan, disc_plan
from coating.shape.transfer.ring import Ring, box_ring, oval_ring, oval_round_mm, ring, sleeve_mm
from coating.shape.transfer.straight import cuts

__all__ = [
    "CutPlan",
    "DiscPlan",
    "PlacedPiece",
    "Ring",
    "WantedPieces",
    "box_ring",
    "cut_plan",
    "cuts",
    "disc_plan",
    "oval_ring",
    "oval_round_mm",
    "ring",
    "sleeve_mm",
]
