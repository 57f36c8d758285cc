"""What was learned, applied: factors on colours, coatings, coats, times and hands."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from types import MappingProxyType

from coating.colour.mixing import Ingredient
from coating.errors import OutOfBounds
from coating.learning.names import COAT, DROP, FLOW, HOLE, LOSS, PACE, PRIORS, RANGE_SD, SET, STRENGTH, kind_of

LEAST, MOST = 0.2, 5.0


@dataclass(frozen=True)
class Factor:
    """A factor with its 90 % range; as it is where no range is known."""

    value: float = 1.0
    low: float | None = None
    high: float | None = None

    @property
    def sd(self) -> float | None:
        """Of its logarithm, where its range is known."""
        return None if self.low is None or self.high is None else math.log(self.high / self.low) / (2 * RANGE_SD)

    def range_or(self, off: float) -> tuple[float, float]:
        """Its range, or so far either way of itself where none is known."""
        low = self.value * (1 - off) if self.low is None else self.low
        return low, self.value * (1 + off) if self.high is None else self.high


AS_LABELLED = Factor()


@dataclass(frozen=True)
class Factors:
    """Factors by name; what is not there is 1, and answers as if nothing were known.

    `tight` : the share of its load that a colour counted in drops may be dosed with, where drops may be heavier than
    they are taken to be; 1 and below.

    Raises
    ------
    UnknownName
        A name that nothing is learned under. OutOfBounds: a factor below .2 or above 5.
    """

    of: Mapping[str, Factor] = field(default_factory=lambda: MappingProxyType({}))
    tight: float = 1.0

    def __post_init__(self) -> None:
        for name, factor in self.of.items():
            kind_of(name)
            if not LEAST <= factor.value <= MOST:
                raise OutOfBounds(
                    f"A factor must be between {LEAST:g} and {MOST:g}.", field="factors", low=LEAST, high=MOST
                )

    def __hash__(self) -> int:
        return hash((self.tight, *sorted(self.of.items(), key=lambda pair: pair[0])))

    def __getitem__(self, name: str) -> Factor:
        return self.of.get(name, AS_LABELLED)

    def value(self, kind: str, of: str = "") -> float:
        """The factor of a kind, of an ingredient, a base or a technique."""
        return self[f"{kind}.{of}" if of else kind].value

    def only(self, *kinds: str) -> Factors:
        """Those of some kinds."""
        return Factors({name: factor for name, factor in self.of.items() if kind_of(name) in kinds})

    def sd_of(self, name: str) -> float:
        """The sd of ln of a factor: of what was learned, else of what is believed beforehand."""
        known = self[name].sd
        return PRIORS[kind_of(name)] if known is None else known

    @property
    def strengths(self) -> dict[str, float]:
        """On each bottle that is known, by its name."""
        return {name.partition(".")[2]: f.value for name, f in self.of.items() if kind_of(name) == STRENGTH}

    @property
    def hole(self) -> float:
        """On the width of a piped line; its grams go with the square."""
        return self.value(HOLE)

    @property
    def loss(self) -> float:
        """On the heat a bowl loses."""
        return self.value(LOSS)

    @property
    def pace(self) -> float:
        """On the seconds of hands."""
        return self.value(PACE)

    @property
    def set(self) -> float:
        """On the minutes until something is set or bends."""
        return self.value(SET)

    def coat(self, technique: str) -> float:
        """On the thickness this hand leaves."""
        return self.value(COAT, technique)

    def flow(self, base: str) -> Factor:
        """On the flow number of a base."""
        return self[f"{FLOW}.{base}"]

    def ingredient(self, ingredient: Ingredient, bottle: str = "") -> Ingredient:
        """An ingredient as this kitchen's is: a drop weighs more, a bottle is stronger, a base thicker than its label.

        What it may be dosed with counts grams, and does not change.
        """
        drop = self.value(DROP) if ingredient.counted_in_drops else 1.0
        strong = self.value(STRENGTH, bottle or ingredient.name) if ingredient.is_colourant else 1.0
        thick = self.flow(ingredient.name).value if ingredient.is_base else 1.0
        if (drop, strong, thick) == (1.0, 1.0, 1.0):
            return ingredient
        return replace(
            ingredient,
            unit_g=ingredient.unit_g * drop,
            strength=ingredient.strength * strong,
            number=ingredient.number * thick if ingredient.number else ingredient.number,
        )

    def careful(self, ingredient: Ingredient, bottle: str = "") -> Ingredient:
        """The same for a recipe: no more drops may go in than before anything was learned, and fewer at once where a
        drop may be heavier, counted at the high end of its range."""
        learned = self.ingredient(ingredient, bottle)
        if not ingredient.counted_in_drops or (learned is ingredient and self.tight == 1.0):
            return learned
        drop = self[DROP]
        tight = self.tight * min(1.0, drop.value / max(1.0, drop.high or drop.value))
        return learned if tight == 1.0 else replace(learned, cap_share=learned.cap_share * tight)


NOTHING = Factors()
