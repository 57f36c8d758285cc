"""How likely each cause is, by what is seen, what the history says, and what was looked at."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass

from coating.care.diagnosis.case import Case
from coating.care.diagnosis.evidence import Evidence
from coating.care.diagnosis.history_of_bowls import OF_BOWLS
from coating.care.diagnosis.history_of_pieces import OF_PIECES
from coating.care.diagnosis.looks import CANNOT_TELL, Look
from coating.care.diagnosis.tables import Tables

HISTORY = {**OF_BOWLS, **OF_PIECES}
NOTHING_KNOWN = Evidence()
TELLS = 2.0  # times as likely under one as under another
AGREES = 0.2  # an answer less likely than that speaks against a cause


@dataclass(frozen=True)
class Believed:
    """Causes with their likelihood, 0 to 1, together 1, and what the history says of each."""

    shares: Mapping[str, float]
    evidence: Mapping[str, Evidence]

    @property
    def ranked(self) -> list[tuple[str, float]]:
        """The likeliest first."""
        return sorted(self.shares.items(), key=lambda pair: -pair[1])

    @property
    def first(self) -> str:
        """The likeliest."""
        return self.ranked[0][0]

    def above(self, share: float) -> list[str]:
        """Those that are likelier than that, the likeliest first."""
        return [name for name, likely in self.ranked if likely > share]

    @property
    def entropy(self) -> float:
        """How undecided it is, in bits."""
        return -sum(p * math.log2(p) for p in self.shares.values() if p > 0)


def believed(case: Case, tables: Tables) -> Believed:
    """What is to be believed of a case.

    Parameters
    ----------
    case : Case
    tables : Tables

    Returns
    -------
    Believed
    """
    causes = tables.showing(case.symptom)
    evidence = {c.name: HISTORY[c.name](case) if c.name in HISTORY else NOTHING_KNOWN for c in causes}
    weights = {}
    for cause in causes:
        says = evidence[cause.name]
        weights[cause.name] = cause.base * cause.by_history(says.says, floor=says.floor) * cause.shows(case.symptom)
    for look, answer in _seen(case, tables):
        for cause in causes:
            weights[cause.name] *= look.likely(answer, cause)
    return Believed(_shared(weights), evidence)


def supposing(belief: Believed, look: Look, tables: Tables) -> list[tuple[float, Believed]]:
    """For each answer of a look how likely it is, and what would then be believed."""
    by_answer = []
    for answer in look.answers:
        weights = {n: p * look.likely(answer, tables.by_cause[n]) for n, p in belief.shares.items()}
        by_answer.append((sum(weights.values()), Believed(_shared(weights), belief.evidence)))
    return by_answer


def telling(cause: str, other: str, symptom: str, tables: Tables) -> tuple[str, str] | None:
    """The look and its answer that speak most for one cause against another.

    Parameters
    ----------
    cause, other : str
    symptom : str
    tables : Tables

    Returns
    -------
    tuple of (str, str) or None
        None where no look tells them apart.
    """
    mine, theirs = tables.by_cause[cause], tables.by_cause[other]
    best, most = None, TELLS
    for look in tables.looks:
        if symptom in look.asked_for:
            for answer in look.answers:
                times = look.likely(answer, mine) / look.likely(answer, theirs)
                if times > most:
                    best, most = (look.name, answer), times
    return best


def contradicts(case: Case, tables: Tables) -> bool:
    """Whether no cause agrees with all that was looked at."""
    seen = _seen(case, tables)
    causes = tables.showing(case.symptom)
    return len(seen) > 1 and not any(all(k.likely(a, c) >= AGREES for k, a in seen) for c in causes)


def _seen(case: Case, tables: Tables) -> list[tuple[Look, str]]:
    """The looks that said something, with their answers."""
    return [(tables.by_look[name], answer) for name, answer in case.answers.items() if answer != CANNOT_TELL]


def _shared(weights: Mapping[str, float]) -> dict[str, float]:
    whole = sum(weights.values())
    return {name: weight / whole for name, weight in weights.items()}


def in_words(share: float) -> str:
    """How likely, in a word.

    Parameters
    ----------
    share : float
        0 to 1.

    Returns
    -------
    str
        "almost certain", "likely", "possible" or "unlikely".

    >>> [in_words(p) for p in (0.9, 0.6, 0.3, 0.05)]
    ['almost certain', 'likely', 'possible', 'unlikely']
    """
    words = ((0.85, "almost certain"), (0.5, "likely"), (0.12, "possible"))
    return next((word for least, word in words if share >= least), "unlikely")
