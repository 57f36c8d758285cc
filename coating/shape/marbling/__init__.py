"""Marbling: what a skewer does to blobs of a second colour, and when to stop (Lu, Jaffer, Jin, Zhao, Mao 2012)."""

from coating.shape.marbling.operations import Circle, Comb, Drop, Lift, Operation, Stroke, Tine, Wave
from coating.shape.marbling.surface import Surface, marbled
from coating.shape.marbling.verdict import Verdict, verdict

__all__ = [
    "Circle",
    "Comb",
    "Drop",
    "Lift",
    "Operation",
    "Stroke",
    "Surface",
    "Tine",
    "Verdict",
    "Wave",
    "marbled",
    "verdict",
]
