"""Predicted colours of many bowls at once, and how they go with the mass of a drop and the strength of each bottle."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from coating.colour.cie import WHITE_D65, lab_from_xyz, weights
from coating.learning.names import DROP
from coating.learning.observations import Observation, pseudo_reading

Array = NDArray[np.float64]
_DELTA = 6.0 / 29.0


class Colours:
    """All records of colour, as arrays: N bowls of up to P parts.

    Attributes
    ----------
    seen, sd : Lab that was read or said, and how far off a right one may be, shape (N, 3).
    """

    def __init__(self, records: Sequence[Observation], places: dict[str, int], read_sd: float) -> None:
        most = max((len(r.parts) for r in records), default=0)
        shape = (len(records), most)
        self.grams, self.drops = np.zeros(shape), np.zeros(shape, dtype=bool)
        self.k, self.s = np.zeros((*shape, 31)), np.zeros((*shape, 31))
        self.of = np.full(shape, -1)  # the place of each part's strength
        self.drop_at = places.get(DROP, -1)
        self.seen, self.sd = np.zeros((len(records), 3)), np.full((len(records), 3), read_sd)
        optics = {p.ingredient: p.ingredient.optics() for r in records for p in r.parts}
        for n, record in enumerate(records):
            assert record.lab is not None
            self.seen[n] = record.lab
            if record.kind == "look":
                self.seen[n], self.sd[n] = pseudo_reading(record)
            for j, part in enumerate(record.parts):
                self.grams[n, j] = part.mass_g
                self.drops[n, j] = record.in_drops(part)
                self.k[n, j], self.s[n, j] = optics[part.ingredient]
                if part.ingredient.is_colourant:
                    self.of[n, j] = places[f"strength.{record.bottle_of(j)}"]
        self.parameters = len(places)

    def at(self, x: Array) -> tuple[Array, Array]:
        """Standardised residuals (N, 3), seen less predicted, and what a step in each parameter does to the
        prediction, standardised, (N, 3, M)."""
        rows = len(self.seen)
        slopes = np.zeros((rows, 3, self.parameters))
        if not rows:
            return np.zeros((0, 3)), slopes
        drop = float(x[self.drop_at]) if self.drop_at >= 0 else 0.0
        grams = self.grams * np.where(self.drops, np.exp(drop), 1.0)
        strong = np.where(self.of >= 0, np.exp(x[self.of]), 1.0)
        k_each = (grams * strong)[..., None] * self.k
        s_each = grams[..., None] * self.s
        k, s = k_each.sum(axis=1), np.maximum(s_each.sum(axis=1), 1e-12)
        q = k / s
        root = np.sqrt(q * q + 2.0 * q)
        lab, by_r = _lab_and_slope(1.0 / (1.0 + q + root))
        r_by_q = 1.0 - (q + 1.0) / np.maximum(root, 1e-9)
        by_q = by_r * r_by_q[:, None, :]  # (N, 3, 31)
        by_strength = np.einsum("ncl,npl->ncp", by_q, k_each / s[:, None, :])
        by_drop = np.einsum("ncl,npl->ncp", by_q, (k_each - q[:, None, :] * s_each) / s[:, None, :])
        np.add.at(
            slopes.transpose(0, 2, 1),
            (np.repeat(np.arange(rows), self.of.shape[1]), np.maximum(self.of, 0).ravel()),
            (by_strength * (self.of >= 0)[:, None, :]).transpose(0, 2, 1).reshape(-1, 3),
        )
        if self.drop_at >= 0:
            slopes[:, :, self.drop_at] += (by_drop * self.drops[:, None, :]).sum(axis=2)
        return (self.seen - lab) / self.sd, slopes / self.sd[..., None]


def _lab_and_slope(reflectance: Array) -> tuple[Array, Array]:
    """Lab (N, 3) and its slope by reflectance (N, 3, 31)."""
    w = weights() / WHITE_D65  # (31, 3)
    t = reflectance @ w
    f_by_t = np.where(t > _DELTA**3, np.cbrt(np.maximum(t, 1e-12)) ** -2 / 3.0, 1 / (3 * _DELTA**2))
    by = f_by_t[:, :, None] * w.T[None, :, :]  # f of X, Y, Z by reflectance
    slope = np.stack([116.0 * by[:, 1], 500.0 * (by[:, 0] - by[:, 1]), 200.0 * (by[:, 1] - by[:, 2])], axis=1)
    return lab_from_xyz(t * WHITE_D65), slope
