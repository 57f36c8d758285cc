"""Pictures of transfer sheets: pieces round a dessert, and where they lie on their sheets."""

from __future__ import annotations

import itertools
import math
from dataclasses import dataclass

import numpy as np

from coating.figures.film import DESSERT_LAB, Lab
from coating.figures.solid import GridPatch, View, band, disc, raised, view
from coating.shape.strokes import Array

_FINE = 7  # facets a side of a printed piece
DARK_PRINT: Lab = (34.0, 12.0, 14.0)
NEAR_MM = 12.0
PALE_PRINT: Lab = (90.0, 2.0, 30.0)


def printed_on(lab: Lab) -> Lab:
    """A print that shows on it."""
    return DARK_PRINT if lab[0] > 55 else PALE_PRINT


def is_printed(place: int, every: int) -> bool:
    """Whether that piece of a row is printed, where one in so many is."""
    return place % every == 0


def _print(rows: int, columns: int) -> Array:
    """Diamonds in rows."""
    i, j = np.mgrid[0:rows, 0:columns]
    return np.asarray((i + j) % 3 == 0)


@dataclass(frozen=True)
class Around:
    """Pieces round a dessert: how many, how wide and high, mm; bent or flat; discs; one in `every` is printed.
    `other_mm`: how far it is the other way; `on_sides`: so many on a long and a wide side of one with corners."""

    diameter_mm: float
    count: int
    wide_mm: float
    high_mm: float
    flat: bool = False
    every: int = 1
    round_: bool = False
    other_mm: float | None = None
    on_sides: tuple[int, int] | None = None


def around_view(around: Around, lab: Lab) -> View:
    """A dessert with its pieces, from in front."""
    rows, columns = _cells(around)
    wall, side = _outline(around, 0.0), _outline(around, 1.5)
    top = np.array([np.column_stack([wall * k, np.full(len(wall), around.high_mm * 0.82)]) for k in (0.02, 0.5, 1.0)])
    patches = [
        GridPatch(band(wall, 0.0, around.high_mm * 0.82, across=1 + rows), DESSERT_LAB),
        GridPatch(top, DESSERT_LAB),
    ]
    piece = _piece(around, rows, columns)
    for i, at in enumerate(_places(around)):
        printed = is_printed(i, around.every)
        patches.append(
            GridPatch(
                _against(piece, side, at, flat=around.flat or around.on_sides is not None),
                lab,
                _print(rows, columns) if printed else None,
                printed_on(lab),
                NEAR_MM,
            )
        )
    return view(patches, tilt_deg=24, turn_deg=24 if around.on_sides else 0, around_mm=2)


def _cells(around: Around) -> tuple[int, int]:
    """Facets of a piece, up and along: about square, and no more than the whole picture takes."""
    cell = max(math.pi * around.diameter_mm / 56, around.wide_mm / 30, around.high_mm / 12)
    return max(3, round(around.high_mm / cell)), max(3, round(around.wide_mm / cell))


def _outline(around: Around, out_mm: float) -> Array:
    """The edge of the dessert so far outside it, closed, from the middle of its front on: (n, 2)."""
    long, other = around.diameter_mm + 2 * out_mm, (around.other_mm or around.diameter_mm) + 2 * out_mm
    if around.on_sides is None:
        t = np.radians(np.linspace(-90, 270, 97))
        return np.column_stack([long / 2 * np.cos(t), other / 2 * np.sin(t)])
    x, y = long / 2, other / 2
    corners = np.array([(0, -y), (x, -y), (x, y), (-x, y), (-x, -y), (0, -y)])
    parts = [np.linspace(a, b, 13)[:-1] for a, b in itertools.pairwise(corners)]
    return np.concatenate([*parts, corners[-1:]])


def _places(around: Around) -> list[float]:
    """Where the middle of each piece is, as a share of the way round from the middle of the front."""
    if around.on_sides is None:
        return [i / around.count for i in range(around.count)]
    long, wide = around.diameter_mm, around.other_mm or around.diameter_mm
    places, at = [], -long / 2
    for size, count in zip((long, wide, long, wide), around.on_sides * 2, strict=True):
        places += [(at + size * (k + 0.5) / count) / (2 * (long + wide)) for k in range(count)]
        at += size
    return places


def _piece(around: Around, rows: int, columns: int) -> Array:
    """A piece laid out flat, its foot in the middle at the origin: (rows, columns, 2)."""
    u, v = np.meshgrid(np.linspace(-0.5, 0.5, columns + 1), np.linspace(0, 1, rows + 1))
    if around.round_:  # narrower towards its foot and its top
        u = u * np.sqrt(np.maximum(0.0, 1 - (2 * v - 1) ** 2))
    return np.stack([u * around.wide_mm, v * around.high_mm], axis=-1)


def _against(piece: Array, side: Array, at: float, *, flat: bool) -> Array:
    """Stood against the side of a dessert, bent along it or not."""
    run = np.r_[0, np.cumsum(np.hypot(*np.diff(side, axis=0).T))]
    u, z = piece[..., 0], piece[..., 1]

    def along(where: Array) -> Array:
        where = np.mod(where, run[-1])
        return np.stack([np.interp(where, run, side[:, k]) for k in (0, 1)], axis=-1)

    middle = at * run[-1]
    if not flat:
        return np.concatenate([along(middle + u), z[..., None]], axis=-1)
    near, ahead, behind = (along(np.array(middle + step)) for step in (0.0, 0.5, -0.5))
    way = (ahead - behind) / np.hypot(*(ahead - behind))
    return np.concatenate([near + u[..., None] * way, z[..., None]], axis=-1)


def tiles_view(count: int, wide_mm: float, high_mm: float, every: int, lab: Lab, *, round_: bool = False) -> View:
    """Pieces stood in a row, leaning back a little."""
    shown = min(count, 5)
    patches = []
    for i in range(shown):
        printed = is_printed(i, every)
        if round_:
            grid = disc(wide_mm)[..., [0, 1, 2]]
            grid = np.stack([grid[..., 0], grid[..., 2], grid[..., 1] + wide_mm / 2], axis=-1)
            spots = _print(grid.shape[0] - 1, grid.shape[1] - 1) if printed else None
        else:
            n = _FINE if printed else 2
            x, z = np.meshgrid(np.linspace(-wide_mm / 2, wide_mm / 2, n + 1), np.linspace(0, high_mm, n + 1))
            grid = np.stack([x, 0.25 * z, z], axis=-1)
            spots = _print(n, n) if printed else None
        at = ((i - (shown - 1) / 2) * wide_mm * 1.18, 0.0, 0.0)
        patches.append(GridPatch(raised(grid, 0, 0, at), lab, spots, printed_on(lab)))
    return view(patches, tilt_deg=18, around_mm=4)


def loops_view(count: int, wide_mm: float, long_mm: float, every: int, lab: Lab) -> View:
    """Strips draped over pieces, which are left away."""
    shown = min(count, 4)
    patches = []
    t = np.linspace(-1, 1, 25)
    high = long_mm / 3
    line = np.column_stack(
        [
            np.sign(t) * np.minimum(1, np.abs(t) * 1.8) * long_mm / 5.2,
            high * np.clip(1 - (np.abs(t) - 0.42) / 0.58, 0, 1) ** 0.8,
        ]
    )
    for i in range(shown):
        printed = is_printed(i, every)
        grid = np.stack(
            [
                np.broadcast_to(line[:, 0], (5, 25)),
                np.broadcast_to(np.linspace(0, wide_mm, 5)[:, None], (5, 25)),
                np.broadcast_to(line[:, 1], (5, 25)),
            ],
            axis=-1,
        )
        spots = _print(4, 24) if printed else None
        at = ((i - (shown - 1) / 2) * long_mm * 0.55, 0.0, 0.0)
        patches.append(GridPatch(raised(grid, 0, 0, at), lab, spots, printed_on(lab)))
    return view(patches, tilt_deg=26, around_mm=4)
