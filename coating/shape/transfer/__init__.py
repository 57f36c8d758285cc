"""Transfer sheets: how pieces lie on them, whether straight cuts free them, how many go round."""

from coating.shape.transfer.cut_plan import CutPlan, Placed, Wanted, cut_plan
from coating.shape.transfer.discs import DiscPlan, disc_plan
from coating.shape.transfer.ring import Ring, ring, sleeve_mm
from coating.shape.transfer.straight import cuts

__all__ = ["CutPlan", "DiscPlan", "Placed", "Ring", "Wanted", "cut_plan", "cuts", "disc_plan", "ring", "sleeve_mm"]
