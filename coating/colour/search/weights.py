"""What a recipe costs a maker, in units of colour difference."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from coating.colour.search.space import Space

Array = NDArray[np.float64]


@dataclass(frozen=True)
class Weights:
    """Colour difference, plus so much for every colourant, base after the first, unit of load, item and g put in.

    `beyond` counts for what of the difference is over `near`. `per_g` by name of ingredient: its price, or what keeps
    a colour away from bases that are not white. `pull` keeps doses small while they are refined.
    """

    difference: float = 1.0
    colourant: float = 0.3
    base: float = 0.2
    load: float = 0.2
    item: float = 0.0
    gram: float = 0.0
    near: float = 0.0
    beyond: float = 0.0
    per_g: tuple[tuple[str, float], ...] = ()
    pull: float = 0.0

    def least(self, additions: int) -> float:
        """What so many more ingredients cost at least, were the colour right and the doses nothing."""
        return additions * (self.colourant + self.item) - max(0.0, self.colourant - self.base)

    def cost(self, space: Space, grams: Array) -> Array:
        """Cost of rows (B, n); infinite where a row is not allowed."""
        seen = space.measure(grams)
        cost = self.difference * seen.de00 + self.colourant * seen.colourants + self.base * (seen.bases - 1)
        cost += self.load * seen.load
        if self.beyond:
            cost += self.beyond * np.maximum(seen.de00 - self.near, 0.0)
        if self.item:
            cost += self.item * (grams > 1e-9).sum(axis=1)
        if self.gram or self.per_g:
            cost += grams @ (self.gram + space.by_name(self.per_g))
        return np.where(space.allowed(grams, seen), cost, np.inf)
