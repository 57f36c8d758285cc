"""Cores: what a piece is made on."""

from __future__ import annotations

import math
from dataclasses import dataclass

from coating.limits import check


@dataclass(frozen=True)
class RoundBiscuit:
    """A round biscuit, dipped edge first: size across and thickness in mm."""

    diameter_mm: float
    thickness_mm: float

    def __post_init__(self) -> None:
        check("diameter_mm", self.diameter_mm)
        check("piece_thickness_mm", self.thickness_mm, "thickness_mm")

    def dipped_area_mm2(self, depth_mm: float) -> float:
        """Area in mm2 wetted when it is dipped `depth_mm` deep: two circle segments and the rim between.

        >>> round(RoundBiscuit(60, 10).dipped_area_mm2(60))
        7540
        """
        r = self.diameter_mm / 2
        depth = min(max(depth_mm, 0.0), self.diameter_mm)
        half_angle = math.acos(max(-1.0, min(1.0, 1 - depth / r)))
        segment = r * r * (half_angle - math.sin(half_angle) * math.cos(half_angle))
        return 2 * segment + 2 * r * half_angle * self.thickness_mm


@dataclass(frozen=True)
class CakeTier:
    """A round tier of a cake: size across and height in mm."""

    diameter_mm: float
    height_mm: float

    def __post_init__(self) -> None:
        check("tier_mm", self.diameter_mm, "diameter_mm")
        check("tier_height_mm", self.height_mm, "height_mm")

    @property
    def round_mm(self) -> float:
        """Once round the tier, mm."""
        return math.pi * self.diameter_mm

    @property
    def top_mm2(self) -> float:
        """The top, mm2."""
        return math.pi / 4 * self.diameter_mm**2
