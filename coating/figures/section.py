"""A mould cut through the middle: the mould, the shell, what is in it, and the lid, as outlines in mm."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from coating.figures.sheet import path
from coating.shape.moulds.cavity import Cavity, Cone, Dome, Tray
from coating.shape.moulds.fills import Insert, Shell
from coating.shape.moulds.shaped import Shaped

AROUND_MM, FOOT_MM = 6.0, 5.0
Points = list[tuple[float, float]]


@dataclass(frozen=True)
class Band:
    """A part of the picture: what it is ("mould", "coating", "filling", "insert", "stick", "detail"), and its path."""

    what: str
    path: str


@dataclass(frozen=True)
class Section:
    """Bands from the back to the front, in a picture so wide and high, mm."""

    bands: tuple[Band, ...]
    width_mm: float
    height_mm: float


def _half_wide(cavity: Cavity, high_mm: float) -> float:
    """Half of how wide it is so high above its bottom."""
    if isinstance(cavity, Dome):
        up = min(max(high_mm / cavity.depth_mm, 0.0), 1.0)
        return cavity.across_mm / 2 * math.sqrt(max(0.0, 1 - (1 - up) ** 2))
    if isinstance(cavity, Cone):
        up = min(max(high_mm / cavity.depth_mm, 0.0), 1.0)
        return (cavity.base_mm + (cavity.top_mm - cavity.base_mm) * up) / 2
    assert isinstance(cavity, Tray | Shaped)
    return cavity.across_mm / 2


def _filled(cavity: Cavity, middle: float, bottom: float, low_mm: float, high_mm: float) -> Points:
    """What of a cavity lies between two heights, its bottom at y = `bottom`."""
    heights = low_mm + (high_mm - low_mm) * (1 - np.cos(np.linspace(0, math.pi, 41))) / 2  # close where it turns
    right = [(middle + _half_wide(cavity, float(h)), bottom - float(h)) for h in heights]
    return [*right, *[(2 * middle - x, y) for x, y in reversed(right)]]


def _path(points: Sequence[tuple[float, float]]) -> str:
    return path([*points, points[0]]) + "Z"


def from_above(cavity: Shaped) -> Section:
    """Looked down on: the mould, and what is poured."""
    low_x, low_y, high_x, high_y = cavity.opening.bounds
    wide, high = high_x - low_x + 2 * AROUND_MM, high_y - low_y + 2 * AROUND_MM
    ring = [(x - low_x + AROUND_MM, y - low_y + AROUND_MM) for x, y in cavity.opening.exterior.coords]
    block = [(0.0, 0.0), (wide, 0.0), (wide, high), (0.0, high)]
    return Section((Band("mould", _path(block)), Band("coating", _path(ring))), wide, high)


def section(
    cavity: Cavity,
    *,
    shell: Shell | None = None,
    filled_to_mm: float | None = None,
    insert: Insert | None = None,
    layers_mm: Sequence[float] = (),
    stick: bool = False,
    detail_mm: float = 0.0,
) -> Section:
    """Cut through the middle.

    Parameters
    ----------
    cavity : of the mould. shell : where it is drained; None: full. filled_to_mm : how high a filling stands in the
    shell. insert : a thing put inside. layers_mm : heights at which layers meet, from below, for a cup in layers.
    stick : one lies in it. detail_mm : how deep coloured details lie at the bottom.
    """
    wide, deep = cavity.across_mm + 2 * AROUND_MM, cavity.deep_mm
    middle, bottom = wide / 2, deep + 1.0
    block = [(0.0, 1.0), (wide, 1.0), (wide, bottom + FOOT_MM), (0.0, bottom + FOOT_MM)]
    bands = [Band("mould", _path(block)), Band("coating", _path(_filled(cavity, middle, bottom, 0.0, deep)))]
    if shell is not None:
        floor = bottom - shell.wall_mm
        top = shell.inner.deep_mm if filled_to_mm is None else filled_to_mm
        bands.append(
            Band(
                "filling" if filled_to_mm is not None else "empty", _path(_filled(shell.inner, middle, floor, 0.0, top))
            )
        )
    for low, high, what in zip(layers_mm, layers_mm[1:], ("filling", "coating"), strict=False):
        bands.append(Band(what, _path(_filled(cavity, middle, bottom, low, high))))
    if detail_mm:
        bands.append(Band("detail", _path(_filled(cavity, middle, bottom, 0.0, detail_mm))))
    if insert is not None:
        half, low = insert.across_mm / 2, (deep - insert.high_mm) / 2
        bands.append(
            Band(
                "insert",
                _path(
                    [
                        (middle - half, bottom - low),
                        (middle + half, bottom - low),
                        (middle + half, bottom - low - insert.high_mm),
                        (middle - half, bottom - low - insert.high_mm),
                    ]
                ),
            )
        )
    if stick:
        bands.append(
            Band(
                "stick",
                _path(
                    [
                        (middle, bottom - deep * 0.62),
                        (wide + 14, bottom - deep * 0.62),
                        (wide + 14, bottom - deep * 0.38),
                        (middle, bottom - deep * 0.38),
                    ]
                ),
            )
        )
    return Section(tuple(bands), wide + (16 if stick else 0.0), bottom + FOOT_MM)
