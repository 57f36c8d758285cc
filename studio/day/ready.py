"""What to lay ready before the day begins: bowls, bags, templates, moulds, what goes on."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass

from coating.piece.amounts import BAG_HOLDS_G
from coating.shape.moulds.cavity import PRESETS
from studio.day.adapters import Planned
from studio.designs.kinds import KINDS
from studio.designs.kinds.words import grams, many, mm
from studio.designs.models import Design
from studio.pieces.adapters import ColourNeed
from studio.pieces.costs import Also, also_wanted
from studio.pieces.models import Job

TEMPLATED = ("From a bag", "On film")  # groups of kinds whose templates are worked on


@dataclass(frozen=True)
class Ready:
    """One kind of things: what each is, with the design whose template it is where it is one."""

    title: str
    things: tuple[tuple[str, Design | None], ...]


def lay_ready(job: Job, planned: Planned) -> list[Ready]:
    """Of a job with prefetched pieces, layers and extras, what its day uses; kinds that are not wanted are left out."""
    used = [planned.bowls[key] for key in planned.day.bowls]
    found = [
        Ready(many(len(used), "bowl"), tuple((need.name.lower(), None) for need in used)),
        Ready("Bags", tuple((_bags(need, planned.designs.values()), None) for need in used if need.kind.kind.bag)),
        Ready("Templates", tuple((d.name, d) for d in planned.designs.values() if KINDS[d.kind].group in TEMPLATED)),
        Ready("Moulds", tuple((_moulds(d), None) for d in planned.designs.values() if d.kind == "mould")),
        Ready("To put on and in", tuple((_amount(thing), None) for thing in also_wanted(job) if not thing.of)),
    ]
    return [ready for ready in found if ready.things]


def _bags(need: ColourNeed, designs: Iterable[Design]) -> str:
    """How many, of which colour, cut to which hole."""
    mine = {layer.pk for layer in need.layers}
    holes = [d.drawn.get("hole_mm") for d in designs if d.layer_id in mine]
    cut = ", ".join(mm(hole) for hole in sorted({round(h, 1) for h in holes if h}))
    count = max(1, math.ceil(need.quantity.goes_on_g / BAG_HOLDS_G - 1e-9))
    return f"{count} of {need.name.lower()}" + (f", cut to {cut}" if cut else "")


def _moulds(design: Design) -> str:
    asked = design.asked
    cavities = int(asked.get("cavities") or PRESETS[asked["preset"]].cavities)
    return f"{many(int(asked.get('moulds') or 1), 'mould')} of {cavities}: {design.name.lower()}"


def _amount(thing: Also) -> str:
    if not thing.amount:
        return f"a little {thing.title.lower()}"
    if thing.counted:
        return f"{math.ceil(thing.amount - 1e-9)} × {thing.title.lower()}"
    return f"{grams(thing.amount)} of {thing.title.lower()}"
