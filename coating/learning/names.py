"""What can be learned of a kitchen, by name, and how far apart kitchens are before anything is.

Each is the natural logarithm of a factor on the default in force, normal beforehand with mean 0 and the sd given here.
The sds are assumptions that held on simulated kitchens; common practice, no source.
"""

from __future__ import annotations

from collections.abc import Mapping
from types import MappingProxyType

from coating.errors import UnknownName

DROP, STRENGTH, FLOW, HOLE, LOSS, SET, COAT, PACE = (
    "drop",
    "strength",
    "flow",
    "hole",
    "loss",
    "set",
    "coat",
    "pace",
)
PRIORS: Mapping[str, float] = MappingProxyType(
    {DROP: 0.2, STRENGTH: 0.45, FLOW: 0.2, HOLE: 0.1, LOSS: 0.25, SET: 0.2, COAT: 0.2, PACE: 0.35}
)
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
HALF_LIFE_DAYS = 180.0
RANGE_SD = 1.645  # ranges hold nine in ten


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
