"""From what is seen to the likeliest cause, the one move, and the one look that could change it."""

from __future__ import annotations

from dataclasses import dataclass

from coating.care.diagnosis.belief import Believed, believed, supposing
from coating.care.diagnosis.case import Case
from coating.care.diagnosis.evidence import Evidence
from coating.care.diagnosis.looks import CANNOT_TELL, Look
from coating.care.diagnosis.moves import GIVING_UP
from coating.care.diagnosis.symptoms import SYMPTOMS
from coating.care.diagnosis.tables import TABLES, Tables
from coating.care.diagnosis.worth import Offer, Worths
from coating.errors import UnknownName

SHOWN = 6
STOP_AT = 0.85
MATTERS = 0.05  # causes less likely do not call for a look
LIKELY_ANSWER = 0.03
MOST_LOOKS = 3
BEYOND = 0.5
AFRESH = "swap"


@dataclass(frozen=True)
class Suspect:
    """A cause, how likely it is among all, and what the history says of it."""

    cause: str
    probability: float
    evidence: Evidence


@dataclass(frozen=True)
class Diagnosis:
    """What is to be believed and done.

    Attributes
    ----------
    suspects : tuple of Suspect
        At most six, the likeliest first.
    look : Look or None
        What to look at next, where that could change the move.
    offers : tuple of Offer
        What may be done, best first.
    withheld : tuple of tuple of (str, tuple of str)
        Moves that would help one cause and make a likely one worse, with those.
    hopeless : bool
        Nothing brings it back.
    good_for : tuple of str
        What it still does for.
    """

    suspects: tuple[Suspect, ...]
    look: Look | None
    offers: tuple[Offer, ...]
    withheld: tuple[tuple[str, tuple[str, ...]], ...]
    hopeless: bool
    good_for: tuple[str, ...]

    @property
    def first(self) -> Suspect:
        """The likeliest."""
        return self.suspects[0]

    @property
    def move(self) -> Offer | None:
        """What is advised."""
        return self.offers[0] if self.offers else None


def diagnose(case: Case, tables: Tables = TABLES) -> Diagnosis:
    """What went wrong, what mends it, and what to look at next.

    Parameters
    ----------
    case : Case
    tables : Tables

    Returns
    -------
    Diagnosis

    Raises
    ------
    UnknownName
        There is no such symptom, look or answer.
    """
    _known(case, tables)
    belief, worths = believed(case, tables), Worths(case, tables)
    offers, withheld = worths.offers(belief.shares)
    hopeless = _is_hopeless(belief, worths, case)
    if case.is_burnt:  # it is thrown away, and there is no use for it
        offers = [offer for offer in offers if offer.move == AFRESH]
    good_for = tables.by_cause[belief.first].good_for if hopeless and not case.is_burnt else ()
    return Diagnosis(
        tuple(Suspect(name, share, belief.evidence[name]) for name, share in belief.ranked[:SHOWN]),
        None if case.is_burnt else next_look(belief, worths, case, tables),
        tuple(offers),
        tuple(withheld),
        hopeless,
        good_for,
    )


def _known(case: Case, tables: Tables) -> None:
    if case.symptom not in SYMPTOMS:
        raise UnknownName("There is no such sign of trouble.", field="symptom", choices=list(SYMPTOMS))
    for name, answer in case.answers.items():
        look = tables.by_look.get(name)
        if look is None:
            raise UnknownName("There is no such look.", field="looks", choices=list(tables.by_look))
        if answer not in look.answers and answer != CANNOT_TELL:
            choices = [*look.answers, CANNOT_TELL]
            raise UnknownName("There is no such answer to that look.", field=f"looks.{name}", choices=choices)


def _is_hopeless(belief: Believed, worths: Worths, case: Case) -> bool:
    """Whether the likeliest cause is likely enough, and nothing but giving up mends half of it."""
    first, share = belief.ranked[0]
    if share < BEYOND:
        return False
    if first == "overheated":
        return case.is_burnt
    return not any(worths.of(move.name, first) >= BEYOND for move in worths.moves if move.name not in GIVING_UP)


def next_look(belief: Believed, worths: Worths, case: Case, tables: Tables) -> Look | None:
    """The look that decides most a minute, among those of which an answer would change the move.

    Parameters
    ----------
    belief : Believed
    worths : Worths
    case : Case
    tables : Tables

    Returns
    -------
    Look or None
        None when one cause is sure enough, when all that matter want the same move, or after three.
    """
    likely = belief.above(MATTERS)
    if belief.ranked[0][1] >= STOP_AT or len(case.answers) >= MOST_LOOKS or len({worths.own(n) for n in likely}) <= 1:
        return None
    advised, best, most = worths.best(belief.shares), None, 0.0
    for look in tables.looks:
        if case.symptom not in look.asked_for or look.name in case.answers:
            continue
        cases = supposing(belief, look, tables)
        changes = any(share > LIKELY_ANSWER and worths.best(then.shares) != advised for share, then in cases)
        if not changes:
            continue
        gain = (belief.entropy - sum(share * then.entropy for share, then in cases)) / look.minutes
        if gain > most:
            best, most = look, gain
    return best
