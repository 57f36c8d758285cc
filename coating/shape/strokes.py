"""Strokes: what a bag draws. Lines as points in mm (N, 2), small presses as points, and what they take."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from coating.flow.additions.fat import density_kg_m3
from coating.limits import check

BEAD_HEIGHT = 0.7  # of its width; an assumption, editable
Array = NDArray[np.float64]


@dataclass(frozen=True, eq=False)
class Drawing:
    """Lines in the order they are drawn, and presses, in mm; y runs down. `width_mm` : how far it reaches along the
    line it stands on."""

    lines: tuple[Array, ...]
    presses: tuple[tuple[float, float], ...] = ()
    width_mm: float = 0.0

    @property
    def length_mm(self) -> float:
        return sum(length_of(line) for line in self.lines)

    @property
    def strokes(self) -> int:
        """Lines and presses."""
        return len(self.lines) + len(self.presses)

    @property
    def lifts(self) -> int:
        """How often the bag is lifted between them."""
        return max(0, self.strokes - 1)

    def mass_g(self, line_mm: float, *, fat_fraction: float = 0.32) -> float:
        """Of beads .7 as high as wide, and of presses, each half a ball flattened to that height."""
        wide, high = check("bead_mm", line_mm, "line_mm"), BEAD_HEIGHT * line_mm
        beads = math.pi / 4 * wide * high * self.length_mm
        presses = len(self.presses) * math.pi / 6 * wide**2 * high
        return (beads + presses) * density_kg_m3(fat_fraction) * 1e-6

    def duration_s(self, hand_speed_mm_s: float, lift_s: float) -> float:
        """At the hand's speed, with so long for each stroke."""
        return self.length_mm / check("hand_speed_mm_s", hand_speed_mm_s) + self.strokes * lift_s


def length_of(line: Array) -> float:
    """Of a line of points, mm."""
    return float(np.hypot(*np.diff(line, axis=0).T).sum()) if len(line) > 1 else 0.0


def joined(lines: Sequence[Array], within: float) -> list[Array]:
    """The same lines with ends that lie so near drawn through, the nearest first: fewer lifts.

    Lines keep the place of the first of them; a line may be turned round.
    """
    found = [np.asarray(line, dtype=float) for line in lines]
    while len(found) > 1:
        best = _nearest_ends(found)
        if best is None or best[0] > within:
            break
        _, a, b, turn_a, turn_b = best
        first = found[a][::-1] if turn_a else found[a]
        second = found[b][::-1] if turn_b else found[b]
        found[a] = np.concatenate([first, second])
        del found[b]
    return found


def _nearest_ends(lines: Sequence[Array]) -> tuple[float, int, int, bool, bool] | None:
    """The two ends of different lines that lie nearest: how far, which lines (the earlier first), and whether each is
    turned so that the first ends where the second begins."""
    starts, ends = np.array([line[0] for line in lines]), np.array([line[-1] for line in lines])
    best = None
    for turn_a, left in ((False, ends), (True, starts)):
        for turn_b, right in ((False, starts), (True, ends)):
            apart = np.hypot(*(left[:, None, :] - right[None, :, :]).transpose(2, 0, 1))
            apart[np.tril_indices(len(lines))] = np.inf
            i, j = np.unravel_index(int(apart.argmin()), apart.shape)
            if np.isfinite(apart[i, j]) and (best is None or apart[i, j] < best[0] - 1e-12):
                best = (float(apart[i, j]), int(i), int(j), turn_a, turn_b)
    return best
