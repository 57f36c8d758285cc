"""What a colourant absorbs, from one tint of it; and its strength, from what a bowl turned out to be."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from coating.colour.cie import lab_from_reflectance
from coating.colour.ciede2000 import colour_difference
from coating.colour.kubelka_munk1931 import reflectance_from_ratio
from coating.colour.mixing import Ingredient, Part, merge, mix
from coating.colour.spectra import BANDS, Curve
from coating.errors import EmptyBowl, NoSuchColour

Array = NDArray[np.float64]
Band = tuple[float, float, float]

# Shapes of dyes: (relative height, nm, sigma). Common practice, no source; fitted heights, places and widths follow.
FAMILIES: dict[str, tuple[Band, ...]] = {
    "yellow": ((1, 428, 32), (0.35, 465, 20)),
    "orange": ((1, 482, 36),),
    "red": ((1, 510, 36), (0.35, 548, 20)),
    "pink": ((1, 527, 26),),
    "purple": ((1, 560, 38),),
    "blue": ((1, 628, 27), (0.3, 588, 26)),
    "green": ((1, 636, 28), (0.7, 428, 34)),
    "brown": ((1, 420, 80), (0.1, 550, 200)),
    "black": (),
}
NO_SCATTER = Curve()
_RIDGE = 0.3
_STARTS = np.log(np.geomspace(10, 20000, 12))
_MISSED, _MISSED_SHARE = 2.5, 0.4  # dE00 by which no family fits, at least, and as a share of what it did
STRENGTH_SD = 0.3
_READING_SD = 1.0


@dataclass(frozen=True)
class FittedColourant:
    """A colourant's absorption, the family whose shape it has and how far the tint is from it then."""

    absorption: Curve
    family: str
    de00: float


def fit_colourant(
    base: Sequence[Part], grams: float, lab: Sequence[float], *, scattering: Curve = NO_SCATTER
) -> FittedColourant:
    """Absorption of a colourant from one tint.

    Parameters
    ----------
    base : what it was stirred into, known. grams : of the colourant. lab : the tint, CIELAB under D65.
    scattering : S of the neat colourant, 1/mm; none for a dye.

    Raises
    ------
    EmptyBowl : no base or no colourant. NoSuchColour : the tint is lighter or paler than what it was put in.

    The shapes of `FAMILIES` each by least squares on Lab with a ridge on what moves them; the best one is kept.
    """
    from scipy.optimize import least_squares

    if grams <= 0:
        raise EmptyBowl("Say how much of it went in.", field="amount")
    mixture = mix(base)
    k_base, s = mixture.absorption * mixture.mass_g, mixture.scattering * mixture.mass_g
    s = s + grams * scattering.spectrum()
    wanted = np.asarray(lab, dtype=float)

    def tint(curve: Array) -> Array:
        return lab_from_reflectance(reflectance_from_ratio((k_base + grams * curve) / np.maximum(s, 1e-9)))

    plain = float(colour_difference(tint(np.zeros(BANDS)), wanted))
    best: tuple[float, Curve, str] | None = None
    for family, bands in FAMILIES.items():

        def misses(p: Array, bands: tuple[Band, ...] = bands) -> Array:
            return np.concatenate([tint(_moved(bands, p).spectrum()) - wanted, _RIDGE * p[1:]])

        p = np.zeros(4)
        p[0] = min(_STARTS, key=lambda height: float((misses(np.array([height, 0, 0, 0])) ** 2).sum()))
        fit = least_squares(misses, p, method="lm", max_nfev=200)
        if best is None or fit.cost < best[0]:
            best = (float(fit.cost), _moved(bands, fit.x), family)
    assert best is not None
    de00 = float(colour_difference(tint(best[1].spectrum()), wanted))
    if not np.isfinite(de00) or de00 > max(_MISSED, _MISSED_SHARE * plain):
        raise NoSuchColour(
            "No colour stirred into that base gives this. Was it read in the same light as the base?", field="lab"
        )
    return FittedColourant(best[1], best[2], de00)


def _moved(bands: tuple[Band, ...], p: Array) -> Curve:
    """A family with its height e^p0, its bands moved 10 p1 nm and widened e^(.3 p2), the second times e^p3."""
    p0, p1, p2, p3 = np.clip(p, -30, 30)
    height = float(np.exp(min(p0, 20.0)))
    if not bands:
        return Curve(constant=height)
    later = float(np.exp(np.clip(p3, -5, 5)))
    wide = float(np.exp(0.3 * np.clip(p2, -8, 8)))
    return Curve(
        bands=tuple(
            (round(height * a * (later if i else 1.0), 6), float(nm + 10 * p1), float(sigma * wide))
            for i, (a, nm, sigma) in enumerate(bands)
        )
    )


def learned_strengths(parts: Sequence[Part], read: Sequence[float]) -> dict[str, float]:
    """By how much each colourant of a bowl is stronger than thought, from what the bowl turned out to be.

    The likeliest factors for a reading good to about 1 in each coordinate of Lab, when the logarithm of a strength is
    known to .3 beforehand. Empty without a colourant. Raises EmptyBowl.
    """
    merged = merge(parts)
    names = [p.ingredient.name for p in merged if p.ingredient.is_colourant]
    wanted = np.asarray(read, dtype=float)
    if not names:
        return {}

    def misses(logs: Array) -> Array:
        lab = mix(stronger(merged, dict(zip(names, np.exp(logs), strict=True)))).lab()
        return np.concatenate([(np.array(lab) - wanted) / _READING_SD, logs / STRENGTH_SD])

    logs = np.zeros(len(names))
    for _ in range(12):
        miss = misses(logs)
        steps = 1e-4 * np.eye(len(names))
        slope = np.stack([(misses(logs + h) - miss) / 1e-4 for h in steps], axis=1)
        step = np.linalg.solve(slope.T @ slope, -slope.T @ miss)
        logs = np.clip(logs + np.clip(step, -0.7, 0.7), -2.0, 2.0)
        if np.abs(step).max() < 1e-6:
            break
    return {name: float(f) for name, f in zip(names, np.exp(logs), strict=True)}


def stronger(parts: Sequence[Part], factors: Mapping[str, float]) -> tuple[Part, ...]:
    """The same parts with the strength of some colourants changed by a factor."""
    return tuple(Part(with_strength(p.ingredient, factors), p.mass_g) for p in parts)


def with_strength(ingredient: Ingredient, factors: Mapping[str, float]) -> Ingredient:
    """An ingredient with its strength changed, if a factor is given for it."""
    factor = factors.get(ingredient.name)
    return ingredient if factor is None else replace(ingredient, strength=ingredient.strength * factor)
