"""Painted details: what a stack of thin layers over a ground looks like, and how many coats each wants.

Each layer is a film of its paint over what is beneath it (Kubelka & Munk 1931). In a mould and on film the first layer
is the one that is seen, so the stack is painted the other way round and hides the other way too.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from coating.colour.cie import lab_from_reflectance
from coating.colour.ciede2000 import colour_difference
from coating.colour.hiding import COAT_MM, HIDES, MOST_COATS
from coating.colour.kubelka_munk1931 import film_reflectance
from coating.colour.mixing import Part, mix
from coating.errors import EmptyDrawing, OutOfBounds
from coating.limits import check

Array = NDArray[np.float64]
Lab = tuple[float, float, float]
SPRAY_MM, MOST_PASSES = 0.005, 800  # one pass of a fine spray; an assumption
DUST_COVERS, LEAF_COVERS = 0.55, 0.97  # share of the surface that dust or leaf covers; assumptions


@dataclass(frozen=True)
class Painted:
    """One layer as painted: coats, the colour that is seen where it lies, how far from the paint itself, and how many
    coats it would take to hide what is beneath (None: it never does)."""

    coats: int
    lab: Lab
    de00: float
    enough: int | None


@dataclass(frozen=True)
class PaintLayer:
    """What is painted with; `coats` None: as many as hide. `covers`: share of the surface, for dust and leaf."""

    paint: Sequence[Part]
    coats: int | None = None
    covers: float = 1.0


def painted(
    ground: Array, layers: Sequence[PaintLayer], *, coat_mm: float = COAT_MM, from_behind: bool = False
) -> list[Painted]:
    """The stack from the ground up, in the order it is seen from behind to the front.

    Parameters
    ----------
    ground : reflectance (31,) of what is painted; for moulds and film, of what is cast behind. layers : in the order
    in which they are painted. coat_mm : one coat. from_behind : painted into a mould or on film: the first is seen in
    front.

    Returns
    -------
    One for each layer, in the order in which they are painted.

    Raises EmptyDrawing for no layer, OutOfBounds for more than six or a value outside its bounds.
    """
    if not layers:
        raise EmptyDrawing("Nothing is painted yet: choose a first colour.", field="layers")
    if len(layers) > 6:
        raise OutOfBounds("A detail takes at most six layers of paint.", field="layers", high=6)
    check("coat_mm", coat_mm)
    by_place: dict[int, Painted] = {}
    below = np.asarray(ground, dtype=float)
    order = list(enumerate(layers))
    for place, layer in reversed(order) if from_behind else order:
        mixture = mix(layer.paint)
        thick = np.arange(MOST_COATS + 1)[:, None] * coat_mm
        films = film_reflectance(mixture.absorption, mixture.scattering, thick, below)
        own = np.array(mixture.lab())
        off = colour_difference(lab_from_reflectance(films), own)
        hides = np.flatnonzero(off <= HIDES)
        enough = int(hides[0]) if hides.size else None
        coats = int(check("paint_coats_most", layer.coats, "coats")) if layer.coats is not None else (enough or 2)
        below = layer.covers * films[coats] + (1 - layer.covers) * below
        lab = lab_from_reflectance(below)
        by_place[place] = Painted(coats, (float(lab[0]), float(lab[1]), float(lab[2])), float(off[coats]), enough)
    return [by_place[i] for i in range(len(layers))]


@dataclass(frozen=True)
class PaintedShade:
    """One part of a row from pale to deep: passes of a fine spray, and the colour that is seen."""

    passes: int
    lab: Lab


def shaded(paint: Sequence[Part], ground: Array, parts: int) -> list[PaintedShade]:
    """So many parts, each as far from the last as can be, the deepest hiding what is under it.

    Parameters
    ----------
    paint : what is sprayed. ground : reflectance (31,). parts : 2 to 9.

    Raises OutOfBounds for a count outside its bounds.
    """
    many = int(check("paint_parts", parts))
    mixture = mix(paint)
    passes = np.arange(1, MOST_PASSES + 1)
    films = film_reflectance(mixture.absorption, mixture.scattering, passes[:, None] * SPRAY_MM, ground)
    labs = lab_from_reflectance(films)
    off = colour_difference(labs, np.array(mixture.lab()))
    hides = np.flatnonzero(off <= HIDES)
    last = int(hides[0]) if hides.size else MOST_PASSES - 1
    gone = colour_difference(labs[: last + 1], lab_from_reflectance(np.asarray(ground, dtype=float)))
    shades = []
    for k in range(1, many + 1):
        at = int(np.argmin(np.abs(gone - gone[-1] * k / many))) if k < many else last
        shades.append(PaintedShade(int(passes[at]), (float(labs[at][0]), float(labs[at][1]), float(labs[at][2]))))
    return shades
