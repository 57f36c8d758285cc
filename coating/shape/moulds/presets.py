"""Moulds to begin with, by their shape; or as large as the water that fills them says.

Sizes are what shops sell: common practice, no source.
"""

from __future__ import annotations

from dataclasses import dataclass
from types import MappingProxyType

from coating.errors import OutOfBounds, UnknownName
from coating.limits import check
from coating.shape.moulds.cavity import Cavity, Cone, Dome, Tray
from coating.shape.moulds.shaped import Shaped


@dataclass(frozen=True)
class Preset:
    """A mould to begin with: its picture is its shape. `detail_mm`: the finest groove of it. `cavities`: in one
    mould."""

    name: str
    title: str
    says: str
    cavity: Cavity
    cavities: int
    detail_mm: float = 2.0


PRESETS = MappingProxyType(
    {
        p.name: p
        for p in (
            Preset("praline", "Praline", "a thumb across", Cone(29, 24, 15), 24),
            Preset("half_ball", "Half ball", "an egg cup", Dome(40, 40, 20), 15),
            Preset("big_dome", "Big dome", "a hand across", Dome(120, 120, 60), 2),
            Preset("long_dome", "Long dome", "a small boat", Dome(140, 90, 40), 2),
            Preset("bar", "Bar", "a phone, thin", Tray(140, 65, 9), 3, 1.5),
            Preset("lolly", "Lolly", "two coins thick", Cone(55, 50, 8), 6),
            Preset("letters", "Letters and fine shapes", "a stamp", Tray(30, 18, 6), 20, 0.8),
            Preset("small_parts", "Small parts", "a fingernail", Dome(14, 12, 5), 30, 0.8),
            Preset("cup", "Cup", "a muffin", Cone(65, 50, 40), 6),
            Preset("cube", "Cube", "a die, large", Tray(28, 28, 28), 15),
            Preset("heart", "Heart", "a large coin", Shaped(34, 32, 14, shape="heart"), 15),
            Preset("big_heart", "Big heart", "a hand across", Shaped(130, 120, 40, shape="heart"), 1),
            Preset("crescent", "Crescent", "a finger long", Shaped(36, 52, 12, shape="crescent"), 12),
            Preset("fin", "Fin", "a fingernail", Shaped(15, 18, 5, shape="fin"), 20, 1.0),
            Preset("leaf", "Leaf", "a finger long", Shaped(60, 28, 8, shape="leaf"), 12, 1.0),
        )
    }
)


def preset(name: str) -> Preset:
    """Raises UnknownName."""
    if name not in PRESETS:
        raise UnknownName(f"There is no mould called {name[:40]!r}.", field="preset", choices=list(PRESETS))
    return PRESETS[name]


def from_water(cavity: Cavity, water_g: float, cavities: int) -> Cavity:
    """The same shape, as large as the water that fills so many cavities weighs. Raises OutOfBounds."""
    many = int(check("cavities", cavities))
    if check("mass_g", water_g, "water_g") <= 0:
        raise OutOfBounds("Weigh the water that fills it.", field="water_g")
    return cavity.for_ml(water_g / many)
