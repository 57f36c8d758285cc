"""Painted leaves: coloured cocoa butter brushed on film along the leaf, coating over it, cut along the grain, rolled.

What is painted first is seen in front. Coats and drying are common practice, no source.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from coating.flow.material import ORDINARY
from coating.limits import check
from coating.shape.film.bending import Bend, bend
from coating.shape.strokes import Array
from coating.shape.transfer.cut_plan import CutPlan, WantedPieces, cut_plan

PAINT_MM, PAINT_KG_M3 = 0.1, 900.0
_DENSITY = ORDINARY.density_kg_m3


def half_width(along: Array) -> Array:
    """Half of how wide a leaf is, of its greatest, at shares of its length: widest a little before the middle."""
    return np.asarray(np.abs(np.sin(np.pi * along**0.85)) ** 0.9)


@dataclass(frozen=True)
class Leaves:
    """Leaves of one size: how many, how long and wide, how thick the coating, the roll they are bent over, mm."""

    count: int
    long_mm: float
    wide_mm: float
    thickness_mm: float
    roll_mm: float
    coats: int
    plan: CutPlan

    @cached_property
    def outline(self) -> Array:
        """One, its stalk at the left, points in mm, closed."""
        t = np.linspace(0, 1, 31)
        half = half_width(t) * self.wide_mm / 2
        upper = np.column_stack([t * self.long_mm, self.wide_mm / 2 - half])
        lower = np.column_stack([t * self.long_mm, self.wide_mm / 2 + half])[::-1]
        return np.concatenate([upper, lower])

    @property
    def leaf_mm2(self) -> float:
        """One side of one leaf, mm2."""
        from shapely import Polygon

        return float(Polygon(self.outline).area)

    @property
    def brushed_mm2(self) -> float:
        """What is painted and spread over: the whole of each leaf's rectangle."""
        return self.count * self.long_mm * self.wide_mm

    @property
    def coating_g(self) -> float:
        """What is brushed on all leaves, g."""
        return self.brushed_mm2 * self.thickness_mm * _DENSITY * 1e-6

    @property
    def paint_g(self) -> float:
        """Of each coat."""
        return self.brushed_mm2 * PAINT_MM * PAINT_KG_M3 * 1e-6

    @property
    def cut_off_g(self) -> float:
        """What lies beside the leaves, to melt again (painted: into a dark bowl)."""
        return (self.brushed_mm2 - self.count * self.leaf_mm2) * self.thickness_mm * _DENSITY * 1e-6

    @property
    def bend(self) -> Bend:
        """The bend of a leaf laid on its roll."""
        return Bend(self.thickness_mm, self.roll_mm / 2)


def leaves(
    count: int,
    long_mm: float,
    wide_mm: float,
    *,
    thickness_mm: float,
    roll_mm: float,
    coats: int = 2,
    film_mm: tuple[float, float] = (400.0, 250.0),
    gap_mm: float = 3.0,
) -> Leaves:
    """Leaves on film, all lying along the brush.

    Parameters
    ----------
    count, long_mm, wide_mm : of the leaves. thickness_mm : of the coating over the paint. roll_mm : what they are bent
    over. coats : of paint. film_mm : a sheet of film, brushed along its width. gap_mm : between two.

    Raises
    ------
    OutOfBounds : a leaf larger than its film, a bend that tears, or a value outside its bounds.
    """
    many = int(check("count", count))
    check("petal_mm", wide_mm, "wide_mm"), check("piece_side_mm", long_mm, "long_mm"), check("paint_coats", coats)
    bend(thickness_mm, check("tier_or_cup_mm", roll_mm, "roll_mm") / 2)
    plan = cut_plan(film_mm, [WantedPieces(long_mm, wide_mm, many)], kerf_mm=gap_mm, solver_s=0)
    return Leaves(many, long_mm, wide_mm, thickness_mm, roll_mm, int(coats), plan)
