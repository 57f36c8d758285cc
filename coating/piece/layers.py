"""Layers: what each technique puts on a core, in g on one piece, and what it asks of its bowl.

Thicknesses of coats come from the film that drains at the technique's own flow; lines are beads .7 as high as wide.
Everything else here is common practice, no source, and can be said otherwise for each layer.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache
from types import MappingProxyType

from coating.errors import OutOfBounds, UnknownName
from coating.flow.additions.fat import density_kg_m3
from coating.flow.casson1959 import Flow
from coating.flow.windows import window
from coating.limits import check
from coating.piece.cores import Core
from coating.piece.drips import drips_on, squeeze_of
from coating.shape.coats import coat_thickness_mm

BEAD_HEIGHT = 0.7
DENSITY = density_kg_m3(0.32)
FILLING_DENSITY = 1100.0  # kg/m3, of ganache, jam and cream on the whole; common practice, no source
COAT_MM = 0.15  # one coat of paint
_FILLED = 0.75  # of what it holds: the shell and the lid want the rest
FILM, SPREAD, LINE, VOLUME, COUNTED, NONE = "film", "spread", "line", "volume", "counted", "none"
DRIP = "drip"
_SLICES = 24
OUTSIDE, TOP, INSIDE, RIM = "outside", "top", "inside", "rim"


@dataclass(frozen=True)
class Technique:
    """A kind of layer.

    Attributes
    ----------
    measured : how its grams are found: film (drains on an area), spread (area by thickness), line (length by width),
    volume (ml), counted (so many by so much each), none (takes no coating).
    on : where it goes. window : the flow it wants, a key of `coating.flow.windows`; "" for what needs none.
    bag : from a bag, which keeps some. lies_on : how what is under it must be: "any", "wet", "half_set" or "set".
    fragile : share to make more of, because it breaks. thickness_mm, width_mm, each_g : where nothing is said.
    """

    name: str
    title: str
    measured: str
    on: str = OUTSIDE
    window: str = ""
    bag: bool = False
    lies_on: str = "set"
    fragile: float = 0.0
    thickness_mm: float = 2.0
    width_mm: float = 2.0
    each_g: float = 0.5
    rank: int = 50


_ALL = (
    Technique("dip", "Dip", FILM, window="dip", lies_on="any", fragile=0.03, rank=10),
    Technique("second_dip", "Second dip", FILM, window="dip", fragile=0.02, rank=20),
    Technique("angled_dip", "Angled dip", FILM, window="dip", lies_on="any", fragile=0.03, rank=15),
    Technique("rim", "Rim", FILM, RIM, "dip", lies_on="any", rank=10),
    Technique("pour", "Pour over", SPREAD, window="marbling", lies_on="any", thickness_mm=2.5, rank=10),
    Technique("spread", "Spread on a tray", SPREAD, TOP, "slab", lies_on="any", fragile=0.0, thickness_mm=3.0, rank=10),
    Technique("solid", "Fill a mould solid", VOLUME, INSIDE, "solid_mould", lies_on="any", fragile=0.05, rank=10),
    Technique("shell", "Shell", SPREAD, INSIDE, "shell", lies_on="any", fragile=0.1, thickness_mm=1.7, rank=10),
    Technique("stick", "Stick or pick", NONE, lies_on="wet", rank=42),
    Technique("insert", "Something put inside", COUNTED, INSIDE, lies_on="any", each_g=0.0, rank=30),
    Technique("filling", "Filling", VOLUME, INSIDE, rank=35),
    Technique("cap", "Lid of coating", SPREAD, TOP, "shell", lies_on="any", thickness_mm=2.0, rank=40),
    Technique("cake_drip", "Drips", DRIP, TOP, "cake_drip", bag=True, lies_on="any", width_mm=9.0, rank=55),
    Technique("lines", "Piped lines", LINE, TOP, "lettering", bag=True, fragile=0.03, width_mm=2.0, rank=60),
    Technique("lettering", "Lettering", LINE, TOP, "lettering", bag=True, fragile=0.05, width_mm=1.5, rank=60),
    Technique("dots", "Dots", COUNTED, TOP, "lettering", bag=True, each_g=0.05, rank=60),
    Technique("drizzle", "Drizzle", LINE, TOP, "drizzle", bag=True, width_mm=1.0, rank=60),
    Technique(
        "flood",
        "Outline and flood",
        SPREAD,
        TOP,
        "flood",
        bag=True,
        lies_on="any",
        fragile=0.15,
        thickness_mm=3.0,
        rank=10,
    ),
    Technique("lace", "Lace", LINE, OUTSIDE, "lace", bag=True, fragile=0.25, width_mm=2.0, rank=65),
    Technique(
        "transfer", "Transfer sheet", SPREAD, TOP, "sheet", lies_on="any", fragile=0.1, thickness_mm=2.0, rank=10
    ),
    Technique("film", "Film work", SPREAD, TOP, "sheet", lies_on="any", fragile=0.15, thickness_mm=1.8, rank=10),
    Technique("petals", "Knife petals", SPREAD, TOP, "petals", lies_on="any", fragile=0.15, thickness_mm=1.2, rank=10),
    Technique("marbling", "Marbling", SPREAD, TOP, "marbling", lies_on="any", fragile=0.05, thickness_mm=6.0, rank=10),
    Technique("modelling", "Modelling chocolate", COUNTED, OUTSIDE, each_g=8.0, rank=66),
    Technique("icing", "Icing", SPREAD, TOP, lies_on="any", thickness_mm=3.0, rank=12),
    Technique("paint", "Paint", SPREAD, TOP, "flood", thickness_mm=COAT_MM, rank=70),
    Technique("topping", "Topping", COUNTED, TOP, lies_on="wet", each_g=0.3, rank=45),
    Technique("glue", "Glue", COUNTED, OUTSIDE, "glue", bag=True, each_g=0.6, rank=75),
    Technique("dust", "Dust or pearl", NONE, TOP, rank=80),
    Technique("leaf", "Leaf", NONE, TOP, rank=85),
    Technique("own", "A step of my own", NONE, lies_on="any", rank=50),
)
TECHNIQUES: Mapping[str, Technique] = MappingProxyType({t.name: t for t in _ALL})
NOT_COATING = ("filling", "insert", "topping", "icing", "modelling", "stick", "dust", "leaf", "own")


def technique(name: str) -> Technique:
    """The technique of that name. Raises UnknownName."""
    if name not in TECHNIQUES:
        raise UnknownName(f"There is no layer called {name[:60]!r}.", field="technique", choices=list(TECHNIQUES))
    return TECHNIQUES[name]


@dataclass(frozen=True)
class Layer:
    """One layer of a stack. What is None is as the technique has it.

    share : of the core that it covers, 0 to 1. thickness_mm, width_mm, length_mm : of coats and lines. volume_ml : in
    one piece. spacing_mm, wall, flooded : of drips, as `coating.piece.drips`. count, each_g : of what is counted.
    coats : how often. placed : on what it lies, "wet", "half_set" or "set". white : what it is made of. colour : its
    name. goes_on_g : on one piece, where that is known. sheets : of film for one piece, where a plan says so.
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

    @property
    def kind(self) -> Technique:
        return technique(self.technique)

    @property
    def takes_coating(self) -> bool:
        return self.technique not in NOT_COATING


def film_mm(name: str, below_mm: float, flow: Flow | None = None) -> float:
    """Mean thickness of the film a technique leaves, mm, so far below its line, at a flow or the one it aims for."""
    aimed = flow or window(name).aim
    return coat_thickness_mm(aimed, below_line_mm=max(below_mm, 0.1) / 2)


def _film_mm3(core: Core, share: float, flow: Flow) -> float:
    """The coat of a dip, slice by slice below its line: it drains thicker the lower it hangs."""
    depth, volume = share * core.length_mm, 0.0
    wetted = [core.wetted_mm2(share * i / _SLICES) for i in range(_SLICES + 1)]
    for i in range(_SLICES):
        below_mm = min(core.runs_mm, depth * (1 - (i + 0.5) / _SLICES))
        volume += (wetted[i + 1] - wetted[i]) * coat_thickness_mm(flow, below_line_mm=below_mm)
    return volume


def coat_of_dip_mm(core: Core, share: float, flow: Flow | None = None) -> float:
    """Mean thickness of the coat of a dip, mm."""
    area = core.wetted_mm2(share)
    return _film_mm3(core, share, flow or window("dip").aim) / area if area else 0.0


@lru_cache(maxsize=4096)
def on_one_g(core: Core, layer: Layer, *, flow: Flow | None = None) -> float:
    """What a layer puts on one piece, g; nothing for what takes no coating and has no weight of its own.

    Raises
    ------
    OutOfBounds : a line without a length, more in a mould than it holds, or a value outside its bounds.
    """
    if layer.goes_on_g is not None:
        return check("mass_g", layer.goes_on_g, "goes_on_g")
    kind = layer.kind
    thick = layer.thickness_mm if layer.thickness_mm is not None else kind.thickness_mm
    wide = layer.width_mm if layer.width_mm is not None else kind.width_mm
    each = layer.each_g if layer.each_g is not None else kind.each_g
    if kind.measured == FILM:
        if kind.on == RIM:
            band_mm = layer.share * core.length_mm
            return layer.coats * core.outline_mm * band_mm * film_mm(kind.window, band_mm, flow) * DENSITY * 1e-6
        return layer.coats * _film_mm3(core, layer.share, flow or window(kind.window).aim) * DENSITY * 1e-6
    if kind.measured == DRIP:
        squeeze = squeeze_of(layer.length_mm, layer.width_mm, layer.wall, layer.white, flow)
        return drips_on(
            core, squeeze, length_mm=layer.length_mm, width_mm=layer.width_mm, spacing_mm=layer.spacing_mm,
            flooded=layer.flooded,
        ).mass_g  # fmt: skip
    if kind.measured == SPREAD:
        return layer.coats * _area_mm2(core, layer) * check("thickness_mm", thick) * DENSITY * 1e-6
    if kind.measured == LINE:
        if layer.length_mm is None:
            raise OutOfBounds("Say how long the lines are together.", field="length_mm")
        section = math.pi / 4 * check("bead_mm", wide, "width_mm") ** 2 * BEAD_HEIGHT
        return section * check("line_mm", layer.length_mm, "length_mm") * DENSITY * 1e-6
    if kind.measured == VOLUME:
        full = _FILLED if layer.technique == "filling" else 1.0
        volume_ml = layer.volume_ml if layer.volume_ml is not None else core.holds_ml * layer.share * full
        if kind.on == INSIDE and volume_ml > core.holds_ml * (1 + 1e-9):
            raise OutOfBounds(f"It holds {core.holds_ml:.0f} ml: less than that.", field="volume_ml")
        return volume_ml * (FILLING_DENSITY if layer.technique == "filling" else DENSITY) * 1e-3
    if kind.measured == COUNTED:
        return layer.count * check("mass_g", each, "each_g")
    return 0.0


# How long lines are together, in widths of what they lie on: seven strokes of a drizzle, three arcs, a word, a net.
_LENGTHS = {"drizzle": 4.5, "lines": 4.0, "lettering": 4.0, "lace": 14.0}


def usual_length_mm(name: str, core: Core) -> float:
    """How long the lines of a technique usually are on one piece, mm. Common practice, no source."""
    return round(_LENGTHS.get(name, 4.0) * math.sqrt(core.across_mm * core.length_mm) / 10) * 10.0


def _area_mm2(core: Core, layer: Layer) -> float:
    if layer.kind.on == INSIDE:
        return core.inside_mm2 * layer.share
    return (core.top_mm2 if layer.kind.on == TOP else core.wetted_mm2(1.0)) * layer.share
