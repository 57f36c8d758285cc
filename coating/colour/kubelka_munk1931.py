"""Kubelka and Munk (1931): reflectance of a layer that absorbs (K) and scatters (S), both in 1/mm."""

from __future__ import annotations

import numpy as np
from numpy.typing import ArrayLike, NDArray

Array = NDArray[np.float64]
REFLECTANCE_FLOOR = 1e-4
_NO_SCATTER = 1e-9
_NO_ABSORPTION = 1e-9
_NO_FILM = 1e-12  # optical thickness below which only the ground is seen


def reflectance_from_ratio(ratio: ArrayLike) -> Array:
    """Reflectance of an opaque layer from q = K/S.

    R = 1/(1 + q + sqrt(q^2 + 2q)), the form that does not cancel for small or large q.

    Parameters
    ----------
    ratio : q >= 0, any shape, dimensionless.

    Source: Kubelka & Munk 1931.

    >>> float(reflectance_from_ratio(0.25))
    0.5
    """
    q = np.asarray(ratio, dtype=float)
    return 1.0 / (1.0 + q + np.sqrt(q * q + 2.0 * q))


def ratio_from_reflectance(reflectance: ArrayLike) -> Array:
    """q = (1 - R)^2 / 2R of an opaque layer; R is kept within [1e-4, 1 - 1e-4].

    >>> float(ratio_from_reflectance(0.5))
    0.25
    """
    r = np.clip(np.asarray(reflectance, dtype=float), REFLECTANCE_FLOOR, 1.0 - REFLECTANCE_FLOOR)
    return (1.0 - r) ** 2 / (2.0 * r)


def film_reflectance(
    absorption_per_mm: ArrayLike, scattering_per_mm: ArrayLike, thickness_mm: ArrayLike, ground: ArrayLike
) -> Array:
    """Reflectance of a film over a ground; all arguments broadcast.

    Parameters
    ----------
    absorption_per_mm, scattering_per_mm : K and S in 1/mm, >= 0.
    thickness_mm : X in mm, >= 0.
    ground : reflectance of what lies below, 0 to 1.

    Returns
    -------
    Reflectance. Without scattering it is ground * exp(-2KX); without absorption
    (SX(1 - Rg) + Rg)/(SX(1 - Rg) + 1); a film of no thickness shows its ground.

    Source: Kubelka & Munk 1931, hyperbolic form.
    """
    k, s, x, rg = np.broadcast_arrays(
        *(np.asarray(v, dtype=float) for v in (absorption_per_mm, scattering_per_mm, thickness_mm, ground))
    )
    safe_s = np.where(s > _NO_SCATTER, s, 1.0)
    a = 1.0 + k / safe_s
    b = np.sqrt(np.maximum(a * a - 1.0, 0.0))
    # b coth(bSX) = b / tanh(bSX); for b -> 0 it is 1/(SX), which the branch below takes over.
    with np.errstate(divide="ignore", invalid="ignore", over="ignore"):
        bcoth = b / np.tanh(b * safe_s * x)
        general = (1.0 - rg * (a - bcoth)) / (a - rg + bcoth)
    sx = safe_s * x
    no_absorption = (sx * (1.0 - rg) + rg) / (sx * (1.0 - rg) + 1.0)
    no_scatter = rg * np.exp(-2.0 * k * x)
    result = np.where(k <= _NO_ABSORPTION * safe_s, no_absorption, general)
    result = np.where(s <= _NO_SCATTER, no_scatter, result)
    result = np.where((k + s) * x <= _NO_FILM, rg, result)
    return np.asarray(np.clip(result, 0.0, 1.0))
