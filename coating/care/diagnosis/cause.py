"""A cause of trouble: how often it is to blame, how it shows, and what each look would say."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, field

UNKNOWN = 0.3  # where nothing tells; common practice, no source
FLOOR = 0.02
FLAT = 0.1  # of every likelihood: tables are rough


@dataclass(frozen=True)
class Cause:
    """One thing that goes wrong.

    Attributes
    ----------
    name : str
    base : float
        How often it is to blame, against the others.
    symptoms : mapping of str to float
        What is seen of it, and how often; any other symptom it cannot have.
    looks : mapping of str to tuple of float
        How often each answer of a look is given under it, in the order of the look's answers; of the looks that are
        left out, as under any cause.
    likely_at, width : float or None
        Where the history makes it likely, and over how much it does; None where history says nothing of it.
    floor : float
        History never makes it less likely than that.
    good_for : tuple of str
        What is spoilt by it still does for.
    """

    name: str
    base: float
    symptoms: Mapping[str, float]
    looks: Mapping[str, tuple[float, ...]] = field(default_factory=dict)
    likely_at: float | None = None
    width: float | None = None
    floor: float = FLOOR
    good_for: tuple[str, ...] = ()

    def by_history(self, says: float | None, *, floor: float = 0.0) -> float:
        """How far the history speaks for it, 0 to 1.

        Parameters
        ----------
        says : float or None
            What the history says, in the cause's own measure; None where it is silent.
        floor : float
            At least so much all the same.

        Returns
        -------
        float

        >>> Cause("cold", 1, {}, likely_at=3, width=1).by_history(3.0), Cause("any", 1, {}).by_history(None)
        (0.5, 1.0)
        """
        if self.likely_at is None or self.width is None:
            return 1.0
        if says is None:
            return UNKNOWN
        steps = min(50.0, max(-50.0, (says - self.likely_at) / self.width))
        return max(self.floor, floor, 1 / (1 + math.exp(-steps)))

    def shows(self, symptom: str) -> float:
        """How likely it shows so, 0 for what it cannot do."""
        if symptom not in self.symptoms:
            return 0.0
        return (1 - FLAT) * self.symptoms[symptom] + FLAT / len(self.symptoms)
