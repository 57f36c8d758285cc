"""How hard it sets: the solid share of the fat at room temperature after other fat went in."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass

from coating.units import GAS_CONSTANT, kelvin

SNAP, SOFT = 0.65, 0.50
ROOMS_FAULT = 0.005  # a softening too small to be the fat's
UNKNOWN_SLOPE = 0.8  # of a fat we know nothing of: as soft as the softest that is solid in a room
FAMILY_LIMIT, SHORTENING_LIQUID = 0.05, 0.8
OWN_FATS = {"chocolate": ("cocoa_butter",), "coating": ("palm_flakes", "coconut_oil", "shortening", "liquid_oil")}
_MELTING_K = 306.45  # handbook anchors, from memory
_HEAT_OF_FUSION_J = 130e3
_LIQUID_IN_COCOA_BUTTER = 0.22
PALM_AT_25 = 0.75
PALM_PER_K = 0.015  # an assumption
PALM_SLOPES = {
    "cocoa_butter": 0.8,
    "palm_flakes": 0.0,
    "coconut_oil": 0.72,
    "shortening": 0.6,
    "liquid_oil": 1.6,
}


def cocoa_butter_solid_fraction(temperature_c: float, *, foreign_share: float = 0.0) -> float:
    """Solid share of cocoa butter with a share of foreign, liquid fat, 0 to 1.

    Ideal solubility: xs = exp[-(130e3/R)(1/T - 1/306.45)], 1 - [.22(1 - x) + x]/(1 - xs).

    Source: derived; anchors 76 / 70 / 46 % at 20 / 25 / 30 degC from memory.

    >>> round(cocoa_butter_solid_fraction(22, foreign_share=0.1), 3)
    0.653
    """
    exponent = -(_HEAT_OF_FUSION_J / GAS_CONSTANT) * (1 / kelvin(temperature_c) - 1 / _MELTING_K)
    dissolved = math.exp(min(exponent, 0.0))
    liquid = _LIQUID_IN_COCOA_BUTTER * (1 - foreign_share) + foreign_share
    if dissolved >= 1 - 1e-9:
        return 0.0
    return min(1.0, max(0.0, 1 - liquid / (1 - dissolved)))


def foreign_share(base: str, added: Mapping[str, float], fat_g: float) -> float:
    """Share of all fat, `fat_g` in g, that is of the other family, from the fats that were added by name, g."""
    own = OWN_FATS[base]
    return sum(g for name, g in added.items() if name not in own) / fat_g if fat_g > 0 else 0.0


def solid_fraction(base: str, added: Mapping[str, float], fat_g: float, room_c: float) -> float:
    """Solid share of the fat of a "chocolate" or a "coating" with the fats that were added to it, 0 to 1.

    Coating is an assumption: .75 at 25 degC, .015 per degree, and a straight line for each fat. Shortening counts in
    chocolate as 80 % liquid.

    Parameters
    ----------
    added : g by name. fat_g : of all fat, the added included. room_c : degC.
    """
    shares = {name: g / fat_g for name, g in added.items()} if fat_g > 0 else {}
    if base == "chocolate":
        liquid = {name: s * (SHORTENING_LIQUID if name == "shortening" else 1.0) for name, s in shares.items()}
        liquid.pop("cocoa_butter", None)
        return cocoa_butter_solid_fraction(room_c, foreign_share=min(1.0, sum(liquid.values())))
    softer = sum(PALM_SLOPES.get(name, UNKNOWN_SLOPE) * share for name, share in shares.items())
    return min(1.0, max(0.0, PALM_AT_25 - PALM_PER_K * (room_c - 25) - softer))


@dataclass(frozen=True)
class Firmness:
    """Solid share of the fat in the room, the verdict "firm", "soft" or "refused", and why."""

    solid_fraction: float
    verdict: str
    reason: str


def firmness(base: str, added: Mapping[str, float], fat_g: float, room_c: float) -> Firmness:
    """How hard it sets with the fats that were added; parameters as for `solid_fraction`.

    Families (limits from memory, common practice): foreign fat in cocoa butter up to 5 % of the fat; cocoa butter in
    palm coating likewise; liquid oil in neither, because the piece never gets hard at room temperature.
    """
    solid = solid_fraction(base, added, fat_g, room_c)
    if added.get("liquid_oil"):
        return Firmness(solid, "refused", "liquid oil keeps a piece soft for good at room temperature")
    if solid < SOFT and solid_fraction(base, {}, fat_g, room_c) - solid > ROOMS_FAULT:
        return Firmness(solid, "refused", "it would not set hard in this room")
    if solid < SOFT:
        return Firmness(solid, "soft", "this room is too warm for it to be hard, with it or without")
    if foreign_share(base, added, fat_g) > FAMILY_LIMIT:
        reason = "more than 5 % of the fat is from the other family: softer, and it may bloom"
        return Firmness(solid, "soft", reason)
    return (
        Firmness(solid, "soft", "softer than a snap")
        if solid < SNAP
        else Firmness(solid, "firm", "it sets with a snap")
    )
