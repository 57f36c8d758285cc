"""Pieces as they are drawn: the marks of the core with the colours of this kitchen."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from coating.figures.piece import CORE_TINTS, GREEN, GREEN_TINT, LIFTED, PLAIN_TINT, piece_picture
from coating.piece.cores import Core
from coating.piece.kinds import Kind
from coating.piece.layers import Layer
from coating.techniques import technique
from studio.common.templatetags.kitchen import hexed

Lab = tuple[float, float, float]
# What is seen in a shell and in the heart of a flower.
_WITHIN = {"shell": "#fbf8f1", "modelling": "#d9a441"}
_LIFT = "translate({1:g} {2:g}) scale({0:g})".format(*LIFTED)
_LIGHT = 62.0  # from this lightness on, what lies over a colour is dark


@dataclass(frozen=True)
class Stroke:
    """One path with its fill and stroke as sRGB, the width of the stroke, its class for the style sheet, and how it is
    moved, as SVG has it."""

    path: str
    fill: str
    stroke: str
    width: float
    kind: str
    moved: str = ""


def tint_of_layer(name: str, lab: Lab | None) -> str:
    """What a layer of a technique looks like."""
    return technique(name).tint or (hexed(lab) if lab else PLAIN_TINT)


def strokes_of(kind: Kind, core: Core, layers: Sequence[Layer], labs: Sequence[Lab | None]) -> list[Stroke]:
    """A piece to draw. `labs` : the colour of each layer, None for plain."""
    found = []
    for mark in piece_picture(
        kind,
        core,
        tuple(replace(la, colour="", base="", goes_on_g=None, id="", drawn=None, shares=()) for la in layers),
    ):
        if mark.layer < 0:
            tint = GREEN_TINT if mark.layer == GREEN else CORE_TINTS[kind.name]
        else:
            tint = tint_of_layer(layers[mark.layer].technique, labs[mark.layer])
        if mark.kind == "over":
            lab = labs[mark.layer]
            over = "#8d8064" if lab is None or lab[0] > _LIGHT else PLAIN_TINT
            tint = _WITHIN.get(layers[mark.layer].technique, over)
        filled = mark.kind == "fill" or (mark.kind == "over" and not mark.width)
        line = "none" if filled or mark.kind == "detail" else tint
        moved = _LIFT if mark.lifted else ""
        found.append(Stroke(mark.path, tint if filled else "none", line, mark.width, mark.kind, moved))
    return found
