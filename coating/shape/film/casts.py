"""Textured casts: coating spread over something with a relief, peeled off, cut or broken.

The coating fills the relief and lies so thick over its crests. How much of a relief is filled follows from its shape:
half of a wave; of half balls side by side what is between them.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from types import MappingProxyType

import numpy as np

from coating.errors import UnknownName
from coating.flow.material import ORDINARY
from coating.limits import check
from coating.shape.strokes import Array

THINNEST_MM = 1.2  # over a crest; thinner breaks there when it is peeled; common practice, no source
_DENSITY = ORDINARY.density_kg_m3


@dataclass(frozen=True)
class Texture:
    """A relief: how deep in mm, which share of it the coating fills, its surface by place (0 to 1), and how it is cut.

    `along`: it has a direction, and breaks along it.
    """

    name: str
    title: str
    relief_mm: float
    fill: float
    surface: Callable[[Array, Array], Array]
    along: bool = False


_TILE_MM = 66.0


def _ribs(x: Array, y: Array) -> Array:
    return np.asarray(0.5 + 0.5 * np.cos(2 * math.pi * x / 7.0))


def _bubbles(x: Array, y: Array) -> Array:
    """Half balls of 10 mm, 11 apart, in a honeycomb: what is cast of them are hollows."""
    pitch, radius, row = 11.0, 5.0, 11.0 * math.sqrt(3) / 2
    lowest = np.ones_like(x)
    for k in (0, 1):
        u = (x - k * pitch / 2 + pitch / 2) % pitch - pitch / 2
        v = (y - k * row + row) % (2 * row) - row
        far = (u**2 + v**2) / radius**2
        lowest = np.minimum(lowest, np.where(far < 1, 1 - np.sqrt(np.maximum(0.0, 1 - far)), 1.0))
    return lowest


def _crumpled(x: Array, y: Array) -> Array:
    """Sharp folds between flat facets, again every 66 mm: how much nearer one place is than the next."""
    places = np.random.default_rng(11).random((26, 2)) * _TILE_MM
    half = _TILE_MM / 2
    far = [np.hypot((x - a + half) % _TILE_MM - half, (y - b + half) % _TILE_MM - half) for a, b in places]
    nearest = np.partition(np.array(far), 1, axis=0)
    return np.asarray(1 - np.clip((nearest[1] - nearest[0]) / 11.0, 0, 1))


def _grain(x: Array, y: Array) -> Array:
    bowed = y + 4.0 * np.sin(0.025 * x) + 1.5 * np.sin(0.07 * x + 0.3 * y)
    return np.asarray(0.5 + 0.5 * np.sin(2 * math.pi * bowed / 4.6))


def _woven(x: Array, y: Array) -> Array:
    u, v = np.sin(math.pi * x / 6.0), np.sin(math.pi * y / 6.0)
    over = (np.floor(x / 6.0) + np.floor(y / 6.0)) % 2 == 0
    return np.asarray(np.where(over, np.abs(u), np.abs(v)))


_BETWEEN = 1 - (2 / 3) * math.pi * 5.0**2 / (math.sqrt(3) / 2 * 11.0**2)  # half balls in a honeycomb
TEXTURES = MappingProxyType(
    {
        t.name: t
        for t in (
            Texture("bubbles", "Bubble film", 4.0, _BETWEEN, _bubbles),
            Texture("ribs", "Ribbed card", 2.5, 0.5, _ribs, along=True),
            Texture("grain", "Wood grain", 1.2, 0.5, _grain, along=True),
            Texture("crumpled", "Crumpled foil", 5.0, 0.704, _crumpled),
            Texture("woven", "Woven mat", 1.5, 2 / math.pi, _woven),
        )
    }
)


@dataclass(frozen=True)
class Cast:
    """A sheet of it: width and height, how thick over the crests, mm."""

    texture: Texture
    width_mm: float
    height_mm: float
    thickness_mm: float

    @property
    def mean_mm(self) -> float:
        """How thick it is on the whole."""
        return self.thickness_mm + self.texture.fill * self.texture.relief_mm

    @property
    def deepest_mm(self) -> float:
        """Sheet and relief at the thickest, mm."""
        return self.thickness_mm + self.texture.relief_mm

    @property
    def mass_g(self) -> float:
        """The whole sheet, g."""
        return self.width_mm * self.height_mm * self.mean_mm * _DENSITY * 1e-6

    @property
    def frail(self) -> bool:
        """Whether it is so thin that it breaks when it is peeled."""
        return self.thickness_mm < THINNEST_MM


def cast(texture: str, width_mm: float, height_mm: float, *, thickness_mm: float) -> Cast:
    """Raises UnknownName, OutOfBounds."""
    if texture not in TEXTURES:
        raise UnknownName(f"There is no texture called {texture[:40]!r}.", field="texture", choices=list(TEXTURES))
    check("slab_mm", width_mm, "width_mm"), check("slab_mm", height_mm, "height_mm")
    return Cast(TEXTURES[texture], width_mm, height_mm, check("film_mm", thickness_mm, "thickness_mm"))
