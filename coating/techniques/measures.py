"""How much a layer puts on one piece, and how thick: by the film that drains, by area, line, volume or count.

Thicknesses of coats come from the film that drains at a flow; lines are beads .7 as high as wide. Everything else is
common practice, no source.
"""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

from coating.errors import OutOfBounds
from coating.flow.casson1959 import Flow
from coating.flow.material import ORDINARY
from coating.limits import check
from coating.piece.cores import Core
from coating.piece.drips import LENGTH_MM, WIDTH_MM, drips_on, squeeze_of
from coating.shape.coats import coat_thickness_mm
from coating.shape.drips import mean_thickness_mm
from coating.techniques.base import INSIDE, TOP

if TYPE_CHECKING:
    from coating.stack.layers import Layer

BEAD_HEIGHT = 0.7
DENSITY = ORDINARY.density_kg_m3
FILLING_DENSITY = 1100.0  # kg/m3, of ganache, jam and cream on the whole; common practice, no source
FILLED = 0.75  # of what it holds: the shell and the lid want the rest
_SLICES = 24
_MM3_G = DENSITY * 1e-6


def _thick(layer: Layer) -> float:
    return layer.thickness_mm if layer.thickness_mm is not None else layer.kind.thickness_mm


def _wide(layer: Layer) -> float:
    return layer.width_mm if layer.width_mm is not None else layer.kind.width_mm


# -- the film that drains --------------------------------------------------------------------------------------
def film_mm(flow: Flow, below_mm: float) -> float:
    """Mean thickness of the film so far below its line, mm, at a flow."""
    return coat_thickness_mm(flow, below_line_mm=max(below_mm, 0.1) / 2)


def _film_mm3(core: Core, share: float, flow: Flow) -> float:
    """The coat of a dip, slice by slice below its line: it drains thicker the lower it hangs."""
    depth, volume = share * core.length_mm, 0.0
    wetted = [core.wetted_mm2(share * i / _SLICES) for i in range(_SLICES + 1)]
    for i in range(_SLICES):
        below_mm = min(core.runs_mm, depth * (1 - (i + 0.5) / _SLICES))
        volume += (wetted[i + 1] - wetted[i]) * coat_thickness_mm(flow, below_line_mm=below_mm)
    return volume


def film_g(core: Core, layer: Layer, flow: Flow) -> float:
    """Of a dip."""
    return layer.coats * _film_mm3(core, layer.share, flow) * _MM3_G


def film_thick(core: Core, layer: Layer, flow: Flow) -> float:
    """Mean thickness of the coat of a dip, mm."""
    area = core.wetted_mm2(layer.share)
    return _film_mm3(core, layer.share, flow) / area if area else 0.0


def band_g(core: Core, layer: Layer, flow: Flow) -> float:
    """Of a band round a rim."""
    band_mm = layer.share * core.length_mm
    return layer.coats * core.outline_mm * band_mm * film_mm(flow, band_mm) * _MM3_G


def band_thick(core: Core, layer: Layer, flow: Flow) -> float:
    """How thick that is, mm."""
    return film_mm(flow, layer.share * core.length_mm)


# -- an area, a line, a volume, a number -----------------------------------------------------------------------
def _area_mm2(core: Core, layer: Layer) -> float:
    if layer.area_mm2 is not None:
        return layer.area_mm2
    if layer.kind.on == INSIDE:
        return core.inside_mm2 * layer.share
    return (core.top_mm2 if layer.kind.on == TOP else core.wetted_mm2(1.0)) * layer.share


def spread_g(core: Core, layer: Layer, flow: Flow) -> float:
    """Of what is spread or poured so thick."""
    return layer.coats * _area_mm2(core, layer) * check("thickness_mm", _thick(layer)) * _MM3_G


def spread_thick(core: Core, layer: Layer, flow: Flow) -> float:
    """As it is spread, mm."""
    return _thick(layer)


def bead_g(length_mm: float, wide_mm: float) -> float:
    """A bead so long and wide, g."""
    return math.pi / 4 * wide_mm**2 * BEAD_HEIGHT * length_mm * _MM3_G


def line_g(core: Core, layer: Layer, flow: Flow) -> float:
    """Of lines. Raises OutOfBounds for lines without a length."""
    if layer.length_mm is None:
        raise OutOfBounds("Give the length of all the lines together.", field="length_mm")
    wide_mm = check("bead_mm", _wide(layer), "width_mm")
    return bead_g(check("line_mm", layer.length_mm, "length_mm"), wide_mm)


def line_thick(core: Core, layer: Layer, flow: Flow) -> float:
    """How high a line stands, mm."""
    return _wide(layer) * BEAD_HEIGHT


def volume_ml_in(core: Core, layer: Layer, share: float = 1.0) -> float:
    """What goes in, ml: as said, or a share of what it holds. Raises OutOfBounds for more than it holds."""
    volume_ml = layer.volume_ml if layer.volume_ml is not None else core.holds_ml * layer.share * share
    if core.holds_ml and volume_ml > core.holds_ml * (1 + 1e-9):
        raise OutOfBounds("It holds {most_ml}. Use less than that.", most_ml=core.holds_ml, field="volume_ml")
    return volume_ml


def volume_g(core: Core, layer: Layer, flow: Flow) -> float:
    """Of what fills it."""
    return volume_ml_in(core, layer) * DENSITY * 1e-3


def filling_g(core: Core, layer: Layer, flow: Flow) -> float:
    """Of a filling."""
    return volume_ml_in(core, layer, FILLED) * FILLING_DENSITY * 1e-3


def counted_g(core: Core, layer: Layer, flow: Flow) -> float:
    """Of what is counted."""
    each = layer.each_g if layer.each_g is not None else layer.kind.each_g
    return layer.count * check("mass_g", each, "each_g")


def nothing_g(core: Core, layer: Layer, flow: Flow) -> float:
    """Of what has no weight to speak of."""
    return 0.0


def filled_thick(core: Core, layer: Layer, flow: Flow) -> float:
    """What sets at once of something filled, mm: so deep as half of it, 8 mm at most."""
    return min(8.0, max(2.0, core.length_mm * layer.share / 2)) if core.holds_ml else 5.0


def plain_thick(core: Core, layer: Layer, flow: Flow) -> float:
    """An ordinary bead or bit, mm."""
    return 2.0


# -- drips ------------------------------------------------------------------------------------------------------
def drips_g(core: Core, layer: Layer, flow: Flow) -> float:
    """Of drips round a tier, their rim, and a flooded top."""
    squeeze = squeeze_of(layer.length_mm, layer.width_mm, layer.wall, layer.white, flow)
    return drips_on(
        core,
        squeeze,
        length_mm=layer.length_mm,
        width_mm=layer.width_mm,
        spacing_mm=layer.spacing_mm,
        flooded=layer.flooded,
    ).mass_g


def drips_thick(core: Core, layer: Layer, flow: Flow) -> float:
    """Of a drip, mm."""
    squeeze = squeeze_of(layer.length_mm, layer.width_mm, layer.wall, layer.white, flow)
    return mean_thickness_mm(
        volume_ml=squeeze.volume_ml, length_mm=layer.length_mm or LENGTH_MM, width_mm=layer.width_mm or WIDTH_MM
    )
