"""Shapes to lift off: an outline piped as a dam, the inside flooded to it, and what of it is too slight to lift.

The outline runs along the edge of the shape, its middle half a line inside. A flood lies as deep as its outline is high
where it is not told otherwise. Walls under `LEAST_WALLS` lines break when lifted: common practice, no source.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import Any

import numpy as np

from coating.errors import OutOfBounds
from coating.flow.additions.fat import density_kg_m3
from coating.flow.material import ORDINARY_FAT
from coating.limits import check
from coating.shape.areas import Areas
from coating.shape.lace.holds import parts_of
from coating.shape.order import ordered, piping_s
from coating.shape.strokes import BEAD_HEIGHT, Array, Drawing

HAND_MM_S, LIFT_S = 20.0, 1.2  # assumptions
FLOOD_MM2_S = 60.0  # what a bag with a wide hole covers in a second; an assumption
LEAST_WALLS = 2.0  # lines
FLOOD_OF_LINE = 0.9  # how deep a flood lies, of the height of its outline


@dataclass(frozen=True, eq=False)
class RunOut:
    """A shape, the settled width of its outline and the depth of its flood in mm."""

    areas: Areas
    line_mm: float
    depth_mm: float
    speed_mm_s: float = HAND_MM_S

    @cached_property
    def outline(self) -> Drawing:
        """The lines to pipe, as a hand draws them; a part too narrow for a dam is one line through its middle."""
        lines = [line for part in self.areas.parts for line in _rings(part.buffer(-self.line_mm / 2, quad_segs=8))]
        lines += list(self.areas.lines)
        return ordered(Drawing(tuple(lines), (), self.areas.size_mm[0]))

    @cached_property
    def flooded(self) -> tuple[Any, ...]:
        """What is filled: inside the outlines."""
        return tuple(p for part in self.areas.parts for p in parts_of(part.buffer(-self.line_mm, quad_segs=8)))

    @property
    def flood_mm2(self) -> float:
        """What is flooded, mm2."""
        return float(sum(p.area for p in self.flooded))

    @cached_property
    def thin_at(self) -> tuple[tuple[float, float], ...]:
        """Where a wall is too thin to be lifted: what a disc of the least wall does not reach."""
        least = LEAST_WALLS * self.line_mm
        spots = []
        for part in self.areas.parts:
            opened = part.buffer(-least / 2, quad_segs=8).buffer(least / 2, quad_segs=8)
            lost = [p for p in parts_of(part.difference(opened)) if p.area > (0.4 * least) ** 2]
            spots += [(p.representative_point().x, p.representative_point().y) for p in lost]
        return tuple(spots)

    @property
    def pieces(self) -> int:
        """Into how many pieces it falls when it is lifted."""
        return len(self.areas.parts)

    def outline_g(self, *, fat_fraction: float = ORDINARY_FAT) -> float:
        """The outline, g."""
        return self.outline.mass_g(self.line_mm, fat_fraction=fat_fraction)

    def flood_g(self, *, fat_fraction: float = ORDINARY_FAT) -> float:
        """The flooding, g."""
        return self.flood_mm2 * self.depth_mm * density_kg_m3(fat_fraction) * 1e-6

    @property
    def outline_s(self) -> float:
        """Seconds to pipe the outline."""
        return piping_s(self.outline, self.speed_mm_s, LIFT_S)

    @property
    def flood_s(self) -> float:
        """Seconds to flood it."""
        return self.flood_mm2 / FLOOD_MM2_S + len(self.flooded) * LIFT_S


def run_out(areas: Areas, *, line_mm: float, depth_mm: float | None = None, speed_mm_s: float = HAND_MM_S) -> RunOut:
    """A shape to outline and flood.

    Parameters
    ----------
    areas : in mm. line_mm : settled width of the outline. depth_mm : of the flood; None: a little under its outline.

    Raises
    ------
    OutOfBounds : a line too thick for every part of it, or a value outside its bounds.
    """
    check("bead_mm", line_mm, "line_mm"), check("hand_speed_mm_s", speed_mm_s, "speed_mm_s")
    depth = FLOOD_OF_LINE * BEAD_HEIGHT * line_mm if depth_mm is None else check("coat_mm", depth_mm, "depth_mm")
    design = RunOut(areas, line_mm, depth, speed_mm_s)
    if not design.outline.lines:
        raise OutOfBounds(
            "A line that wide does not fit in the shape. Make the line thinner, or the shape larger.", field="line_mm"
        )
    return design


def _rings(shape: Any) -> list[Array]:
    return [
        np.asarray(ring.simplify(0.01).coords, dtype=float)
        for part in parts_of(shape)
        for ring in (part.exterior, *part.interiors)
    ]
