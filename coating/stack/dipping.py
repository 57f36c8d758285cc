"""Dips: what drips off a piece that is set down at once, ways to hold it, and stands."""

from __future__ import annotations

import math
from dataclasses import dataclass
from types import MappingProxyType

from coating.errors import OutOfBounds
from coating.flow.casson1959 import Flow
from coating.limits import check
from coating.piece.cores import Block, Core, Disc, Sheet
from coating.shape.coats import coat_thickness_mm
from coating.techniques.measures import DENSITY

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


STICKS = MappingProxyType(
    {
        s.name: s
        for s in (
            Stick("none", "no stick", "", 0.0),
            Stick(
                "seated",
                "seated in coating",
                "Dip the end of each stick in coating, push it half way in, lay them flat to "
                "set; flat sticks seat best.",
                10.0,
            ),
            Stick(
                "chilled",
                "pushed into a cold core",
                "Push each stick into the chilled core and chill it again, so that it does not turn.",
                20.0,
            ),
            Stick(
                "pick",
                "on a pick, pulled out after",
                "Spear each on a pick and stand it in foam; pull the pick out once the coat holds, and close the hole.",
                0.0,
                True,
            ),
        )
    }
)


def foot_g(core: Core, share: float, flow: Flow) -> float:
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
        raise OutOfBounds("A stand needs at least one hole.", field="holes", low=1)
    return math.ceil(check("count", count) / holes)
