"""The reckoning: what is wanted, in a kitchen, from a shelf, worked out once. Pure: no clock, no order of questions."""

from __future__ import annotations

from collections.abc import Sequence

from coating.colour.mixing import Part
from coating.errors import OutOfBounds
from coating.heat.setting import SETS_AT_C
from coating.heat.times import sets_where
from coating.job.bowls import PLAIN, bowl_of, flow_for, groups_of
from coating.job.kitchen import Kitchen
from coating.job.lines import in_colours, key_of, lines_of
from coating.job.reckoning import Bowl, Line, Reckoning
from coating.job.shelf import Shelf
from coating.job.steps import steps_of
from coating.job.wanted import Wanted

MOST_PIECES = 400
ORDINARY_MM = 2.0
SOFTENS = (
    "It does not set in so warm a room, and what comes out of the cold softens again: keep it cold until it is "
    "served, on the way there too."
)
NEVER_SETS = "It is too warm for it to set in the room, and there is no cold place: cool the room, or find a fridge."


def reckon(wanted: Wanted, kitchen: Kitchen, shelf: Shelf, *, steps: bool = True) -> Reckoning:
    """What a job comes to.

    Parameters
    ----------
    wanted : Wanted
        Pieces, parts that go on them, colours.
    kitchen : Kitchen
        How it melts, sets and measures, and what there is.
    shelf : Shelf
        What there is to make it from.
    steps : bool
        Whether what is done is worked out too.

    Returns
    -------
    Reckoning
        Lines, bowls, steps, stock. What cannot be had from the shelf is a caution of its bowl.

    Raises
    ------
    OutOfBounds
        Parts in a circle, more in a mould than it holds, or a value outside its bounds.
    UnknownName
        A joint names no piece.
    """
    if len(wanted.pieces) > MOST_PIECES:
        raise OutOfBounds(f"A job can have at most {MOST_PIECES} kinds of pieces.", field="pieces", high=MOST_PIECES)
    wanted, shelf = wanted.told(), shelf.learned(kitchen.factors)
    counts = wanted.counts()
    groups, keys = groups_of(wanted, shelf)
    flows = {}
    for piece in wanted.pieces:
        for layer in piece.layers:
            name = layer.window_for(piece.kind, piece.core)
            for part in in_colours(layer) if name else ():
                group = groups.get(keys.get(key_of(layer.id, part), ""))
                flows[key_of(layer.id, part)] = flow_for(group.flow, name, group.white) if group else None
    lines: list[Line] = []
    for piece in wanted.pieces:
        lines += lines_of(piece, *counts[piece.id], kitchen, flows, keys)
    by_bowl: dict[str, list[Line]] = {}
    for line in lines:
        if line.bowl:
            by_bowl.setdefault(line.bowl, []).append(line)
    bowls = [
        bowl_of(groups[key], mine, wanted.colours.get(groups[key].colour, PLAIN), kitchen, shelf)
        for key, mine in by_bowl.items()
    ]
    done, holds, moved = steps_of(wanted, counts, lines, bowls, kitchen) if steps else ((), (), ())
    stock = _stock(bowls)
    return Reckoning(
        tuple(lines),
        tuple(bowls),
        tuple(done),
        tuple(holds),
        stock,
        _money(stock, shelf),
        _cautions(bowls, kitchen),
        tuple(moved),
        counts,
    )


def _stock(bowls: Sequence[Bowl]) -> tuple[Part, ...]:
    parts: dict[str, Part] = {}
    for bowl in bowls:
        fat = [Part(bowl.thinner, bowl.thinner_g)] if bowl.thinner and bowl.thinner_g > 0 else []
        for part in (*bowl.parts, *fat):
            had = parts.get(part.ingredient.name)
            parts[part.ingredient.name] = Part(part.ingredient, part.mass_g + (had.mass_g if had else 0.0))
    return tuple(parts.values())


def _money(stock: Sequence[Part], shelf: Shelf) -> float | None:
    """What it costs, where all of it has a price."""
    known = [shelf.prices.get(part.ingredient.name) for part in stock]
    if not stock or any(price is None for price in known):
        return None
    return sum(part.mass_g * (price or 0.0) for part, price in zip(stock, known, strict=True))


def _cautions(bowls: Sequence[Bowl], kitchen: Kitchen) -> tuple[str, ...]:
    """What has to be said of the whole job: of a room in which it stays or gets soft."""
    if any(
        not set(sets_where("coat", ORDINARY_MM, white=b.white, room_c=kitchen.room_c)) & set(kitchen.wheres)
        for b in bowls
    ):
        return (NEVER_SETS,)
    soft = [bowl for bowl in bowls if kitchen.room_c >= SETS_AT_C[bowl.white] - 2]
    return (SOFTENS,) if soft else ()
