"""Two-constant mixing: K and S of a bowl are the mass-weighted means of its parts."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from coating.colour.cie import lab_from_reflectance
from coating.colour.kubelka_munk1931 import reflectance_from_ratio
from coating.colour.spectra import Curve, Spectrum
from coating.errors import EmptyBowl
from coating.limits import check

BASE, LIQUID, POWDER, GEL, BUTTER, WHITE, FAT, WATER = (
    "base",
    "liquid",
    "powder",
    "gel",
    "butter",
    "white",
    "fat",
    "water",
)
COLOURANTS = (LIQUID, POWDER, GEL, BUTTER, WHITE)
SORTS = ("white", "milk", "dark", "coloured")


@dataclass(frozen=True)
class Ingredient:
    """Something that goes into a bowl.

    Attributes
    ----------
    name : key; title : what the maker calls it.
    kind : base, liquid (in oil), powder, gel (in water), butter, white, fat or water.
    family : "cocoa" or "palm", whose fat it is; "" where it does not matter.
    absorption, scattering : K and S of the neat ingredient, 1/mm.
    strength : factor on K, 1 until learned.
    unit_g : mass of the unit it is counted in (drop, pinch, gram).
    cap_share : most of it that a base carries, as a share of the base's mass.
    fat_fraction, water_fraction : shares of its own mass.
    number : flow number of a base as on its label (untempered, 40 degC).
    sort : of a base, what its bag says: one of SORTS. piece_g : of a base, mass of one wafer or of one square of a bar.
    """

    name: str
    title: str
    kind: str
    absorption: Curve = Curve()
    scattering: Curve = Curve()
    family: str = ""
    strength: float = 1.0
    unit_g: float = 1.0
    cap_share: float = 1.0
    fat_fraction: float = 0.0
    water_fraction: float = 0.0
    number: float | None = None
    k_per_s: float = 6.0
    sort: str = "white"
    piece_g: float = 0.0

    @property
    def is_base(self) -> bool:
        """Whether it is a coating itself, melted from a bag."""
        return self.kind == BASE

    @property
    def is_colourant(self) -> bool:
        """Whether it is put in for its colour."""
        return self.kind in COLOURANTS

    @property
    def chocolate(self) -> str:
        """Which real chocolate it is worked as: "white" (coloured ones too), "milk" or "dark"."""
        return self.sort if self.sort in ("milk", "dark") else "white"

    @property
    def counted_in_drops(self) -> bool:
        """Whether makers count it in drops: a liquid colour."""
        return self.kind == LIQUID

    def optics(self) -> tuple[Spectrum, Spectrum]:
        """K (with strength) and S as arrays (31,), 1/mm."""
        k, s = _spectra(self.absorption, self.scattering)
        return k * self.strength, s


@lru_cache(maxsize=512)
def _spectra(absorption: Curve, scattering: Curve) -> tuple[Spectrum, Spectrum]:
    return absorption.spectrum(), scattering.spectrum()


@dataclass(frozen=True)
class Part:
    """An amount of one ingredient, in g."""

    ingredient: Ingredient
    mass_g: float

    def __post_init__(self) -> None:
        check("total_g", self.mass_g, "mass_g")

    @property
    def units(self) -> float:
        """The amount in the ingredient's own unit: drops, pinches or grams."""
        return self.mass_g / self.ingredient.unit_g


@dataclass(frozen=True)
class Mixture:
    """What came of mixing: parts merged by ingredient, mass in g, load (None without a base), Lab."""

    parts: tuple[Part, ...]
    mass_g: float
    base_g: float
    load: float | None
    absorption: Spectrum
    scattering: Spectrum

    def reflectance(self) -> Spectrum:
        """Reflectance of the opaque mixture, shape (31,)."""
        return reflectance_from_ratio(self.absorption / np.maximum(self.scattering, 1e-9))

    def lab(self, *, illuminant: str = "D65") -> tuple[float, float, float]:
        """CIELAB of the melted mixture."""
        lightness, a, b = lab_from_reflectance(self.reflectance(), illuminant=illuminant)
        return float(lightness), float(a), float(b)


def merge(parts: Iterable[Part]) -> tuple[Part, ...]:
    """Add up parts of the same ingredient, in order of first appearance; empty parts fall away."""
    totals: dict[str, Part] = {}
    for part in parts:
        if part.mass_g <= 0:
            continue
        seen = totals.get(part.ingredient.name)
        mass_g = part.mass_g + (seen.mass_g if seen else 0.0)
        totals[part.ingredient.name] = Part(part.ingredient, mass_g)
    return tuple(totals.values())


def main_base(parts: Iterable[Part]) -> Ingredient | None:
    """The base that most of it is of; None without one."""
    bases = [p for p in merge(parts) if p.ingredient.is_base]
    most = max(bases, key=lambda p: p.mass_g, default=None)
    return most.ingredient if most else None


def colour_load(parts: Iterable[Part]) -> float | None:
    """How much of the colour the base can carry is used: sum m_j/(cap_j M_base); None without a base."""
    parts = tuple(parts)
    base_g = sum(p.mass_g for p in parts if p.ingredient.is_base)
    if base_g <= 0:
        return None
    return sum(p.mass_g / (p.ingredient.cap_share * base_g) for p in parts if p.ingredient.is_colourant)


def mix(parts: Iterable[Part]) -> Mixture:
    """Mix parts completely.

    Parameters
    ----------
    parts : iterable of Part
        Grams of ingredients; the same one may come several times.

    Returns
    -------
    Mixture

    Raises
    ------
    EmptyBowl
        Nothing in it has any mass.

    Source: Duncan 1940, additivity of K and S, with Kubelka & Munk 1931.
    """
    merged = merge(parts)
    mass_g = sum(p.mass_g for p in merged)
    if mass_g <= 0:
        raise EmptyBowl("There is nothing in this bowl yet.", field="parts")
    optics = [p.ingredient.optics() for p in merged]
    k = sum((p.mass_g * o[0] for p, o in zip(merged, optics, strict=True)), np.zeros(31)) / mass_g
    s = sum((p.mass_g * o[1] for p, o in zip(merged, optics, strict=True)), np.zeros(31)) / mass_g
    base_g = sum(p.mass_g for p in merged if p.ingredient.is_base)
    return Mixture(merged, mass_g, base_g, colour_load(merged), k, s)
