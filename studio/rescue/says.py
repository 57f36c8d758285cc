"""What the page of an answer says: headline, reasons, what comes of it, what it costs, how sure it is."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

from coating.care.diagnosis import TABLES, Case, Diagnosis, Offer, Suspect, in_words
from coating.care.diagnosis.belief import contradicts, telling
from coating.care.diagnosis.moves import GIVING_UP, NEXT_ONE, NEXT_TIME, mends_what
from coating.care.diagnosis.waiting import COLDER
from coating.heat.schools import SCHOOLS
from studio.bowls.answers import how_it_stands
from studio.bowls.deed_says import PutIn
from studio.common.templatetags.clocks import clock_text
from studio.common.templatetags.kitchen import about_minutes, falls, minutes, until
from studio.common.words import listed, lower, stress
from studio.cupboard.adapters import bag_g
from studio.rescue.spoken.causes import CAUSES, surely
from studio.rescue.spoken.looks import LOOKS
from studio.rescue.spoken.moves import MOVES, THIS_ONE, USES
from studio.rescue.spoken.reasons import Teller
from studio.rescue.spoken.signs import SIGNS
from studio.rescue.subject import Subject

SURE_ENOUGH = 0.5  # from which a cause is named alone
WOULD_HARM = {
    "warm": "More heat",
    "warm_bag": "More heat",
    "temper": "More heat",
    "thin": "More fat",
    "correct": "More colour before it is stirred through",
    "cold_place": "More cold",
    "second_coat": "Another coat",
}


@dataclass(frozen=True)
class SureRow:
    """A cause beside others: its name, how likely in a word and as a share, why, and what would speak for it."""

    cause: str
    name: str
    word: str
    share: float
    because: str
    tells: str


def parts_say(subject: Subject, offer: Offer) -> str:
    """What goes in, as this kitchen measures it: "4 g palm flakes (1 tsp)"."""
    if offer.done is None or not offer.done.parts:
        return ""
    rows = {row.code: row for row in subject.desk.stock.rows} if subject.desk else {}
    things = []
    for part in offer.done.parts:
        row = rows.get(part.ingredient.name)
        things.append(PutIn.of(part, bag_g(row) if row is not None and part.ingredient.is_base else None).says)
    return listed(things).replace("*", "")


def move_says(subject: Subject, case: Case, offer: Offer) -> str:
    """What to do, with its amounts."""
    said, done, parts = MOVES[offer.move], offer.done, parts_say(subject, offer)
    known = {
        "parts": parts,
        "until": until(done.to_c) if done and done.to_c is not None else "",
        "over": " over warm water" if SCHOOLS[subject.kitchen.melting_school].heat == "hob" else "",
        "heating": _heating(subject, offer) if done else "",
        "wait": about_minutes(offer.wait_min) if offer.wait_min else "",
        "where": COLDER[case.white or "coating"],
    }
    names = [name for name in ("parts", "until", "wait") if f"{{{name}}}" in said.do]
    sentence = said.do if all(known[name] for name in names) else said.plain or said.do
    return sentence.format(**known)


def _heating(subject: Subject, offer: Offer) -> str:
    if SCHOOLS[subject.kitchen.melting_school].heat == "hob":
        return ""
    seconds = offer.done.seconds if offer.done else None
    if not seconds:
        return ", a few seconds at a time"
    return f", about {seconds:.0f} s in all at half power, {min(10, round(seconds)):.0f} s at a time"


def head_says(subject: Subject, case: Case, diagnosis: Diagnosis) -> str:
    """The headline, its points between stars."""
    first, offer = diagnosis.first, diagnosis.move
    if case.is_burnt:
        return "It is *scorched*: throw it away and melt afresh. Nothing brings that taste back."
    if diagnosis.hopeless and diagnosis.look is None:
        return f"{_sure(first)} {CAUSES[first.cause].was}, and *nothing brings it back*."
    if looks_first(diagnosis):
        names = " or ".join(stress(CAUSES[s.cause].name) for s in diagnosis.suspects[:2])
        return f"It may be {names}. *Look once* before you do anything."
    if offer is None:
        return f"{_sure(first)} {CAUSES[first.cause].was}."
    return f"{_sure(first)} {CAUSES[first.cause].was}. {move_says(subject, case, offer)}"


def looks_first(diagnosis: Diagnosis) -> bool:
    """Whether nothing is to be done before a look: too little is certain, or all that is left is to give up."""
    gives_up = diagnosis.move is None or diagnosis.move.move in GIVING_UP
    return diagnosis.look is not None and (diagnosis.first.probability < SURE_ENOUGH or gives_up)


def _sure(suspect: Suspect) -> str:
    """How a sentence begins; what is only worked out from bursts is never said as a fact."""
    begins = surely(in_words(suspect.probability))
    return f"{begins}, by your bursts," if suspect.cause == "overheated" and suspect.evidence.floor else begins


def reasons_say(case: Case, diagnosis: Diagnosis, teller: Teller) -> list[str]:
    """Why the history says so, and what must not be done."""
    sentences = [teller.because(diagnosis.first.cause, diagnosis.first.evidence)]
    other = next((s for s in diagnosis.suspects[1:3] if s.evidence.says is not None), None)
    if other is not None and diagnosis.first.evidence.says is not None and other.probability < 0.12:
        sentences.append(teller.because(other.cause, other.evidence))
    first = diagnosis.first.cause
    harmful = [m.name for m in TABLES.moves if first in m.worse_for and m.is_for(case.symptom)]
    for move, causes in [*((name, (first,)) for name in harmful), *diagnosis.withheld]:
        if move in WOULD_HARM:
            named = "" if first in causes else f", if it is {CAUSES[causes[0]].name}"
            sentences.append(f"{WOULD_HARM[move]} would make it worse for good{named}.")
    return list(dict.fromkeys(s for s in sentences if s))


def notes_say(subject: Subject, case: Case, offer: Offer | None) -> list[str]:
    """What a maker should know of how little this goes by, and of what is not there."""
    notes = []
    for part in offer.done.parts if offer and offer.done and subject.desk else ():
        if subject.desk and all(row.code != part.ingredient.name for row in subject.desk.stock.rows):
            notes.append(f"Your cupboard has no {lower(part.ingredient.title)}: without it only the stirring is noted.")
    if not subject.fits(case.symptom):
        what = subject.called or "what you are making"
        notes.append(f"{SIGNS[case.symptom].label}: that is rare with {what}, so this goes by what is usual.")
    if subject.desk is not None and case.log.silent:
        notes.append("Next to nothing was noted for this bowl, so this goes by what is usual.")
    if contradicts(case, TABLES):
        notes.append("What you saw points different ways: this weighs all of it together.")
    return notes


def after_says(subject: Subject, offer: Offer, symptom: str) -> str:
    """What comes of it."""
    done, desk = offer.done, subject.desk
    what = mends_what(offer.move, symptom)
    if done is None or desk is None or offer.move in GIVING_UP:
        if what == NEXT_TIME:
            return "That mends it next time."
        return "That mends the next ones." if what == NEXT_ONE else "That mends this one."
    if offer.move == "temper":
        return "Then it sets with a shine again. What is dipped already stays as it is."
    stands = how_it_stands(desk, done.after)
    sentence = (
        f"Then it {stress(falls(done.after.word))}, {stands}" if done.after.word != "stiff" else f"It is {stands}"
    )
    if done.whole_g and offer.move == "thin":
        sentence += " That is half of what it may take: look before you add as much again."
    return sentence


def costs_say(subject: Subject, offer: Offer, ends: datetime | None = None) -> str:
    """What it costs in minutes and grams, and when the day is then done."""
    cost = [minutes(max(60.0, offer.minutes * 60))]
    parts = parts_say(subject, offer)
    if parts:
        cost.append(parts)
    day = f" {day_says(ends)}" if ends is not None else ""
    return f"{listed(cost)[:1].upper()}{listed(cost)[1:]}.{day}"


def day_says(ends: datetime) -> str:
    """When the day is then done."""
    return f"The day then ends at about {clock_text(ends)}."


def this_one_says(offer: Offer | None, symptom: str) -> str:
    """What helps the piece at hand, where the move comes too late for it."""
    if offer is None or mends_what(offer.move, symptom) not in (NEXT_ONE, NEXT_TIME):
        return ""
    return THIS_ONE.get(symptom, "")


def besides(case: Case, diagnosis: Diagnosis, teller: Teller) -> list[SureRow]:
    """The causes with what would tell each from the likeliest."""
    rows = []
    for suspect in diagnosis.suspects:
        if suspect.probability < 0.005 and suspect is not diagnosis.first:
            continue
        look = None
        if suspect is not diagnosis.first:
            look = telling(suspect.cause, diagnosis.first.cause, case.symptom, TABLES)
        points = LOOKS[look[0]].points[look[1]] if look else ""
        rows.append(
            SureRow(
                suspect.cause,
                CAUSES[suspect.cause].name,
                in_words(suspect.probability),
                suspect.probability,
                teller.because(suspect.cause, suspect.evidence),
                f"{points} would speak for it." if points else "",
            )
        )
    return rows


def uses_say(good_for: Sequence[str], darker: Sequence[str]) -> str:
    """What is beyond help still does for, in this very job where it has such a thing.

    >>> uses_say(["filling", "bark"], [])
    'It still does for a filling or bark, broken into pieces.'
    >>> uses_say([], ["plum"])
    ''
    """
    words = [USES[name] for name in good_for if name != "darker shade"]
    if "darker shade" in good_for:
        words.append(f"{darker[0]}, which is darker" if darker else USES["darker shade"])
    return f"It still does for {' or '.join(words)}." if words else ""
