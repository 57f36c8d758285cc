"""The side of a round tier laid out flat, with the drips that run down it."""

from __future__ import annotations

import math
from dataclasses import dataclass

from coating.shape.drips import DripsRound


@dataclass(frozen=True)
class UnrolledSide:
    """A drawing in mm: the side `width_mm` by `height_mm`, the poured rim with its drips as one outline, the same at
    the near and the far end of the range, and how many drips go round."""

    width_mm: float
    height_mm: float
    drips: int
    outline: str
    least: str
    most: str

    @property
    def front(self) -> str:
        """A view box of as many whole drips as are seen from the front."""
        apart = self.width_mm / self.drips
        seen = max(1, round(self.drips / math.pi)) * apart
        return f"0 -2 {seen:.1f} {self.height_mm + 4:.1f}"


def unrolled_side(around: DripsRound, *, length_mm: float, low_mm: float, high_mm: float) -> UnrolledSide:
    """Drips evenly round a tier.

    Parameters
    ----------
    around : the tier and its drips. length_mm, low_mm, high_mm : how far they run, and its range; none is drawn past
    the board.
    """
    round_mm, height_mm, width_mm = around.tier.round_mm, around.tier.height_mm, around.width_mm
    count, apart = around.drips, around.apart_mm

    def outline(length: float) -> str:
        reach, half, rim = min(length, height_mm), width_mm / 2, min(width_mm * 0.45, height_mm / 4)
        path = [f"M0 0 H{round_mm:.1f} V{rim:.1f}"]
        for i in reversed(range(count)):
            middle = (i + 0.5) * apart
            bend = min(half, max(0.0, reach - rim))
            path.append(
                f"H{middle + half * 1.7:.1f} Q{middle + half:.1f} {rim:.1f} {middle + half:.1f} {rim + bend * 0.8:.1f} "
                f"V{max(rim, reach - half):.1f} A{half:.1f} {half:.1f} 0 0 1 {middle - half:.1f} "
                f"{max(rim, reach - half):.1f} V{rim + bend * 0.8:.1f} "
                f"Q{middle - half:.1f} {rim:.1f} {middle - half * 1.7:.1f} {rim:.1f}"
            )
        return " ".join([*path, "H0 Z"])

    return UnrolledSide(round_mm, height_mm, count, outline(length_mm), outline(low_mm), outline(high_mm))
