"""What can be learned of a kitchen, by name, and how far off what is noted may be."""

from __future__ import annotations

from collections.abc import Mapping
from types import MappingProxyType

from coating.beliefs import COAT, DROP, FLOW, HOLE, LOSS, PACE, PRIORS, RANGE_SD, SET, STRENGTH
from coating.errors import UnknownName

__all__ = ["COAT", "DROP", "FLOW", "HOLE", "LOSS", "PACE", "PRIORS", "RANGE_SD", "SET", "STRENGTH", "bottle", "kind_of"]
OF_ONE = frozenset({STRENGTH, FLOW, COAT})  # of a bottle, a base, a technique: written "strength.blue"
# How far off a right record may be: of ln, but for "read" (each of L*, a*, b*) and "warmth" (K).
NOISE: Mapping[str, float] = MappingProxyType(
    {
        "read": 1.2,
        "drops": 0.03,
        "spread": 0.04,
        "used": 0.05,
        "set": 0.1,
        "pace": 0.1,
        "stiff": 0.1,
        "warmth": 0.7,
    }
)
WRONG_SHARE = 0.1  # of all answers, one in so many is simply wrong
SURE_WRONG = 0.0  # of those that were looked at once more
HALF_LIFE_DAYS = 180.0


def kind_of(name: str) -> str:
    """What sort of factor a name is.

    Raises
    ------
    UnknownName
        No factor is called that.

    >>> kind_of("strength.blue#2"), kind_of("drop")
    ('strength', 'drop')
    """
    kind, dot, rest = name.partition(".")
    if kind not in PRIORS or (kind in OF_ONE) != bool(dot and rest):
        raise UnknownName(f"There is nothing to learn called {name[:60]!r}.", field="factors", choices=list(PRIORS))
    return kind


def bottle(ingredient: str, number: int = 1) -> str:
    """The name of an ingredient's n-th bottle.

    >>> bottle("blue"), bottle("blue", 2)
    ('blue', 'blue#2')
    """
    return ingredient if number <= 1 else f"{ingredient}#{number}"
