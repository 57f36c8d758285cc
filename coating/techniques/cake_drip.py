"""Drips: down the side of a tier, the rim first, then the top."""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING

from coating.figures.outlines import Outline
from coating.figures.pen import FILL
from coating.piece.cores import Core, Tier
from coating.piece.drips import CHILLED, LENGTH_MM, SPACING_MM, WIDTH_MM
from coating.techniques.base import BAGGED, DRIP, PIPE, TOP, Drawn, LayerField, Technique, Wrong
from coating.techniques.measures import drips_g, drips_thick

if TYPE_CHECKING:
    from coating.stack.layers import Layer

WALLS = ((CHILLED, "chilled"), ("room", "as warm as the room"))
TOPS = (("", "left as it is"), ("yes", "flooded too"))


def _draw(outline: Outline, layer: Layer, below: tuple[Layer, ...]) -> Drawn:
    face = outline.face
    w, top = face.half_wide * 1.24, face.y - face.half_high * 1.26
    step, path = 2 * w / 6, f"M{face.x - w:.1f} {top:.1f}"
    for i, run in enumerate((20.0, 31.0, 16.0, 35.0, 22.0, 28.0)):
        path += (
            f"v{run:.1f}a{step * 0.3:.1f} {step * 0.3:.1f} 0 0 0 {step * 0.6:.1f} 0v{8 - run:.1f}h{step * 0.4:.1f}v-8"
        )
        path += "" if i == 5 else "v0"
    return [(f"{path}A{w:.1f} {w * 0.24:.1f} 0 0 0 {face.x - w:.1f} {top:.1f}Z", FILL, 0.0)]


def _objects(core: Core, layers: Sequence[Layer], place: int) -> Wrong | None:
    if isinstance(core, Tier):
        return None
    return "Drips run down a tier of a cake or a dessert that stands: pick one.", False


TECHNIQUE = Technique(
    name="cake_drip",
    title="Drips",
    shelf=BAGGED,
    does="Try one drip at the back of {them}, then rim, drips and top",
    did_one="Dripped one",
    measure=drips_g,
    thick=drips_thick,
    draw=_draw,
    measured=DRIP,
    on=TOP,
    window="cake_drip",
    bag=True,
    lies_on="any",
    fields=(
        LayerField("length_mm", "Length of the drips", "drip_mm", first=LENGTH_MM),
        LayerField("width_mm", "Width of a drip", "drip_width_mm", first=WIDTH_MM),
        LayerField("spacing_mm", "Spacing between drips", "spacing_mm", first=SPACING_MM),
        LayerField("wall", "Warmth of the cake", typed="pills", first=CHILLED, choices=WALLS),
        LayerField("flooded", "Top of the cake", typed="pills", first="", choices=TOPS),
    ),
    width_mm=WIDTH_MM,
    rank=55,
    hands_s=90.0,
    work=PIPE,
    looks="the first drip stops where you want it",
    faults=("drip_far", "drip_short"),
    word="drip",
    only_on="tier",
    objects=_objects,
)
