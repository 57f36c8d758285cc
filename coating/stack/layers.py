"""Layers: one technique on a core, with what was said of it; and what it puts on one piece, g."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache

from coating.flow.casson1959 import Flow
from coating.flow.windows import window
from coating.limits import check
from coating.piece.cores import Core
from coating.steps import Step
from coating.techniques import Technique, technique
from coating.techniques.measures import DENSITY, FILLING_DENSITY, film_thick
from coating.techniques.part import INSIDE_IT


@dataclass(frozen=True)
class Share:
    """A further colour, or a bag as bought, of a layer, and its share of what goes on; `depth_g` that its bowl has to
    hold at the last."""

    colour: str = ""
    base: str = ""
    share: float = 0.0
    depth_g: float = 0.0


@dataclass(frozen=True)
class Drawn:
    """What a design says of its layer: ml of coating on one piece (None: as the layer has it), its steps for so many
    `pieces` (0: for all of them), how long hands are at it where it says no steps, s, the window it is for, moulds and
    cavities in one, places to stand, whether the bowl keeps its depth to the last, and ml that are poured into one of
    what is drained."""

    volume_ml: float | None = None
    steps: tuple[Step, ...] = ()
    seconds: float = 0.0
    window: str = ""
    moulds: tuple[int, int] = (0, 0)
    holes: int = 0
    deep: bool = False
    poured_ml: float = 0.0
    pieces: int = 0

    def for_so_many(self, count: int, of: int) -> float:
        """How long hands are at so many of all that there are, s."""
        return self.seconds * count / (self.pieces or of)


@dataclass(frozen=True)
class Layer:
    """One layer of a stack. What is None is as the technique has it.

    share : of the core that it covers, 0 to 1. thickness_mm, width_mm, length_mm, area_mm2 : of coats and lines.
    volume_ml : in one piece. spacing_mm, wall, flooded : of drips, as `coating.piece.drips`. count, each_g : of what is
    counted. coats : how often. placed : on what it lies, "wet", "half_set" or "set". white : what it is made of.
    colour : its name; base : a bag as bought, in its place. goes_on_g : on one piece, where that was typed. sheets : of
    film for one piece, where a plan says so. shares : further colours. drawn : what its design says. id : unique in its
    job. apart : a number above 0 where it has a bowl to itself. part : the piece that is put on, by its id; where :
    on the "front", on "top", "standing" there, all "round", or in "pairs".
    """

    technique: str
    colour: str = ""
    share: float = 1.0
    thickness_mm: float | None = None
    width_mm: float | None = None
    length_mm: float | None = None
    volume_ml: float | None = None
    spacing_mm: float | None = None
    wall: str = ""
    flooded: bool = False
    white: str = "coating"
    count: int = 1
    each_g: float | None = None
    coats: int = 1
    placed: str = ""
    goes_on_g: float | None = None
    sheets: float | None = None
    note: str = ""
    base: str = ""
    area_mm2: float | None = None
    shares: tuple[Share, ...] = ()
    drawn: Drawn | None = None
    id: str = ""
    apart: int = 0
    part: str = ""
    where: str = ""

    @property
    def kind(self) -> Technique:
        """The technique it is made with."""
        return technique(self.technique)

    @property
    def takes_coating(self) -> bool:
        """Whether a bowl is dipped into for it."""
        return self.kind.coating and self.placed not in self.kind.dry_when

    @property
    def in_mould(self) -> bool:
        """Whether it is done before a shell leaves its mould."""
        return self.kind.in_mould or (bool(self.part) and self.placed == INSIDE_IT)

    def window_for(self, kind: str, core: Core) -> str:
        """The window its bowl has to be in on a kind of core; "" where it needs no bowl."""
        if not self.takes_coating:
            return ""
        return (self.drawn.window if self.drawn else "") or self.kind.wants(kind, core)


def coat_of_dip_mm(core: Core, share: float, flow: Flow | None = None) -> float:
    """Mean thickness of the coat of a dip, mm."""
    return film_thick(core, Layer("dip", share=share), flow or window("dip").aim)


@lru_cache(maxsize=8192)
def on_one_g(core: Core, layer: Layer, *, flow: Flow | None = None) -> float:
    """What a layer puts on one piece, g; nothing for what takes no coating and has no weight of its own.

    Raises
    ------
    OutOfBounds : a line without a length, more in a mould than it holds, or a value outside its bounds.
    """
    if layer.goes_on_g is not None:
        return check("mass_g", layer.goes_on_g, "goes_on_g")
    if layer.drawn and layer.drawn.volume_ml is not None:
        density = FILLING_DENSITY if layer.technique == "filling" else DENSITY
        return layer.drawn.volume_ml * density * 1e-3
    return layer.kind.measure(core, layer, flow or _aim(layer))


@lru_cache(maxsize=8192)
def thick_mm(core: Core, layer: Layer, *, flow: Flow | None = None) -> float:
    """How thick what a layer puts on comes out, mm."""
    return layer.kind.thick(core, layer, flow or _aim(layer))


def _aim(layer: Layer) -> Flow:
    return window((layer.drawn.window if layer.drawn else "") or layer.kind.window or "dip").aim


def usual_length_mm(name: str, core: Core) -> float:
    """How long the lines of a technique usually are on one piece, mm."""
    return round(technique(name).widths * math.sqrt(core.across_mm * core.length_mm) / 10) * 10.0
