"""A job of rows becomes what the core reckons, and the reckoning is kept as long as nothing it was made of changes."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import replace
from functools import lru_cache
from threading import Lock
from types import MappingProxyType
from typing import Any

from cachetools import LRUCache

from coating.colour.mixing import Part
from coating.job import Kitchen as CoreKitchen
from coating.job import Piece as CorePiece
from coating.job import Reckoning, Shelf, Wanted, reckon
from coating.job import Tone as CoreTone
from coating.piece.cores import Core
from coating.piece.kinds import kind_of_core
from coating.stack.layers import Drawn, Share
from coating.stack.layers import Layer as CoreLayer
from coating.steps import Step
from studio.accounts.models import Kitchen
from studio.colours.models import Colour
from studio.common.models import Change
from studio.cupboard.stock import Stock
from studio.cupboard.tones import Tone
from studio.pieces.known import known_to
from studio.pieces.models import Job, Layer, Piece

DesignSteps = Mapping[int, Sequence[Step]]
"""What the designs of layers do, by the number of the layer."""

NO_STEPS: DesignSteps = MappingProxyType({})
_KEPT = 64
_NO_PLACES: Any = ()
_turn = Lock()
_by_mark: LRUCache[Any, Reckoning] = LRUCache(512)
_known: OrderedDict[Any, tuple[Shelf, Reckoning]] = OrderedDict()


@lru_cache(maxsize=1024)
def _core(name: str, *size_mm: float) -> Core:
    return kind_of_core(name).core(*size_mm)


def core_of(piece: Piece) -> Core:
    """The core of a piece. `size` is versioned JSON: {"v": 3, "mm": [...]}."""
    return _core(piece.core, *piece.size["mm"])


def as_core_layer(plan: Any, steps: Sequence[Step] = ()) -> CoreLayer:
    """A layer of a row or of a plan as the core knows it, with the weight of what it is of, what was drawn of it, and
    the steps of its design where a day is put together."""
    values = {k: v for k, v in plan.parameters.items() if k not in ("v", "also", "others", "drawn")}
    if plan.extra and plan.extra.each_g is not None and values.get("each_g") is None:
        values["each_g"] = plan.extra.each_g
    colour, base = keys_of(plan.tone)
    values |= {
        "id": str(getattr(plan, "pk", None) or ""),
        "drawn": _drawn(plan, steps),
        "apart": getattr(plan, "apart", 0),
        "part": "" if plan.part_id is None else str(plan.part_id),
    }
    return CoreLayer(plan.technique, colour, white=plan.white, base=base, shares=_shares(plan), **values)


def _drawn(plan: Any, steps: Sequence[Step]) -> Drawn | None:
    """What its design says of it; of a mould that is in the cupboard, how many cavities it has."""
    drawn = plan.parameters.get("drawn")
    cavities = plan.extra.cavities if plan.extra and plan.extra.kind == "mould" else None
    if not drawn and not cavities and not steps:
        return None
    drawn = drawn or {}
    moulds = tuple(drawn["moulds"]) if drawn.get("moulds") else (0, cavities or 0)
    return Drawn(
        drawn.get("ml"),
        tuple(steps),
        drawn.get("seconds", 0.0),
        drawn.get("window", ""),
        moulds,
        drawn.get("holes", 0),
        drawn.get("deep", False),
        drawn.get("poured_ml", 0.0),
        drawn.get("pieces", 0),
    )


def _shares(plan: Any) -> tuple[Share, ...]:
    return tuple(Share(*keys_of(other.tone), other.share, other.depth_g) for other in getattr(plan, "others", ()))


def keys_of(tone: Tone) -> tuple[str, str]:
    """A colour and a bag as the reckoning calls them."""
    return str(tone.colour.pk) if tone.colour else "", tone.base.code if tone.base else ""


def window_of(layer: Layer) -> str:
    """The window its bowl has to be in; "" when it needs no bowl."""
    core_layer = as_core_layer(layer)
    return core_layer.window_for(layer.piece.core, core_of(layer.piece)) if core_layer.takes_coating else ""


# -- what is wanted, where and from what ----------------------------------------------------------------------
def kitchen_of(kitchen: Kitchen, job: Job | None = None, **changes: Any) -> CoreKitchen:
    """A kitchen as the core knows it, with what a job goes by, or what was learned."""
    there = {"fridge": kitchen.has_fridge, "freezer": kitchen.has_freezer}
    places = {name: 0 for name, has in there.items() if not has}
    settings = {
        "measures": kitchen.measures,
        "school": kitchen.melting_school,
        "oven_w": kitchen.oven_w,
        "room_c": kitchen.room_c,
        "cold": kitchen.places[0],
        "places": places,
        "paces": tuple(sorted(kitchen.paces.items())),
        "factors": known_to(job, kitchen),
    }
    return CoreKitchen(**{**settings, **changes})


def piece_of(piece: Piece, steps: DesignSteps = NO_STEPS) -> CorePiece:
    """A piece with its stack."""
    layers = tuple(as_core_layer(layer, steps.get(layer.pk, ())) for layer in piece.stack)
    return CorePiece(str(piece.pk), piece.core, core_of(piece), piece.count, layers, piece.spares, piece.name)


def tones_told(colours: Iterable[Colour], stock: Stock) -> dict[str, CoreTone]:
    """Colours by their numbers, each with how it was made where that can be made again."""
    return {str(c.pk): CoreTone(c.lab, kept_parts(c, stock)) for c in colours}


def kept_parts(colour: Colour, stock: Stock) -> tuple[Part, ...]:
    """How a colour was made last, of what is still there; nothing where it never was, or something of it is gone."""
    rows = {row.code: row for row in stock.rows if row.stocked}
    parts = colour.made.get("parts", []) if colour.made else []
    if not parts or any(part["code"] not in rows for part in parts):
        return ()
    return tuple(Part(stock.cores[rows[part["code"]].pk], part["mass_g"]) for part in parts)


def wanted_of(job: Job, stock: Stock, steps: DesignSteps = NO_STEPS) -> Wanted:
    """All of a job, from prefetched rows."""
    pieces = list(job.pieces.all())
    colours = {
        p.tone.colour.pk: p.tone.colour
        for piece in pieces
        for la in piece.stack
        for p in la.in_colours
        if p.tone.colour
    }
    return Wanted(tuple(piece_of(piece, steps) for piece in pieces), (), tones_told(colours.values(), stock))


def counts_of(job: Job) -> Mapping[int, tuple[int, int]]:
    """How many of each piece of a whole job, by its number, those that go on others too, and spares."""
    return _counted(tuple(map(piece_of, job.pieces.all())))


@lru_cache(maxsize=_KEPT)
def _counted(pieces: tuple[CorePiece, ...]) -> Mapping[int, tuple[int, int]]:
    return MappingProxyType({int(name): count for name, count in Wanted(pieces).counts().items()})


def reckoned(
    job: Job, kitchen: Kitchen, *, around: CoreKitchen | None = None, steps: DesignSteps | None = None
) -> Reckoning:
    """What a job comes to; with its steps, where those of its designs are given. Raises CoatingError."""
    stock, days = Stock.of(kitchen), steps is not None
    return kept(
        wanted_of(job, stock, steps or NO_STEPS), around or kitchen_of(kitchen, job), stock.shelf(kitchen), steps=days
    )


def reckoned_at(pk: int, kitchen: Kitchen) -> Reckoning:
    """What a job of that number comes to; its rows are read only when something of the kitchen's jobs was changed.
    Raises Http404, CoatingError."""
    mark, cupboard = Change.of(kitchen.pk), (kitchen.created_at, kitchen.cupboard_version)
    key = (pk, kitchen.pk, mark, cupboard, repr(kitchen_of(kitchen)))
    with _turn:
        reckoning = _by_mark.get(key)
    if reckoning is None:
        reckoning = reckoned(Job.objects.whole(kitchen, pk), kitchen)
        with _turn:
            _by_mark[key] = reckoning
    return reckoning


def reckoned_plans(
    plans: Sequence[Any], kitchen: Kitchen, job: Job | None, parts: Iterable[Piece] = (), *, pk: int | None = None
) -> Reckoning:
    """What pieces of a job that are not kept yet come to, with the pieces that go on them: layer 2 of the first is
    called "0.2". `pk` is the number of the first where it is kept already. Raises CoatingError."""
    stock, pieces, colours = Stock.of(kitchen), list[CorePiece](), dict[int, Colour]()
    for part in parts:
        pieces.append(replace(piece_of(part), count=0))
        colours |= {
            la.tone.colour.pk: la.tone.colour for whole in part.stack for la in whole.in_colours if la.tone.colour
        }
    for i, plan in enumerate(plans):
        layers = tuple(replace(la, id=f"{i}.{j}") for j, la in enumerate(plan.core_layers()))
        name = str(pk) if pk and not i else f"plan{i}"
        pieces.append(CorePiece(name, plan.kind.name, plan.core, plan.count, layers, plan.spares, plan.name))
        colours |= {la.colour.pk: la.colour for la in plan.layers if la.colour}
    wanted = Wanted(tuple(pieces), (), tones_told(colours.values(), stock))
    return kept(wanted, kitchen_of(kitchen, job), stock.shelf(kitchen))


def kept(wanted: Wanted, around: CoreKitchen, shelf: Shelf, *, steps: bool = False) -> Reckoning:
    """The same question has the same answer, and is asked once."""
    tones = tuple(sorted(wanted.colours.items(), key=lambda named: named[0]))
    places = tuple(sorted(around.places.items()))
    key = (wanted.pieces, tones, places, replace(around, places=_NO_PLACES), id(shelf), steps)
    if key not in _known:
        _known[key] = (
            shelf,
            reckon(wanted, around, shelf, steps=steps),
        )  # the shelf is kept, so that its id stays its own
        if len(_known) > _KEPT:
            _known.popitem(last=False)
    return _known[key][1]
