"""Coats until a paint hides what is under it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from coating.colour.cie import lab_from_reflectance, xyz_from_reflectance
from coating.colour.ciede2000 import colour_difference
from coating.colour.kubelka_munk1931 import film_reflectance
from coating.colour.mixing import Part, mix
from coating.limits import check

Array = NDArray[np.float64]
Lab = tuple[float, float, float]

HIDES = 2.0  # dE00 to the paint by itself
COAT_MM = 0.15
MOST_COATS = 60
HIDING = 0.98  # contrast ratio called hiding


@dataclass(frozen=True)
class Hiding:
    """Coats needed (None: more than 60), the colour after each, the paint's own, its contrast ratio that thick.

    `labs[0]` is the ground; `de00[n]` the difference that is left after n coats.
    """

    coats: int | None
    labs: tuple[Lab, ...]
    de00: tuple[float, ...]
    paint_lab: Lab
    contrast_ratio: float


def coats_to_hide(coating: Sequence[Part], ground: Array, *, coat_mm: float = COAT_MM) -> Hiding:
    """The least number of coats within 2 dE00 of the paint by itself.

    Parameters
    ----------
    coating : what is painted with. ground : reflectance (31,) of what is painted. coat_mm : thickness of one coat.

    Raises EmptyBowl, OutOfBounds. Source: Kubelka & Munk 1931.
    """
    check("thickness_mm", coat_mm, "coat_mm")
    mixture = mix(coating)
    k, s = mixture.absorption, mixture.scattering
    thick = np.arange(MOST_COATS + 1)[:, None] * coat_mm
    films = film_reflectance(k, s, thick, ground)
    labs = lab_from_reflectance(films)
    own = mixture.lab()
    de00 = colour_difference(labs, np.array(own))
    enough = np.flatnonzero(de00 <= HIDES)
    coats = int(enough[0]) if enough.size else None
    shown = MOST_COATS if coats is None else coats
    return Hiding(
        coats,
        tuple((float(v[0]), float(v[1]), float(v[2])) for v in labs[: shown + 1]),
        tuple(float(v) for v in de00[: shown + 1]),
        own,
        contrast_ratio(k, s, max(shown, 1) * coat_mm),
    )


def contrast_ratio(absorption_per_mm: Array, scattering_per_mm: Array, thickness_mm: float) -> float:
    """Y over a black ground by Y over a white one, of a film so thick (mm); 1 hides fully."""
    black, white = (
        float(xyz_from_reflectance(film_reflectance(absorption_per_mm, scattering_per_mm, thickness_mm, ground))[1])
        for ground in (0.0, 1.0)
    )
    return black / max(white, 1e-12)
