"""In which order the bag goes from stroke to stroke: to the nearest end that is left, then with runs of strokes turned
round where that shortens the way through the air (2-opt, Croes 1958)."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from coating.shape.strokes import Array, Drawing

AIR_MM_S = 60.0  # through the air; an assumption
MOST_TURNED = 260  # strokes; beyond that the nearest end has to do


def ordered(drawing: Drawing, *, turned: bool = True) -> Drawing:
    """The same strokes in an order, and each in a direction, with little way between; presses come last.

    `turned` false skips the second step, for a quick look.
    """
    lines = _in_order(list(drawing.lines), turned)
    dots = _in_order([np.array([dot]) for dot in drawing.presses], turned)
    return Drawing(tuple(lines), tuple((float(d[0][0]), float(d[0][1])) for d in dots), drawing.width_mm)


def air_mm(drawing: Drawing) -> float:
    """The way through the air from the end of each stroke to the beginning of the next, mm."""
    strokes = [*drawing.lines, *[np.array([dot]) for dot in drawing.presses]]
    return float(sum(np.hypot(*(b[0] - a[-1])) for a, b in pairwise(strokes)))


def piping_s(drawing: Drawing, speed_mm_s: float, lift_s: float) -> float:
    """Along the lines at the hand's speed, so long for each stroke, and through the air between them."""
    return drawing.duration_s(speed_mm_s, lift_s) + air_mm(drawing) / AIR_MM_S


def _in_order(strokes: Sequence[Array], turned: bool) -> list[Array]:
    if len(strokes) < 2:
        return list(strokes)
    starts, ends = np.array([s[0] for s in strokes]), np.array([s[-1] for s in strokes])
    order, turn = _nearest(starts, ends)
    if turned and len(strokes) <= MOST_TURNED:
        order, turn = _improved(starts, ends, order, turn)
    return [strokes[i][::-1] if t else strokes[i] for i, t in zip(order, turn, strict=True)]


def _nearest(starts: Array, ends: Array) -> tuple[NDArray[np.int64], NDArray[np.bool_]]:
    """Begin with the stroke that reaches furthest to the left and up; then the nearest end, again and again."""
    count = len(starts)
    left = np.ones(count, dtype=bool)
    corner = np.minimum(starts.sum(axis=1), ends.sum(axis=1))
    at = int(corner.argmin())
    turn_first = bool(ends[at].sum() < starts[at].sum())
    order, turn = [at], [turn_first]
    left[at] = False
    here = starts[at] if turn_first else ends[at]
    while left.any():
        to_start = np.where(left, np.hypot(*(starts - here).T), np.inf)
        to_end = np.where(left, np.hypot(*(ends - here).T), np.inf)
        backwards = bool(to_end.min() < to_start.min())
        at = int((to_end if backwards else to_start).argmin())
        order.append(at)
        turn.append(backwards)
        left[at] = False
        here = starts[at] if backwards else ends[at]
    return np.array(order), np.array(turn)


def _improved(
    starts: Array, ends: Array, order: NDArray[np.int64], turn: NDArray[np.bool_]
) -> tuple[NDArray[np.int64], NDArray[np.bool_]]:
    """Turn the run of strokes round that saves most, until none does."""
    count = len(order)
    for _ in range(4 * count):
        first = np.where(turn[:, None], ends[order], starts[order])
        last = np.where(turn[:, None], starts[order], ends[order])
        links = np.r_[0.0, np.hypot(*(first[1:] - last[:-1]).T), 0.0]  # before each stroke, and after the last
        across = np.hypot(*(last[:, None] - last[None]).transpose(2, 0, 1))  # end of i to end of j
        before = np.hypot(*(first[:, None] - first[None]).transpose(2, 0, 1))
        gain = np.zeros((count, count))
        i, j = np.triu_indices(count)
        enter = np.where(i > 0, across[i - 1, j], 0.0)
        leave = np.where(j < count - 1, before[i, (j + 1) % count], 0.0)
        gain[i, j] = links[i] + links[j + 1] - enter - leave
        a, b = np.unravel_index(int(gain.argmax()), gain.shape)
        if gain[a, b] < 1e-6:
            break
        order = np.r_[order[:a], order[a : b + 1][::-1], order[b + 1 :]]
        turn = np.r_[turn[:a], ~turn[a : b + 1][::-1], turn[b + 1 :]]
    return order, turn
