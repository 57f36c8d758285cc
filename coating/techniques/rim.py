"""Rim: a band round the rim of a glass or a shell."""

from __future__ import annotations

from typing import TYPE_CHECKING

from coating.figures.outlines import MIDDLE, Outline
from coating.figures.pen import LINE
from coating.techniques.base import COATS, DIP, FILM, RIM, Drawn, LayerField, Technique
from coating.techniques.measures import band_g, band_thick

if TYPE_CHECKING:
    from coating.stack.layers import Layer

_BANDS = (("0.05", "a thin line"), ("0.1", "a finger wide"), ("0.2", "two fingers wide"))


def _draw(outline: Outline, layer: Layer, below: tuple[Layer, ...]) -> Drawn:
    y, wide = outline.top + 3, outline.face.half_wide * 1.23
    return [(f"M{MIDDLE - wide:.1f} {y:.1f}a{wide:.1f} {wide * 0.24:.1f} 0 0 0 {2 * wide:.1f} 0", LINE, 7.0)]


TECHNIQUE = Technique(
    name="rim",
    title="Rim",
    shelf=COATS,
    does="Turn the rims of {them} in the coating",
    did_one="Dipped one",
    measure=band_g,
    thick=band_thick,
    draw=_draw,
    measured=FILM,
    on=RIM,
    window="dip",
    lies_on="any",
    rank=10,
    hands_s=15.0,
    work=DIP,
    fields=(LayerField("share", "Depth of the band", typed="pills", first="0.1", choices=_BANDS),),
    looks="an even band, nothing running below it",
    faults=("coat_thick", "coat_thin", "toppings_fall"),
    word="rim",
    covers=True,
)
