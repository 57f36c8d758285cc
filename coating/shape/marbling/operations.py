"""What is done to a surface, each as the way back from where a point lies now to where it lay before.

Lengths in mm, angles in degrees from x. All keep areas: Lu, Jaffer, Jin, Zhao, Mao 2012, IEEE CG&A. A point is taken
back in place, in single precision; a drop also says which points it is the origin of.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, fields
from functools import lru_cache
from typing import Any

import numpy as np
from numpy.typing import NDArray

from coating.limits import check

Plane = NDArray[np.float32]
_BOUNDS = {
    "x_mm": "place_mm",
    "y_mm": "place_mm",
    "radius_mm": "blob_mm",
    "angle_deg": "turn_deg",
    "shift_mm": "place_mm",
    "half_distance_mm": "reach_mm",
    "spacing_mm": "pitch_mm",
    "amplitude_mm": "place_mm",
    "wavelength_mm": "wave_mm",
    "length_mm": "place_mm",
}


@dataclass(frozen=True)
class Operation:
    """Abstract."""

    def __post_init__(self) -> None:
        for f in fields(self):
            if f.name in _BOUNDS:
                check(_BOUNDS[f.name], getattr(self, f.name), f.name)

    def back(self, x: Plane, y: Plane) -> NDArray[np.bool_] | None:
        """Take points back in place; which of them come from this operation, or None where none does."""
        raise NotImplementedError


@dataclass(frozen=True)
class Drop(Operation):
    """A blob that pushes all else outwards: what lay at d comes to lie at sqrt(d^2 + r^2)."""

    x_mm: float
    y_mm: float
    radius_mm: float
    colour: int = 1

    def back(self, x: Plane, y: Plane) -> NDArray[np.bool_]:
        """Move points to where they were before the drop fell, in place; which lie inside it."""
        dx, dy = x - np.float32(self.x_mm), y - np.float32(self.y_mm)
        d2 = dx * dx + dy * dy
        r2 = np.float32(self.radius_mm**2)
        inside: NDArray[np.bool_] = d2 < r2
        np.maximum(d2, np.float32(1e-12), out=d2)
        scale = np.sqrt(np.maximum(np.float32(0), 1 - r2 / d2))
        np.multiply(dx, scale, out=x)
        np.multiply(dy, scale, out=y)
        x += np.float32(self.x_mm)
        y += np.float32(self.y_mm)
        return inside


@dataclass(frozen=True)
class Lift(Operation):
    """A disc of the surface is taken away and all else closes in: what lay at d > r comes to lie at sqrt(d^2 - r^2)."""

    x_mm: float
    y_mm: float
    radius_mm: float

    def back(self, x: Plane, y: Plane) -> None:
        """Move points to where they were before the piece came out, in place."""
        dx, dy = x - np.float32(self.x_mm), y - np.float32(self.y_mm)
        d2 = np.maximum(dx * dx + dy * dy, np.float32(1e-6))
        scale = np.sqrt(1 + np.float32(self.radius_mm**2) / d2)
        np.multiply(dx, scale, out=x)
        np.multiply(dy, scale, out=y)
        x += np.float32(self.x_mm)
        y += np.float32(self.y_mm)


@dataclass(frozen=True)
class Tine(Operation):
    """One straight pass of a skewer: what lies d beside it is dragged along by shift 2^(-d/half distance)."""

    x_mm: float
    y_mm: float
    angle_deg: float
    shift_mm: float
    half_distance_mm: float

    def back(self, x: Plane, y: Plane) -> None:
        """Move points to where they were before the tine was drawn, in place."""
        cos, sin = _direction(self.angle_deg)
        beside = (x - np.float32(self.x_mm)) * -sin + (y - np.float32(self.y_mm)) * cos
        np.abs(beside, out=beside)
        beside *= np.float32(-1 / self.half_distance_mm)
        np.exp2(beside, out=beside)
        _drag(x, y, beside, self.shift_mm, cos, sin)


@dataclass(frozen=True)
class Stroke(Operation):
    """A straight pass that begins and ends on the slab, from a place along an angle.

    What lies under the skewer is taken along by the shift, half as far at the half distance; it flows in from the sides
    where the skewer goes down, away to them where it comes up, and back further out. A steady flow of the stream
    d exp(-d/a) W(s), d beside and s along it, W 1 from one end to the other and fading over a; our own.
    """

    x_mm: float
    y_mm: float
    angle_deg: float
    length_mm: float
    shift_mm: float
    half_distance_mm: float

    def back(self, x: Plane, y: Plane) -> None:
        """Move points to where they were before the stroke, in place."""
        cos, sin = _direction(self.angle_deg)
        x -= np.float32(self.x_mm)
        y -= np.float32(self.y_mm)
        along, beside = x * cos + y * sin, y * cos - x * sin
        flow_back = _carried(float(self.length_mm), float(self.shift_mm), float(self.half_distance_mm))
        column, row = (
            (along - np.float32(flow_back.from_mm)) / np.float32(flow_back.step_mm),
            np.abs(beside) / np.float32(flow_back.step_mm),
        )
        rows, columns = flow_back.along.shape
        moved = (column >= 0) & (column < columns - 1) & (row < rows - 1)
        column, row, side = column[moved], row[moved], np.sign(beside[moved])
        i, k = row.astype(np.intp), column.astype(np.intp)
        row -= i
        column -= k
        by = [
            (field[i, k] * (1 - column) + field[i, k + 1] * column) * (1 - row)
            + (field[i + 1, k] * (1 - column) + field[i + 1, k + 1] * column) * row
            for field in (flow_back.along, flow_back.beside)
        ]
        by[1] *= side
        x[moved] += by[0] * cos - by[1] * sin
        y[moved] += by[0] * sin + by[1] * cos
        x += np.float32(self.x_mm)
        y += np.float32(self.y_mm)


@dataclass(frozen=True)
class Comb(Operation):
    """Passes side by side all over, `spacing_mm` apart, one through the origin; their pulls add up in closed form."""

    angle_deg: float
    spacing_mm: float
    shift_mm: float
    half_distance_mm: float

    def back(self, x: Plane, y: Plane) -> None:
        """Move points to where they were before the comb was drawn, in place."""
        cos, sin = _direction(self.angle_deg)
        reach, spacing = self.half_distance_mm, np.float32(self.spacing_mm)
        off = np.mod(x * -sin + y * cos, spacing)
        pull = np.exp2(off * np.float32(-1 / reach))
        off -= spacing
        off *= np.float32(1 / reach)
        np.exp2(off, out=off)
        pull += off
        _drag(x, y, pull, self.shift_mm / (1 - 2 ** (-self.spacing_mm / reach)), cos, sin)


@dataclass(frozen=True)
class Wave(Operation):
    """A shaking: what lies d beside a line is shifted along it by amplitude sin(2 pi d/wavelength)."""

    angle_deg: float
    amplitude_mm: float
    wavelength_mm: float

    def back(self, x: Plane, y: Plane) -> None:
        """Move points to where they were before the wave was drawn, in place."""
        cos, sin = _direction(self.angle_deg)
        beside = x * -sin + y * cos
        beside *= np.float32(2 * math.pi / self.wavelength_mm)
        np.sin(beside, out=beside)
        _drag(x, y, beside, self.amplitude_mm, cos, sin)


@dataclass(frozen=True)
class Circle(Operation):
    """A pass round a circle; a positive shift is counter-clockwise where y runs up."""

    x_mm: float
    y_mm: float
    radius_mm: float
    shift_mm: float
    half_distance_mm: float

    def back(self, x: Plane, y: Plane) -> None:
        """Move points to where they were before the circle was stirred, in place."""
        dx, dy = x - np.float32(self.x_mm), y - np.float32(self.y_mm)
        far = np.sqrt(dx * dx + dy * dy)
        turn = np.exp2(np.abs(far - np.float32(self.radius_mm)) * np.float32(-1 / self.half_distance_mm))
        turn *= np.float32(-self.shift_mm)
        turn /= np.maximum(far, np.float32(1e-6))
        cos, sin = np.cos(turn), np.sin(turn)
        np.add(dx * cos - dy * sin, np.float32(self.x_mm), out=x)
        np.add(dx * sin + dy * cos, np.float32(self.y_mm), out=y)


def _direction(angle_deg: float) -> tuple[np.float32, np.float32]:
    return np.float32(math.cos(math.radians(angle_deg))), np.float32(math.sin(math.radians(angle_deg)))


def _drag(x: Plane, y: Plane, pull: Plane, shift: float, cos: Any, sin: Any) -> None:
    """Back along the direction by pull times shift; `pull` is used up."""
    pull *= np.float32(shift)
    x -= pull * cos
    pull *= sin
    y -= pull


@dataclass(frozen=True, eq=False)
class _Carried:
    """How far a stroke has carried what now lies on a grid, backwards: along it and away from it, in rows from its line
    outwards, columns from `from_mm` on."""

    along: Plane
    beside: Plane
    from_mm: float
    step_mm: float


_TO_A = 3.173  # the a of a stroke's stream, in half distances: (1 - d/a) exp(-d/a) is a half there
_FINE, _ASIDE, _BEYOND = 12.0, 6.0, 3.0  # points of the grid in an a; how many a it reaches
_COLUMNS, _STEPS = 400, 120  # at most: coarser where a stroke is very long against its reach


@lru_cache(maxsize=128)
def _carried(length_mm: float, shift_mm: float, half_distance_mm: float) -> _Carried:
    """By the midpoint rule, in steps that are short against a."""
    a = _TO_A * half_distance_mm
    begin = -_BEYOND * a
    grid = max(a / _FINE, (length_mm - 2 * begin) / _COLUMNS)
    s0 = np.arange(begin, length_mm - begin + grid, grid)
    d0 = np.arange(0.0, _ASIDE * a + grid, grid)
    along, beside = (v.copy() for v in np.meshgrid(s0, d0))
    steps = min(_STEPS, max(1, math.ceil(6 * shift_mm / a)))
    dt = -shift_mm / steps
    for _ in range(steps):
        u, v = _stream(along, beside, length_mm, a)
        u, v = _stream(along + u * (dt / 2), beside + v * (dt / 2), length_mm, a)
        along += u * dt
        beside += v * dt
    return _Carried((along - s0).astype(np.float32), (beside - d0[:, None]).astype(np.float32), begin, grid)


def _stream(s: Any, d: Any, length_mm: float, a: float) -> tuple[Any, Any]:
    """Speed along the stroke and away from it, of the skewer's."""
    down, up = np.tanh(s / a), np.tanh((s - length_mm) / a)
    fades = np.exp(-d / a)
    return (1 - d / a) * fades * (down - up) / 2, d * fades * (down * down - up * up) / (2 * a)
