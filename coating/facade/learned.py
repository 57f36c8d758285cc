"""Factors in JSON: {"drop": 1.2, "strength.blue": {"factor": 1.3, "low": 1.1, "high": 1.5}}."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from coating.facade.fields import Named, Number, Record
from coating.learning.factors import Factor, Factors
from coating.learning.names import OF_ONE, PRIORS

_RANGED = Record({"factor": Number("learned"), "low": Number("learned_end", None), "high": Number("learned_end", None)})


@dataclass(frozen=True)
class _Factor:
    """A number, or one with its range as `learn.fit` gives it."""

    default: Any = None

    def read(self, value: Any, path: str) -> Factor:
        """The factor."""
        if not isinstance(value, dict):
            return Factor(Number("learned").read(value, path))
        read = _RANGED.read(value, path)
        return Factor(read["factor"], read["low"], read["high"])

    def schema(self) -> dict[str, Any]:
        """Either."""
        return {"anyOf": [Number("learned").schema(), _RANGED.schema()]}


@dataclass(frozen=True)
class _Factors:
    """An object of factors by name."""

    default: Any = Factors()

    def read(self, value: Any, path: str) -> Factors:
        """All of them. Raises UnknownName for a name that nothing is learned under."""
        return Factors(Named(_Factor(), most=400).read(value, path))

    def schema(self) -> dict[str, Any]:
        """By names that something is learned under."""
        alone = "|".join(kind for kind in PRIORS if kind not in OF_ONE)
        of_one = "|".join(sorted(OF_ONE))
        names = {"pattern": rf"^(({alone})|({of_one})\..+)$"}
        return {**Named(_Factor(), most=400).schema(), "propertyNames": names}


FACTORS = _Factors()
