"""What is done to a surface, each as the way back from where a point lies now to where it lay before.

Lengths in mm, angles in degrees from x. All keep areas: Lu, Jaffer, Jin, Zhao, Mao 2012, IEEE CG&A. A point is taken
back in place, in single precision; a drop also says which points it is the origin of.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, fields
from typing import Any

import numpy as np
from numpy.typing import NDArray

from coating.limits import check

Plane = NDArray[np.float32]
_BOUNDS = {
    "x_mm": "place_mm", "y_mm": "place_mm", "radius_mm": "blob_mm", "angle_deg": "turn_deg", "shift_mm": "place_mm",
    "half_distance_mm": "reach_mm", "spacing_mm": "pitch_mm", "amplitude_mm": "place_mm", "wavelength_mm": "wave_mm",
}  # fmt: skip


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
        cos, sin = _direction(self.angle_deg)
        beside = (x - np.float32(self.x_mm)) * -sin + (y - np.float32(self.y_mm)) * cos
        np.abs(beside, out=beside)
        beside *= np.float32(-1 / self.half_distance_mm)
        np.exp2(beside, out=beside)
        _drag(x, y, beside, self.shift_mm, cos, sin)


@dataclass(frozen=True)
class Comb(Operation):
    """Passes side by side all over, `spacing_mm` apart, one through the origin; their pulls add up in closed form."""

    angle_deg: float
    spacing_mm: float
    shift_mm: float
    half_distance_mm: float

    def back(self, x: Plane, y: Plane) -> None:
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
