"""A record: what was counted, read or typed of a bowl, with what it takes to predict it. Nothing that was reckoned.

It is of a colour (predicted in `colours.py`) or of one number (`numbers.py`), and names the parameters in its
prediction.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any

from coating.colour.mixing import Part
from coating.errors import UnknownName, WrongShape

KINDS = ("read", "look", "drops", "spread", "used", "set", "pace", "stiff", "warmth")
STEPS = (3.0, 4.0, 4.0)  # what "a bit" is worth, in L*, a*, b*; common practice, no source
FAR = 2.5  # times as far with "much"
WORDS = {
    "right": (0, 0.0),
    "light": (0, 1.0),
    "dark": (0, -1.0),
    "green": (1, -1.0),
    "red": (1, 1.0),
    "blue": (2, -1.0),
    "yellow": (2, 1.0),
}
RIGHT_OFF, OFF, ASIDE, MUCH_OFF, MUCH_ASIDE = 0.42, 0.65, 1.0, 0.9, 1.8  # sd in steps


@dataclass(frozen=True)
class Observation:
    """One thing a maker counted, read or typed.

    Attributes
    ----------
    id : its own name. kind : one of KINDS. bowl : which bowl or job. day : when, days from any beginning.
    parts, bottles : of a colour, everything in the bowl with the drops that were counted, g, and the bottle of each; ""
    for an ingredient's first. weighed : of what a drop was weighed, by name, so that the mass of drops plays no part.
    lab : what was read, or what it was compared with as shown then. word, much : of a look, one of WORDS.
    value : what was measured: g, mm, minutes, s or degC. given : whatever else its prediction takes, by name.
    struck : taken back; it counts for nothing. sure : looked at once more and found right, however odd.
    off : how far it may be off besides, of ln: an amount that was judged by eye.
    """

    id: str
    kind: str
    bowl: str
    day: float
    parts: tuple[Part, ...] = ()
    bottles: tuple[str, ...] = ()
    lab: tuple[float, float, float] | None = None
    word: str = ""
    much: bool = False
    value: float = 0.0
    given: dict[str, Any] = field(default_factory=dict)
    struck: bool = False
    weighed: frozenset[str] = frozenset()
    sure: bool = False
    off: float = 0.0

    def __post_init__(self) -> None:
        if self.kind not in KINDS:
            raise UnknownName(f"There is no record of kind {self.kind[:40]!r}.", field="kind", choices=list(KINDS))
        if self.kind in ("read", "look") and self.lab is None:
            raise WrongShape("A record of a colour needs its Lab.", field="lab")
        if self.kind == "look" and self.word not in WORDS:
            raise UnknownName(f"There is no word {self.word[:40]!r} for a colour.", field="word", choices=list(WORDS))

    @property
    def of_colour(self) -> bool:
        """Whether it says a colour, not a number."""
        return self.kind in ("read", "look")

    def bottle_of(self, place: int) -> str:
        """The bottle of a part: its ingredient unless a later one is named."""
        name = self.bottles[place] if place < len(self.bottles) else ""
        return name or self.parts[place].ingredient.name

    def in_drops(self, part: Part) -> bool:
        """Whether what is in it of a part goes with the mass of a drop."""
        return part.ingredient.counted_in_drops and part.ingredient.name not in self.weighed

    def names(self) -> tuple[str, ...]:
        """The parameters its prediction has in it."""
        if self.of_colour:
            drops = any(self.in_drops(p) for p in self.parts)
            each = [f"strength.{self.bottle_of(i)}" for i, p in enumerate(self.parts) if p.ingredient.is_colourant]
            return tuple(dict.fromkeys([*(["drop"] if drops else []), *each]))
        return _NAMES[self.kind](self.given)


def _film(given: dict[str, Any]) -> bool:
    return bool(given.get("film"))


def _used(given: dict[str, Any]) -> tuple[str, ...]:
    if given.get("line"):
        return ("hole",)
    coat = f"coat.{given['technique']}"
    return (coat, f"flow.{given['base']}") if _film(given) else (coat,)


def _sets(given: dict[str, Any]) -> tuple[str, ...]:
    if given.get("measured"):
        return ("set",)
    film = (f"flow.{given['base']}",) if _film(given) else ()
    return ("set", f"coat.{given['technique']}", *film)


_NAMES = {
    "drops": lambda given: ("drop",),
    "spread": lambda given: (f"flow.{given['base']}",),
    "used": _used,
    "set": _sets,
    "pace": lambda given: ("pace",),
    "stiff": lambda given: ("loss", f"flow.{given['base']}"),
    "warmth": lambda given: ("loss",),
}


def offset_of(word: str, *, much: bool = False) -> tuple[float, float, float]:
    """How far from its swatch a bowl is that looks so, in L*, a*, b*.

    >>> offset_of("green"), offset_of("dark", much=True)
    ((0.0, -4.0, 0.0), (-7.5, 0.0, 0.0))
    """
    axis, way = WORDS[word]
    off = [0.0, 0.0, 0.0]
    off[axis] = way * STEPS[axis] * (FAR if much else 1.0)
    return off[0], off[1], off[2]


def pseudo_reading(record: Observation) -> tuple[tuple[float, float, float], tuple[float, float, float]]:
    """What a look says the bowl was, as a reading with its sd in L*, a*, b*.

    >>> look = Observation("a", "look", "b", 0, lab=(70, 0, 0), word="dark", much=True)
    >>> pseudo_reading(look)
    ((62.5, 0.0, 0.0), (2.7, 7.2, 7.2))
    """
    axis, way = WORDS[record.word]
    assert record.lab is not None
    at = [v + by for v, by in zip(record.lab, offset_of(record.word, much=record.much), strict=True)]
    on, aside = (RIGHT_OFF, RIGHT_OFF) if not way else (MUCH_OFF, MUCH_ASIDE) if record.much else (OFF, ASIDE)
    sd = [step * (on if i == axis else aside) for i, step in enumerate(STEPS)]
    return (at[0], at[1], at[2]), (sd[0], sd[1], sd[2])
