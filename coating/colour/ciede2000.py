"""CIEDE2000 colour difference (Sharma, Wu & Dalal 2005) and the words for it."""

from __future__ import annotations

import numpy as np
from numpy.typing import ArrayLike, NDArray

MATCH, CLOSE, VISIBLE = 1.0, 2.0, 5.0


def colour_difference(lab1: ArrayLike, lab2: ArrayLike) -> NDArray[np.float64]:
    """CIEDE2000 between Lab colours (..., 3), which broadcast; kL = kC = kH = 1.

    Mean hue is taken the short way round, and a colour without chroma has no hue to average.

    Source: Sharma, Wu & Dalal 2005, Color Research & Application 30, 21-30.

    >>> round(float(colour_difference([50, 2.6772, -79.7751], [50, 0, -82.7485])), 4)
    2.0425
    """
    lab1, lab2 = np.broadcast_arrays(np.asarray(lab1, dtype=float), np.asarray(lab2, dtype=float))
    l1, a1, b1 = lab1[..., 0], lab1[..., 1], lab1[..., 2]
    l2, a2, b2 = lab2[..., 0], lab2[..., 1], lab2[..., 2]
    mean_c7 = ((np.hypot(a1, b1) + np.hypot(a2, b2)) / 2) ** 7
    g = 0.5 * (1 - np.sqrt(mean_c7 / (mean_c7 + 25.0**7)))
    a1, a2 = (1 + g) * a1, (1 + g) * a2
    c1, c2 = np.hypot(a1, b1), np.hypot(a2, b2)
    h1, h2 = np.degrees(np.arctan2(b1, a1)) % 360, np.degrees(np.arctan2(b2, a2)) % 360

    hueless = c1 * c2 == 0
    turn = h2 - h1
    turn = np.where(turn > 180, turn - 360, np.where(turn < -180, turn + 360, turn))
    turn = np.where(hueless, 0.0, turn)
    d_l, d_c = l2 - l1, c2 - c1
    d_h = 2 * np.sqrt(c1 * c2) * np.sin(np.radians(turn / 2))

    total = h1 + h2
    mean_h = np.where(np.abs(h1 - h2) <= 180, total / 2, np.where(total < 360, (total + 360) / 2, (total - 360) / 2))
    mean_h = np.where(hueless, total, mean_h)
    mean_l, mean_c = (l1 + l2) / 2, (c1 + c2) / 2
    t = (
        1
        - 0.17 * np.cos(np.radians(mean_h - 30))
        + 0.24 * np.cos(np.radians(2 * mean_h))
        + 0.32 * np.cos(np.radians(3 * mean_h + 6))
        - 0.20 * np.cos(np.radians(4 * mean_h - 63))
    )
    s_l = 1 + 0.015 * (mean_l - 50) ** 2 / np.sqrt(20 + (mean_l - 50) ** 2)
    s_c = 1 + 0.045 * mean_c
    s_h = 1 + 0.015 * mean_c * t
    rotation = 60 * np.exp(-(((mean_h - 275) / 25) ** 2))
    c7 = mean_c**7
    r_t = -np.sin(np.radians(rotation)) * 2 * np.sqrt(c7 / (c7 + 25.0**7))
    x, y, z = d_l / s_l, d_c / s_c, d_h / s_h
    return np.asarray(np.sqrt(np.maximum(x * x + y * y + z * z + r_t * y * z, 0.0)))


def difference_word(de00: float) -> str:
    """The word for a difference: a match (<= 1), close (<= 2), visible (<= 5), another colour."""
    if de00 <= MATCH:
        return "a match"
    if de00 <= CLOSE:
        return "close"
    return "visible" if de00 <= VISIBLE else "another colour"
