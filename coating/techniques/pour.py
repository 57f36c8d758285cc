"""Pour over: a coat that runs over the piece, or the ground of a slab."""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING

from coating.piece.cores import Core
from coating.techniques.base import COATS, DIP, SHARE, SPREAD, Technique, Wrong, thickness
from coating.techniques.measures import spread_g, spread_thick
from coating.techniques.ways import names, poured

if TYPE_CHECKING:
    from coating.stack.layers import Layer


def _objects(core: Core, layers: Sequence[Layer], place: int) -> Wrong | None:
    if "marbling" in names(layers[:place]):
        return "The ground is poured first and marbled while it is wet: pour it before.", True
    return None


TECHNIQUE = Technique(
    name="pour",
    title="Pour over",
    shelf=COATS,
    does="Pour the coating over {them} and tap it level",
    did_one="Poured one",
    measure=spread_g,
    thick=spread_thick,
    draw=poured,
    measured=SPREAD,
    fields=(SHARE, thickness(2.5)),
    window="marbling",
    lies_on="any",
    thickness_mm=2.5,
    rank=10,
    hands_s=20.0,
    work=DIP,
    looks="level, covered to the edge, no bubble left",
    faults=("coat_thick", "coat_thin", "bubbles", "grey"),
    sets_as="slab",
    word="pour",
    covers=True,
    objects=_objects,
    round_mm=1.5,
)
