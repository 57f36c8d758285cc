"""When what was made of a bowl can be touched, handled and bent: by shape, and by the places there are."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from contextlib import suppress
from dataclasses import dataclass
from types import MappingProxyType
from typing import Any

from coating.errors import OutOfBounds, UnknownName
from coating.heat.alduchov_eskridge1996 import wet_min
from coating.heat.setting import PLACES_C, RELEASE, Pliable, Setting, pliable_window, setting_time

DAMP_AT = 0.6  # ordinary kitchen, relative humidity


@dataclass(frozen=True)
class Shape:
    """Something that sets: an ordinary thickness in mm, the sides that give off heat, the share of the heat of setting
    that is gone when it can be handled, and whether it is bent on the way. Sides and shares are assumptions."""

    name: str
    title: str
    thickness_mm: float
    sides: float
    release: float = RELEASE
    bends: bool = False


SHAPES: Mapping[str, Shape] = MappingProxyType(
    {
        s.name: s
        for s in (
            Shape("coat", "a coat on a piece", 1.3, 1.0),
            Shape("line", "a line on paper", 2.0, 1.0, bends=True),
            Shape("film", "a sheet on film", 2.0, 1.0, bends=True),
            Shape("strip", "a strip hanging free", 2.0, 2.0, bends=True),
            Shape("mould", "a filled mould", 8.0, 1.6),
            Shape("bits", "small bits", 2.0, 1.5, 0.5),
        )
    }
)


@dataclass(frozen=True)
class Wait:
    """In one place: when it can be touched and handled, from when until when it bends (None where it does not), and
    for how many minutes it is damp when it comes out; `setting` None: it is too warm there."""

    place: str
    setting: Setting | None
    pliable: Pliable | None = None
    damp_min: float = 0.0


def waits(
    shape: str, thickness_mm: float, *, pour_c: float, room_c: float, white: str, places: Iterable[str]
) -> tuple[Wait, ...]:
    """What a shape of a white does in each of some places.

    Parameters
    ----------
    shape : one of SHAPES. thickness_mm : mm. pour_c, room_c : degC. white : coating, tempered or untempered.
    places : of "room", "fridge", "freezer", in the order wanted.

    Raises
    ------
    UnknownName : no such shape. OutOfBounds : a value outside its bounds.
    """
    if shape not in SHAPES:
        raise UnknownName("That is not a shape we know how to wait for.", field="shape", choices=list(SHAPES))
    return tuple(_wait(SHAPES[shape], thickness_mm, pour_c, room_c, white, place) for place in places)


def _wait(shape: Shape, thickness_mm: float, pour_c: float, room_c: float, white: str, place: str) -> Wait:
    around = {"room": room_c, **PLACES_C}[place]
    given: dict[str, Any] = {
        "surround_c": around,
        "place": place,
        "white": white,
        "sides": shape.sides,
        "pour_c": pour_c,
    }
    try:
        setting = setting_time(thickness_mm, release=shape.release, **given)
    except OutOfBounds as refusal:
        if refusal.fields.get("field") != "surround_c":
            raise
        return Wait(place, None)
    pliable = None
    with suppress(OutOfBounds):
        pliable = pliable_window(thickness_mm, **given) if shape.bends else None
    return Wait(place, setting, pliable, _damp_min(shape, thickness_mm, around, room_c) if place != "room" else 0.0)


def _damp_min(shape: Shape, thickness_mm: float, around_c: float, room_c: float) -> float:
    """A coat warms with the whole piece it is on, everything else by itself."""
    if shape.name == "coat":
        return wet_min(around_c, room_c=room_c, relative_humidity=DAMP_AT)
    given = {"thickness_mm": thickness_mm, "sides": shape.sides}
    return wet_min(around_c, room_c=room_c, relative_humidity=DAMP_AT, **given)
