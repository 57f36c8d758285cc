"""Panels of a box or a house with a gable roof, at true size, walls standing on a base; edges meet as said."""

from __future__ import annotations

import itertools
import math
from dataclasses import dataclass

from coating.errors import OutOfBounds
from coating.flow.material import ORDINARY
from coating.limits import check

Point = tuple[float, float]
_DENSITY = ORDINARY.density_kg_m3
BOX, HOUSE = "box", "house"


@dataclass(frozen=True)
class Panel:
    """A flat part: its name, its outline in mm from the left upper corner, and how many alike."""

    name: str
    outline: tuple[Point, ...]
    count: int = 1

    @property
    def area_mm2(self) -> float:
        """One side of the panel, mm2 (shoelace formula)."""
        points = [*self.outline, self.outline[0]]
        return abs(sum(a[0] * b[1] - b[0] * a[1] for a, b in itertools.pairwise(points))) / 2

    @property
    def size_mm(self) -> tuple[float, float]:
        """Width and height of the panel, mm."""
        xs, ys = zip(*self.outline, strict=True)
        return max(xs) - min(xs), max(ys) - min(ys)


@dataclass(frozen=True)
class GluedEdge:
    """An edge that is glued: which parts, how long, and how often."""

    parts: str
    long_mm: float
    count: int = 1


@dataclass(frozen=True)
class Net:
    """All panels and joints of a thing so long, wide and high (of its walls), mm, from sheets so thick."""

    kind: str
    long_mm: float
    wide_mm: float
    wall_mm: float
    thick_mm: float
    panels: tuple[Panel, ...]
    joints: tuple[GluedEdge, ...]
    high_mm: float

    @property
    def parts(self) -> int:
        """How many panels are cut."""
        return sum(p.count for p in self.panels)

    @property
    def area_mm2(self) -> float:
        """All panels together, one side, mm2."""
        return sum(p.area_mm2 * p.count for p in self.panels)

    @property
    def panels_g(self) -> float:
        """Where the panels are of coating."""
        return self.area_mm2 * self.thick_mm * _DENSITY * 1e-6

    @property
    def glued_mm(self) -> float:
        """All edges that are glued, mm."""
        return sum(j.long_mm * j.count for j in self.joints)

    @property
    def inside_ml(self) -> float:
        """Room under the roof or the lid, up to the walls."""
        return (
            max(0.0, self.long_mm - 2 * self.thick_mm)
            * max(0.0, self.wide_mm - 2 * self.thick_mm)
            * self.wall_mm
            / 1000
        )


def _box(wide: float, high: float) -> tuple[Point, ...]:
    return ((0.0, 0.0), (wide, 0.0), (wide, high), (0.0, high))


def net(
    kind: str,
    *,
    long_mm: float,
    wide_mm: float,
    wall_mm: float,
    thick_mm: float,
    pitch_deg: float = 45.0,
    overhang_mm: float = 8.0,
) -> Net:
    """The net of a box or a house.

    Parameters
    ----------
    kind : "box" (base, four walls, lid) or "house" (base, two walls, two gables, two halves of a roof). long_mm,
    wide_mm : over all. wall_mm : how high the walls are. thick_mm : of every panel. pitch_deg : of the roof.
    overhang_mm : of the roof beyond the walls.

    Front and back span the whole width; side walls stand between them. The ridge is a butt joint.

    Raises
    ------
    OutOfBounds : panels too thick for so small a thing, or a value outside its bounds.
    """
    check("panel_mm", long_mm, "long_mm"), check("panel_mm", wide_mm, "wide_mm"), check("panel_mm", wall_mm, "wall_mm")
    t = check("film_mm", thick_mm, "thick_mm")
    if 2 * t >= min(long_mm, wide_mm) / 2:
        raise OutOfBounds(
            "Panels that thick leave no room inside. Make them thinner, or the house larger.", field="thick_mm"
        )
    side = long_mm - 2 * t
    upright = GluedEdge("walls to each other", wall_mm, 4)
    around = GluedEdge("walls to the base", 2 * (wide_mm + side), 1)
    base = Panel("Base", _box(long_mm + 2 * overhang_mm, wide_mm + 2 * overhang_mm))
    if kind == BOX:
        panels = (
            base,
            Panel("Long side", _box(side, wall_mm), 2),
            Panel("Short side", _box(wide_mm, wall_mm), 2),
            Panel("Lid", _box(long_mm, wide_mm)),
        )
        return Net(kind, long_mm, wide_mm, wall_mm, t, panels, (around, upright), wall_mm + t)
    pitch = math.radians(check("pitch_deg", pitch_deg))
    rise = wide_mm / 2 * math.tan(pitch)
    gable = ((0.0, rise), (wide_mm / 2, 0.0), (wide_mm, rise), (wide_mm, rise + wall_mm), (0.0, rise + wall_mm))
    slope = (wide_mm / 2 + overhang_mm) / math.cos(pitch)
    panels = (
        base,
        Panel("Side wall", _box(side, wall_mm), 2),
        Panel("Gable", gable, 2),
        Panel("Roof half", _box(long_mm + 2 * overhang_mm, slope), 2),
    )
    joints = (
        around,
        upright,
        GluedEdge("gables to the roof", wide_mm / 2 / math.cos(pitch), 4),
        GluedEdge("ridge", long_mm + 2 * overhang_mm),
    )
    return Net(kind, long_mm, wide_mm, wall_mm, t, panels, joints, wall_mm + rise + t / math.cos(pitch))


def template(layout: Net, apart_mm: float = 8.0, room_mm: float = 277.0) -> list[tuple[Panel, float, float]]:
    """Each panel once, in rows: the panel and where its left upper corner lies, mm."""
    placed, x, y, row = [], 0.0, 0.0, 0.0
    for panel in layout.panels:
        wide, high = panel.size_mm
        if x and x + wide > room_mm:
            x, y, row = 0.0, y + row + apart_mm, 0.0
        placed.append((panel, x, y))
        x, row = x + wide + apart_mm, max(row, high)
    return placed
