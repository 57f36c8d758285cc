"""Can edge-to-edge cuts free every piece? A cut goes right through what is in the hand and through no piece; then both
parts are cut on in the same way (guillotine cuts)."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

Box = tuple[int, int, int, int]  # left, top, width, height, in whole units


@dataclass(frozen=True)
class Cut:
    """A cut along x (a column is split, `upright`) or y, from one edge of a part to the other, in whole units."""

    upright: bool
    at: int
    begin: int
    end: int


def cuts(boxes: Sequence[Box], sheet: tuple[int, int]) -> list[Cut] | None:
    """The cuts that free every box, in the order they are made.

    Parameters
    ----------
    boxes : sequence of Box
    sheet : tuple of int
        Width and height, in the units of the boxes.

    Returns
    -------
    list of Cut or None
        None where straight cuts cannot.
    """
    return _cuts(list(boxes), (0, 0, *sheet))


def _cuts(boxes: list[Box], part: Box) -> list[Cut] | None:
    left, top, wide, high = part
    if not boxes:
        return []
    if len(boxes) == 1 and boxes[0] == part:
        return []
    for upright in (True, False):
        k, begin, size = (0, left, wide) if upright else (1, top, high)
        edges = {b[k] for b in boxes} | {b[k] + b[k + 2] for b in boxes}
        for at in sorted(edges):
            if not begin < at < begin + size or any(b[k] < at < b[k] + b[k + 2] for b in boxes):
                continue
            near = [b for b in boxes if b[k] + b[k + 2] <= at]
            far = [b for b in boxes if b[k] >= at]
            one, other = (
                ((left, top, at - left, high), (at, top, left + wide - at, high))
                if upright
                else ((left, top, wide, at - top), (left, at, wide, top + high - at))
            )
            # Any cut that crosses no piece keeps what can be freed free: no other needs to be tried.
            first, second = _cuts(near, one), _cuts(far, other)
            if first is None or second is None:
                return None
            span = (top, top + high) if upright else (left, left + wide)
            return [Cut(upright, at, *span), *first, *second]
    return None
