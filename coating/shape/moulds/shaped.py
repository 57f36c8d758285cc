"""Cavities with an outline of their own, cut straight down: a heart, a crescent, a leaf."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import lru_cache
from typing import TYPE_CHECKING

from coating.limits import check
from coating.shape.moulds.cavity import Sided
from coating.shape.ready_shapes import ready_shape

if TYPE_CHECKING:
    from shapely import Polygon


@dataclass(frozen=True)
class Shaped(Sided):
    """As long, wide and deep as said, of a shape of the library; `taken_mm` of it is taken up all round by a wall."""

    shape: str = "heart"
    taken_mm: float = 0.0

    def __post_init__(self) -> None:
        for name in ("long_mm", "wide_mm", "depth_mm"):
            check("core_mm", getattr(self, name), name)

    @property
    def opening(self) -> Polygon:
        """Its outline from above, mm, less what is taken up; the largest part, where it falls apart."""
        return _opening(self.shape, self.long_mm, self.wide_mm, self.taken_mm)

    @property
    def across_mm(self) -> float:
        low_x, low_y, high_x, high_y = self.opening.bounds
        return float(max(high_x - low_x, high_y - low_y))

    @property
    def span_mm(self) -> float:
        """Across the largest round that lies in it."""
        return _span_mm(self.shape, self.long_mm, self.wide_mm, self.taken_mm)

    @property
    def open_mm2(self) -> float:
        """The opening, mm2."""
        return float(self.opening.area)

    @property
    def rim_mm(self) -> float:
        return float(self.opening.length)

    @property
    def wall_mm2(self) -> float:
        return self.open_mm2 + self.rim_mm * self.depth_mm

    def holds_to_ml(self, high_mm: float) -> float:
        return self.open_mm2 * min(max(high_mm, 0.0), self.depth_mm) / 1000

    def within(self, wall_mm: float) -> Shaped | None:
        left = replace(self, taken_mm=self.taken_mm + wall_mm, depth_mm=max(1.0, self.depth_mm - wall_mm))
        return left if self.depth_mm - wall_mm > 1 and left.open_mm2 > 1 else None

    def scaled(self, factor: float) -> Shaped:
        """The same form, larger or smaller by a factor."""
        return replace(
            self,
            long_mm=factor * self.long_mm,
            wide_mm=factor * self.wide_mm,
            depth_mm=factor * self.depth_mm,
            taken_mm=factor * self.taken_mm,
        )


@lru_cache(maxsize=256)
def _opening(shape: str, long_mm: float, wide_mm: float, taken_mm: float) -> Polygon:
    from shapely import union_all
    from shapely.affinity import scale

    whole = union_all(ready_shape(shape, width_mm=100.0).parts)
    low_x, low_y, high_x, high_y = whole.bounds
    sized = scale(whole, long_mm / (high_x - low_x), wide_mm / (high_y - low_y), origin=(low_x, low_y))
    left = sized.buffer(-taken_mm) if taken_mm else sized
    return max(getattr(left, "geoms", [left]), key=lambda part: part.area, default=left)


@lru_cache(maxsize=256)
def _span_mm(shape: str, long_mm: float, wide_mm: float, taken_mm: float) -> float:
    from shapely import maximum_inscribed_circle

    opening = _opening(shape, long_mm, wide_mm, taken_mm)
    return 0.0 if opening.is_empty else float(2 * maximum_inscribed_circle(opening, 0.05).length)
