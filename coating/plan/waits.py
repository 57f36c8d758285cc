"""When what was made of a bowl can be touched, handled and bent: by shape, and by the places there are."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, replace

from coating.errors import OutOfBounds
from coating.heat.alduchov_eskridge1996 import wet_min
from coating.heat.setting import Pliable, Setting
from coating.heat.times import SettingShape, around_c, bend_window, set_time, shape_called

DAMP_AT = 0.6  # ordinary kitchen, relative humidity


@dataclass(frozen=True)
class Wait:
    """In one place: when it can be touched and handled, from when until when it bends (None where it does not), and
    for how many minutes it is damp when it comes out; `setting` None: it is too warm there."""

    place: str
    setting: Setting | None
    pliable: Pliable | None = None
    damp_min: float = 0.0

    def slower(self, times: float) -> Wait:
        """Where everything takes so many times as long to set and to bend."""
        if times == 1.0 or self.setting is None:
            return self
        bends = self.pliable and self.pliable.slower(times)
        return replace(self, setting=self.setting.slower(times), pliable=bends)


def waits(
    shape: str,
    thickness_mm: float,
    *,
    pour_c: float,
    room_c: float,
    white: str,
    places: Iterable[str],
    slower: float = 1.0,
) -> tuple[Wait, ...]:
    """What a shape of a white does in each of some places.

    Parameters
    ----------
    shape : one of SHAPES. thickness_mm : mm. pour_c, room_c : degC. white : coating, tempered or untempered.
    places : of "room", "fridge", "freezer", in the order wanted. slower : how many times as long it takes here.

    Raises
    ------
    UnknownName : no such shape. OutOfBounds : a value outside its bounds.
    """
    kind = shape_called(shape)
    return tuple(_wait(kind, thickness_mm, pour_c, room_c, white, place).slower(slower) for place in places)


def _wait(shape: SettingShape, thickness_mm: float, pour_c: float, room_c: float, white: str, place: str) -> Wait:
    try:
        setting = set_time(shape.name, thickness_mm, place, white=white, room_c=room_c, pour_c=pour_c)
    except OutOfBounds as refusal:
        if refusal.fields.get("field") != "surround_c":
            raise
        return Wait(place, None)
    pliable = None
    if shape.bends:
        pliable = bend_window(shape.name, thickness_mm, place, white=white, room_c=room_c, pour_c=pour_c)
    damp_min = 0.0 if place == "room" else _damp_min(shape, thickness_mm, around_c(place, room_c), room_c)
    return Wait(place, setting, pliable, damp_min)


def _damp_min(shape: SettingShape, thickness_mm: float, around_c: float, room_c: float) -> float:
    """A coat warms with the whole piece it is on, everything else by itself."""
    if shape.name == "coat":
        return wet_min(around_c, room_c=room_c, relative_humidity=DAMP_AT)
    given = {"thickness_mm": thickness_mm, "sides": shape.sides}
    return wet_min(around_c, room_c=room_c, relative_humidity=DAMP_AT, **given)
