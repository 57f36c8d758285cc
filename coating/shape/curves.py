"""Curves as a hand draws them: smoothed through their points, rounded at their corners, small shapes to begin from."""

from __future__ import annotations

import math
from collections.abc import Sequence
from itertools import pairwise

import numpy as np

from coating.shape.strokes import Array

CORNER_DEG = 55.0  # a turn sharper than that is meant
_BETWEEN = 6


def smoothed(line: Array, *, between: int = _BETWEEN, corner_deg: float = CORNER_DEG) -> Array:
    """A cubic Hermite curve through all points of a line, with `between` steps from one to the next; turns sharper
    than `corner_deg` stay corners. Tangents as Catmull and Rom 1974."""
    points = _without_repeats(np.asarray(line, dtype=float))
    if len(points) < 3:
        return points
    closed = bool(np.allclose(points[0], points[-1]))
    corners = [0, *[i for i in range(1, len(points) - 1) if _turn_deg(points, i) > corner_deg], len(points) - 1]
    if closed and len(corners) == 2 and _turn_between(points[-2], points[0], points[1]) <= corner_deg:
        return _through(points, between, closed=True)
    runs = [_through(points[a : b + 1], between) for a, b in pairwise(corners)]
    return np.concatenate([runs[0], *[run[1:] for run in runs[1:]]])


def _without_repeats(points: Array) -> Array:
    keep = np.r_[True, np.hypot(*np.diff(points, axis=0).T) > 1e-9] if len(points) > 1 else np.array([True])
    return points[keep]


def _turn_deg(points: Array, i: int) -> float:
    return _turn_between(points[i - 1], points[i], points[i + 1])


def _turn_between(before: Array, at: Array, after: Array) -> float:
    (ax, ay), (bx, by) = at - before, after - at
    return math.degrees(abs(math.atan2(ax * by - ay * bx, ax * bx + ay * by)))


def _through(points: Array, between: int, *, closed: bool = False) -> Array:
    if len(points) < 3:
        return points
    if closed:
        padded = np.concatenate([points[-2:-1], points, points[1:2]])
    else:
        padded = np.concatenate([2 * points[:1] - points[1:2], points, 2 * points[-1:] - points[-2:-1]])
    tangents = (padded[2:] - padded[:-2]) / 2
    t = np.linspace(0, 1, between + 1)[None, 1:, None]
    a, b, ta, tb = points[:-1, None], points[1:, None], tangents[:-1, None], tangents[1:, None]
    run = (2 * t**3 - 3 * t**2 + 1) * a + (t**3 - 2 * t**2 + t) * ta + (-2 * t**3 + 3 * t**2) * b + (t**3 - t**2) * tb
    return np.concatenate([points[:1], run.reshape(-1, 2)])


def rounded(line: Array, times: int = 2, *, closed: bool = False) -> Array:
    """Corners cut `times` over (Chaikin 1974); the ends of an open line stay."""
    points = np.asarray(line, dtype=float)
    for _ in range(times):
        if closed:
            after = np.roll(points, -1, axis=0)
            points = np.stack([0.75 * points + 0.25 * after, 0.25 * points + 0.75 * after], axis=1).reshape(-1, 2)
        elif len(points) > 2:
            a, b = points[:-1], points[1:]
            cut = np.stack([0.75 * a + 0.25 * b, 0.25 * a + 0.75 * b], axis=1).reshape(-1, 2)
            points = np.concatenate([points[:1], cut[1:-1], points[-1:]])
    return points


def ellipse(middle: Sequence[float], across: float, high: float, *, points: int = 32, start_deg: float = 0.0) -> Array:
    """A closed ellipse round a middle, its first point again at the end."""
    t = np.linspace(0, 2 * math.pi, points + 1) + math.radians(start_deg)
    return np.column_stack([middle[0] + across / 2 * np.cos(t), middle[1] + high / 2 * np.sin(t)])


def teardrop(tip: Sequence[float] | Array, to: Sequence[float] | Array, wide: float, *, points: int = 24) -> Array:
    """A closed leaf from a tip, as a hand draws it in one go: out to `to` and back, `wide` at its widest."""
    start, end = np.asarray(tip, dtype=float), np.asarray(to, dtype=float)
    along = end - start
    across = np.array([-along[1], along[0]]) / max(float(np.hypot(*along)), 1e-9)
    t = np.linspace(0, 2 * math.pi, points + 1)
    out, side = (1 - np.cos(t)) / 2, np.sin(t) * np.sin(t / 2) ** 1.2
    return start + out[:, None] * along + (side * wide / 1.35)[:, None] * across


def star(middle: Sequence[float], across: float, *, rays: int = 5, inner: float = 0.5) -> Array:
    """A closed star with a ray up."""
    t = -math.pi / 2 + np.arange(2 * rays + 1) * math.pi / rays
    radius = np.where(np.arange(2 * rays + 1) % 2, inner, 1.0) * across / 2
    return np.column_stack([middle[0] + radius * np.cos(t), middle[1] + radius * np.sin(t)])
