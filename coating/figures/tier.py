"""A tier with drips that look grown: its side laid out flat, and as it is seen when it is turned."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from coating.figures.sheet import path
from coating.shape.grown_drips import GrownDrips, half_width_mm
from coating.shape.strokes import Array

_STEPS = 22
_TILT = 0.16  # how much of its width the top of a tier shows


@dataclass(frozen=True)
class TierView:
    """A tier as it is seen from the side: paths in mm, the middle of its front at x 0, its upper edge at y 0."""

    width_mm: float
    height_mm: float
    top_mm: float
    wall: str
    rims: tuple[str, ...]
    drips: tuple[str, ...]

    @property
    def box(self) -> str:
        """The viewBox: the tier with a margin, mm."""
        around = 4.0
        return (
            f"{-self.width_mm / 2 - around:.1f} {-self.top_mm - around:.1f} {self.width_mm + 2 * around:.1f} "
            f"{self.height_mm + 2 * self.top_mm + 2 * around:.1f}"
        )


def middles_mm(drips: GrownDrips) -> Array:
    """Where each drip hangs, mm round the tier."""
    gaps = np.array(drips.gaps_mm)
    return np.cumsum(gaps) - gaps / 2


def drip_outline(length_mm: float, width_mm: float) -> Array:
    """One drip round x 0, from the rim down and up again, mm."""
    t = (1 - np.cos(np.linspace(0, math.pi, _STEPS))) / 2
    depth = t * length_mm
    half = half_width_mm(depth, length_mm, width_mm)
    return np.concatenate([np.column_stack([-half, depth]), np.column_stack([half, depth])[::-1]])


def side_paths(drips: GrownDrips, *, begin_mm: float = 0.0, end_mm: float | None = None) -> list[str]:
    """Each drip between two places on the side laid out flat, and copies where one crosses the seam."""
    around = drips.tier.round_mm
    end_mm = around if end_mm is None else end_mm
    paths = []
    for middle, length, width in zip(middles_mm(drips), drips.lengths_mm, drips.widths_mm, strict=True):
        if begin_mm <= middle <= end_mm:
            shape = drip_outline(length, width)
            wide = float(shape[:, 0].max())
            for off in (0.0, around, -around):
                if -wide < middle + off < around + wide and (off == 0 or end_mm - begin_mm >= around - 1e-6):
                    paths.append(path([(x, y) for x, y in shape + (middle + off, 0.0)]) + "Z")  # noqa: RUF005
    return paths


def turned_view(rows: list[GrownDrips], *, turn_deg: float, share: float = 1.0, colours: int = 1) -> TierView:
    """The tier seen from the side, turned by so much; rows one over the other, the first at the back.

    `colours` : so many in turn in one row; drips come back in as many paths.
    """
    tier = rows[0].tier
    radius = tier.diameter_mm / 2
    high = _TILT * radius
    paths: list[str] = []
    rims: list[str] = []
    for row in rows:
        kept = [""] * colours
        for i, (middle, length, width) in enumerate(zip(middles_mm(row), row.lengths_mm, row.widths_mm, strict=True)):
            if middle > share * tier.round_mm:
                continue
            shape = drip_outline(length, width)
            angle = (shape[:, 0] + middle) / radius + math.radians(turn_deg)
            if math.cos(middle / radius + math.radians(turn_deg)) < -0.05:
                continue
            x, near = radius * np.sin(angle), np.maximum(np.cos(angle), 0.0)
            kept[i % colours] += path([(a, b) for a, b in zip(x, shape[:, 1] + high * near, strict=True)]) + "Z"
        paths += kept
        rims.append(_rim(radius, high, turn_deg, share))
    bottom = _arc(radius, high, tier.height_mm)
    top = _arc(radius, high, 0.0)
    wall = path([*top, *bottom[::-1]]) + "Z"
    return TierView(tier.diameter_mm, tier.height_mm, high, wall, tuple(rims), tuple(paths))


def _arc(radius: float, high: float, y: float, begin: float = -90.0, end: float = 90.0) -> list[tuple[float, float]]:
    a = np.radians(np.linspace(begin, end, 41))
    return list(zip((radius * np.sin(a)).tolist(), (y + high * np.cos(a)).tolist(), strict=True))


def _rim(radius: float, high: float, turn_deg: float, share: float, wide: float = 5.0) -> str:
    """The band along the upper edge that faces the eye, where there are drips."""
    if share >= 1:
        spans = [(-90.0, 90.0)]
    else:
        begin = (turn_deg + 180) % 360 - 180
        spans = [(max(-90.0, begin + off), min(90.0, begin + off + 360 * share)) for off in (-360.0, 0.0, 360.0)]
    joined_path = ""
    for begin, end in spans:
        if end - begin > 1:
            joined_path += (
                path([*_arc(radius, high, 0.0, begin, end), *_arc(radius, high, wide, begin, end)[::-1]]) + "Z"
            )
    return joined_path
