"""Icing: spread or piped; it dries in hours, not in minutes."""

from __future__ import annotations

from coating.techniques.base import BUILD, COATS, SHARE, SPREAD, TOP, Technique, thickness
from coating.techniques.measures import spread_g, spread_thick
from coating.techniques.ways import poured

TECHNIQUE = Technique(
    name="icing",
    title="Icing",
    shelf=COATS,
    does="Ice {them}",
    did_one="Iced one",
    measure=spread_g,
    thick=spread_thick,
    draw=poured,
    measured=SPREAD,
    fields=(SHARE, thickness(3.0)),
    on=TOP,
    lies_on="any",
    thickness_mm=3.0,
    rank=12,
    hands_s=30.0,
    work=BUILD,
    looks="level up to the edge",
    extra="icing",
    coating=False,
    covers=True,
    on_bare=True,
    tint="#fffdf6",
    dries_min=(60.0, 360.0),
)
