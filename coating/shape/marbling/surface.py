"""The surface after all that was done to it: every dot is taken back through the operations, the last one first, until
a drop says that it is of its colour. Strips of a few rows stay in the processor's memory."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from coating.errors import OutOfBounds
from coating.limits import check
from coating.shape.marbling.operations import Drop, Operation

ROWS = 32
MOST_OPERATIONS = 400
Colours = NDArray[np.uint8]


@dataclass(frozen=True, eq=False)
class Surface:
    """Colours of a slab in rows from above, 0 the ground; `dot_mm` is how large each dot is."""

    width_mm: float
    height_mm: float
    dot_mm: float
    colours: Colours

    def share(self, colour: int) -> float:
        """How much of it is of a colour."""
        return float(np.count_nonzero(self.colours == colour)) / self.colours.size


def marbled(
    operations: Sequence[Operation], *, width_mm: float, height_mm: float, resolution: int = 512, finer: int = 1
) -> Surface:
    """A slab after all operations, in the order they are done; y runs down from its upper left corner.

    What enters over an edge is ground.

    Parameters
    ----------
    operations : sequence of Operation
        What is done.
    width_mm, height_mm : float
        Of the slab, mm.
    resolution : int
        Dots along its longer side.
    finer : int
        So many times as many dots, for a picture that is made smaller afterwards.

    Returns
    -------
    Surface

    Raises
    ------
    OutOfBounds
        A value outside its bounds, or too many operations.
    """
    check("slab_mm", width_mm, "width_mm"), check("slab_mm", height_mm, "height_mm")
    dots = int(check("resolution", resolution) * check("finer", finer))
    if len(operations) > MOST_OPERATIONS:
        raise OutOfBounds(
            f"One surface takes at most {MOST_OPERATIONS} strokes and blobs.", field="operations", high=MOST_OPERATIONS
        )
    dot = max(width_mm, height_mm) / dots
    across, down = max(1, round(width_mm / dot)), max(1, round(height_mm / dot))
    row_x = ((np.arange(across) + 0.5) * (width_mm / across)).astype(np.float32)
    row_y = ((np.arange(down) + 0.5) * (height_mm / down)).astype(np.float32)
    cells = np.zeros((down, across), dtype=np.uint8)
    backwards = _needed(operations)
    for begin in range(0, down, ROWS):
        ys = row_y[begin : begin + ROWS]
        x = np.broadcast_to(row_x, (len(ys), across)).copy()
        y = np.broadcast_to(ys[:, None], (len(ys), across)).copy()
        _walk(backwards, x, y, cells[begin : begin + ROWS])
    return Surface(width_mm, height_mm, dot, cells)


def _needed(operations: Sequence[Operation]) -> list[Operation]:
    """Backwards; what was done before the first blob moves nothing but ground."""
    first = next((i for i, done in enumerate(operations) if isinstance(done, Drop)), len(operations))
    return list(reversed(operations[first:]))


def _walk(backwards: Sequence[Operation], x: NDArray[np.float32], y: NDArray[np.float32], colours: Colours) -> None:
    """Colours of dots; those that a drop claims are settled and keep that colour."""
    open_ = np.ones(x.shape, dtype=bool)
    for done in backwards:
        inside = done.back(x, y)
        if inside is not None:
            assert isinstance(done, Drop)
            inside &= open_
            colours[inside] = done.colour
            open_ &= ~inside
