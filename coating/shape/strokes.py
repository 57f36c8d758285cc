"""Strokes: what a bag draws. Lines as points in mm (N, 2), small presses as points, and what they take."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from coating.flow.additions.fat import density_kg_m3
from coating.flow.material import ORDINARY_FAT
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
        """All lines together, mm."""
        return sum(length_of(line) for line in self.lines)

    @property
    def strokes(self) -> int:
        """Lines and presses."""
        return len(self.lines) + len(self.presses)

    @property
    def lifts(self) -> int:
        """How often the bag is lifted between them."""
        return max(0, self.strokes - 1)

    def mass_g(self, line_mm: float, *, fat_fraction: float = ORDINARY_FAT) -> float:
        """Of beads .7 as high as wide, and of presses, each half a ball flattened to that height."""
        wide, high = check("bead_mm", line_mm, "line_mm"), BEAD_HEIGHT * line_mm
        beads = math.pi / 4 * wide * high * self.length_mm
        presses = len(self.presses) * math.pi / 6 * wide**2 * high
        return (beads + presses) * density_kg_m3(fat_fraction) * 1e-6

    def duration_s(self, hand_speed_mm_s: float, lift_s: float) -> float:
        """At the hand's speed, with so long for each stroke."""
        return self.length_mm / check("hand_speed_mm_s", hand_speed_mm_s) + self.strokes * lift_s


def repeated(drawing: Drawing, places: Sequence[tuple[float, float]]) -> Drawing:
    """The same drawing at each place, one after the other."""
    lines = tuple(np.add(line, place) for place in places for line in drawing.lines)
    dots = tuple((x + a, y + b) for a, b in places for x, y in drawing.presses)
    return Drawing(lines, dots, drawing.width_mm)


def length_of(line: Array) -> float:
    """Of a line of points, mm."""
    return float(np.hypot(*np.diff(line, axis=0).T).sum()) if len(line) > 1 else 0.0


def joined(lines: Sequence[Array], within: float) -> list[Array]:
    """The same lines with ends that lie so near drawn through, the nearest first: fewer lifts.

    Lines keep the place of the first of them; a line may be turned round. No line is closed on itself.
    """
    strokes = [np.asarray(line, dtype=float) for line in lines]
    tied: dict[int, int] = {}  # end to end; line i has the ends 2 i and 2 i + 1
    chain = list(range(len(strokes)))

    def head(i: int) -> int:
        while chain[i] != i:
            chain[i] = chain[chain[i]]
            i = chain[i]
        return i

    for a, b in _near_ends(strokes, within):
        one, other = head(a // 2), head(b // 2)
        if a not in tied and b not in tied and one != other:
            tied[a], tied[b], chain[max(one, other)] = b, a, min(one, other)
    drawn, seen = [], set[int]()
    for i in range(len(strokes)):
        if i in seen:
            continue
        end, back = 2 * i, tied.get(2 * i)
        while back is not None and back // 2 != i:  # to where the chain begins
            end = back ^ 1
            back = tied.get(end)
        run: list[Array] = []
        at: int | None = end
        while at is not None:
            seen.add(at // 2)
            run.append(strokes[at // 2][::-1] if at % 2 else strokes[at // 2])
            at = tied.get(at ^ 1)
        drawn.append(np.concatenate(run))
    return drawn


def _near_ends(lines: Sequence[Array], within: float) -> list[tuple[int, int]]:
    """Pairs of ends of different lines no further than that from each other, the nearest first."""
    if len(lines) < 2:
        return []
    ends = np.array([line[k] for line in lines for k in (0, -1)])
    order = np.argsort(ends[:, 0], kind="stable")
    pairs = []
    for place, a in enumerate(order):
        for b in order[place + 1 :]:
            if ends[b, 0] - ends[a, 0] > within:
                break
            apart = float(np.hypot(*(ends[b] - ends[a])))
            if apart <= within and a // 2 != b // 2:
                pairs.append((round(apart, 9), min(int(a), int(b)), max(int(a), int(b))))
    return [(a, b) for _, a, b in sorted(pairs)]
