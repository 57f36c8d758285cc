"""CIEDE2000 colour difference (Sharma, Wu & Dalal 2005) and the words for it."""

from __future__ import annotations

import numpy as np
from numpy.typing import ArrayLike, NDArray

MATCH, CLOSE, VISIBLE = 1.0, 2.0, 5.0
_COS, _SIN = ({a: float(f(np.radians(a))) for a in (6, 30, 63)} for f in (np.cos, np.sin))
_AT_ONCE = 8192  # pairs whose intermediate values stay in the cache


def colour_difference(lab1: ArrayLike, lab2: ArrayLike) -> NDArray[np.float64]:
    """CIEDE2000 between Lab colours; kL = kC = kH = 1.

    Mean hue is taken the short way round, and a colour without chroma has no hue to average.

    Parameters
    ----------
    lab1, lab2 : array_like, shapes (..., 3)
        CIELAB, which broadcast.

    Returns
    -------
    ndarray, shape (...)
        dE00, at least 0.

    Source: Sharma, Wu & Dalal 2005, Color Research & Application 30, 21-30.

    >>> round(float(colour_difference([50, 2.6772, -79.7751], [50, 0, -82.7485])), 4)
    2.0425
    """
    one, other = np.broadcast_arrays(np.asarray(lab1, dtype=float), np.asarray(lab2, dtype=float))
    if one[..., 0].size <= _AT_ONCE:
        return _difference(one, other)
    flat, flat_other = one.reshape(-1, 3), other.reshape(-1, 3)
    differences = np.empty(len(flat))
    for i in range(0, len(flat), _AT_ONCE):
        differences[i : i + _AT_ONCE] = _difference(flat[i : i + _AT_ONCE], flat_other[i : i + _AT_ONCE])
    return differences.reshape(one.shape[:-1])


def _seventh(c: NDArray[np.float64]) -> NDArray[np.float64]:
    cubed = c * c * c
    return np.asarray(cubed * cubed * c)


def _difference(lab1: NDArray[np.float64], lab2: NDArray[np.float64]) -> NDArray[np.float64]:
    l1, a1, b1 = lab1[..., 0], lab1[..., 1], lab1[..., 2]
    l2, a2, b2 = lab2[..., 0], lab2[..., 1], lab2[..., 2]
    mean_c7 = _seventh((np.hypot(a1, b1) + np.hypot(a2, b2)) / 2)
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
    x, y = np.cos(np.radians(mean_h)), np.sin(np.radians(mean_h))
    cos2, sin2 = x * x - y * y, 2 * x * y
    cos3, sin3 = cos2 * x - sin2 * y, sin2 * x + cos2 * y
    cos4, sin4 = cos2 * cos2 - sin2 * sin2, 2 * cos2 * sin2
    t = (
        1
        - 0.17 * (x * _COS[30] + y * _SIN[30])
        + 0.24 * cos2
        + 0.32 * (cos3 * _COS[6] - sin3 * _SIN[6])
        - 0.20 * (cos4 * _COS[63] + sin4 * _SIN[63])
    )
    s_l = 1 + 0.015 * (mean_l - 50) ** 2 / np.sqrt(20 + (mean_l - 50) ** 2)
    s_c = 1 + 0.045 * mean_c
    s_h = 1 + 0.015 * mean_c * t
    rotation = 60 * np.exp(-(((mean_h - 275) / 25) ** 2))
    c7 = _seventh(mean_c)
    r_t = -np.sin(np.radians(rotation)) * 2 * np.sqrt(c7 / (c7 + 25.0**7))
    x, y, z = d_l / s_l, d_c / s_c, d_h / s_h
    return np.asarray(np.sqrt(np.maximum(x * x + y * y + z * z + r_t * y * z, 0.0)))


def difference_word(de00: float) -> str:
    """The word for a difference.

    Parameters
    ----------
    de00 : float
        CIEDE2000.

    Returns
    -------
    str
        "a match" (at most 1), "close" (at most 2), "visible" (at most 5) or "another colour".
    """
    if de00 <= MATCH:
        return "a match"
    if de00 <= CLOSE:
        return "close"
    return "visible" if de00 <= VISIBLE else "another colour"
