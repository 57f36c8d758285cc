"""Lid of coating: closes what was filled."""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING

from coating.figures.outlines import CutOutline, Outline
from coating.figures.pen import FILL
from coating.piece.cores import Core
from coating.techniques.base import INTO, MOULD, SHARE, SPREAD, TOP, Drawn, Technique, Wrong, thickness
from coating.techniques.measures import spread_g, spread_thick
from coating.techniques.ways import names, poured

if TYPE_CHECKING:
    from coating.stack.layers import Layer


def _draw(outline: Outline, layer: Layer, below: tuple[Layer, ...]) -> Drawn:
    if isinstance(outline, CutOutline):
        return [(outline.between(0.86, 1.0), FILL, 0.0)]
    return poured(outline, layer, below)


def _objects(core: Core, layers: Sequence[Layer], place: int) -> Wrong | None:
    if "filling" in names(layers[place + 1 :]):
        return "Fill it before the lid goes on.", True
    return None


TECHNIQUE = Technique(
    name="cap",
    title="Lid of coating",
    shelf=INTO,
    does="Close {them}, tap once, scrape level",
    did_one="Closed one",
    measure=spread_g,
    thick=spread_thick,
    draw=_draw,
    measured=SPREAD,
    fields=(SHARE, thickness(2.0)),
    on=TOP,
    window="shell",
    lies_on="any",
    thickness_mm=2.0,
    rank=40,
    hands_s=8.0,
    work=MOULD,
    looks="closed up to the rim, scraped level",
    faults=("stuck", "cracks", "grey"),
    sets_as="mould",
    word="lid",
    in_mould=True,
    objects=_objects,
)
