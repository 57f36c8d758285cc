"""Pieces as they are drawn: the marks of the core with the colours of this kitchen, and the parts that go on it."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from types import MappingProxyType
from typing import Any

from coating.looks.joined import LYING, Spot, px_per_mm, spots
from coating.looks.piece import (
    CORE_TINTS,
    GREEN,
    GREEN_TINT,
    LIFTED,
    PLAIN_TINT,
    from_above,
    part_picture,
    piece_picture,
)
from coating.piece.cores import Core
from coating.piece.kinds import CoreKind
from coating.stack.joints import seen_mm, stands
from coating.stack.layers import Layer
from coating.techniques import technique
from coating.techniques.part import PAIRS
from studio.common.templatetags.kitchen import hexed

Lab = tuple[float, float, float]
# What is seen in a shell and in the heart of a flower.
_WITHIN = {"shell": "#fbf8f1", "modelling": "#d9a441"}
_LIFT = "translate({1:g} {2:g}) scale({0:g})".format(*LIFTED)
_LIGHT = 62.0  # from this lightness on, what lies over a colour is dark
FRONT, ABOVE, AS_PART = "front", "above", "part"
IN_SPACE = 0.6  # of a flower of petals that lies
DEEPEST = 6  # parts of parts that are drawn
OWN = "own"  # the colour that a drawing leaves to its layer


@dataclass(frozen=True)
class PictureStroke:
    """One path with its fill and stroke as sRGB, the width of the stroke, its class for the style sheet, and how it is
    moved, as SVG has it."""

    path: str
    fill: str
    stroke: str
    width: float
    kind: str
    moved: str = ""


@dataclass(frozen=True)
class DesignPicture:
    """What a design drew of one, so wide and high in mm: paths with so many units `per_mm`, each with its fill, its
    stroke (sRGB, OWN or "") and how wide that is. `alone`: it is all that is seen of its piece."""

    wide_mm: float
    high_mm: float
    marks: tuple[tuple[str, str, str, float], ...]
    alone: bool = False
    per_mm: float = 1.0

    @property
    def box(self) -> str:
        """What an SVG shows of it alone."""
        return f"0 0 {self.wide_mm * self.per_mm:.0f} {self.high_mm * self.per_mm:.0f}"

    @classmethod
    def of(cls, drawn: Mapping[str, Any]) -> DesignPicture:
        """As a design keeps it."""
        marks = tuple((str(p), str(f), str(s), float(w)) for p, f, s, w in drawn["marks"])
        return cls(
            float(drawn["wide_mm"]),
            float(drawn["high_mm"]),
            marks,
            bool(drawn.get("alone")),
            float(drawn.get("per_mm", 1.0)),
        )


@dataclass(frozen=True)
class Pictured:
    """A piece to draw: what it is on, its layers, the colour of each (None for plain), the parts that layers put on it
    and what their designs drew, both by the place of the layer."""

    kind: CoreKind
    core: Core
    layers: tuple[Layer, ...] = ()
    labs: tuple[Lab | None, ...] = ()
    parts: Mapping[int, Pictured] = field(default_factory=lambda: MappingProxyType({}))
    drawings: Mapping[int, DesignPicture] = field(default_factory=lambda: MappingProxyType({}))

    @property
    def size_mm(self) -> tuple[float, float]:
        """How wide and high it is seen as a part, mm."""
        for drawn in self.drawings.values():
            return drawn.wide_mm, drawn.high_mm
        return seen_mm(self.core)

    @property
    def flat(self) -> float:
        """How much of its height is seen where it lies: more of what stands up in space."""
        return IN_SPACE if any(d.per_mm > 1 for d in self.drawings.values()) else LYING

    @property
    def has_two_sides(self) -> bool:
        """Whether it is shown from above too: it stands, and parts are on it."""
        return bool(self.parts) and stands(self.kind)

    @property
    def front(self) -> list[PictureStroke]:
        """From the front; what is flat from above, and off its film where parts are on it."""
        return _strokes(self, AS_PART if self.parts and self.kind.name == "shape" else FRONT)

    @property
    def box(self) -> str:
        """What an SVG shows of it from the front: a square with all its parts."""
        return _square(*_reach(self, FRONT))

    def rings(self, place: int) -> list[PartMark]:
        """Round the parts that a layer puts on, as it is seen from the front."""
        part, (size, x, y) = self.parts[place], _lift(self)
        each = _times(self, part, FRONT) * px_per_mm(part.kind, part.core) * size / 2
        wide, high = (mm * each for mm in part.size_mm)
        marks = []
        for spot in _spots(self, place, part, FRONT):
            across, up = (max(wide, high),) * 2 if spot.turned else (wide * spot.narrow, high * spot.flat)
            marks.append(PartMark(x + size * spot.x, y + size * spot.y, across + 3.0, up + 3.0))
        return marks

    @property
    def box_above(self) -> str:
        """The same from above."""
        return _square(*_reach(self, ABOVE))

    @property
    def above(self) -> list[PictureStroke]:
        """From above, of what stands and carries parts."""
        return _strokes(self, ABOVE)


@dataclass(frozen=True)
class PartMark:
    """Round a part that goes on, in the picture of the piece."""

    x: float
    y: float
    wide: float
    high: float


def tint_of_layer(name: str, lab: Lab | None) -> str:
    """What a layer of a technique looks like."""
    return technique(name).tint or (hexed(lab) if lab else PLAIN_TINT)


def strokes_of(kind: CoreKind, core: Core, layers: Sequence[Layer], labs: Sequence[Lab | None]) -> list[PictureStroke]:
    """A piece to draw that carries nothing. `labs` : the colour of each layer, None for plain."""
    return Pictured(kind, core, tuple(layers), tuple(labs)).front


_VIEWS = {FRONT: piece_picture, ABOVE: from_above, AS_PART: part_picture}


def _strokes(of: Pictured, view: str, deep: int = 0) -> list[PictureStroke]:
    """All strokes, what lies at the back first."""
    bare = tuple(
        replace(la, colour="", base="", goes_on_g=None, id="", drawn=None, shares=(), part="", note="")
        for la in of.layers
    )
    by_height: list[tuple[float, list[PictureStroke]]] = []
    lifted = ""
    alone = any(d.alone for d in of.drawings.values())
    for mark in _VIEWS[view](of.kind, of.core, bare):
        lifted = _LIFT if mark.lifted else lifted
        below = mark.layer < 0 or of.layers[mark.layer].technique == "stick"
        if (mark.layer < 0 and alone) or mark.layer in of.parts or (mark.layer in of.drawings and view != ABOVE):
            continue
        by_height.append((-1 if below else mark.layer, [_stroke(of, mark)]))
    for place, drawn in of.drawings.items():
        if view != ABOVE:
            by_height.append((place, _drawn(of, place, drawn, lifted)))
    for place, part in of.parts.items():
        if deep < DEEPEST:
            back = of.layers[place].where == PAIRS and view != ABOVE
            by_height.append((-2 if back else place, _joined(of, place, part, view, lifted, deep)))
    return [stroke for _, strokes in sorted(by_height, key=lambda pair: pair[0]) for stroke in strokes]


def _reach(of: Pictured, view: str) -> tuple[float, float, float, float]:
    """From where to where it is drawn: its own picture, and what of its parts sticks out."""
    low_x, low_y, high_x, high_y = 0.0, 0.0, 100.0, 100.0
    size, x, y = _lift(of) if view == FRONT else (1.0, 0.0, 0.0)
    for drawn in of.drawings.values() if view == FRONT else ():
        wide, high = (mm * px_per_mm(of.kind, of.core) / 2 for mm in (drawn.wide_mm, drawn.high_mm))
        low_x, high_x = min(low_x, 50.0 - wide), max(high_x, 50.0 + wide)
        low_y, high_y = min(low_y, 50.0 - high), max(high_y, 50.0 + high)
    for place, part in of.parts.items():
        each = _times(of, part, view)
        half_wide, half_high = (mm * px_per_mm(part.kind, part.core) * each / 2 for mm in part.size_mm)
        own = _reach(part, FRONT)
        more = max(50.0 - own[0], 50.0 - own[1], own[2] - 50.0, own[3] - 50.0) / 50.0
        for spot in _spots(of, place, part, view):
            wide, high = half_wide * more * max(0.12, spot.narrow), half_high * more * spot.flat
            if spot.turned:
                wide = high = max(wide, high)
            at_x, at_y = x + size * spot.x, y + size * spot.y
            low_x, high_x = min(low_x, at_x - size * wide), max(high_x, at_x + size * wide)
            low_y, high_y = min(low_y, at_y - size * high), max(high_y, at_y + size * high)
    return low_x, low_y, high_x, high_y


def _lift(of: Pictured) -> tuple[float, float, float]:
    """How much smaller, and how far to the right and down what stands on a stick is drawn."""
    lifts = any(la.technique == "stick" for la in of.layers) and not of.core.holds_ml
    return LIFTED if lifts else (1.0, 0.0, 0.0)


def _square(low_x: float, low_y: float, high_x: float, high_y: float) -> str:
    """The least square round it, with a little room where something sticks out."""
    side = max(high_x - low_x, high_y - low_y)
    side += 4.0 if side > 100.0 else 0.0
    return f"{(low_x + high_x - side) / 2:.1f} {(low_y + high_y - side) / 2:.1f} {side:.1f} {side:.1f}"


def _spots(of: Pictured, place: int, part: Pictured, view: str) -> list[Spot]:
    """Where the parts of a layer lie; on what a design shows alone, on that."""
    seen = next(((d.wide_mm, d.high_mm) for d in of.drawings.values() if d.alone), None)
    return spots(
        of.kind,
        of.core,
        of.layers[place],
        part.size_mm,
        above=view == ABOVE,
        seen=None if view == ABOVE else seen,
        flat=part.flat,
    )


def _times(of: Pictured, part: Pictured, view: str) -> float:
    """How much larger a part is drawn in the picture of what it is on than in its own."""
    whole = 80.0 / of.core.across_mm if view == ABOVE else px_per_mm(of.kind, of.core)
    return whole / px_per_mm(part.kind, part.core)


def _stroke(of: Pictured, mark: Any) -> PictureStroke:
    """A mark with its colours."""
    if mark.layer < 0:
        tint = GREEN_TINT if mark.layer == GREEN else CORE_TINTS[of.kind.name]
    else:
        tint = tint_of_layer(of.layers[mark.layer].technique, of.labs[mark.layer])
    if mark.kind == "over":
        lab = of.labs[mark.layer]
        over = "#8d8064" if lab is None or lab[0] > _LIGHT else PLAIN_TINT
        tint = _WITHIN.get(of.layers[mark.layer].technique, over)
    filled = mark.kind == "fill" or (mark.kind == "over" and not mark.width)
    line = "none" if filled or mark.kind == "detail" else tint
    return PictureStroke(
        mark.path, tint if filled else "none", line, mark.width, mark.kind, _LIFT if mark.lifted else ""
    )


def _drawn(of: Pictured, place: int, drawn: DesignPicture, lifted: str) -> list[PictureStroke]:
    """What a design drew of a layer, at its true size in the middle."""
    size = px_per_mm(of.kind, of.core)
    x, y = -drawn.wide_mm * drawn.per_mm / 2, -drawn.high_mm * drawn.per_mm / 2
    moved = f"{lifted} translate(50 50) scale({size / drawn.per_mm:.4f}) translate({x:.1f} {y:.1f})"
    return as_designed(drawn, of.labs[place], moved.strip())


def as_designed(drawn: DesignPicture, lab: Lab | None, moved: str = "") -> list[PictureStroke]:
    """What a design drew, of a colour."""
    own = hexed(lab) if lab else PLAIN_TINT
    return [
        PictureStroke(
            path,
            own if fill == OWN else fill or "none",
            own if stroke == OWN else stroke or "none",
            wide,
            "flat" if fill else "line",
            moved,
        )
        for path, fill, stroke, wide in drawn.marks
    ]


def _joined(of: Pictured, place: int, part: Pictured, view: str, lifted: str, deep: int) -> list[PictureStroke]:
    """The parts that a layer puts on, each where it lies and as large as it is."""
    size = _times(of, part, view)
    strokes, marks = _strokes(part, AS_PART, deep + 1), list[PictureStroke]()
    for spot in _spots(of, place, part, view):
        moved = f"{lifted} {spot.moved(size)}".strip()
        marks += [replace(s, moved=f"{moved} {s.moved}".strip()) for s in strokes]
    return marks
