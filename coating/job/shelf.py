"""What a job is made from: bases as bought, colours and fats."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import cached_property
from types import MappingProxyType

from coating.colour.mixing import Ingredient
from coating.learning.factors import Factors


@dataclass(frozen=True)
class Shelf:
    """`bases`, `colourants` : what may be proposed. `thinners` : the fat for each white, by "palm" and "cocoa".
    `prices` : money per g by name. `bags` : bases that a layer may name though they are not proposed."""

    bases: tuple[Ingredient, ...] = ()
    colourants: tuple[Ingredient, ...] = ()
    thinners: Mapping[str, Ingredient] = field(default_factory=lambda: MappingProxyType({}))
    prices: Mapping[str, float] = field(default_factory=lambda: MappingProxyType({}))
    bags: tuple[Ingredient, ...] = ()
    _own: dict[Factors, Shelf] = field(default_factory=dict, init=False, repr=False, compare=False)

    @cached_property
    def by_name(self) -> dict[str, Ingredient]:
        """Bases and bags by their names."""
        return {base.name: base for base in (*self.bags, *self.bases)}

    def learned(self, factors: Factors) -> Shelf:
        """The same as this kitchen's bottles and bags are."""
        if not factors.of and factors.tight == 1.0:
            return self
        if factors not in self._own:
            bases, colourants, bags = (
                tuple(map(factors.careful, some)) for some in (self.bases, self.colourants, self.bags)
            )
            self._own[factors] = Shelf(bases, colourants, self.thinners, self.prices, bags)
        return self._own[factors]

    def suiting(self, white: str) -> tuple[Ingredient, ...]:
        """Bases of the fat of a white, those that are white first."""
        family = "palm" if white == "coating" else "cocoa"
        return tuple(sorted((b for b in self.bases if b.family == family), key=lambda b: b.sort != "white"))

    def plain(self, white: str) -> Ingredient | None:
        """The white bag of that fat, if there is one."""
        first = next(iter(self.suiting(white)), None)
        return first if first is not None and first.sort == "white" else None

    def thinner(self, white: str) -> Ingredient | None:
        """The fat that thins that white."""
        return self.thinners.get("palm" if white == "coating" else "cocoa")
