"""Spread on a tray: bark, and slabs that are broken or cut."""

from __future__ import annotations

from coating.techniques.base import COATS, DIP, SHARE, SPREAD, TOP, Technique, thickness
from coating.techniques.measures import spread_g, spread_thick
from coating.techniques.ways import poured

TECHNIQUE = Technique(
    name="spread",
    title="Spread on a tray",
    shelf=COATS,
    does="Spread {them} on lined trays and tap them level",
    did_one="Spread one",
    measure=spread_g,
    thick=spread_thick,
    draw=poured,
    measured=SPREAD,
    fields=(SHARE, thickness(3.0)),
    on=TOP,
    window="slab",
    lies_on="any",
    thickness_mm=3.0,
    rank=10,
    hands_s=60.0,
    work=DIP,
    looks="as thick at the edge as in the middle",
    faults=("grey", "cracks", "toppings_fall"),
    sets_as="slab",
    word="slab",
    covers=True,
)
