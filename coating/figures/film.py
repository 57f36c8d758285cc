"""Pictures of film work: sleeves, curls, bows, flowers, leaves and casts, as they stand when they are done."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np

from coating.figures.solid import GridPatch, View, band, circle, disc, raised, view
from coating.shape.film.bow import TILTS_DEG, Bow
from coating.shape.film.casts import Cast
from coating.shape.film.curls import Curl
from coating.shape.film.leaves import Leaves, half_width
from coating.shape.film.petals import Flower
from coating.shape.film.sleeve import Sleeve
from coating.shape.marbling.dips import GOLDEN_DEG
from coating.shape.strokes import Array

Lab = tuple[float, float, float]
DESSERT_LAB: Lab = (80.0, 6.0, 26.0)
STAMEN_LAB: Lab = (84.0, 4.0, 55.0)


def sleeve_view(sleeve: Sleeve, lab: Lab) -> View:
    """A sleeve with its overlap, and its base or the dessert that it stands round."""
    wide, lap = sleeve.diameter_mm, math.degrees(sleeve.overlap_mm / (sleeve.diameter_mm / 2))
    wall = band(circle(wide, points=61), 0.0, sleeve.height_mm, across=9)  # rows as high as those it stands round
    over = band(
        circle(wide + 2 * sleeve.thickness_mm + 0.6, begin_deg=-75 - lap, end_deg=-75, points=9),
        0.0,
        sleeve.height_mm,
        across=9,
    )
    inside = (
        [GridPatch(disc(wide, sleeve.base_thick_mm), lab)]
        if sleeve.base
        else [
            GridPatch(band(circle(wide - 3, points=61), 0.0, sleeve.height_mm * 1.25, across=11), DESSERT_LAB),
            GridPatch(disc(wide - 1, sleeve.height_mm * 1.25), DESSERT_LAB),
        ]
    )
    return view([GridPatch(wall, lab, outside_mm=6.0), GridPatch(over, lab, outside_mm=9.0), *inside], tilt_deg=24)


def curls_view(curl: Curl, lab: Lab) -> View:
    """Both curls of a rectangle, as they come out of the glass."""
    patches = []
    for i in (0, 1):
        length = np.linspace(0, 1, 90)
        angle = 2 * math.pi * curl.turns * length
        line = np.column_stack([np.cos(angle), np.sin(angle)]) * curl.glass_mm / 2
        rise = length * curl.long_mm * math.sin(curl.slant_rad)
        wide = curl.wide_mm * (1 - length) * math.cos(curl.slant_rad)
        grid = band(line, rise, rise + wide, across=3)
        grid[..., 0] += i * curl.glass_mm * 1.35
        patches.append(GridPatch(grid, lab))
    return view(patches, tilt_deg=18)


def _loop(bow: Bow) -> Array:
    """The edge of a loop in its plane, its point at the origin, along x."""
    a, r = bow.half_angle_rad, bow.radius_mm
    middle = r / math.sin(a)
    reach = middle * math.cos(a)
    t = np.linspace(math.pi / 2 + a, -math.pi / 2 - a, 17)
    arc = np.column_stack([middle + r * np.cos(t), r * np.sin(t)])
    side = np.linspace(0, 1, 4)[:-1, None] * np.array([reach * math.cos(a), reach * math.sin(a)])
    return np.concatenate([side, arc, side[::-1] * (1, -1)])


def bow_view(bow: Bow, lab: Lab) -> View:
    """The whole bow on its disc, from above in front."""
    patches = [GridPatch(disc(bow.disc_mm, -1.0), lab)]
    flat = band(_loop(bow), -bow.wide_mm / 2, bow.wide_mm / 2, across=2)
    for k, (count, tilt) in enumerate(zip(bow.rings, TILTS_DEG, strict=False)):
        for i in range(count):
            turn = 360 * (i + 0.5 * (k % 2)) / count + 11 * k
            patches.append(GridPatch(raised(flat, tilt, turn, (0, 0, bow.wide_mm * (0.5 + 0.35 * k))), lab))
    return view(patches, tilt_deg=38)


def _petal(long_mm: float, wide_mm: float) -> Array:
    """Cupped, pointed at its end, its foot at the origin, along x."""
    t, u = np.linspace(0, 1, 9), np.linspace(-1, 1, 5)
    half = wide_mm / 2 * np.maximum(0.12, np.sin(np.pi * t**0.8) ** 0.75) * np.where(t > 0.97, 0.25, 1)
    x = np.broadcast_to(t * long_mm, (5, 9))
    y = u[:, None] * half[None, :]
    z = 0.10 * long_mm * (u[:, None] ** 2) * np.sin(np.pi * t)[None, :] + 0.16 * long_mm * (t[None, :] ** 2)
    return np.stack([x, y, z], axis=-1)


def flower_view(flower: Flower, labs: Sequence[Lab], lab: Lab) -> View:
    """The flower from above in front, a colour for each ring, and its stamens."""
    patches = [GridPatch(disc(flower.disc_mm, -1.0), lab)]
    for k, (ring, shade) in enumerate(zip(flower.rings, labs, strict=True)):
        flat = _petal(ring.long_mm, ring.wide_mm)
        for i in range(ring.count):
            turn = 360 * (i + 0.5 * (k % 2)) / ring.count
            b = math.radians(turn)
            at = (ring.begins_mm * math.cos(b), ring.begins_mm * math.sin(b), 1.5 * k)
            patches.append(GridPatch(raised(flat, ring.tilt_deg, turn, at), shade))
    for i in range(flower.stamens):
        far, turn = 0.07 * flower.disc_mm * math.sqrt(i + 0.5), GOLDEN_DEG * i
        b, high = math.radians(turn), 10.0 + 3 * math.cos(1.7 * i)
        stalk = np.array([[[0, -0.5, 0], [0, -0.5, high]], [[0, 0.5, 0], [0, 0.5, high]]], dtype=float)
        patches.append(GridPatch(stalk + np.array([far * math.cos(b), far * math.sin(b), 4.0]), STAMEN_LAB))
    return view(patches, tilt_deg=52)


def leaves_view(leaves: Leaves, lab: Lab, second: Lab | None) -> View:
    """Three leaves as they lie bent, brushed along their length."""
    t, rows = np.linspace(0, 1, 25), 15
    half, u = half_width(t) * leaves.wide_mm / 2, np.linspace(-1, 1, rows)
    radius = leaves.roll_mm / 2
    most = min(1.3, leaves.long_mm / leaves.roll_mm)
    x, z = radius * (np.sin((2 * t - 1) * most) + math.sin(most)), radius * np.cos((2 * t - 1) * most)
    grid = np.stack(
        [
            np.broadcast_to(x, (rows, 25)),
            u[:, None] * half[None, :],
            np.broadcast_to(z, (rows, 25)) + 0.08 * leaves.wide_mm * np.abs(u)[:, None],
        ],
        axis=-1,
    )
    patches = []
    for i, turn in enumerate((-9.0, 3.0, -4.0)):
        runs = _brushed(rows - 1, 24, np.random.default_rng(7 + i))
        spots = runs if second is not None and leaves.coats > 1 else None
        at = (0.72 * leaves.long_mm * i, -1.1 * leaves.wide_mm * (i % 2), 0.0)
        patches.append(GridPatch(raised(grid, 10, turn, at), lab, spots, second or lab))
    return view(patches, tilt_deg=58)


def _brushed(rows: int, columns: int, draw: np.random.Generator) -> Array:
    """Where streaks of a second colour lie: in about half of the rows one, long or short."""
    cells = np.zeros((rows, columns), dtype=bool)
    for row in range(rows):
        if draw.random() < 0.6:
            begin, long = int(draw.integers(0, columns - 5)), int(draw.integers(5, columns))
            cells[row, begin : begin + long] = True
    return cells


def cast_view(cast: Cast, lab: Lab) -> View:
    """A corner of the sheet, no more than 70 mm of it, its relief as deep as it is."""
    wide, high = min(70.0, cast.width_mm), min(44.0, cast.height_mm)
    across, deep = 37, 24
    x, y = np.meshgrid(np.linspace(0, wide, across), np.linspace(0, high, deep))
    z = cast.thickness_mm + cast.texture.relief_mm * cast.texture.surface(x, y)
    front = np.array([np.column_stack([x[0], y[0], z[0]]), np.column_stack([x[0], y[0], np.zeros(across)])])
    left = np.array([np.column_stack([x[:, 0], y[:, 0], z[:, 0]]), np.column_stack([x[:, 0], y[:, 0], np.zeros(deep)])])
    return view(
        [GridPatch(np.stack([x, y, z], axis=-1), lab), GridPatch(front, lab), GridPatch(left, lab)],
        tilt_deg=40,
        turn_deg=-24,
    )
