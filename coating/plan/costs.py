"""What a piece costs: coating with what is lost on the way, what is on it, and its part of what is used again."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from coating.limits import check
from coating.plan.shopping import paid_back

SHEET_MM2, CUT_LOSS = 400.0 * 250.0, 1.25  # a transfer sheet, and what cutting loses; common practice, no source


@dataclass(frozen=True)
class PieceCost:
    """In the maker's money for one piece; `unknown` names what has no price yet and so is not in it."""

    coating: float
    extras: float
    paid_back: float
    unknown: tuple[str, ...] = ()

    @property
    def total(self) -> float:
        """All of it, in the money of the kitchen."""
        return self.coating + self.extras + self.paid_back

    def with_part(self, part: PieceCost, times: float) -> PieceCost:
        """The same with so many of a part on it.

        >>> PieceCost(1.0, 0.5, 0.0).with_part(PieceCost(0.25, 0.0, 0.125), 2).total
        2.25
        """
        unknown = tuple(dict.fromkeys([*self.unknown, *part.unknown]))
        return PieceCost(
            self.coating + times * part.coating,
            self.extras + times * part.extras,
            self.paid_back + times * part.paid_back,
            unknown,
        )


@dataclass(frozen=True)
class Poured:
    """A layer's part of its bowl: g on all its pieces and spares, g on all that the bowl is for, g the bowl loses, and
    what a g of it costs (None: unknown)."""

    name: str
    layer_g: float
    bowl_on_g: float
    bowl_lost_g: float
    per_g: float | None


@dataclass(frozen=True)
class Put:
    """What is not coating, on one piece: g or pieces of it, and what one of those costs (None: unknown)."""

    name: str
    amount: float
    each: float | None


@dataclass(frozen=True)
class Tool:
    """What is used again: its price (None: unknown), how often, and for how many pieces each time."""

    name: str
    price: float | None
    uses: int
    pieces: int


def piece_cost(count: int, poured: Iterable[Poured], put: Iterable[Put] = (), tools: Iterable[Tool] = ()) -> PieceCost:
    """Spares and what stays in bowl and bag are paid by the pieces that are given away.

    Raises OutOfBounds for a count below one.
    """
    check("count", count)
    unknown: list[str] = []
    coating = extras = again = 0.0
    for p in poured:
        lost_g = p.bowl_lost_g * p.layer_g / p.bowl_on_g if p.bowl_on_g else 0.0
        coating += (p.per_g or 0.0) * (p.layer_g + lost_g) / count
        unknown += [p.name] if p.per_g is None else []
    for thing in put:
        extras += thing.amount * (thing.each or 0.0)
        unknown += [thing.name] if thing.each is None else []
    for tool in tools:
        again += paid_back(tool.price, tool.uses, tool.pieces) if tool.price else 0.0
        unknown += [tool.name] if tool.price is None else []
    return PieceCost(coating, extras, again, tuple(dict.fromkeys(unknown)))
