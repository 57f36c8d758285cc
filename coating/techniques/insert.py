"""Something put inside: it takes its room off what is poured round it."""

from __future__ import annotations

from coating.techniques.base import COUNT, COUNTED, EACH_G, INSIDE, INTO, SCATTER, Technique
from coating.techniques.measures import counted_g, plain_thick
from coating.techniques.ways import in_hollow, leaned

TECHNIQUE = Technique(
    name="insert",
    title="Something put inside",
    shelf=INTO,
    does="Set the thing in the middle of {them}",
    did_one="Set one in",
    measure=counted_g,
    thick=plain_thick,
    draw=leaned,
    measured=COUNTED,
    fields=(COUNT, EACH_G),
    on=INSIDE,
    lies_on="any",
    each_g=0.0,
    rank=30,
    hands_s=3.0,
    work=SCATTER,
    looks="it sits in the middle, below the rim",
    extra="insert",
    coating=False,
    in_mould=True,
    tint="#7d5138",
    objects=in_hollow,
)
