"""CIEDE2000 of many colours to one target, without the angles; and the ellipsoid it is near the target.

The mean hue is the direction of the sum of the two unit vectors, so that the cosines of its multiples follow by
recurrence; only the rotation term, which counts for blues, wants the angle itself. Agrees with
`coating.colour.ciede2000` but for exactly opposite hues, where the mean hue is not defined.
"""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]

_C7 = 25.0**7
_COS30, _SIN30 = np.cos(np.radians(30)), np.sin(np.radians(30))
_COS6, _SIN6 = np.cos(np.radians(6)), np.sin(np.radians(6))
_COS63, _SIN63 = np.cos(np.radians(63)), np.sin(np.radians(63))
_STEP = 0.4  # Lab units over which the ellipsoid is taken


class Nearness:
    """How far Lab colours (B, 3) are from one target."""

    def __init__(self, target_lab: Sequence[float]) -> None:
        self.target: Array = np.asarray(target_lab, dtype=float)
        self.lightness, self.a, self.b = (float(v) for v in self.target)
        self.chroma = float(np.hypot(self.a, self.b))
        self.root = self._root()

    def de00(self, lab: Array) -> Array:
        """CIEDE2000 to the target, shape (B,)."""
        l1, a1, b1 = lab[:, 0], lab[:, 1], lab[:, 2]
        mean = (np.sqrt(a1 * a1 + b1 * b1) + self.chroma) / 2
        c7 = mean * mean * mean
        c7 = c7 * c7 * mean
        grown = 1.5 - 0.5 * np.sqrt(c7 / (c7 + _C7))
        a1, a2, b2 = grown * a1, grown * self.a, self.b
        c1, c2 = np.sqrt(a1 * a1 + b1 * b1), np.sqrt(a2 * a2 + b2 * b2)
        safe1, safe2 = np.maximum(c1, 1e-12), np.maximum(c2, 1e-12)
        x = a1 / safe1 + a2 / safe2
        y = b1 / safe1 + b2 / safe2
        length = np.maximum(np.sqrt(x * x + y * y), 1e-12)
        x, y = x / length, y / length  # cosine and sine of the mean hue
        cos2, sin2 = x * x - y * y, 2 * x * y
        cos3, sin3 = cos2 * x - sin2 * y, sin2 * x + cos2 * y
        cos4, sin4 = cos2 * cos2 - sin2 * sin2, 2 * cos2 * sin2
        t = (
            1
            - 0.17 * (x * _COS30 + y * _SIN30)
            + 0.24 * cos2
            + 0.32 * (cos3 * _COS6 - sin3 * _SIN6)
            - 0.20 * (cos4 * _COS63 + sin4 * _SIN63)
        )
        dot, cross = a1 * a2 + b1 * b2, a1 * b2 - b1 * a2
        d_h = np.sqrt(np.maximum(2 * (c1 * c2 - dot), 0.0))
        d_h = np.where(cross < 0, -d_h, d_h)
        mean_l, mean_c = (l1 + self.lightness) / 2 - 50, (c1 + c2) / 2
        squared = mean_l * mean_l
        d_l = (self.lightness - l1) / (1 + 0.015 * squared / np.sqrt(20 + squared))
        d_c = (c2 - c1) / (1 + 0.045 * mean_c)
        d_h = d_h / (1 + 0.015 * mean_c * t)
        total = d_l * d_l + d_c * d_c + d_h * d_h
        blue = (y < -0.5) & (x > -0.9) & (x < 0.9)
        if blue.any():
            hue = np.degrees(np.arctan2(y[blue], x[blue])) % 360
            angle = np.radians(60 * np.exp(-(((hue - 275) / 25) ** 2)))
            m = mean_c[blue]
            m7 = m * m * m
            m7 = m7 * m7 * m
            total[blue] -= np.sin(angle) * 2 * np.sqrt(m7 / (m7 + _C7)) * d_c[blue] * d_h[blue]
        return np.asarray(np.sqrt(np.maximum(total, 0.0)))

    def _root(self) -> Array:
        """G (3, 3) with |G d|^2 about the squared difference of a colour d away from the target."""
        steps = np.eye(3) * _STEP
        pairs = [(0, 1), (0, 2), (1, 2)]
        ahead = np.concatenate([steps, -steps, [steps[i] + steps[j] for i, j in pairs]])
        squared = self.de00(self.target + ahead) ** 2 / _STEP**2
        form = np.diag((squared[:3] + squared[3:6]) / 2)
        for (i, j), value in zip(pairs, squared[6:], strict=True):
            form[i, j] = form[j, i] = (value - form[i, i] - form[j, j]) / 2
        values, vectors = np.linalg.eigh(form)
        return np.asarray((vectors * np.sqrt(np.maximum(values, 1e-6))).T)
