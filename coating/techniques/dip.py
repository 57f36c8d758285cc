"""Dip: the piece goes into the bowl and comes out in a coat that has drained."""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING

from coating.piece.cores import Core
from coating.piece.kinds import KINDS
from coating.techniques.base import COATS, DIP, DIPPED, FILM, Technique, Wrong
from coating.techniques.measures import film_g, film_thick
from coating.techniques.ways import dipped, names

if TYPE_CHECKING:
    from coating.stack.layers import Layer


def window_for(kind: str, core: Core) -> str:
    """Fruit, balls and biscuits are dipped at flows of their own."""
    return KINDS[kind].flow if kind in KINDS else "dip"


def _objects(core: Core, layers: Sequence[Layer], place: int) -> Wrong | None:
    if "angled_dip" in names(layers[:place]):
        return "A straight dip would cover the slanted one: dip straight before, or at a slant again.", True
    return None


TECHNIQUE = Technique(
    name="dip",
    title="Dip",
    shelf=COATS,
    does="Dip {them}: straight in, out, shake, scrape the base on the rim",
    did_one="Dipped one",
    measure=film_g,
    thick=film_thick,
    draw=lambda outline, layer, below: dipped(outline, layer.share, 1.4),
    measured=FILM,
    fields=(DIPPED,),
    window="dip",
    window_for=window_for,
    lies_on="any",
    fragile=0.03,
    rank=10,
    hands_s=15.0,
    work=DIP,
    looks="an even line, a scraped base, drips that have stopped",
    faults=("coat_thick", "coat_thin", "slides", "cracks", "foot", "bubbles", "grey", "wet"),
    word="dip",
    covers=True,
    dips=True,
    objects=_objects,
    round_mm=1.5,
)
