"""Thin sheets in space as pictures: small facets, the far ones first, each in its shade.

x runs to the right, y away from who looks, z up; mm. Light falls from the left, above and behind who looks.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from coating.colour.cie import hex_from_lab
from coating.shape.strokes import Array

_LIGHT = np.array([-0.45, -0.55, 0.70])
_SHADES = 28


@dataclass(frozen=True, eq=False)
class GridPatch:
    """A sheet as a grid of points (rows, columns, 3), its colour, and another for facets where `spots` says so.
    `outside_mm`: one that lies close round another counts as so much nearer where its outer face shows, and as so much
    farther where its inner one does."""

    points: Array
    lab: tuple[float, float, float]
    spots: Array | None = None
    spot_lab: tuple[float, float, float] = (20.0, 0.0, 0.0)
    outside_mm: float = 0.0


@dataclass(frozen=True)
class Facet:
    """A run of the picture in one colour: its path in tenths of a mm, and its colour as #rrggbb."""

    path: str
    fill: str


@dataclass(frozen=True)
class View:
    """Facets from the back to the front, neighbours of one shade as one; and the size of the picture in mm."""

    facets: tuple[Facet, ...]
    width_mm: float
    height_mm: float

    @property
    def box(self) -> str:
        """What an SVG shows of it, in tenths of a mm."""
        return f"0 0 {10 * self.width_mm:.0f} {10 * self.height_mm:.0f}"


def view(
    patches: Sequence[GridPatch], *, tilt_deg: float = 28.0, turn_deg: float = 0.0, around_mm: float = 3.0
) -> View:
    """What is seen from in front and so far above.

    Parameters
    ----------
    patches : sheets. tilt_deg : how far above; 90 looks straight down. turn_deg : the whole turned about z first.
    around_mm : free round it.
    """
    corners, shades, labs, depths = [], [], [], []
    c, s = math.cos(math.radians(turn_deg)), math.sin(math.radians(turn_deg))
    turn = np.array([[c, s, 0], [-s, c, 0], [0, 0, 1.0]])
    sight = np.array([0.0, -math.cos(math.radians(tilt_deg)), math.sin(math.radians(tilt_deg))])
    light = _LIGHT / np.linalg.norm(_LIGHT)
    for patch in patches:
        grid = patch.points @ turn
        quads = np.stack([grid[:-1, :-1], grid[1:, :-1], grid[1:, 1:], grid[:-1, 1:]], axis=2).reshape(-1, 4, 3)
        normal = np.cross(quads[:, 2] - quads[:, 0], quads[:, 3] - quads[:, 1])
        normal /= np.maximum(np.linalg.norm(normal, axis=1), 1e-12)[:, None]
        depths.append(quads.mean(axis=1) @ sight - np.sign(normal @ sight) * patch.outside_mm)
        normal = normal * np.where(normal @ sight < 0, -1.0, 1.0)[:, None]
        corners.append(quads)
        shades.append(np.clip(normal @ light, -0.25, 1.0))
        spots = np.zeros(len(quads), dtype=bool) if patch.spots is None else patch.spots.reshape(-1).astype(bool)
        labs += [patch.spot_lab if spot else patch.lab for spot in spots]
    every, lit = np.concatenate(corners), np.concatenate(shades)
    up = np.array([0.0, math.sin(math.radians(tilt_deg)), math.cos(math.radians(tilt_deg))])
    flat = np.stack([every[..., 0], -(every @ up)], axis=-1)
    order = np.argsort(np.concatenate(depths), kind="stable")
    low, high = flat.reshape(-1, 2).min(axis=0) - around_mm, flat.reshape(-1, 2).max(axis=0) + around_mm
    steps = np.round((lit + 0.25) / 1.25 * _SHADES).astype(int)
    planes: dict[tuple[tuple[float, float, float], int], str] = {}
    facets: list[Facet] = []
    drawn = np.rint(10 * (flat - low)).astype(int).reshape(-1, 8).tolist()
    run: list[str] = []
    of = ""
    for i in order.tolist():
        key = (labs[i], int(steps[i]))
        fill = planes.get(key) or planes.setdefault(key, _shaded(*key))
        if fill != of and run:
            facets.append(Facet("".join(run), of))
            run = []
        of = fill
        run.append("M{} {} {} {} {} {} {} {}Z".format(*drawn[i]))
    facets.append(Facet("".join(run), of))
    return View(tuple(facets), float(high[0] - low[0]), float(high[1] - low[1]))


def _shaded(lab: tuple[float, float, float], step: int) -> str:
    """A colour in so much light: darker and a little stronger in the shade, towards white in the gloss."""
    much = step / _SHADES
    light = lab[0] * (0.54 + 0.52 * much)
    gloss = max(0.0, much - 0.93) * 60
    strong = 1.08 - 0.1 * much
    return hex_from_lab((min(99.0, light + gloss), lab[1] * strong, lab[2] * strong))


# -- sheets that are bent --------------------------------------------------------------------------------------------
def band(line: Array, low_mm: float | Array, high_mm: float | Array, *, across: int = 2) -> Array:
    """A strip that stands on a line in the plane, from one height to another: (across, len(line), 3)."""
    rows = []
    for k in np.linspace(0, 1, across):
        z = np.broadcast_to(np.asarray(low_mm) + k * (np.asarray(high_mm) - np.asarray(low_mm)), (len(line),))
        rows.append(np.column_stack([line, z]))
    return np.array(rows)


def circle(diameter_mm: float, *, begin_deg: float = 0.0, end_deg: float = 360.0, points: int = 49) -> Array:
    """Points round, (n, 2)."""
    t = np.radians(np.linspace(begin_deg, end_deg, points))
    return np.column_stack([np.cos(t), np.sin(t)]) * diameter_mm / 2


def disc(diameter_mm: float, z_mm: float = 0.0, *, points: int = 33) -> Array:
    """A flat disc as a grid from its middle out."""
    ring = circle(diameter_mm, points=points)
    return np.array([np.column_stack([ring * k, np.full(len(ring), z_mm)]) for k in (0.02, 0.5, 1.0)])


def raised(points: Array, tilt_deg: float, turn_deg: float, at: tuple[float, float, float] = (0, 0, 0)) -> Array:
    """A sheet that lies along x from the origin, its end lifted, then turned about z and set down at a place."""
    a, b = math.radians(tilt_deg), math.radians(turn_deg)
    lift = np.array([[math.cos(a), 0, math.sin(a)], [0, 1, 0], [-math.sin(a), 0, math.cos(a)]])
    turn = np.array([[math.cos(b), math.sin(b), 0], [-math.sin(b), math.cos(b), 0], [0, 0, 1]])
    return np.asarray(points @ lift @ turn + np.array(at))
