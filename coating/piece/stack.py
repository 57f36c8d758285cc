"""The order of a stack: what cannot follow what, and why; and an order in which it can be done."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from coating.piece.cores import Core, Tier
from coating.piece.layers import INSIDE, Layer

UNLIKELY = 0.25  # broken pieces that nobody makes a spare for
HEADROOM = 0.9  # of what is hollow, so that a lid has room; common practice, no source
_BASE = ("dip", "angled_dip", "pour", "spread", "shell", "solid", "flood", "transfer", "marbling", "rim", "icing")
_DIPS = ("dip", "second_dip", "angled_dip")
_ON_BARE = ("lace", "glue", "icing", "paint", "modelling", "stick")
_ON_TOP = ("drizzle", "lines", "lettering", "dots", "lace")
_FINISH = ("dust", "leaf", "paint")


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
    found = []
    for place in range(len(layers)):
        why = _wrong(core, layers, place)
        if why:
            found.append(Mistake(place, why[0], why[1]))
    return found


def _wrong(core: Core, layers: Sequence[Layer], place: int) -> tuple[str, bool] | None:
    layer, before, after = layers[place], layers[:place], layers[place + 1 :]
    name, kind = layer.technique, layer.kind
    done = [b.technique for b in before]
    coming = [a.technique for a in after]
    if kind.on == INSIDE and not core.holds_ml:
        return f"{kind.title} goes into something hollow: a mould or a cup.", False
    if name == "cake_drip" and not isinstance(core, Tier):
        return "Drips run down a tier of a cake or a dessert that stands: pick one.", False
    if name == "pour" and "marbling" in done:
        return "The ground is poured first, and marbled while it is wet: pour it before.", True
    if name == "dip" and "angled_dip" in done:
        return "A straight dip would cover the slanted one: dip straight before, or at a slant again.", True
    if name == "second_dip" and "dip" not in done:
        return "A second dip lies on a first: dip it before, and let it set.", "dip" in coming
    if name == "cap" and "filling" in coming:
        return "Fill it before the lid goes on.", True
    if name == "filling":
        return _filling(core, layer, done, coming)
    if name == "stick":
        return _stick(core, done, coming)
    if name in _ON_TOP and any(c in _BASE or c == "second_dip" for c in coming):
        return f"{kind.title} comes after the last coat, or the coat covers it.", True
    over = (*_BASE, "second_dip") if name == "dust" else (*_BASE, *_ON_TOP, "second_dip")  # dust may lie under a line
    if name in _FINISH and any(c in over for c in coming):
        return f"{kind.title} comes last: what follows would cover it.", True
    if name in _ON_TOP and layer.placed in ("wet", "half_set"):
        return f"{kind.title} wants the coat under it set, or it sinks in.", False
    if name == "topping" and layer.placed == "set" and "glue" not in done:
        return "Nothing sticks to a coat that has set: place it while wet, or glue it.", False
    if name == "topping" and layer.placed == "wet" and layer.each_g and layer.each_g > 3:
        return "So heavy a topping ploughs a wet coat: place it half-set.", False
    on_bare = _ON_BARE if core.holds_ml else (*_ON_BARE, *_ON_TOP)
    if kind.lies_on in ("set", "wet") and not before and name not in on_bare:
        return f"{kind.title} has nothing under it: put a coat first.", bool(set(coming) & set(_BASE))
    return None


def _stick(core: Core, done: list[str], coming: list[str]) -> tuple[str, bool] | None:
    if not core.holds_ml and any(d in _DIPS for d in done):
        return "The stick is seated and left to set first, or the piece slides off it in the bowl.", True
    if core.holds_ml and "solid" in coming:
        return "The stick goes in after the mould is filled and tapped: tapping tips it.", True
    return None


def _filling(core: Core, layer: Layer, done: list[str], coming: list[str]) -> tuple[str, bool] | None:
    if "shell" not in done and core.inside_mm2 and "shell" in coming:
        return "The shell is made and set before it is filled.", True
    most_ml = core.holds_ml * HEADROOM
    if layer.volume_ml is not None and layer.volume_ml > most_ml:
        return f"That stands above the rim: {most_ml:.0f} ml at most, so that the lid has room.", False
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
