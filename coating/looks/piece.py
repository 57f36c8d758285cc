"""A piece as a picture of 100 by 100: its core, and each layer on it in the order it is put on."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import lru_cache

from coating.figures.outlines import MOST, CutOutline, Knot, Outline, Oval, outline_of
from coating.figures.pen import DETAIL, FILL, LINE, OVER, dot, star, strewn
from coating.piece.cores import Core, Hollow
from coating.piece.kinds import CoreKind
from coating.stack.layers import Layer
from coating.techniques.base import INSIDE, RIM
from coating.techniques.ways import STRING_WIDE

CORE, GREEN = -1, -2
WHOLE = 0.99  # a coat of that share hides all of it
_SHINE = "M24 40Q34 20 54 19"  # light on what came out of a mould
LIFTED = (0.62, 19.0, 4.0)  # how much smaller what stands on a stick is drawn, and how far to the right and down


@dataclass(frozen=True)
class Mark:
    """One thing to draw: SVG path data, whether it is filled, a line, or over its layer; the line's width; the place of
    its layer in the stack, or CORE, or GREEN for leaves that grow on it; `lifted`: as LIFTED has it."""

    path: str
    kind: str
    layer: int
    width: float = 0.0
    lifted: bool = False


@lru_cache(maxsize=1024)
def part_picture(kind: CoreKind, core: Core, layers: tuple[Layer, ...]) -> tuple[Mark, ...]:
    """The same off its film or out of its mould, as it is put on another: what it was made on stays behind."""
    if isinstance(core, Hollow) and kind.name == "mould":
        face = Oval(MOST, MOST)
        cast = next((i for i, la in enumerate(layers) if la.technique in ("shell", "solid")), 0)
        marks = [Mark(face.whole(), FILL, cast), Mark(_SHINE, OVER, cast, 2.4)]
        for place, layer in enumerate(layers):
            if not layer.in_mould:
                marks += [
                    Mark(path, how, place, wide) for path, how, wide in layer.kind.draw(face, layer, layers[:place])
                ]
        return tuple(marks)
    off = kind.figure == "sheet"
    return tuple(m for m in piece_picture(kind, core, layers) if not (off and m.layer == CORE))


@lru_cache(maxsize=256)
def from_above(kind: CoreKind, core: Core, layers: tuple[Layer, ...]) -> tuple[Mark, ...]:
    """What stands, as it is seen from above: round, its last coat, and what lies on its top."""
    face, marks = Oval(MOST, MOST), list[Mark]()
    marks.append(Mark(face.whole(), FILL, CORE))
    for place, layer in enumerate(layers):
        made = layer.kind
        if layer.technique == "cake_drip":
            marks.append(Mark(face.whole(-2.0), FILL if layer.flooded else LINE, place, 5.0))
        elif (made.covers and layer.share >= WHOLE) or layer.technique in ("cap", "filling", "solid"):
            marks.append(Mark(face.whole(0.0 if made.covers else -4.0), FILL, place))
        elif made.on not in (INSIDE, RIM) and layer.technique not in ("stick", "part") and not made.covers:
            marks += [Mark(path, how, place, wide) for path, how, wide in made.draw(face, layer, layers[:place])]
    return tuple(marks)


@lru_cache(maxsize=1024)
def piece_picture(kind: CoreKind, core: Core, layers: tuple[Layer, ...]) -> tuple[Mark, ...]:
    """Everything to draw of a piece, the core first. Layers that say more than can be drawn show it by a few."""
    outline = outline_of(kind, core)
    marks = [_core(outline), *_details(kind, outline)]
    for place, layer in enumerate(layers):
        drawn = layer.kind.draw(outline, layer, layers[:place])
        marks += [Mark(path, how, place, width) for path, how, width in drawn]
    sticks = [m for m in marks if m.layer >= 0 and layers[m.layer].technique == "stick"]
    if isinstance(outline, CutOutline) or not sticks:
        return tuple(marks)
    return (*sticks, *(replace(m, lifted=True) for m in marks if m not in sticks))


def _core(outline: Outline) -> Mark:
    if isinstance(outline, Knot):
        return Mark(outline.whole(), LINE, CORE, STRING_WIDE)
    return Mark(outline.whole(3.0) if isinstance(outline, CutOutline) else outline.whole(), FILL, CORE)


def _details(kind: CoreKind, outline: Outline) -> list[Mark]:
    """What tells one core from another."""
    face, marks = outline.face, list[Mark]()
    w, h, x, y = face.half_wide, face.half_high, face.x, face.y
    if kind.name in ("round_biscuit", "finger_biscuit"):
        holes = (
            strewn(face, 9)
            if kind.name == "round_biscuit"
            else [(x + side * w * 0.5, y + h * up) for side in (-1, 1) for up in (-0.8, -0.4, 0.0, 0.4, 0.8)]
        )
        marks.append(Mark("".join(dot(a, b, 1.2) for a, b in holes), DETAIL, CORE))
    elif kind.name == "sandwich_biscuit":
        marks.append(Mark(dot(x, y, w * 1.12) + star(x, y, w * 0.7), DETAIL, CORE))
    elif kind.name == "berry":
        seeds = "".join(f"M{a:.1f} {b:.1f}v2" for a, b in strewn(face, 15))
        marks.append(Mark(seeds, DETAIL, CORE))
        leaf = f"M{x:.1f} {outline.top + 1:.1f}"
        sides = "".join(f"{leaf}q{s * 5} -6 {s * 13} 1q{-s * 7} 7 {-s * 13} -1Z" for s in (-1, 1))
        marks.append(Mark(f"{sides}{leaf}q-4 5 0 11q4 -6 0 -11Z", FILL, GREEN))
    elif kind.name == "fruit":
        marks.append(
            Mark(
                f"M{x:.1f} {outline.top + 5:.1f}Q{x + w * 0.5:.1f} {y:.1f} {x:.1f} {outline.bottom - 5:.1f}",
                DETAIL,
                CORE,
            )
        )
    elif kind.figure == "tier":
        wide, lid = w * 1.25, w * 1.25 * 0.24
        marks.append(
            Mark(f"M{x - wide:.1f} {outline.top:.1f}a{wide:.1f} {lid:.1f} 0 0 0 {2 * wide:.1f} 0", DETAIL, CORE)
        )
    elif kind.name == "panel":
        marks.append(
            Mark("".join(f"M{x - w:.1f} {y + h * t:.1f}h{2 * w:.1f}" for t in (-0.45, 0.0, 0.45)), DETAIL, CORE)
        )
    elif kind.name == "marshmallow":
        marks.append(Mark(f"M{x - w:.1f} {outline.top + 10:.1f}q{w:.1f} 9 {2 * w:.1f} 0", DETAIL, CORE))
    return marks


# What cores and uncoloured layers look like, as sRGB.
CORE_TINTS = {
    "round_biscuit": "#dfba7d",
    "sandwich_biscuit": "#6b4a35",
    "finger_biscuit": "#dfba7d",
    "pretzel_twist": "#9c6330",
    "pretzel_rod": "#9c6330",
    "ball": "#a97e55",
    "berry": "#bf4a40",
    "fruit": "#e3a24f",
    "marshmallow": "#f2e8e0",
    "sweet": "#8a5a44",
    "cup": "#e4dcc8",
    "glass_rim": "#dbe6e6",
    "mould": "#c9cfd2",
    "cake_tier": "#efe2c4",
    "dessert": "#e9d2b4",
    "slab": "#efe9da",
    "shape": "#efe9da",
    "panel": "#c48b4c",
}
PLAIN_TINT, GREEN_TINT = "#f6eed9", "#6f8a3c"
