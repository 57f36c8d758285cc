"""CIE colour: spectrum to XYZ, CIELAB and sRGB, with one white point throughout.

The weights are sampled at 10 nm and each column is rescaled so that a perfect white gives exactly the white
point. Without that a pure white comes out tinted.
"""

from __future__ import annotations

import numpy as np
from numpy.typing import ArrayLike, NDArray

from coating.colour.spectra import WAVELENGTHS_NM
from coating.datasets.cie import ILLUMINANT_D65, OBSERVER_1931
from coating.errors import UnknownName

Array = NDArray[np.float64]

WHITE_D65: Array = np.array([0.95047, 1.0, 1.08883])
WHITE_A: Array = np.array([1.09850, 1.0, 0.35585])
_DELTA = 6.0 / 29.0


def illuminant_a() -> Array:
    """Relative spectral power of CIE illuminant A: a Planckian radiator at 2848 K with c2 = 1.435e7 nm K,
    100 at 560 nm. Shape (31,). Source: ISO/CIE 11664-2."""
    c2_over_t = 1.435e7 / 2848.0
    return 100.0 * (560.0 / WAVELENGTHS_NM) ** 5 * (np.expm1(c2_over_t / 560.0) / np.expm1(c2_over_t / WAVELENGTHS_NM))


def _weights(power: Array, white: Array) -> Array:
    raw = (OBSERVER_1931 * power).T
    return np.asarray(raw * (white / raw.sum(axis=0)))


_WHITES = {"D65": WHITE_D65, "A": WHITE_A}
_WEIGHTS = {"D65": _weights(ILLUMINANT_D65, WHITE_D65), "A": _weights(illuminant_a(), WHITE_A)}


def weights(illuminant: str = "D65") -> Array:
    """Weights W of shape (31, 3): XYZ = R @ W. Raises UnknownName for other lights than D65 and A."""
    if illuminant not in _WEIGHTS:
        raise UnknownName("The light must be D65 or A.", field="illuminant", choices=sorted(_WEIGHTS))
    return _WEIGHTS[illuminant]


def xyz_from_reflectance(reflectance: ArrayLike, *, illuminant: str = "D65") -> Array:
    """XYZ of reflectances (..., 31), Y of the perfect white = 1."""
    return np.asarray(np.asarray(reflectance, dtype=float) @ weights(illuminant))


def lab_from_xyz(xyz: ArrayLike, *, white: Array = WHITE_D65) -> Array:
    """CIELAB (..., 3) of XYZ relative to `white`. Source: ISO/CIE 11664-4."""
    t = np.asarray(xyz, dtype=float) / white
    f = np.where(t > _DELTA**3, np.cbrt(t), t / (3 * _DELTA**2) + 4.0 / 29.0)
    lightness = 116.0 * f[..., 1] - 16.0
    return np.stack([lightness, 500.0 * (f[..., 0] - f[..., 1]), 200.0 * (f[..., 1] - f[..., 2])], axis=-1)


def xyz_from_lab(lab: ArrayLike, *, white: Array = WHITE_D65) -> Array:
    """XYZ of CIELAB, the inverse of `lab_from_xyz`."""
    lab = np.asarray(lab, dtype=float)
    fy = (lab[..., 0] + 16.0) / 116.0
    f = np.stack([fy + lab[..., 1] / 500.0, fy, fy - lab[..., 2] / 200.0], axis=-1)
    return np.asarray(np.where(f > _DELTA, f**3, 3 * _DELTA**2 * (f - 4.0 / 29.0)) * white)


def lab_from_reflectance(reflectance: ArrayLike, *, illuminant: str = "D65") -> Array:
    """CIELAB of reflectances, relative to the white of that light.

    Parameters
    ----------
    reflectance : array_like, shape (..., 31)
        0 to 1, at 400 to 700 nm in steps of 10 nm.
    illuminant : str
        "D65" or "A".

    Returns
    -------
    ndarray, shape (..., 3)

    >>> [round(float(v), 6) + 0.0 for v in lab_from_reflectance(np.ones(31))]
    [100.0, 0.0, 0.0]
    """
    return lab_from_xyz(xyz_from_reflectance(reflectance, illuminant=illuminant), white=_WHITES[illuminant])


def _srgb_matrix() -> Array:
    """XYZ of linear sRGB, from the primaries of IEC 61966-2-1 and the one white used here."""
    xy = np.array([[0.64, 0.33], [0.30, 0.60], [0.15, 0.06]])
    primaries = np.stack([xy[:, 0] / xy[:, 1], np.ones(3), (1 - xy.sum(axis=1)) / xy[:, 1]])
    return np.asarray(primaries * np.linalg.solve(primaries, WHITE_D65))


_XYZ_FROM_LINEAR = _srgb_matrix()
_LINEAR_FROM_XYZ = np.linalg.inv(_XYZ_FROM_LINEAR)


def lab_from_srgb(srgb: ArrayLike) -> Array:
    """CIELAB of sRGB.

    Parameters
    ----------
    srgb : array_like, shape (..., 3)
        Components 0 to 1, gamma encoded.

    Returns
    -------
    ndarray, shape (..., 3)

    Source: IEC 61966-2-1.
    """
    return lab_from_linear_srgb(linear_srgb(srgb))


def linear_srgb(srgb: ArrayLike) -> Array:
    """Linear light of sRGB components 0 to 1, any shape. Source: IEC 61966-2-1."""
    v = np.asarray(srgb, dtype=float)
    return np.asarray(np.where(v <= 0.04045, v / 12.92, ((np.maximum(v, 0.0) + 0.055) / 1.055) ** 2.4))


def lab_from_linear_srgb(linear: ArrayLike) -> Array:
    """CIELAB of linear sRGB (..., 3)."""
    return lab_from_xyz(np.asarray(linear, dtype=float) @ _XYZ_FROM_LINEAR.T)


def srgb_from_lab(lab: ArrayLike) -> tuple[Array, NDArray[np.bool_]]:
    """sRGB of CIELAB, and whether a screen can show it.

    Parameters
    ----------
    lab : array_like, shape (..., 3)

    Returns
    -------
    srgb : ndarray, shape (..., 3)
        0 to 1, clipped to what a screen shows.
    in_gamut : ndarray of bool, shape (...)
        False where it had to be clipped: mark it.
    """
    linear = xyz_from_lab(lab) @ _LINEAR_FROM_XYZ.T
    in_gamut = np.all((linear >= -1e-4) & (linear <= 1 + 1e-4), axis=-1)
    linear = np.clip(linear, 0.0, 1.0)
    srgb = np.where(linear <= 0.0031308, 12.92 * linear, 1.055 * linear ** (1 / 2.4) - 0.055)
    return np.asarray(srgb), np.asarray(in_gamut)


def hex_from_lab(lab: ArrayLike) -> str:
    """A Lab colour as #rrggbb, the nearest a screen can show."""
    srgb, _ = srgb_from_lab(lab)
    return "#" + "".join(f"{round(float(v) * 255):02x}" for v in srgb)
