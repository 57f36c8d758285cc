"""Lines: what every layer puts on one piece, what is poured and runs back, and what stays in bags."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import replace

from coating.flow.casson1959 import Flow
from coating.flow.windows import window
from coating.job.kitchen import Kitchen
from coating.job.reckoning import Line
from coating.job.wanted import Piece
from coating.learning.factors import Factors
from coating.piece.cores import Core
from coating.shape.bag import BAG_HOLDS_G, BAG_LOSS_G
from coating.stack.layers import Layer, on_one_g, thick_mm
from coating.techniques import TECHNIQUES
from coating.techniques.base import FILM, LINE, RIM, SPREAD
from coating.techniques.measures import DENSITY, FILLING_DENSITY
from coating.techniques.part import INSIDE_IT

POOL_MM = 10.0  # a pool so deep is kept for the last dips, tilted and with a spoon; common practice, no source
BELOW_MM, BESIDE_MM = 8.0, 8.0  # room under and beside a piece that is dipped upright
MOULD_MM = (275.0, 135.0, 8.0)  # an ordinary mould plate, and what is between two cavities


def cavities_of(kitchen: Kitchen, piece: Piece, layer: Layer | None = None) -> tuple[int, int]:
    """Moulds and cavities in one for a piece: as its design says, as the kitchen has them, else one ordinary plate."""
    if layer is not None and layer.drawn and layer.drawn.moulds[1]:
        return layer.drawn.moulds
    size = getattr(piece.core, "size_mm", ())
    for mould in kitchen.moulds:
        if mould.core == piece.kind and all(abs(a - b) < 1.0 for a, b in zip(mould.size_mm, size, strict=False)):
            return mould.count, mould.cavities
    return 0, usual_cavities(piece.core.across_mm)


def usual_cavities(across_mm: float) -> int:
    """How many of a size an ordinary mould plate has."""
    long, wide, between = MOULD_MM
    across = across_mm + between
    return max(1, int(long / across) * max(1, int(wide / across)))


def room_taken_ml(layers: Sequence[Layer]) -> float:
    """What things put inside take up in one piece, ml."""
    taken_g = sum(la.count * (la.each_g or 0.0) for la in layers if la.technique == "insert" or la.placed == INSIDE_IT)
    return taken_g / FILLING_DENSITY * 1000


def lines_of(
    piece: Piece, count: int, spares: int, kitchen: Kitchen, flows: Mapping[str, Flow | None], keys: Mapping[str, str]
) -> list[Line]:
    """The lines of a piece, in the order of its stack.

    Parameters
    ----------
    piece : with its layers. count, spares : how many. kitchen : its vessels and moulds. flows : how what a layer is
    made from flows, by its id and colour. keys : the bowl of each, by the same.
    """
    lines: list[Line] = []
    inside_ml = room_taken_ml(piece.layers)
    for layer in piece.layers:
        kind = layer.kind
        takes_room = layer.technique in ("filling", "solid") and inside_ml > 0 and layer.drawn is None
        for part in in_colours(layer):
            name = key_of(layer.id, part)
            flow = flows.get(name) or window(layer.window_for(piece.kind, piece.core) or "dip").aim
            share = part.share_of
            more, thicker = _own_hand(layer, kitchen)
            one_g = more * on_one_g(piece.core, _bare(layer), flow=flow) if kind.coating or kind.measured else 0.0
            if takes_room:
                density = FILLING_DENSITY if layer.technique == "filling" else DENSITY
                one_g = max(0.0, one_g - inside_ml * density * 1e-3)
            poured_g = _poured_g(piece.core, layer, one_g)
            depth_g, vessel_mm = _depth(piece, layer, one_g, poured_g, count + spares, kitchen)
            made_g = one_g * share * (count + spares)
            bags = math.ceil(made_g / BAG_HOLDS_G - 1e-9) if kind.bag and made_g > 0 else 0
            lines.append(
                Line(
                    piece.id,
                    layer.id,
                    layer.technique,
                    part.colour,
                    part.base,
                    layer.white if layer.takes_coating else "",
                    layer.window_for(piece.kind, piece.core),
                    one_g * share,
                    poured_g * share,
                    (poured_g - one_g) * share,
                    bags * BAG_LOSS_G,
                    count,
                    spares,
                    thicker * thick_mm(piece.core, _bare(layer), flow=flow),
                    keys.get(name, ""),
                    max(part.depth_g, depth_g),
                    layer.sheets,
                    bags,
                    vessel_mm,
                    layer.goes_on_g is not None,
                )
            )
        if takes_room:
            inside_ml = 0.0
    return lines


def _own_hand(layer: Layer, kitchen: Kitchen) -> tuple[float, float]:
    """How many times the grams and the thickness of a layer this kitchen's hand and nozzle leave; what was typed is
    left alone."""
    return (1.0, 1.0) if layer.goes_on_g is not None else hand_on(layer.technique, kitchen.factors)


def hand_on(technique: str, factors: Factors) -> tuple[float, float]:
    """How many times the grams and the thickness that are assumed of a technique a hand and its nozzle leave."""
    measured = TECHNIQUES[technique].measured
    if measured == LINE:
        return factors.hole**2, factors.hole
    if measured in (FILM, SPREAD):
        return (factors.coat(technique),) * 2
    return 1.0, 1.0


class InColour:
    """The part of a layer that is of one colour."""

    __slots__ = ("base", "colour", "depth_g", "share_of")

    def __init__(self, colour: str, base: str, share: float, depth_g: float = 0.0) -> None:
        self.colour, self.base, self.share_of, self.depth_g = colour, base, share, depth_g


def in_colours(layer: Layer) -> list[InColour]:
    """A layer, once for each colour that goes on; what is of its own colour first."""
    own = 1.0 - sum(s.share for s in layer.shares)
    first = [InColour(layer.colour, layer.base, own)] if own > 1e-6 or not layer.shares else []
    return [*first, *(InColour(s.colour, s.base, s.share, s.depth_g) for s in layer.shares)]


def key_of(layer_id: str, part: InColour) -> str:
    """How a layer in one colour is called."""
    return f"{layer_id}|{part.colour}|{part.base}"


def _bare(layer: Layer) -> Layer:
    """Without what does not change its grams, so that layers alike are measured once."""
    placed = layer.placed if layer.kind.dry_when else ""
    return replace(
        layer, id="", colour="", base="", shares=(), apart=0, note="", sheets=None, placed=placed, part="", where=""
    )


def _poured_g(core: Core, layer: Layer, one_g: float) -> float:
    """What is poured into one: of a shell the whole mould, which is full before it is drained."""
    if layer.technique != "shell":
        return one_g
    held_ml = layer.drawn.poured_ml if layer.drawn and layer.drawn.poured_ml else core.holds_ml
    return max(one_g, held_ml * DENSITY * 1e-3)


def _depth(
    piece: Piece, layer: Layer, one_g: float, poured_g: float, pieces: int, kitchen: Kitchen
) -> tuple[float, float]:
    """What must still be in the bowl for the last of them, g, and how wide it is, mm: of shells what fills a mould and
    runs back; of dips a pool in the smallest vessel as wide as the piece, or its whole depth where it goes in upright
    to the last."""
    core, kind = piece.core, layer.kind
    if layer.technique == "shell":
        return min(pieces, cavities_of(kitchen, piece, layer)[1]) * (poured_g - one_g), 0.0
    if kind.measured != FILM:
        return 0.0, 0.0
    upright = any(la.technique == "stick" for la in piece.layers) or bool(layer.drawn and layer.drawn.deep)
    if kind.on == RIM or not upright:
        vessel_mm = kitchen.vessel_mm(core.across_mm)
        return math.pi / 4 * vessel_mm**2 * POOL_MM * DENSITY * 1e-6, vessel_mm
    vessel_mm = kitchen.vessel_mm(core.across_mm + BESIDE_MM)
    deep_mm = layer.share * core.length_mm + BELOW_MM
    return math.pi / 4 * vessel_mm**2 * deep_mm * DENSITY * 1e-6, vessel_mm
