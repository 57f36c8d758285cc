"""Dips into a marbled bowl: each takes its wetted area of the skin along and drags the rest, until it is muddy.

What is taken closes in from the edge, where there is only ground. The skin is past it when less than half of the second
colour is left, or what is left is overworked. A model, not a measurement.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cached_property

from coating.errors import OutOfBounds
from coating.limits import check
from coating.shape.marbling.operations import Drop, Lift, Operation, Tine
from coating.shape.marbling.rhythm import blobs, operations, rhythm
from coating.shape.marbling.surface import Surface, marbled
from coating.shape.marbling.verdict import verdict

MOST_DIPS, LOOKED_AT = 24, 104
LEFT = 0.5  # of the second colour, less is past it; common practice, no source
GOLDEN_DEG = 137.5


@dataclass(frozen=True)
class Swirl:
    """A bowl whose surface is marbled: its width, the share of the second colour, lines of it, turns of the skewer, and
    the skin that one piece takes, mm2."""

    bowl_mm: float
    share: float
    lines: int
    turns: int
    taken_mm2: float

    @property
    def reach_mm(self) -> float:
        """Radius of a disc as large as what one piece takes."""
        return math.sqrt(self.taken_mm2 / math.pi)

    @cached_property
    def swirled(self) -> list[Operation]:
        """Lines, and the turns of the skewer."""
        wide = self.bowl_mm
        rows = blobs("lines", self.share, wide, wide, count=min(60, 2 * self.lines), rows=self.lines)
        upright = [
            Drop(d.y_mm, d.x_mm, d.radius_mm)
            for d in rows
            if math.hypot(d.x_mm - wide / 2, d.y_mm - wide / 2) < wide / 2
        ]
        return operations(upright, rhythm("along", self.turns, wide, wide, reach_mm=wide / 18))

    def done(self, dips: int = 0) -> list[Operation]:
        """The swirl, and the first so many dips, each beside the last."""
        wide, operations = self.bowl_mm, list(self.swirled)
        room = max(0.0, wide / 2 - min(self.reach_mm, wide / 2)) * 0.9
        for i in range(dips):
            turn = math.radians(GOLDEN_DEG * i % 360)
            far = room * math.sqrt((i % 7 + 0.5) / 7)
            x, y = wide / 2 + far * math.cos(turn), wide / 2 + far * math.sin(turn)
            operations += [Lift(x, y, self.reach_mm), Tine(x, y, math.degrees(turn), self.reach_mm, self.reach_mm / 3)]
        return operations

    def surface(self, dips: int = 0, resolution: int = LOOKED_AT, finer: int = 1) -> Surface:
        """The surface of the bowl after so many dips."""
        return marbled(
            self.done(dips), width_mm=self.bowl_mm, height_mm=self.bowl_mm, resolution=resolution, finer=finer
        )


def swirl(bowl_mm: float, taken_mm2: float, *, share: float, lines: int = 5, turns: int = 2) -> Swirl:
    """Raises OutOfBounds for a piece larger than the bowl, or a value outside its bounds."""
    check("slab_mm", bowl_mm, "bowl_mm"), check("area_mm2", taken_mm2), check("marbled_share", share, "share")
    check("blobs", lines, "lines"), check("passes", turns, "turns")
    if taken_mm2 > math.pi / 4 * bowl_mm**2:
        raise OutOfBounds(
            "One piece takes more than the whole surface of the bowl. Use a wider bowl, or dip less of the piece.",
            field="bowl_mm",
        )
    return Swirl(bowl_mm, share, int(lines), int(turns), taken_mm2)


def lasts(made: Swirl) -> int:
    """How many pieces its surface does before it is past it; `MOST_DIPS` for that many and more."""
    begun = verdict(made.surface()).light_share
    most = math.ceil(math.pi / 4 * made.bowl_mm**2 / made.taken_mm2)  # then all of its skin is gone
    low, high = 0, min(MOST_DIPS, most) + 1
    while high - low > 1:
        dips = (low + high) // 2
        seen = verdict(made.surface(dips - 1))
        good = seen.word != "stop" and seen.light_share >= LEFT * begun
        low, high = (dips, high) if good else (low, dips)
    return low
