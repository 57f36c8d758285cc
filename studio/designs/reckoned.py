"""What is melted for a design: reckoned with the job it is for, or by itself."""

from __future__ import annotations

from dataclasses import replace
from typing import TYPE_CHECKING

from coating.errors import CoatingError
from coating.job import Bowl, Wanted
from coating.job import Piece as CorePiece
from coating.piece.cores import Sheet
from coating.stack.layers import Drawn, Share
from coating.stack.layers import Layer as CoreLayer
from studio.common.types import Json
from studio.cupboard.stock import Stock
from studio.pieces.reckoned import kept, keys_of, kitchen_of, reckoned_at, tones_told, wanted_of

if TYPE_CHECKING:
    from studio.designs.kinds.base import Worked

ALONE = "design"


def bowls_of(worked: Worked) -> tuple[Bowl, ...]:
    """The bowls that a design is made from, as the reckoning says them. Raises CoatingError."""
    place, stock = worked.place, Stock.of(worked.place.kitchen)
    if place.layer is None:
        wanted, name = _alone(worked, stock), ALONE
    else:
        wanted, name = wanted_of(place.job, stock), str(place.layer.pk)
        pieces = (
            replace(p, layers=tuple(_drawn_anew(la, worked) if la.id == name else la for la in p.layers))
            for p in wanted.pieces
        )
        wanted = replace(wanted, pieces=tuple(pieces))
    tones = [place.tone, *(place.tone_of(other.colour) for other in worked.others)]
    colours = tones_told([tone.colour for tone in tones if tone.colour], stock)
    wanted = replace(wanted, colours={**wanted.colours, **colours})
    bowls = kept(
        wanted, kitchen_of(place.kitchen, place.job if place.layer else None), stock.shelf(place.kitchen)
    ).bowls
    return tuple(bowl for bowl in bowls if name in bowl.layers)


def melted_now_g(worked: Worked, name: str) -> float:
    """What its job melts now of the colour that a design is of, g, for the layer of that name; nothing where the job
    cannot be made as it is."""
    own = keys_of(worked.place.tone)
    try:
        bowls = reckoned_at(worked.place.job.pk, worked.place.kitchen).bowls
    except CoatingError:
        return 0.0
    return sum(bowl.melt_g for bowl in bowls if name in bowl.layers and (bowl.colour, bowl.base) == own)


def _alone(worked: Worked, stock: Stock) -> Wanted:
    """So many of one piece with nothing on it but what was designed."""
    colour, base = keys_of(worked.place.tone)
    technique = worked.context.get("technique") or "own"
    layer = _drawn_anew(CoreLayer(technique, colour, white=worked.place.white, base=base, id=ALONE), worked)
    core = worked.context.get("core") or Sheet(50, 50)
    return Wanted((CorePiece(ALONE, worked.context.get("core_name", "shape"), core, worked.pieces, (layer,), 0),))


def _drawn_anew(layer: CoreLayer, worked: Worked) -> CoreLayer:
    """A layer as the design draws it."""
    values: Json = dict(worked.told or {})
    drawn = worked.geometry()
    moulds = drawn.get("moulds")
    shares = tuple(
        Share(*keys_of(worked.place.tone_of(o.colour)), o.mass_g / worked.goes_on_g, o.depth_g)
        for o in worked.others
        if worked.goes_on_g
    )
    return replace(
        layer,
        goes_on_g=None,
        shares=shares,
        drawn=Drawn(
            drawn.get("ml"),
            (),
            0.0,
            drawn.get("window", ""),
            (moulds[0], moulds[1]) if moulds else (0, 0),
            drawn.get("holes", 0),
            drawn.get("deep", False),
            drawn.get("poured_ml", 0.0),
            drawn.get("pieces", 0),
        ),
        **values,
    )
