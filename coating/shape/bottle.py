"""A squeeze bottle filled in layers and turned over: the core runs out first, so that layers come one into the other.

Of what leaves after a share v of it all is out, min(1, (h/2v)^2) lay below h (parabolic flow down the middle), until
half is out; then what is left has mixed. A model, not a measurement.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

from coating.errors import EmptyDrawing, OutOfBounds
from coating.limits import check

MIXED_FROM = 0.5
MOST_LAYERS = 30


@dataclass(frozen=True)
class BottleLayer:
    """A colour by its name, and how much of it, ml; listed from the nozzle up as it is squeezed."""

    colour: str
    volume_ml: float


def dispensed(layers: Sequence[BottleLayer], cavities: int) -> list[dict[str, float]]:
    """What each of so many equal cavities holds, in the order they are filled: shares by colour, adding up to 1.

    Raises
    ------
    EmptyDrawing : no layer. OutOfBounds : too many, an empty one, or a count outside its bounds.
    """
    count = int(check("cavities", cavities))
    if not layers:
        raise EmptyDrawing("There is nothing in the bottle.", field="layers")
    if len(layers) > MOST_LAYERS:
        raise OutOfBounds(f"A bottle takes at most {MOST_LAYERS} layers.", field="layers", high=MOST_LAYERS)
    volumes = [check("layer_ml", layer.volume_ml, "volume_ml") for layer in layers]
    total = sum(volumes)
    tops, height = [], 0.0
    for volume in volumes:
        height += volume / total
        tops.append(min(1.0, height))
    tops[-1] = 1.0
    outs = [_out_below(tops, i / count) for i in range(count + 1)]
    by_cavity = []
    for before, after in pairwise(outs):
        shares: dict[str, float] = {}
        for layer, was, now in zip(layers, before, after, strict=True):
            shares[layer.colour] = shares.get(layer.colour, 0.0) + (now - was) * count
        by_cavity.append(shares)
    return by_cavity


def _out_below(tops: Sequence[float], out: float) -> list[float]:
    """How much of each layer is out when so much of it all is, as shares of it all."""
    if out <= MIXED_FROM:
        below = [out if out <= top / 2 else top - top**2 / (4 * out) for top in tops]
    else:
        half = [top - top**2 / (4 * MIXED_FROM) if top / 2 < MIXED_FROM else MIXED_FROM for top in tops]
        rest = (out - MIXED_FROM) / (1 - MIXED_FROM)
        below = [was + (top - was) * rest for was, top in zip(half, tops, strict=True)]
    return [below[0], *[b - a for a, b in pairwise(below)]]


def plain_until(layers: Sequence[BottleLayer]) -> float:
    """The share that comes out before anything but the lowest layer does."""
    return layers[0].volume_ml / sum(layer.volume_ml for layer in layers) / 2


def evenness(shares: Sequence[dict[str, float]], colour: str) -> float:
    """How far apart the cavities are in one colour: the largest share less the smallest."""
    amounts = [cavity.get(colour, 0.0) for cavity in shares]
    return max(amounts) - min(amounts)
