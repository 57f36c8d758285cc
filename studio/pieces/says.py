"""Sentences of the pages of a job."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date

from coating.stack.layers import Layer
from coating.techniques.part import INSIDE_IT, PAIRS, ROUND, STANDING, TOP
from studio.common.words import listed, lower, many, number_word, stress

PICK = "Pick what it is made on, then put on the first layer."
_HOW = {"wet": "while the coat is wet", "half_set": "while the coat is half-set", "set": "held by itself"}
_WHERE = {TOP: "lying on top", STANDING: "standing on top", ROUND: "all round", PAIRS: "left and right"}


def next_says(jobs: Sequence[tuple[str, date | None]], today: date) -> str:
    """What comes next of jobs by name and day, the next one first.

    >>> day = date(2026, 12, 1)
    >>> next_says([("Comet night", date(2026, 12, 2)), ("Launch", None)], day), next_says([("Launch", None)], day)
    ('Next is Comet night, due tomorrow.', 'Launch has no date yet.')
    >>> next_says([("Comet night", date(2026, 11, 2))], day), next_says([], day)
    ('Nothing is ahead. Comet night was the last, on 2 November.', '')
    """
    if not jobs:
        return ""
    name, due = jobs[0]
    if due is None:
        return f"{name} has no date yet."
    if due < today:
        return f"Nothing is ahead. {name} was the last, on {due.day} {due:%B}."
    return f"Next is {name}, {_in_days((due - today).days)}."


def _in_days(days: int) -> str:
    return {0: "due today", 1: "due tomorrow"}.get(days, f"in {days} days")


def rest_says(ahead: bool, over: bool) -> str:
    """What heads the jobs that are not on a tray, where some are.

    >>> rest_says(True, True), rest_says(True, False), rest_says(False, True)
    ('Made before', 'Further jobs', '')
    """
    return ("Made before" if over else "Further jobs") if ahead else ""


def due_says(due: date | None, today: date) -> str:
    """When a job is due.

    >>> due_says(date(2026, 12, 2), date(2026, 11, 30)), due_says(None, date(2026, 11, 30))
    ('Wednesday 2 December, in 2 days', 'no date yet')
    """
    return f"{due:%A} {due.day} {due:%B}, {_in_days((due - today).days)}" if due else "no date yet"


def made_says(kinds: int, pieces: int, colours: int) -> str:
    """How much a job makes.

    >>> made_says(13, 148, 9), made_says(1, 24, 1), made_says(0, 0, 0)
    ('13 kinds, 148 pieces, 9 colours', '24 pieces, 1 colour', 'no pieces yet')
    """
    if not kinds:
        return "no pieces yet"
    parts = [f"{kinds} kinds"] if kinds > 1 else []
    return ", ".join([*parts, many(pieces, "piece"), many(colours, "colour")])


def joint_says(layer: Layer) -> str:
    """How a part is put on, after its name.

    >>> joint_says(Layer("part", part="7", count=2, where="pairs", placed="glued"))
    '2 on each, left and right, glued'
    >>> joint_says(Layer("part", part="7", placed="half_set")), joint_says(Layer("part", part="7", placed="inside"))
    ('1 on each, on the front, while the coat is half-set', '1 inside each')
    """
    if layer.placed == INSIDE_IT:
        return f"{layer.count} inside each"
    return f"{layer.count} on each, {_WHERE.get(layer.where, 'on the front')}, {_HOW.get(layer.placed, 'glued')}"


def places_says(count: int, name: str, made: int) -> str:
    """What goes where the rings of its picture are, of so many that are made in all.

    >>> places_says(2, "Fins", 26), places_says(1, "Plaque", 1)
    ('Two fins: here and here', 'Plaque: here')
    >>> places_says(1, "Moons", 12), places_says(12, "Panels", 72)
    ('One of the moons: here', '12 panels: where the rings are')
    """
    if count == 1:
        return f"{name}: here" if made == 1 else f"One of the {lower(name)}: here"
    return (
        f"{number_word(count).capitalize()} {lower(name)}: {'here and here' if count == 2 else 'where the rings are'}"
    )


def counted_says(name: str, own: int, count: int, spares: int, on: Sequence[str]) -> str:
    """How many are made of what goes on others, and why.

    >>> counted_says("Fins", 0, 26, 3, ["Rockets"])
    '26 for rockets, 3 extra'
    >>> counted_says("Fins", 4, 30, 3, ["Rockets", "Boats"]), counted_says("Fins", 0, 0, 0, [])
    ('26 for rockets and boats, 4 besides, 3 extra', 'They go on nothing now: say how many you want.')
    """
    if not on:
        return "They go on nothing now: say how many you want." if not count else f"{spares} extra" if spares else ""
    besides = f", {own} besides" if own else ""
    return f"{count - own} for {listed([lower(title) for title in on])}{besides}{f', {spares} extra' if spares else ''}"


def shopping_says(short: Sequence[str], unknown: int, wanted: int) -> str:
    """What is to be bought, and of how many things nobody said how much there is.

    >>> shopping_says(["Bright white coating"], 2, 4)
    'Buy bright white coating, and look whether 2 more things are enough.'
    >>> shopping_says([], 1, 3)
    'Nothing to buy for certain: look whether 1 thing is enough.'
    >>> shopping_says([], 0, 3)
    'Everything for this job is there.'
    """
    if not wanted:
        return "Every colour of this job has its bowl: nothing more is wanted."
    if short:
        said = f"Buy {listed([lower(title) for title in short])}"
        more = f"{unknown} more thing{'s are' if unknown > 1 else ' is'}"
        return f"{said}, and look whether {more} enough." if unknown else f"{said}."
    if unknown:
        things = f"{unknown} thing{'s are' if unknown > 1 else ' is'}"
        return f"Nothing to buy for certain: look whether {things} enough."
    return "Everything for this job is there."


def build_says(count: int, variants: int, spares: int, bowls: int, on: str, melt: str) -> str:
    """What a piece that is being built comes to; `on` and `melt` are amounts in words.

    >>> build_says(24, 1, 2, 1, "110 g goes on", "280 g")
    '*24* and 2 extra: *110 g goes on*, melt at least *280 g*.'
    >>> build_says(1, 1, 0, 0, "", ""), build_says(12, 3, 0, 3, "60 g goes on", "240 g")
    ('*One*: nothing of it needs a bowl.', '*12* in 3 colours: *60 g goes on*, melt at least *240 g* in 3 bowls.')
    """
    made = stress("One" if count == 1 else str(count))
    made += (f" in {variants} colours" if variants > 1 else "") + (f" and {spares} extra" if spares else "")
    if not bowls:
        return f"{made}: nothing of it needs a bowl."
    apart = f" in {bowls} bowls" if bowls > 1 else ""
    return f"{made}: {stress(on)}, melt at least {stress(melt)}{apart}."


def family_says(kind: str, count: int) -> str:
    """How the pieces of a family belong together, after how many of it there are.

    >>> family_says("motif", 3), family_says("variants", 1), family_says("variants", 4)
    ('with 3 parts each', 'in one colour', 'in 4 variants')
    """
    if kind == "motif":
        return f"with {many(count, 'part')} each"
    return "in one colour" if count == 1 else f"in {count} variants"


def order_says(order: Sequence[tuple[str, str]]) -> str:
    """In which order bowls are melted, each with the bowl whose rest it begins with; nothing of one bowl.

    >>> order_says([("White", ""), ("Dusk blue", "White"), ("Plum", "")])
    'Melt them in this order: *white*, then *dusk blue* (start it with what is left of white), then *plum*.'
    >>> order_says([])
    ''
    """
    rests = [f" (start it with what is left of {lower(rest)})" if rest else "" for _, rest in order]
    names = [f"{stress(lower(name))}{rest}" for (name, _), rest in zip(order, rests, strict=True)]
    return f"Melt them in this order: {', then '.join(names)}." if names else ""


def first_name(title: str, due_on: date | None) -> str:
    """What a job is called whose occasion was not said.

    >>> first_name("Balls on sticks", date(2026, 12, 5))
    'Balls on sticks for Saturday'
    """
    return f"{title} for {due_on:%A}" if due_on else title
