"""A spectrum from one colour: the flattest reflectance that gives it."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache

import numpy as np

from coating.colour.cie import weights, xyz_from_lab
from coating.colour.kubelka_munk1931 import ratio_from_reflectance
from coating.colour.spectra import BANDS, Curve, Spectrum
from coating.errors import NoSuchColour

LIGHTEST = 99.9
_STEP, _ROUNDS, _TOLERANCE = 3.0, 60, 1e-9
_TOO_MUCH = "No coating looks like that: a surface that light or dark cannot be so vivid."


def reflectance_from_lab(lab: Sequence[float]) -> Spectrum:
    """Least-slope hyperbolic tangent reflectance (31,) of a CIELAB colour under D65.

    R = (tanh z + 1)/2 with the least sum of squared steps of z that has the colour, by Newton's method on z and the
    three multipliers. The lightness is kept at 99.9 at most.

    Raises
    ------
    NoSuchColour : there is none, or the way to it is singular.

    Source: Burns 2020, least slope hyperbolic tangent (LHTSS).
    """
    return np.array(_reflectance(*(round(float(v), 6) for v in lab)))


@lru_cache(maxsize=512)
def _reflectance(lightness: float, a: float, b: float) -> tuple[float, ...]:
    if not np.isfinite((lightness, a, b)).all() or lightness <= 0:
        raise NoSuchColour(_TOO_MUCH, field="lab")
    xyz = xyz_from_lab((min(lightness, LIGHTEST), a, b))
    w = weights()
    slopes = 4 * np.eye(BANDS) - 2 * np.eye(BANDS, k=1) - 2 * np.eye(BANDS, k=-1)
    slopes[0, 0] = slopes[-1, -1] = 2.0
    z, multipliers = np.zeros(BANDS), np.zeros(3)
    jacobian = np.zeros((BANDS + 3, BANDS + 3))
    for _ in range(_ROUNDS):
        tangent = np.tanh(z)
        sech2 = 1 - tangent * tangent
        first, pull = sech2 / 2, w @ multipliers
        wrong = np.concatenate([slopes @ z + first * pull, w.T @ ((tangent + 1) / 2) - xyz])
        if np.abs(wrong).max() < _TOLERANCE:
            return tuple(float(v) for v in (tangent + 1) / 2)
        jacobian[:BANDS, :BANDS] = slopes + np.diag(-sech2 * tangent * pull)
        jacobian[:BANDS, BANDS:] = first[:, None] * w
        jacobian[BANDS:, :BANDS] = jacobian[:BANDS, BANDS:].T
        try:
            step = np.linalg.solve(jacobian, -wrong)
        except np.linalg.LinAlgError:
            break
        if not np.isfinite(step).all():
            break
        step *= min(1.0, _STEP / max(np.abs(step[:BANDS]).max(), 1e-12))
        z, multipliers = z + step[:BANDS], multipliers + step[BANDS:]
    raise NoSuchColour(_TOO_MUCH, field="lab")


def absorption_from_lab(lab: Sequence[float], scattering: Curve) -> Curve:
    """K of a base from its colour and the S of its kind, 1/mm: K = S (1 - R)^2 / 2R. Raises NoSuchColour."""
    k = scattering.spectrum() * ratio_from_reflectance(reflectance_from_lab(lab))
    return Curve(samples=tuple(round(float(v), 6) for v in k))
