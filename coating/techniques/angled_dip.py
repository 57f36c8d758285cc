"""Angled dip: in at a slant, so that the line runs across the piece; the next one leans the other way."""

from __future__ import annotations

from typing import TYPE_CHECKING

from coating.figures.outlines import Outline
from coating.figures.pen import FILL
from coating.techniques.base import COATS, DIP, DIPPED, FILM, Drawn, Technique
from coating.techniques.dip import window_for
from coating.techniques.measures import film_g, film_thick
from coating.techniques.ways import names

if TYPE_CHECKING:
    from coating.stack.layers import Layer

_LEAN = 0.75


def _draw(outline: Outline, layer: Layer, below: tuple[Layer, ...]) -> Drawn:
    lean = -_LEAN if names(below).count("angled_dip") % 2 else _LEAN
    return [(outline.leaning(layer.share, lean, 1.4), FILL, 0.0)]


TECHNIQUE = Technique(
    name="angled_dip",
    title="Angled dip",
    shelf=COATS,
    does="Dip {them} at a slant, shake, scrape the base on the rim",
    did_one="Dipped one",
    measure=film_g,
    thick=film_thick,
    draw=_draw,
    measured=FILM,
    fields=(DIPPED,),
    window="dip",
    window_for=window_for,
    lies_on="any",
    fragile=0.03,
    rank=15,
    hands_s=15.0,
    work=DIP,
    looks="an even line, a scraped base, drips that have stopped",
    faults=("coat_thick", "coat_thin", "slides", "cracks", "foot", "grey"),
    word="dip",
    covers=True,
    dips=True,
    round_mm=1.5,
)
