"""A box or a house as it stands, its sweets along the ridge or the lid."""

from __future__ import annotations

import math

import numpy as np

from coating.figures.film import Lab
from coating.figures.solid import GridPatch, View, view
from coating.shape.houses.glue import SweetRow
from coating.shape.houses.net import BOX, Net
from coating.shape.strokes import Array

GROUND_LAB: Lab = (94.0, 0.0, 4.0)
DOOR_LAB: Lab = (48.0, 14.0, 22.0)
_CELLS = 6


def _quad(a: Array, b: Array, c: Array, d: Array) -> Array:
    """A flat grid between four corners, a to b below and d to c above."""
    u, v = np.linspace(0, 1, _CELLS + 1)[None, :, None], np.linspace(0, 1, _CELLS + 1)[:, None, None]
    return np.asarray((1 - v) * ((1 - u) * a + u * b) + v * ((1 - u) * d + u * c))


def house_view(
    net: Net, wall: Lab, roof: Lab, sweets: SweetRow | None, sweet_labs: dict[str, Lab], *, overhang_mm: float
) -> View:
    """From in front and a little above, its gable to the left."""
    x, y, h = net.long_mm / 2, net.wide_mm / 2, net.wall_mm
    out = overhang_mm
    patches = [
        GridPatch(
            _quad(
                *(
                    np.array(p)
                    for p in (
                        (-x - out, -y - out, -1),
                        (x + out, -y - out, -1),
                        (x + out, y + out, -1),
                        (-x - out, y + out, -1),
                    )
                )
            ),
            GROUND_LAB,
        )
    ]

    def upright(a: tuple[float, float], b: tuple[float, float], lab: Lab, spots: Array | None = None) -> None:
        (ax, ay), (bx, by) = a, b
        corners = ((ax, ay, 0.0), (bx, by, 0.0), (bx, by, h), (ax, ay, h))
        patches.append(GridPatch(_quad(*(np.array(c) for c in corners)), lab, spots, DOOR_LAB))

    door = np.zeros((_CELLS, _CELLS), dtype=bool)
    door[:4, 2:4] = True
    upright((-x, -y), (x, -y), wall, None if net.kind == BOX else door)
    upright((x, -y), (x, y), wall)
    upright((x, y), (-x, y), wall)
    upright((-x, y), (-x, -y), wall)
    if net.kind == BOX:
        lid = ((-x - 1, -y - 1, h + 1), (x + 1, -y - 1, h + 1), (x + 1, y + 1, h + 1), (-x - 1, y + 1, h + 1))
        patches.append(GridPatch(_quad(*(np.array(c) for c in lid)), roof))
        top, at = h + 1, -y
    else:
        rise = net.high_mm - h
        slope = rise / y
        low = h - out * slope
        for end in (-x, x):
            gable = ((end, -y, h), (end, y, h), (end, 0.01, h + rise), (end, -0.01, h + rise))
            patches.append(GridPatch(_quad(*(np.array(c) for c in gable)), wall))
        for side in (-1, 1):
            half = (
                (-x - out, side * (y + out), low),
                (x + out, side * (y + out), low),
                (x + out, 0.0, h + rise + 1),
                (-x - out, 0.0, h + rise + 1),
            )
            patches.append(GridPatch(_quad(*(np.array(c) for c in half)), roof, outside_mm=0.0))
        top, at = h + rise + 2, 0.0
    if sweets is not None:
        long = 2 * (x + out) if net.kind != BOX else 2 * x
        size = (long - sweets.gap_mm * (sweets.count - 1)) / sweets.count
        for i, colour in enumerate(sweets.colours):
            middle = -long / 2 + size / 2 + i * (size + sweets.gap_mm)
            t, p = np.meshgrid(np.linspace(0, 2 * math.pi, 9), np.linspace(0, math.pi / 2, 4))
            ball = np.stack(
                [
                    middle + size / 2 * np.cos(t) * np.cos(p),
                    at + size / 2 * np.sin(t) * np.cos(p),
                    top + size / 2 * np.sin(p),
                ],
                axis=-1,
            )
            patches.append(GridPatch(ball, sweet_labs.get(colour, (60.0, 40.0, 20.0))))
    return view(patches, tilt_deg=26, turn_deg=32, around_mm=6)
