"""Filling: into a shell that is set, cool and below the rim."""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING

from coating.figures.outlines import CutOutline, Outline
from coating.figures.pen import FILL
from coating.piece.cores import Core
from coating.techniques.base import INSIDE, INTO, MOULD, VOLUME, VOLUME_ML, Drawn, Technique, Wrong
from coating.techniques.measures import filling_g, plain_thick
from coating.techniques.ways import in_hollow, names, poured

if TYPE_CHECKING:
    from coating.stack.layers import Layer

HEADROOM = 0.9  # of what is hollow, so that a lid has room; common practice, no source


def _draw(outline: Outline, layer: Layer, below: tuple[Layer, ...]) -> Drawn:
    if isinstance(outline, CutOutline):
        return [(outline.between(0.16, 0.78, 5.0), FILL, 0.0)]
    return poured(outline, layer, below)


def _objects(core: Core, layers: Sequence[Layer], place: int) -> Wrong | None:
    before, coming = names(layers[:place]), names(layers[place + 1 :])
    if not core.holds_ml:
        return in_hollow(core, layers, place)
    if "shell" not in before and core.inside_mm2 and "shell" in coming:
        return "The shell is made and set before it is filled.", True
    most_ml, volume_ml = core.holds_ml * HEADROOM, layers[place].volume_ml
    if volume_ml is not None and volume_ml > most_ml:
        return f"That stands above the rim: {most_ml:.0f} ml at most, so that the lid has room.", False
    return None


TECHNIQUE = Technique(
    name="filling",
    title="Filling",
    shelf=INTO,
    does="Fill {them}: cool, and below the rim",
    did_one="Filled one",
    measure=filling_g,
    thick=plain_thick,
    draw=_draw,
    measured=VOLUME,
    fields=(VOLUME_ML,),
    on=INSIDE,
    rank=35,
    hands_s=8.0,
    work=MOULD,
    looks="cool to the lip, flat, a finger free below the rim",
    extra="filling",
    coating=False,
    in_mould=True,
    tint="#9a6a45",
    objects=_objects,
)
