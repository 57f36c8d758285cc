"""Second dip: another coat over the first, once that is set."""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING

from coating.piece.cores import Core
from coating.techniques.base import COATS, DIP, DIPPED, FILM, Technique, Wrong
from coating.techniques.dip import window_for
from coating.techniques.measures import film_g, film_thick
from coating.techniques.ways import dipped, names

if TYPE_CHECKING:
    from coating.stack.layers import Layer


def _objects(core: Core, layers: Sequence[Layer], place: int) -> Wrong | None:
    if "dip" in names(layers[:place]):
        return None
    return "A second dip lies on a first: dip it before, and let it set.", "dip" in names(layers[place:])


TECHNIQUE = Technique(
    name="second_dip",
    title="Second dip",
    shelf=COATS,
    does="Dip {them} once more, up to the same line",
    did_one="Dipped one",
    measure=film_g,
    thick=film_thick,
    draw=lambda outline, layer, below: dipped(outline, layer.share, 2.6),
    measured=FILM,
    fields=(DIPPED,),
    window="dip",
    window_for=window_for,
    fragile=0.02,
    rank=20,
    hands_s=15.0,
    work=DIP,
    looks="an even line, a scraped base, drips that have stopped",
    faults=("coat_thick", "cracks", "foot", "bubbles", "grey"),
    word="dip",
    dips=True,
    objects=_objects,
    round_mm=1.5,
)
