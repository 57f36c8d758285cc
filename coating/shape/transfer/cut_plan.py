"""How pieces lie on sheets: as few sheets as can be found, the pattern's direction kept, a cutting gap between all.

Every piece and the sheet grow by one gap, so that pieces without one fit in the same way. Several ways to lay
rectangles are tried (rectpack); where they take more sheets than the areas do and the pieces are few, a solver looks
for better.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from functools import cached_property
from itertools import product
from typing import Any

from coating.errors import OutOfBounds
from coating.limits import check
from coating.shape.transfer.straight import Box, Cut, cuts

UNIT_MM = 0.1
MOST_PIECES, FEW = 400, 14
SOLVER_S = 0.7


@dataclass(frozen=True)
class WantedPieces:
    """A piece in mm, how many, and whether it may be turned on the sheet."""

    width_mm: float
    height_mm: float
    count: int = 1
    may_turn: bool = False


@dataclass(frozen=True)
class PlacedPiece:
    """Where a piece lies, mm from the left upper corner of its sheet, and which of those wanted it is."""

    sheet: int
    x_mm: float
    y_mm: float
    width_mm: float
    height_mm: float
    piece: int


@dataclass(frozen=True)
class CutPlan:
    """Pieces on sheets, with the gap between them, mm."""

    sheet_mm: tuple[float, float]
    kerf_mm: float
    placed: tuple[PlacedPiece, ...]

    @property
    def sheets(self) -> int:
        """How many transfer sheets are used."""
        return 1 + max((p.sheet for p in self.placed), default=-1)

    @property
    def waste_fraction(self) -> float:
        """Which share of them is cut away."""
        used = sum(p.width_mm * p.height_mm for p in self.placed)
        return 1 - used / (self.sheets * self.sheet_mm[0] * self.sheet_mm[1]) if self.placed else 0.0

    @cached_property
    def cuts(self) -> tuple[tuple[Cut, ...] | None, ...]:
        """Straight cuts of each sheet, in whole units of a tenth of a mm; None where there are none that free all."""
        grown = _sheet_units(self.sheet_mm, self.kerf_mm)
        pieces = []
        for sheet in range(self.sheets):
            made = cuts([_box(p, self.kerf_mm) for p in self.placed if p.sheet == sheet], grown)
            pieces.append(None if made is None else tuple(made))
        return tuple(pieces)

    @property
    def straight_cuts(self) -> bool:
        """Whether edge-to-edge cuts free every piece of every sheet."""
        return all(made is not None for made in self.cuts)


Spot = tuple[int, int, int, int, int, int]  # sheet, x, y, width, height, piece, in whole units


def cut_plan(
    sheet_mm: tuple[float, float], wanted: Sequence[WantedPieces], *, kerf_mm: float = 1.0, solver_s: float = SOLVER_S
) -> CutPlan:
    """Lay pieces on as few sheets as are found; of as few those that straight cuts free.

    Parameters
    ----------
    sheet_mm : tuple of float
        Width and height, mm; the pattern of pieces that may not be turned runs along the width, as the sheet's does.
    wanted : sequence of WantedPieces
    kerf_mm : float
        The gap for the knife, mm.
    solver_s : float
        How long the solver may look, s.

    Returns
    -------
    CutPlan

    Raises
    ------
    OutOfBounds
        Nothing wanted, too many, a piece larger than the sheet, or a value outside its bounds.
    """
    sheet = (check("slab_mm", sheet_mm[0], "sheet_mm"), check("slab_mm", sheet_mm[1], "sheet_mm"))
    check("kerf_mm", kerf_mm)
    total = sum(int(check("count", w.count)) for w in wanted)
    if not wanted or total > MOST_PIECES:
        raise OutOfBounds(f"A sheet can have between 1 and {MOST_PIECES} pieces.", field="pieces", high=MOST_PIECES)
    room = _sheet_units(sheet, kerf_mm)
    sizes = []
    for w in wanted:
        size = tuple(_units(check("piece_side_mm", side) + kerf_mm) for side in (w.width_mm, w.height_mm))
        if not any(_fits(turned, room) for turned in _ways(size, w.may_turn)):
            raise OutOfBounds(
                "A piece of {width_mm} by {height_mm} is larger than the sheet.",
                width_mm=w.width_mm,
                height_mm=w.height_mm,
                field="pieces",
            )
        sizes.append(size)
    best = min(_tries(room, wanted, sizes), key=lambda spots: _worth(spots, room))
    least = math.ceil(
        sum(a * b * w.count for (a, b), w in zip(sizes, wanted, strict=True)) / (room[0] * room[1]) - 1e-9
    )
    if max(s[0] for s in best) + 1 > least and total <= FEW and solver_s > 0:
        best = _solved(room, wanted, sizes, max(s[0] for s in best), solver_s) or best
    placed = [
        PlacedPiece(s, x * UNIT_MM, y * UNIT_MM, wide * UNIT_MM - kerf_mm, high * UNIT_MM - kerf_mm, piece)
        for s, x, y, wide, high, piece in sorted(best)
    ]
    return CutPlan(sheet, kerf_mm, tuple(placed))


def _units(mm: float) -> int:
    return round(mm / UNIT_MM)


def _sheet_units(sheet_mm: tuple[float, float], kerf_mm: float) -> tuple[int, int]:
    return _units(sheet_mm[0] + kerf_mm), _units(sheet_mm[1] + kerf_mm)


def _box(placed: PlacedPiece, kerf_mm: float) -> Box:
    return (
        _units(placed.x_mm),
        _units(placed.y_mm),
        _units(placed.width_mm + kerf_mm),
        _units(placed.height_mm + kerf_mm),
    )


def _ways(size: tuple[int, ...], may_turn: bool) -> list[tuple[int, ...]]:
    return [size, size[::-1]] if may_turn and size[0] != size[1] else [size]


def _fits(size: tuple[int, ...], room: tuple[int, int]) -> bool:
    return size[0] <= room[0] and size[1] <= room[1]


def _worth(spots: Sequence[Spot], room: tuple[int, int]) -> tuple[int, int]:
    """Fewest sheets, then those that straight cuts free."""
    sheets = max(s[0] for s in spots) + 1
    straight = all(cuts([s[1:5] for s in spots if s[0] == k], room) is not None for k in range(sheets))
    return sheets, 0 if straight else 1


def _tries(
    room: tuple[int, int], wanted: Sequence[WantedPieces], sizes: Sequence[tuple[int, ...]]
) -> Iterable[list[Spot]]:
    """Every way to lay them that is tried: kinds of packing, orders, and which kinds are turned."""
    import rectpack

    packings = (
        rectpack.GuillotineBssfSas,
        rectpack.GuillotineBafLas,
        rectpack.MaxRectsBssf,
        rectpack.MaxRectsBl,
        rectpack.SkylineMwf,
    )
    turned = [_ways(size, w.may_turn) for size, w in zip(sizes, wanted, strict=True)]
    if len(wanted) == 1:  # of plans as good as each other the first is taken: rows are cut the quickest
        yield from (_in_rows(room, way, wanted[0].count) for way in turned[0] if _fits(way, room))
    chosen = list(product(*turned)) if math.prod(len(ways) for ways in turned) <= 16 else [tuple(sizes)]
    for packing, order, lay in product(packings, (rectpack.SORT_AREA, rectpack.SORT_LSIDE), chosen):
        if all(_fits(size, room) for size in lay):
            yield _packed(rectpack, packing, order, room, wanted, lay, rotation=False)
    if any(w.may_turn for w in wanted) and all(w.may_turn for w in wanted):
        for packing in packings:
            yield _packed(rectpack, packing, rectpack.SORT_AREA, room, wanted, tuple(sizes), rotation=True)


def _in_rows(room: tuple[int, int], size: tuple[int, ...], count: int) -> list[Spot]:
    """Pieces of one size in rows, row upon row."""
    across, down = room[0] // size[0], room[1] // size[1]
    return [
        (i // (across * down), i % across * size[0], i // across % down * size[1], size[0], size[1], 0)
        for i in range(count)
    ]


def _packed(
    rectpack: Any,
    packing: Any,
    order: Any,
    room: tuple[int, int],
    wanted: Sequence[WantedPieces],
    lay: Sequence[tuple[int, ...]],
    *,
    rotation: bool,
) -> list[Spot]:
    packer = rectpack.newPacker(pack_algo=packing, sort_algo=order, rotation=rotation)
    for i, (size, w) in enumerate(zip(lay, wanted, strict=True)):
        for _ in range(w.count):
            packer.add_rect(*size, rid=i)
    packer.add_bin(*room, count=float("inf"))
    packer.pack()
    return [(sheet, x, y, wide, high, rid) for sheet, x, y, wide, high, rid in packer.rect_list()]


def _solved(
    room: tuple[int, int], wanted: Sequence[WantedPieces], sizes: Sequence[tuple[int, ...]], sheets: int, seconds: float
) -> list[Spot] | None:
    """The same on so many sheets at most, by constraints: sheets lie side by side and pieces do not overlap."""
    from ortools.sat.python import cp_model

    model = cp_model.CpModel()
    xs, ys, spans_x, spans_y, solvers = [], [], [], [], []
    for i, (size, w) in enumerate(zip(sizes, wanted, strict=True)):
        for _ in range(w.count):
            turn = model.new_bool_var("") if w.may_turn and size[0] != size[1] else None
            wide = size[0] if turn is None else size[0] + (size[1] - size[0]) * turn
            high = size[1] if turn is None else size[1] + (size[0] - size[1]) * turn
            sheet = model.new_int_var(0, sheets - 1, "")
            off, y = model.new_int_var(0, room[0], ""), model.new_int_var(0, room[1], "")
            x = model.new_int_var(0, room[0] * sheets, "")
            model.add(x == sheet * room[0] + off)
            model.add(off + wide <= room[0])
            model.add(y + high <= room[1])
            spans_x.append(model.new_interval_var(x, wide, _end(model, x, wide, room[0] * sheets), ""))
            spans_y.append(model.new_interval_var(y, high, _end(model, y, high, room[1]), ""))
            xs.append(x)
            ys.append(y)
            solvers.append((i, size, turn, sheet, off))
    model.add_no_overlap_2d(spans_x, spans_y)
    solver = cp_model.CpSolver()
    solver.parameters.max_time_in_seconds = seconds
    solver.parameters.num_workers = 2
    solver.parameters.random_seed = 1
    if solver.solve(model) not in (cp_model.OPTIMAL, cp_model.FEASIBLE):
        return None
    spots = []
    for (i, size, turn, sheet, off), y in zip(solvers, ys, strict=True):
        wide, high = size[::-1] if turn is not None and solver.value(turn) else size
        spots.append((solver.value(sheet), solver.value(off), solver.value(y), wide, high, i))
    used = sorted({spot[0] for spot in spots})
    return [(used.index(spot[0]), *spot[1:]) for spot in spots]


def _end(model: Any, begin: Any, size: Any, most: int) -> Any:
    end = model.new_int_var(0, most, "")
    model.add(end == begin + size)
    return end
