"""Demo ingredients. INVENTED, plausible curves and figures: nothing here was measured on a real product.

They are copied into a kitchen when it is made and replaced, one by one, by what the maker measures. Numbers, fat
shares, masses of a drop and the loads a base carries are common practice, no source.
"""

from __future__ import annotations

from collections.abc import Mapping
from types import MappingProxyType

from coating.colour.mixing import BASE, BUTTER, FAT, GEL, LIQUID, POWDER, WATER, WHITE, Ingredient
from coating.colour.spectra import Curve
from coating.errors import UnknownName
from coating.units import DAB_G, WATER_IN_GEL

_SCATTER_POWER = -0.5
Bands = tuple[tuple[float, float, float], ...]


def _base(
    name: str, title: str, family: str, number: float, fat: float, *,
    constant: float, scattering: float, tails: tuple[tuple[float, float], ...] = (), bands: Bands = (),
    sort: str = "coloured",
) -> Ingredient:  # fmt: skip
    k = 6.0 if family == "cocoa" else 5.0
    return Ingredient(
        name, title, BASE, Curve(constant, tails, bands), Curve(scattering, power=_SCATTER_POWER),
        family=family, fat_fraction=fat, number=number, k_per_s=k, sort=sort,
    )  # fmt: skip


def _liquid(name: str, title: str, *bands: tuple[float, float, float], constant: float = 0.0) -> Ingredient:
    return Ingredient(name, title, LIQUID, Curve(constant, bands=bands), unit_g=0.04, cap_share=0.02, fat_fraction=0.9)


def _powder(name: str, title: str, *bands: tuple[float, float, float]) -> Ingredient:
    scattering = Curve(20.0, power=_SCATTER_POWER)
    return Ingredient(name, title, POWDER, Curve(bands=bands), scattering, unit_g=0.05, cap_share=0.01)


def _gel(name: str, title: str, *bands: tuple[float, float, float]) -> Ingredient:
    """In water: counted in dabs of a toothpick, and no more than goes unnoticed (see `coating.flow.gel`)."""
    return Ingredient(name, title, GEL, Curve(bands=bands), unit_g=DAB_G, cap_share=0.005, water_fraction=WATER_IN_GEL)


def _butter(name: str, title: str, *bands: tuple[float, float, float]) -> Ingredient:
    scattering = Curve(10.0, power=_SCATTER_POWER)
    return Ingredient(
        name, title, BUTTER, Curve(bands=bands), scattering, family="cocoa", cap_share=0.1, fat_fraction=0.85
    )


_ALL = (
    _base("ivory", "Ivory white chocolate", "cocoa", 42, 0.33, constant=0.02, tails=((1.55, 62),), scattering=5,
          sort="white"),
    _base("bright", "Bright white coating", "palm", 58, 0.32, constant=0.012, tails=((0.14, 50),), scattering=7,
          sort="white"),
    _base("yellow_coating", "Yellow coating", "palm", 58, 0.32, constant=0.012,
          bands=((12, 425, 38), (6, 460, 22)), scattering=6.5),
    _base("green_coating", "Green coating", "palm", 58, 0.32, constant=0.03,
          bands=((9, 640, 36), (2.5, 595, 30), (16, 425, 42)), scattering=6.5),
    _base("red_coating", "Red coating", "palm", 60, 0.32, constant=0.03,
          bands=((48, 515, 40), (26, 560, 20), (42, 430, 60)), scattering=6),
    _base("dark", "Dark chocolate", "cocoa", 38, 0.36, constant=7, tails=((62, 90),), scattering=3, sort="dark"),
    _base("milk", "Milk chocolate", "cocoa", 42, 0.33, constant=0.9, tails=((11, 95),), scattering=4, sort="milk"),
    _base("black_coating", "Black coating", "palm", 60, 0.32, constant=60, tails=((8, 100),), scattering=3),
    _liquid("yellow", "Yellow oil colour", (2600, 428, 32), (900, 465, 20)),
    _liquid("orange", "Orange oil colour", (2300, 482, 36)),
    _liquid("red", "Red oil colour", (2200, 506, 36), (800, 542, 18), (900, 425, 45)),
    _liquid("pink", "Pink oil colour", (1500, 527, 24), (500, 495, 25)),
    _liquid("purple", "Purple oil colour", (1300, 550, 35), (700, 600, 28)),
    _liquid("blue", "Blue oil colour", (3000, 630, 24), (900, 590, 26), (350, 410, 14)),
    _liquid("teal", "Teal oil colour", (2200, 640, 30), (500, 430, 30)),
    _liquid("green", "Green oil colour", (2200, 636, 26), (600, 598, 26), (2600, 428, 34)),
    _liquid("brown", "Brown oil colour", (1800, 420, 70), (500, 520, 60), constant=120),
    _liquid("black", "Black oil colour", (600, 450, 80), constant=1800),
    _powder("red_powder", "Red powder", (7000, 515, 36), (3000, 550, 20)),
    _powder("blue_powder", "Blue powder", (9000, 628, 30), (2500, 585, 26)),
    _powder("yellow_powder", "Yellow powder", (9000, 430, 36), (3000, 465, 20)),
    _gel("pink_gel", "Pink gel colour", (1200, 527, 26), (300, 495, 25)),
    _gel("blue_gel", "Blue gel colour", (2400, 628, 26), (700, 590, 26)),
    _butter("blue_butter", "Blue cocoa butter", (300, 628, 30), (90, 590, 26)),
    _butter("red_butter", "Red cocoa butter", (250, 510, 36), (90, 548, 20)),
    Ingredient("white_dispersion", "White dispersion", WHITE, Curve(0.4, tails=((6, 25),)),
               Curve(150, power=-0.3), cap_share=0.03, fat_fraction=0.6),
    Ingredient("cocoa_butter", "Cocoa butter", FAT, family="cocoa", fat_fraction=1.0),
    Ingredient("palm_flakes", "Palm flakes", FAT, family="palm", fat_fraction=1.0),
    Ingredient("coconut_oil", "Coconut oil", FAT, family="palm", fat_fraction=1.0),
    Ingredient("shortening", "Shortening", FAT, family="palm", fat_fraction=1.0),
    Ingredient("liquid_oil", "Liquid oil", FAT, fat_fraction=1.0),
    Ingredient("water", "Water", WATER, unit_g=0.05, water_fraction=1.0),
)  # fmt: skip

DEMO_INGREDIENTS: Mapping[str, Ingredient] = MappingProxyType({i.name: i for i in _ALL})


def demo_ingredient(name: str) -> Ingredient:
    """The demo ingredient called `name`. Raises UnknownName."""
    if name not in DEMO_INGREDIENTS:
        raise UnknownName(
            f"There is no ingredient called {name[:60]!r}.",
            field="ingredient",
            choices=list(DEMO_INGREDIENTS),
        )
    return DEMO_INGREDIENTS[name]
