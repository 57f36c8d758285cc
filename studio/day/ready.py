"""What to lay ready before the day begins: bowls, bags, templates, moulds, what goes on."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from studio.accounts.models import Kitchen
from studio.common.templatetags.kitchen import lower_first
from studio.day.adapters import Planned
from studio.designs.kinds import KINDS
from studio.designs.kinds.words import grams, many, mm
from studio.designs.models import Design
from studio.pieces.adapters import ColourNeed
from studio.pieces.costs import Also, also_wanted
from studio.pieces.models import Job
from studio.pieces.reckoned import reckoned

TEMPLATED = ("From a bag", "On film")  # groups of kinds whose templates are worked on


@dataclass(frozen=True)
class Ready:
    """One kind of things: what each is, with the design whose template it is where it is one."""

    title: str
    things: tuple[tuple[str, Design | None], ...]


def lay_ready(job: Job, kitchen: Kitchen, planned: Planned) -> list[Ready]:
    """Of a job with prefetched pieces, layers and extras, what its day uses; kinds that are not wanted are left out."""
    used = [planned.bowls[key] for key in planned.day.bowls]
    groups = [
        Ready(many(len(used), "bowl"), tuple((lower_first(need.name), None) for need in used)),
        Ready("Bags", tuple((_bags(need, planned.designs), None) for need in used if _is_bagged(need))),
        Ready("Templates", tuple((d.name, d) for d in planned.designs.values() if KINDS[d.kind].group in TEMPLATED)),
        Ready("Moulds", tuple((_moulds(d), None) for d in planned.designs.values() if d.kind == "mould")),
        Ready(
            "To put on and in",
            tuple((_amount(thing), None) for thing in also_wanted(job, reckoned(job, kitchen)) if not thing.of),
        ),
    ]
    return [ready for ready in groups if ready.things]


def before_says(groups: Sequence[Ready], kitchen: Kitchen) -> list[str]:
    """What is done before the first step of a day, one thing a line."""
    cold = " Clear a shelf in the fridge." if kitchen.has_fridge else ""
    return [
        "Dry bowls, spoons and hands: one drop of water makes a bowl stiff.",
        f"Lay baking paper on a tray.{cold}",
        *(f"{group.title}: {'; '.join(words for words, _ in group.things)}" for group in groups),
    ]


def _is_bagged(need: ColourNeed) -> bool:
    return any(line.bags for line in need.reckoned.lines)


def _bags(need: ColourNeed, designs: Mapping[int, Design]) -> str:
    """How many, of which colour, cut to which hole."""
    holes = [designs[la.pk].drawn.get("hole_mm") for la in need.layers if la.pk in designs]
    cut = ", ".join(mm(hole) for hole in sorted({round(h, 1) for h in holes if h}))
    count = sum(line.bags for line in need.reckoned.lines)
    return f"{count} of {lower_first(need.name)}" + (f", cut to {cut}" if cut else "")


def _moulds(design: Design) -> str:
    moulds, cavities = design.drawn.get("of_layer", {}).get("drawn", {}).get("moulds") or (1, 1)
    return f"{many(moulds, 'mould')} of {cavities}: {lower_first(design.name)}"


def _amount(thing: Also) -> str:
    if not thing.amount:
        return f"a little {lower_first(thing.title)}"
    if thing.counted:
        return f"{thing.whole} × {lower_first(thing.title)}"
    return f"{grams(thing.amount)} of {lower_first(thing.title)}"
