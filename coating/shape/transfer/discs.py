"""Discs on sheets: the best of rows above each other, rows in the gaps of the last, and columns in the gaps."""

from __future__ import annotations

import math
from dataclasses import dataclass

from coating.errors import OutOfBounds
from coating.limits import check

SQUARE, HEX, HEX_TURNED = "square", "hex", "turned hex"


@dataclass(frozen=True)
class DiscPlan:
    """Middles of all discs as (sheet, x, y) in mm from the left upper corner, and how they are laid."""

    sheet_mm: tuple[float, float]
    diameter_mm: float
    kerf_mm: float
    laid: str
    placed: tuple[tuple[int, float, float], ...]
    a_sheet: int

    @property
    def sheets(self) -> int:
        """How many transfer sheets are used."""
        return self.placed[-1][0] + 1

    @property
    def waste_fraction(self) -> float:
        """Which share of them is cut away."""
        used = len(self.placed) * math.pi / 4 * self.diameter_mm**2
        return 1 - used / (self.sheets * self.sheet_mm[0] * self.sheet_mm[1])


def disc_plan(sheet_mm: tuple[float, float], diameter_mm: float, count: int, *, kerf_mm: float = 1.0) -> DiscPlan:
    """Lay discs on sheets.

    Parameters
    ----------
    sheet_mm : tuple of float
        Width and height, mm.
    diameter_mm : float
        Of a disc, mm.
    count : int
        Of them.
    kerf_mm : float
        Between two, mm.

    Returns
    -------
    DiscPlan

    Raises
    ------
    OutOfBounds
        A disc larger than the sheet, or a value outside its bounds.
    """
    wide, high = (check("slab_mm", side, "sheet_mm") for side in sheet_mm)
    across, many = check("piece_side_mm", diameter_mm, "diameter_mm"), int(check("count", count))
    gap = check("kerf_mm", kerf_mm)
    if across > min(wide, high) + 1e-9:
        raise OutOfBounds("A disc of {across_mm} is larger than the sheet.", across_mm=across, field="pieces")
    grown, room = across + gap, (wide + gap, high + gap)
    laid = {
        SQUARE: _square(grown, *room),
        HEX: _hex(grown, *room),
        HEX_TURNED: [(x, y) for y, x in _hex(grown, room[1], room[0])],
    }
    best = max(laid, key=lambda name: (len(laid[name]), name == SQUARE))
    spots = [(x - gap / 2, y - gap / 2) for x, y in laid[best]]
    placed = tuple((i // len(spots), *spots[i % len(spots)]) for i in range(many))
    return DiscPlan((wide, high), across, gap, best, placed, len(spots))


def _fit(size: float, room: float) -> int:
    return math.floor(room / size + 1e-9)


def _square(size: float, wide: float, high: float) -> list[tuple[float, float]]:
    return [((i + 0.5) * size, (j + 0.5) * size) for j in range(_fit(size, high)) for i in range(_fit(size, wide))]


def _hex(size: float, wide: float, high: float) -> list[tuple[float, float]]:
    """Rows along the width, every other moved by half a disc."""
    step = size * math.sqrt(3) / 2
    rows = 1 + _fit(step, high - size)
    return [
        ((i + 0.5) * size + (size / 2 if j % 2 else 0.0), size / 2 + j * step)
        for j in range(rows)
        for i in range(_fit(size, wide - (size / 2 if j % 2 else 0.0)))
    ]
