"""The order of a stack: what cannot follow what, and why; and an order in which it can be done."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from coating.piece.cores import Core
from coating.stack.layers import Layer
from coating.techniques.base import INSIDE
from coating.techniques.ways import HOLLOW

UNLIKELY = 0.25  # broken pieces that nobody makes a spare for


@dataclass(frozen=True)
class Mistake:
    """What is wrong with a layer (its place in the stack, from 0), why, and whether another order mends it."""

    place: int
    why: str
    reorder: bool = True


def mistakes(core: Core, layers: Sequence[Layer]) -> list[Mistake]:
    """Everything that would go wrong, in the order of the stack. Practice, no source."""
    if not layers:
        return [Mistake(0, "There is nothing on it yet: add a layer.", reorder=False)]
    findings = [(place, _wrong(core, layers, place)) for place in range(len(layers))]
    return [Mistake(place, *why) for place, why in findings if why]


def _wrong(core: Core, layers: Sequence[Layer], place: int) -> tuple[str, bool] | None:
    """Of every technique, and what it objects to itself."""
    layer, before, after = layers[place], layers[:place], layers[place + 1 :]
    kind = layer.kind
    if kind.on == INSIDE and not core.holds_ml:
        return f"{kind.title} {HOLLOW}", False
    own = kind.objects(core, layers, place) if kind.objects else None
    if own is not None:
        return own
    coats = [la for la in after if la.kind.covers or la.technique == "second_dip"]
    if kind.over and coats:
        return f"{kind.title} comes after the last coat, or the coat covers it.", True
    under = coats if layer.technique == "dust" else [*coats, *(la for la in after if la.kind.over)]
    if kind.finish and under:
        return f"{kind.title} comes last: what follows would cover it.", True
    if kind.over and layer.placed in ("wet", "half_set"):
        return f"{kind.title} wants the coat under it set, or it sinks in.", False
    bare = kind.on_bare or (kind.over and not core.holds_ml)
    if kind.lies_on in ("set", "wet") and not before and not bare:
        return f"{kind.title} has nothing under it: put a coat first.", any(la.kind.covers for la in after)
    return None


def in_order(layers: Sequence[Layer], core: Core | None = None) -> tuple[int, ...]:
    """Places of the layers in an order that can be done: sticks of what is dipped, coats, what goes inside, lids,
    sticks of what is moulded, toppings while wet, then what lies on a set coat, paint, dust and leaf. What belongs
    together keeps the maker's order."""
    first = core is not None and not core.holds_ml

    def rank(i: int) -> tuple[int, int]:
        return (0 if first and layers[i].technique == "stick" else layers[i].kind.rank), i

    return tuple(sorted(range(len(layers)), key=rank))


def spares_for(count: int, core_breaks: float, layers: Sequence[Layer]) -> int:
    """How many more to make, from what is most fragile in it: lace a quarter, shells a tenth; none where hardly any
    would break, as of one slab. Practice, no source."""
    share = max([core_breaks, *(layer.kind.fragile for layer in layers)], default=0.0)
    return math.ceil(count * share - 1e-9) if count * share >= UNLIKELY else 0
