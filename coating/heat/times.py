"""How long it takes: to melt, to stay usable, to set, to bend, to be released. Whatever waits asks these.

What sets has a shape: a coat gives off heat towards the air and into its piece, a line to nearly all sides, a mould
through its wall. Sides and shares are assumptions that agree with common practice.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from contextlib import suppress
from dataclasses import dataclass
from functools import lru_cache
from types import MappingProxyType

from coating.errors import OutOfBounds, UnknownName
from coating.heat.cooling import BowlCooling
from coating.heat.melting import coupling, warmth_of
from coating.heat.melting_curve import SPECIFIC_HEAT_LIQUID, curve_of
from coating.heat.schools import BATH_C, ORDINARY_W, SCHOOLS, MeltingWay, bath_rewarm_s, melting_way
from coating.heat.setting import PLACES_C, POURED_C, RELEASE, Pliable, Setting, pliable_window, setting_time

LONGEST_S = 3600.0  # a bowl is looked at and warmed at least once an hour
LEAST_G = 50.0  # of which a bowl is reckoned to cool


@dataclass(frozen=True)
class SettingShape:
    """Something that sets: an ordinary thickness in mm, the sides that give off heat, the share of the heat of setting
    that is gone when it can be handled, and whether it is bent on the way."""

    name: str
    title: str
    thickness_mm: float
    sides: float
    release: float = RELEASE
    bends: bool = False


SHAPES: Mapping[str, SettingShape] = MappingProxyType(
    {
        s.name: s
        for s in (
            SettingShape("coat", "a coat on a piece", 1.3, 1.8),
            SettingShape("line", "a line on paper", 1.4, 1.6, bends=True),
            SettingShape("film", "a sheet on film", 2.0, 1.3, bends=True),
            SettingShape("strip", "a strip hanging free", 2.0, 2.0, bends=True),
            SettingShape("mould", "a filled mould, thin plastic", 8.0, 1.6),
            SettingShape("silicone", "a filled mould, silicone", 6.0, 1.3),
            SettingShape("cup", "a cup in layers", 5.0, 1.6),
            SettingShape("slab", "a slab on a tray", 3.0, 1.0),
            SettingShape("bits", "small bits", 2.0, 2.2, 0.5),
        )
    }
)


def shape_called(name: str) -> SettingShape:
    """The shape of that name. Raises UnknownName."""
    if name not in SHAPES:
        raise UnknownName("There is no setting time for that shape.", field="shape", choices=list(SHAPES))
    return SHAPES[name]


def around_c(place: str, room_c: float) -> float:
    """How warm it is in "room", "fridge" or "freezer", degC."""
    return room_c if place == "room" else PLACES_C[place]


def first_place(sets: Mapping[str, Setting], *wanted: str) -> str:
    """The first of some places where it sets at all, else the room."""
    return next((place for place in (*wanted, "room", *PLACES_C) if place in sets), "room")


def melt_time(
    mass_g: float,
    *,
    white: str,
    chocolate: str = "white",
    room_c: float = 21.0,
    school: str = "half_power",
    power_w: float = ORDINARY_W,
) -> MeltingWay:
    """How a school melts a mass in g of a white: bursts and all heating in s. Refusals as `melting_way`."""
    start_c, target_c = min(room_c, 30.0), warmth_of(white, chocolate).melt_to_c
    return melting_way(school, mass_g, start_c=start_c, target_c=target_c, power_w=power_w, curve=curve_of(white))


def rewarm_time(
    mass_g: float, *, white: str, chocolate: str = "white", school: str = "half_power", power_w: float = ORDINARY_W
) -> float:
    """Seconds of heating that bring a bowl which gets too stiff back to where it is worked; what is in temper is never
    taken further."""
    warmth, way = warmth_of(white, chocolate), SCHOOLS[school]
    if way.heat == "hob":
        return bath_rewarm_s(mass_g, start_c=warmth.floor_c, target_c=warmth.work_at_c, bath_c=BATH_C[school])
    taken_w = power_w * way.power_fraction * coupling(mass_g)
    return mass_g / 1000 * SPECIFIC_HEAT_LIQUID * (warmth.work_at_c - warmth.floor_c) / taken_w


def usable_time(
    mass_g: float, *, white: str, chocolate: str = "white", room_c: float = 21.0, loss: float = 1.0
) -> float:
    """Seconds that a bowl of a mass in g stays between where it is worked and where it gets too stiff; an hour at
    most. `loss`: how many times the heat that is assumed it loses."""
    warmth = warmth_of(white, chocolate)
    left_s = BowlCooling(max(LEAST_G, mass_g), room_c, loss).time_to_s(warmth.work_at_c, warmth.floor_c)
    return LONGEST_S if math.isinf(left_s) else min(LONGEST_S, left_s)


def set_time(
    shape: str, thickness_mm: float, place: str, *, white: str, room_c: float = 21.0, pour_c: float | None = None
) -> Setting:
    """Minutes until something is dry to the touch, and until it can be released.

    Parameters
    ----------
    shape : one of SHAPES. thickness_mm : mm. place : "room", "fridge" or "freezer". white : coating, tempered or
    untempered. room_c, pour_c : degC; None: as warm as that white is poured.

    Raises
    ------
    UnknownName : no such shape. OutOfBounds : it is too warm there to set, or a value outside its bounds.
    """
    kind = shape_called(shape)
    return setting_time(
        thickness_mm,
        pour_c=POURED_C[white] if pour_c is None else pour_c,
        surround_c=around_c(place, room_c),
        place=place,
        white=white,
        sides=kind.sides,
        release=kind.release,
    )


@lru_cache(maxsize=4096)
def sets_where(
    shape: str, thickness_mm: float, *, white: str, room_c: float = 21.0, pour_c: float | None = None
) -> Mapping[str, Setting]:
    """The same in the fridge, the freezer and the room, without the places that are too warm."""
    settings = {}
    for place in (*PLACES_C, "room"):
        with suppress(OutOfBounds):
            settings[place] = set_time(shape, thickness_mm, place, white=white, room_c=room_c, pour_c=pour_c)
    return MappingProxyType(settings)


def slower(sets: Mapping[str, Setting], times: float) -> Mapping[str, Setting]:
    """The same times, so many times as long."""
    if times == 1.0:
        return sets
    return {place: s.slower(times) for place, s in sets.items()}


def bend_window(
    shape: str,
    thickness_mm: float,
    place: str,
    *,
    white: str,
    room_c: float = 21.0,
    pour_c: float | None = None,
    carried: bool = False,
) -> Pliable:
    """Minutes from which it can be lifted and until which it bends; on the paper or film that carries it from the
    start. Parameters and refusals as `set_time`."""
    pliable = pliable_window(
        thickness_mm,
        surround_c=around_c(place, room_c),
        place=place,
        white=white,
        sides=shape_called(shape).sides,
        pour_c=pour_c,
    )
    return Pliable(0.0, pliable.until_min) if carried else pliable
