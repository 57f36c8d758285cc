"""Boxes: how many pieces lie in one, does the lid close, and how many boxes."""

from __future__ import annotations

import math
from dataclasses import dataclass

from coating.errors import OutOfBounds
from coating.limits import check

GAP_MM, LID_ROOM_MM = 3.0, 4.0  # between pieces, and under the lid; common practice, no source


@dataclass(frozen=True)
class Box:
    """A box from inside, mm. With an insert of holes it holds as many as it has holes, in one layer."""

    length_mm: float
    width_mm: float
    height_mm: float
    holes: int = 0
    hole_mm: float = 0.0

    def __post_init__(self) -> None:
        for name in ("length_mm", "width_mm", "height_mm"):
            check("core_mm", getattr(self, name), name)


@dataclass(frozen=True)
class Packed:
    """Pieces in a layer, layers, pieces in a box, boxes for all, and what is free under the lid, mm."""

    in_layer: int
    layers: int
    in_box: int
    boxes: int
    free_mm: float


def packed(
    box: Box, count: int, *, across_mm: float, along_mm: float, high_mm: float, layers: int = 1, shred_mm: float = 0.0,
    sheet_mm: float = 2.0,
) -> Packed:  # fmt: skip
    """How pieces lie in a box, side by side in rows, turned if more fit so.

    Parameters
    ----------
    across_mm, along_mm, high_mm : of a piece as it lies. layers : at most, with a sheet of `sheet_mm` between.
    shred_mm : under them.

    Raises
    ------
    OutOfBounds : a piece larger than the box or its hole, or higher than the lid allows.
    """
    check("count", count)
    for name, value in (("across_mm", across_mm), ("along_mm", along_mm), ("high_mm", high_mm)):
        check("core_mm", value, name)
    room = box.height_mm - shred_mm - LID_ROOM_MM
    if high_mm > room:
        raise OutOfBounds(f"The lid does not close: {room:.0f} mm of room, and the piece is {high_mm:.0f} mm high.",
                          field="high_mm")  # fmt: skip
    if box.holes:
        if max(across_mm, along_mm) > box.hole_mm:
            raise OutOfBounds(f"The holes are {box.hole_mm:.0f} mm: too small for it.", field="across_mm")
        return Packed(box.holes, 1, box.holes, math.ceil(count / box.holes), box.height_mm - shred_mm - high_mm)
    most = max(_rows(box, across_mm, along_mm), _rows(box, along_mm, across_mm))
    if most == 0:
        raise OutOfBounds("The piece is larger than the box.", field="across_mm")
    fit = max(1, min(layers, int((room + sheet_mm) // (high_mm + sheet_mm))))
    used = fit * high_mm + (fit - 1) * sheet_mm
    return Packed(most, fit, most * fit, math.ceil(count / (most * fit)), box.height_mm - shred_mm - used)


def _rows(box: Box, across_mm: float, along_mm: float) -> int:
    lengthwise = int((box.length_mm + GAP_MM + 1e-9) // (across_mm + GAP_MM))
    return lengthwise * int((box.width_mm + GAP_MM + 1e-9) // (along_mm + GAP_MM))
