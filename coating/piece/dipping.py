"""A run of dips: what goes on, what drips off, how deep the bowl has to be, how many before it wants warming,
sticks."""

from __future__ import annotations

import math
from dataclasses import dataclass
from types import MappingProxyType

from coating.errors import OutOfBounds
from coating.flow.casson1959 import Flow
from coating.flow.windows import window
from coating.heat.times import usable_time
from coating.limits import check
from coating.piece.amounts import depth_g
from coating.piece.cores import Block, Core, Disc, Sheet
from coating.piece.layers import DENSITY, Layer, coat_of_dip_mm, on_one_g
from coating.plan.quantities import BOWL_LOSS_G, ROOM_BELOW_MM, ROOM_BESIDE_MM
from coating.shape.coats import coat_thickness_mm

STRAIGHT, SLANTED, TWO_SIDED = "straight", "slanted", "two_sided"
DIP_S = 15.0  # hands for one: in, wiggle, out, shake, scrape, set down; an assumption
SET_DOWN_S, DRAINED_S = 5.0, 30.0
GLASS_BAND = "glass_rim"


@dataclass(frozen=True)
class Stick:
    """A way to hold a piece: what is done, minutes until it can be dipped, and whether it is counted in again."""

    name: str
    title: str
    says: str
    wait_min: float
    comes_out: bool = False


STICKS = MappingProxyType({s.name: s for s in (
    Stick("none", "no stick", "", 0.0),
    Stick("seated", "seated in coating",
        "Dip the end of each stick in coating, push it half way in, lay them flat to "
          "set; flat sticks seat best.", 10.0),
    Stick("chilled", "pushed into a cold core", "Push each stick into the chilled core and chill it again, so that it "
          "does not turn.", 20.0),
    Stick("pick", "on a pick, pulled out after",
        "Spear each on a pick and stand it in foam; pull the pick out once the "
          "coat holds, and close the hole.", 0.0, True),
)})  # fmt: skip


@dataclass(frozen=True)
class Dipping:
    """One piece dipped, and its run: g on one, mean coat in mm, g that drip off when it is set down at once, g still
    there at the last, g to melt for so many, how deep the bowl has to be in mm and how wide, how many before it wants
    warming, and how often that is."""

    one_g: float
    coat_mm: float
    foot_g: float
    depth_g: float
    melt_g: float
    deep_mm: float
    wide_mm: float
    warm_for: int
    rewarms: int


def dipping(
    core: Core, *, share: float, count: int, way: str = STRAIGHT, coats: int = 1, technique: str = "dip",
    flow: Flow | None = None, white: str = "coating", room_c: float = 21.0,
) -> Dipping:  # fmt: skip
    """A run of dips.

    Parameters
    ----------
    core : what is dipped. share : of its length that goes in. count : with spares. way : straight, slanted (one side
    at a slant) or two_sided (one side, and when it is set the other). coats : one over the other, each set first.
    technique : a window of flow. flow : as it stands; None: as the technique wants it. white, room_c : what it is, and
    the room.

    Raises
    ------
    OutOfBounds : a share, a count or coats outside their bounds.
    """
    check("share", share), check("dip_coats", coats, "coats")
    many, flowing = int(check("count", count)), flow or window(technique).aim
    layer = Layer("rim" if technique == "rim" else "dip", share=share)
    sides = 2 if way == TWO_SIDED else 1
    once_g = on_one_g(core, layer, flow=flowing)
    one_g = once_g * sides * coats
    last_g = depth_g(core, layer)
    melt_g = one_g * many + last_g + BOWL_LOSS_G
    warm_for = max(1, int(usable_time(melt_g, white=white, room_c=room_c) / DIP_S))
    turns = many * sides * coats
    return Dipping(
        one_g, coat_of_dip_mm(core, share, flowing), _foot_g(core, share, flowing), last_g, melt_g,
        share * core.length_mm + ROOM_BELOW_MM, core.across_mm + ROOM_BESIDE_MM, min(warm_for, turns),
        max(0, math.ceil(turns / warm_for) - 1),
    )  # fmt: skip


def _foot_g(core: Core, share: float, flow: Flow) -> float:
    """What still runs down its upright sides after it is set down unshaken: the film then, less the film that stays."""
    flat = isinstance(core, Disc | Block | Sheet)
    thick = getattr(core, "thickness_mm", 0.0)
    upright = core.outline_mm * thick * share if flat else core.wetted_mm2(share)
    below = max(1.0, min(core.runs_mm, thick if flat else share * core.length_mm) / 2)
    wet = coat_thickness_mm(flow, below_line_mm=below, drain_s=SET_DOWN_S, tap_g=0.0)
    stays = coat_thickness_mm(flow, below_line_mm=below, drain_s=DRAINED_S, tap_g=0.0)
    return upright * max(0.0, wet - stays) * DENSITY * 1e-6


def stand_rounds(count: int, holes: int) -> int:
    """How often a stand is filled. Raises OutOfBounds for none."""
    if holes < 1:
        raise OutOfBounds("A stand without a hole holds nothing.", field="holes", low=1)
    return math.ceil(check("count", count) / holes)
