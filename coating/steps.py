"""Steps: what hands do one after another, each with the window in which it is done."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import asdict, dataclass
from typing import Any

from coating.errors import OutOfBounds

WET, HALF_SET, SET = "wet", "half_set", "set"
ROOM = "room"
ALL_MADE = "all"
# What to look for at steps that several techniques share; common practice, no source.
CLOSED = "a closed line without a gap"
DULL = "dull at its edges, still soft"
CUTS = "the knife leaves a clean line, and nothing sticks to it"
CLEAN = "level with the brim, clean edges"
KNIFE_AGE, HOT_AGE = 8, 12  # years from which a child may; common practice, no source
SHINES = "it still shines, so it holds what falls on it"


@dataclass(frozen=True)
class Step:
    """One step.

    Attributes
    ----------
    says : in the maker's words. hands_s : how long hands are at it, all of it together. state : how what was made
    before must be: "wet", "half_set", "set", or "" where it does not matter. from_min, until_min : its window, minutes
    after the step before was done; None: as late as you like. place : where it waits until then. warm : whether it is
    done from a warm bowl; None: it is, as long as nothing has waited before. of : which colour it is done from, as who
    asks calls them; None: the one that most is of. makes : the technique of the layer above that it makes, where that
    is one of its own, and what follows goes with it; ALL_MADE: it is done when all that goes in with it is made.
    kind : "make", "stick", "release" or "finish". looks : what to look for, where that is not what is looked for at
    every step of its kind. from_age : years below which it is not for a child; 0: for everyone.
    """

    says: str
    hands_s: float = 0.0
    state: str = ""
    from_min: float = 0.0
    until_min: float | None = None
    place: str = ROOM
    warm: bool | None = None
    of: str | None = None
    makes: str = ""
    kind: str = "make"
    looks: str = ""
    from_age: int = 0

    def __post_init__(self) -> None:
        numbers = [self.hands_s, self.from_min, *([] if self.until_min is None else [self.until_min])]
        if any(not math.isfinite(n) or n < 0 for n in numbers):
            raise OutOfBounds("The times of a step cannot be below zero.", field="hands_s")
        if self.until_min is not None and self.until_min < self.from_min:
            raise OutOfBounds("A step cannot be too late before it may begin.", field="until_min")

    @property
    def waits(self) -> bool:
        """Whether something has to happen by itself first."""
        return self.from_min > 0

    @property
    def closes(self) -> bool:
        """Whether it must be done before a time runs out."""
        return self.until_min is not None


def hands_s(steps: Sequence[Step]) -> float:
    """All that hands do, s."""
    return sum(step.hands_s for step in steps)


def steps_json(steps: Sequence[Step]) -> list[dict[str, Any]]:
    """To keep with the drawn numbers."""
    return [asdict(step) for step in steps]


def steps_from(rows: Sequence[dict[str, Any]]) -> list[Step]:
    """The same back."""
    return [Step(**one) for one in rows]
