"""Boxes: how many pieces lie in one, does the lid close, and how many boxes."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache
from types import MappingProxyType

from rectpack import SORT_SSIDE, newPacker

from coating.errors import OutOfBounds
from coating.limits import check
from coating.piece.cores import Block, Core, Disc, Hollow, Rod, Sheet, Twist
from coating.piece.kinds import CoreKind
from coating.stack.joints import INTO, ring, stands
from coating.stack.layers import Layer
from coating.techniques import technique
from coating.techniques.part import INSIDE_IT, PAIRS, ROUND, STANDING, TOP

HANDLING_L = 1.0  # a box more is as much of a nuisance as a litre more of room
GAP_MM, LID_ROOM_MM = 3.0, 4.0  # between pieces, and under the lid; common practice, no source


@dataclass(frozen=True)
class Box:
    """A box from inside, mm. With an insert of holes it holds as many as it has holes, in one layer."""

    length_mm: float
    width_mm: float
    height_mm: float
    holes: int = 0
    hole_mm: float = 0.0

    def __post_init__(self) -> None:
        for name in ("length_mm", "width_mm", "height_mm"):
            check("core_mm", getattr(self, name), name)


# Boxes that shops sell, from inside, mm; common practice, no source.
USUAL_BOXES: Mapping[str, Box] = MappingProxyType(
    {
        "bag": Box(120, 80, 60),
        "small": Box(120, 120, 50),
        "long": Box(240, 80, 45),
        "flat": Box(250, 180, 45),
        "deep": Box(200, 200, 100),
        "cake": Box(260, 260, 150),
        "tall cake": Box(260, 260, 260),
        "four holes": Box(160, 160, 90, 4, 66),
        "twelve holes": Box(330, 240, 90, 12, 66),
    }
)
BOX_WORDS = {
    "bag": "clear bag",
    "small": "small box",
    "long": "long box",
    "flat": "flat box",
    "deep": "deep box",
    "cake": "cake box",
    "tall cake": "tall cake box",
    "four holes": "insert of four",
    "twelve holes": "insert of twelve",
}
STICK_MM, BREAKS_TO_MM, SLAB_MM = 90.0, 60.0, 8.0


def lying(kind: CoreKind, core: Core, techniques: Sequence[str], *, whole: bool = False) -> tuple[float, float, float]:
    """How a piece of a kind lies in a box: across, along and high, mm, with its coat, its topping and its stick.

    What is on a stick lies on its side; a slab is broken first, unless it stays whole because something is on it.
    """
    a, b, c = (core.across_mm, core.length_mm, SLAB_MM) if whole and kind.name == "slab" else _bare(kind, core)
    made = [technique(name) for name in techniques]
    more = 2 * max((t.round_mm for t in made), default=0.0)
    top = max((t.stands_mm for t in made), default=0.0)
    a, b, c = a + more, b + more, c + more + top
    if "stick" in techniques:
        return max(a, c) if kind.figure != "round" else a, max(b, c) + STICK_MM, min(a, c)
    return a, b, c


def with_part(
    lies: tuple[float, float, float],
    kind: CoreKind,
    layer: Layer,
    part: tuple[float, float, float],
    seen_mm: tuple[float, float],
    *,
    on_stick: bool = False,
) -> tuple[float, float, float]:
    """The same with so many parts on it.

    Parameters
    ----------
    lies : how it lies without them, across, along and high, mm. kind, layer : what it is, and how many, where and how.
    part : how one of them lies by itself; seen_mm : how wide and high it is as it is put on. on_stick : it lies on its
    back.
    """
    across, along, high = lies
    thick, (wide, tall) = min(part), seen_mm
    where, upright = layer.where, stands(kind) and not on_stick
    if layer.placed == INSIDE_IT:
        return lies
    if where == PAIRS:
        return across + 2 * wide * (1 - INTO), max(along, tall), high
    if where == STANDING and not on_stick:
        return across, along, high + tall
    if where in (TOP, STANDING):
        return (across, along, high + thick) if upright or not on_stick else (across, along + tall, high)
    if where == ROUND and upright:
        return across + 2 * thick, along + 2 * thick, max(high, tall)
    if where == ROUND:
        reach, fits = ring(layer.count, seen_mm, min(across, along) / 2)
        side = 2 * reach + tall
        return (across, along, high + thick) if fits else (max(across, side), max(along, side), max(high, thick))
    return (across, along + thick, high) if upright else (across, along, high + thick)


def lie_in_all(kind: CoreKind, core: Core, count: int, *, whole: bool = False) -> int:
    """How many there are to pack: a slab is broken first, unless it stays whole."""
    if kind.name != "slab" or whole:
        return count
    return max(1, round(core.top_mm2 / BREAKS_TO_MM**2)) * count


def _bare(kind: CoreKind, core: Core) -> tuple[float, float, float]:
    if isinstance(core, Disc):
        return core.diameter_mm, core.diameter_mm, core.thickness_mm
    if isinstance(core, Block):
        return core.width_mm, core.long_mm, core.thickness_mm
    if isinstance(core, Twist):
        return core.width_mm, core.length_mm, 2 * core.string_mm
    if isinstance(core, Rod):
        return core.diameter_mm, core.long_mm, core.diameter_mm
    if isinstance(core, Sheet):
        if kind.name == "slab":
            return min(core.width_mm, BREAKS_TO_MM), min(core.long_mm, BREAKS_TO_MM), SLAB_MM
        return core.width_mm, core.long_mm, 4.0
    if isinstance(core, Hollow):
        return core.top_diameter_mm, core.top_diameter_mm, core.depth_mm
    return core.across_mm, core.across_mm, core.length_mm


@dataclass(frozen=True)
class Packed:
    """Pieces in a layer, layers, pieces in a box, boxes for all, and what is free under the lid, mm."""

    in_layer: int
    layers: int
    in_box: int
    boxes: int
    free_mm: float


def packed(
    box: Box,
    count: int,
    *,
    across_mm: float,
    along_mm: float,
    high_mm: float,
    layers: int = 1,
    shred_mm: float = 0.0,
    sheet_mm: float = 2.0,
) -> Packed:
    """How pieces lie in a box, side by side in rows, turned if more fit so.

    Parameters
    ----------
    across_mm, along_mm, high_mm : of a piece as it lies. layers : at most, with a sheet of `sheet_mm` between.
    shred_mm : under them.

    Raises
    ------
    OutOfBounds : a piece larger than the box or its hole, or higher than the lid allows.
    """
    check("count", count)
    for name, value in (("across_mm", across_mm), ("along_mm", along_mm), ("high_mm", high_mm)):
        check("core_mm", value, name)
    room = box.height_mm - shred_mm - LID_ROOM_MM
    if high_mm > room:
        raise OutOfBounds(
            "The lid does not close. It leaves {most_mm}, and the piece is {high_mm} high.",
            most_mm=room,
            high_mm=high_mm,
            field="high_mm",
        )
    if box.holes:
        if max(across_mm, along_mm) > box.hole_mm:
            raise OutOfBounds(
                "The piece is too large for the holes, which are {hole_mm} across.",
                hole_mm=box.hole_mm,
                field="across_mm",
            )
        return Packed(box.holes, 1, box.holes, math.ceil(count / box.holes), box.height_mm - shred_mm - high_mm)
    most = max(_rows(box, across_mm, along_mm), _rows(box, along_mm, across_mm))
    if most == 0:
        raise OutOfBounds("The piece is larger than the box.", field="across_mm")
    fit = max(1, min(layers, int((room + sheet_mm) // (high_mm + sheet_mm))))
    used = fit * high_mm + (fit - 1) * sheet_mm
    return Packed(most, fit, most * fit, math.ceil(count / (most * fit)), box.height_mm - shred_mm - used)


FINE = 10  # packed in tenths of a mm
Lies = tuple[float, float, float]
Seat = tuple[float, float, float, float]


def packed_mix(box: Box, pieces: Sequence[Lies], *, shred_mm: float = 0.0) -> list[Seat]:
    """Where pieces of several kinds lie in one box, in one layer, each as `seats` has it, in their order.

    Raises OutOfBounds where they do not fit, or the lid does not close over one.
    """
    room = box.height_mm - shred_mm - LID_ROOM_MM
    if pieces and (tallest := max(high for _, _, high in pieces)) > room:
        raise OutOfBounds(
            "The lid does not close. It leaves {most_mm}, and a piece is {high_mm} high.", most_mm=room, high_mm=tallest
        )
    if box.holes:
        widest = max((max(across, along) for across, along, _ in pieces), default=0.0)
        if len(pieces) > box.holes or widest > box.hole_mm:
            raise OutOfBounds(
                f"Its insert has {box.holes} holes of {{hole_mm}}, which is not enough for these.", hole_mm=box.hole_mm
            )
        return seats(box, Packed(box.holes, 1, box.holes, 1, 0.0), 0.0, 0.0)[: len(pieces)]
    packer = newPacker(sort_algo=SORT_SSIDE)
    for i, (across, along, _) in enumerate(pieces):
        packer.add_rect(*(math.ceil(FINE * (mm + GAP_MM)) for mm in (across, along)), rid=i)
    packer.add_bin(*(math.floor(FINE * (mm + GAP_MM)) for mm in (box.length_mm, box.width_mm)))
    packer.pack()
    by_id = {
        rid: (x / FINE, y / FINE, wide / FINE - GAP_MM, deep / FINE - GAP_MM)
        for _, x, y, wide, deep, rid in packer.rect_list()
    }
    if len(by_id) < len(pieces):
        raise OutOfBounds("They do not all fit in one layer. Pack fewer, or take a larger box.")
    return [by_id[i] for i in range(len(pieces))]


@lru_cache(maxsize=2048)
def best_box(count: int, across_mm: float, along_mm: float, high_mm: float) -> str:
    """Which of the usual boxes holds them with the least room and the fewest boxes; "" when none closes over them."""
    fitting = []
    for name, box in USUAL_BOXES.items():
        try:
            fit = packed(box, count, across_mm=across_mm, along_mm=along_mm, high_mm=high_mm)
        except OutOfBounds:
            continue
        litres = box.length_mm * box.width_mm * box.height_mm * 1e-6
        fitting.append((fit.boxes * (litres + HANDLING_L), name))
    return min(fitting)[1] if fitting else ""


def seats(box: Box, packed_: Packed, across_mm: float, along_mm: float) -> list[tuple[float, float, float, float]]:
    """Where pieces lie in the first layer, seen from above: x, y, width and depth in mm, from a corner of the box."""
    if box.holes:
        columns = max(1, round(math.sqrt(box.holes * box.length_mm / box.width_mm)))
        rows = -(-box.holes // columns)
        size = box.hole_mm
        apart_x, apart_y = box.length_mm / columns, box.width_mm / rows
        return [
            ((i % columns + 0.5) * apart_x - size / 2, (i // columns + 0.5) * apart_y - size / 2, size, size)
            for i in range(box.holes)
        ]
    wide, deep = (across_mm, along_mm)
    if _rows(box, along_mm, across_mm) > _rows(box, across_mm, along_mm):
        wide, deep = along_mm, across_mm
    columns = int((box.length_mm + GAP_MM + 1e-9) // (wide + GAP_MM))
    rows = packed_.in_layer // columns
    free_x = (box.length_mm - columns * wide) / (columns + 1)
    free_y = (box.width_mm - rows * deep) / (rows + 1)
    return [
        (free_x + i % columns * (wide + free_x), free_y + i // columns * (deep + free_y), wide, deep)
        for i in range(packed_.in_layer)
    ]


def _rows(box: Box, across_mm: float, along_mm: float) -> int:
    lengthwise = int((box.length_mm + GAP_MM + 1e-9) // (across_mm + GAP_MM))
    return lengthwise * int((box.width_mm + GAP_MM + 1e-9) // (along_mm + GAP_MM))
