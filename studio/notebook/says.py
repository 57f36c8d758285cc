"""How an evening went, in sentences."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Sequence
from datetime import date

from django.utils.formats import date_format

from coating.evening import Came, Off
from coating.plan.colouring import EYES
from studio.common.templatetags.kitchen import mass
from studio.common.templatetags.words import times_said
from studio.common.words import listed, lower, many, number_word, stress
from studio.notebook.models import Outcome
from studio.notebook.record import BowlCame, Evening, PieceCame
from studio.rescue.models import Rescue
from studio.rescue.spoken.causes import CAUSES

NAMED, CLAUSES, WORDS = 2, 2, 25  # pieces and flaws that a headline names, and its words
HARDLY_G = 15.0  # what is left in any bowl is nothing to speak of
COATS = {"thin": "too thin", "right": "just right", "thick": "too thick"}
LIKED = {"yes": "liked", "so_so": "so-so", "no": "not liked"}
BOWLS = {"short": "the bowl was too small", "enough": "the bowl was enough", "left": "some was left in the bowl"}


def made_says(pieces: Iterable[tuple[int, str]]) -> str:
    """What was made; the most numerous first.

    >>> made_says([(40, "Moon discs"), (1, "Cake")]), made_says([(3, "Cups"), (2, "Stars"), (1, "Bark")])
    ('40 moon discs and a cake', '3 cups, 2 stars and one thing more')
    >>> made_says([(1, "Iced ring")]), made_says([])
    ('an iced ring', '')
    """
    counted = sorted(pieces, key=lambda pair: -pair[0])
    shown = counted if len(counted) <= NAMED else counted[:NAMED]
    words = [_counted(count, name) for count, name in shown]
    if len(counted) > NAMED:
        more = len(counted) - NAMED
        words.append(f"{number_word(more)} thing{'' if more == 1 else 's'} more")
    return listed(words)


def _counted(count: int, name: str) -> str:
    if count != 1:
        return f"{count} {lower(name)}"
    return f"{'an' if name[:1].lower() in 'aeiou' else 'a'} {lower(name)}"


def off_says(name: str, off: Off) -> str:
    """How a colour came out.

    >>> off_says("Dusk blue", Off("dark")), off_says("Dusk blue", Off("green", True))
    ('dusk blue came out *a little dark*', 'dusk blue came out *much too green*')
    >>> off_says("Dusk blue", Off("right"))
    'dusk blue came out right'
    """
    if off.word == "right":
        return f"{lower(name)} came out right"
    how = f"much {EYES[off.word]}" if off.much else f"a little {off.word}"
    return f"{lower(name)} came out {stress(how)}"


def trouble_clause(row: Rescue) -> str:
    """What was wrong, and whether it could be saved, as a part of a sentence.

    >>> trouble_clause(Rescue(symptom="clumpy", cause="water", move="swap"))
    'one bowl was *lost*: a drop of water'
    >>> trouble_clause(Rescue(symptom="thick", cause="overheated", move="cool", helped="yes"))
    'too hot once, *saved*'
    """
    name = CAUSES[row.cause].name
    if row.move == "swap":
        return f"one bowl was {stress('lost')}: {name}"
    if row.helped == Rescue.NO:
        return f"{name} once, {stress('not saved')}"
    return f"{name} once, {stress('saved')}" if row.helped == Rescue.YES else f"{name} once"


def left_says(left_g: float, melted_g: float) -> str:
    """What was left over, as the end of a sentence; nothing where nothing was melted.

    >>> left_says(0.0, 280.0), left_says(90.0, 280.0), left_says(0.0, 0.0)
    ('nothing was left over', '90 g was left over', '')
    >>> left_says(5.0, 280.0)
    'hardly anything was left over'
    """
    if melted_g <= 0:
        return ""
    if left_g >= HARDLY_G:
        return f"{mass(left_g)} was left over"
    return f"{'hardly anything' if left_g >= 0.5 else 'nothing'} was left over"


def flaws_say(record: Evening) -> list[str]:
    """What was not as it should be, the gravest first."""
    lost = [row for row in record.troubles if row.move == "swap" or row.helped == Rescue.NO]
    saved = [row for row in record.troubles if row not in lost]
    off = sorted((one for one in record.bowls if one.off and one.off.word != "right"), key=_by_off)
    return [
        *dict.fromkeys(trouble_clause(row) for row in lost),
        *([f"{many(record.missing, 'piece')} did not come out"] if record.missing else []),
        *dict.fromkeys(off_says(one.bowl.name, one.off) for one in off if one.off),
        *dict.fromkeys(
            f"the coat of the {lower(p.piece.name)} was {stress(COATS[coat])}" for p, coat in _coats(record)
        ),
        *dict.fromkeys(trouble_clause(row) for row in saved),
    ]


def _by_off(one: BowlCame) -> float:
    return -float(one.off.much) if one.off else 0.0


def _coats(record: Evening) -> list[tuple[PieceCame, str]]:
    said = [(one, one.outcome.coat) for one in record.pieces if one.outcome]
    return [(one, coat) for one, coat in said if coat in ("thin", "thick")]


def liked_of(pieces: Iterable[PieceCame]) -> str:
    """What most pieces were said to be: "yes", "so_so" or "no"; "" where nothing was said."""
    said = [one.outcome.liked for one in pieces if one.outcome and one.outcome.liked]
    return max(dict.fromkeys(said), key=said.count) if said else ""


def headline(record: Evening) -> str:
    """What was made, how it came out, and what was left over: a sentence."""
    made = made_says((one.count, one.piece.name) for one in record.pieces)
    clauses = [c for c in (*_middle(record), _left(record)) if c]
    sentence = f"{made[:1].upper()}{made[1:]}: {', '.join(clauses)}" if made else listed(clauses)
    while len(sentence.split()) > WORDS and len(clauses) > 1:
        del clauses[1 if len(clauses) > 2 else -1]
        sentence = f"{made[:1].upper()}{made[1:]}: {', '.join(clauses)}" if made else listed(clauses)
    return f"{sentence[:1].upper()}{sentence[1:]}."


def _middle(record: Evening) -> list[str]:
    """What is said between what was made and what was left."""
    flaws = flaws_say(record)[:CLAUSES]
    if record.under_way:
        return [f"{stress('under way')}, {many(len(record.bowls), 'bowl')} begun", *flaws[:1]]
    if flaws or not (record.closed or record.bowls):
        return flaws or ["nothing was noted"]
    return [_praise(record)]


def _left(record: Evening) -> str:
    """What is left of bowls that are done; what is in use is not left over yet."""
    if record.under_way or not all(one.bowl.finished_at for one in record.bowls):
        return ""
    return left_says(record.left_g, record.came.melted_g)


def _praise(record: Evening) -> str:
    liked = liked_of(record.pieces)
    words = {"yes": f"everything came out {stress('well')}", "so_so": "it came out so-so", "no": "it was not liked"}
    return words.get(liked, "nothing went wrong" if not record.troubles else "")


def piece_says(one: PieceCame) -> str:
    """How a piece came out, in a line; the plan where nothing was said."""
    outcome = one.outcome
    if outcome is None:
        broke = f", {number_word(one.broke)} broke" if one.broke else ""
        return f"{one.count} planned{f' and {one.spares} extra' if one.spares else ''}{broke}"
    return outcome_says(outcome, one.count)


def outcome_says(outcome: Outcome, count: int) -> str:
    """What was said of a piece.

    >>> outcome_says(Outcome(good=38, coat="right", liked="yes"), 40)
    '38 good, 2 not · coat just right · liked'
    >>> outcome_says(Outcome(good=40), 40), outcome_says(Outcome(), 40)
    ('all 40 good', 'nothing said')
    """
    parts = []
    if outcome.good is not None:
        missing = count - outcome.good
        all_good = f"all {count} good" if count > 1 else "it came out good"
        parts.append(f"{outcome.good} good, {missing} not" if missing > 0 else all_good)
    parts += [f"coat {COATS[outcome.coat]}"] if outcome.coat else []
    parts += [BOWLS[outcome.bowl]] if outcome.bowl else []
    parts += [LIKED[outcome.liked]] if outcome.liked else []
    return " · ".join(parts) or "nothing said"


def came_says(came: Came, *, finished: bool) -> str:
    """What became of a bowl.

    >>> came_says(Came(280.0, 210.0, left_g=70.0), finished=True)
    '280 g melted, 210 g used, 70 g left'
    >>> came_says(Came(280.0, left_g=280.0), finished=False), came_says(Came(), finished=False)
    ('280 g melted, still in use', 'never begun')
    """
    if came.melted_g <= 0:
        return "never begun"
    if not finished:
        used = f", {mass(came.on_pieces_g)} used" if came.on_pieces_g else ""
        return f"{mass(came.melted_g)} melted{used}, still in use"
    parts = {
        "used": came.on_pieces_g,
        "into another bowl": came.given_g,
        "thrown away": came.lost_g,
        "left": came.left_g,
    }
    return ", ".join([f"{mass(came.melted_g)} melted", *(f"{mass(g)} {word}" for word, g in parts.items() if g >= 0.5)])


def all_says(count: int, records: Sequence[Evening], today: date) -> str:
    """The headline of all evenings: what came back, or else when the last one was. `records` are the newest of them,
    and none on the pages of older ones.

    >>> all_says(0, [], date(2026, 11, 30))
    'Nothing yet. Every job writes its own page here while you make it.'
    """
    if not count:
        return "Nothing yet. Every job writes its own page here while you make it."
    evenings = stress(f"{number_word(count).capitalize()} evening{'' if count == 1 else 's'}")
    often = often_says(records)
    if often:
        return f"{evenings} so far: {often}."
    last = next((record.on for record in records if not record.under_way), None)
    if last is None:
        return f"{evenings} so far{', still under way' if records else ''}."
    when = {0: "today", 1: "yesterday"}.get((today - last).days) or f"on {when_says(last, today)}"
    return f"{evenings} so far, {f'the last {when}' if count > 1 else when}."


def often_says(records: Sequence[Evening]) -> str:
    """What came back: a colour that came out the same way off, or a cause of trouble; "" of nothing."""
    offs = Counter(pair for record in records for pair in _offs(record))
    causes = Counter(cause for record in records for cause in {row.cause for row in record.troubles})
    pair, times = next(iter(offs.most_common(1)), (("", ""), 0))
    if times > 1:
        much = any(one.off and one.off.much for r in records for one in r.bowls if _off(one) == pair)
        return f"{lower(pair[0])} came out {stress(_how(pair[1], much=much))} {times_said(times)}"
    cause, times = next(iter(causes.most_common(1)), ("", 0))
    return f"{stress(CAUSES[cause].name)} {times_said(times)}" if times > 1 else ""


def many_evenings(count: int, offs: Sequence[Off]) -> str:
    """On how many evenings something was used, and how it came out.

    >>> many_evenings(3, [Off("dark"), Off("right"), Off("dark")]), many_evenings(1, [])
    ('Three evenings with it: it came out *a little dark* twice.', 'One evening with it.')
    >>> many_evenings(2, [Off("right"), Off("right")])
    'Two evenings with it: it came out *right* twice.'
    >>> many_evenings(2, [Off("dark"), Off("dark", True)])
    'Two evenings with it: it came out *too dark* twice.'
    """
    evenings = f"{number_word(count).capitalize()} evening{'' if count == 1 else 's'} with it"
    words = Counter(off.word for off in offs)
    if not words:
        return f"{evenings}."
    word, times = max(words.items(), key=lambda pair: (pair[0] != "right", pair[1]))
    how = _how(word, much=any(off.much for off in offs if off.word == word))
    often = f" {times_said(times)}" if len(offs) > 1 else ""
    return f"{evenings}: it came out {stress(how)}{often}."


def _offs(record: Evening) -> set[tuple[str, str]]:
    """Colours that came out off, each once an evening, and which way."""
    return {pair for one in record.bowls if (pair := _off(one))}


def _off(one: BowlCame) -> tuple[str, str] | None:
    return (one.bowl.name, one.off.word) if one.off and one.off.word != "right" else None


def _how(word: str, *, much: bool) -> str:
    """How a colour came out more than once; `much` where it was by much on one of them."""
    return EYES[word] if much or word == "right" else f"a little {word}"


def when_says(on: date, today: date) -> str:
    """The date of an evening; with its year where that is another.

    >>> when_says(date(2026, 9, 22), date(2026, 11, 30)), when_says(date(2025, 9, 22), date(2026, 11, 30))
    ('22 September', '22 September 2025')
    """
    return date_format(on, "j F" if on.year == today.year else "j F Y")
