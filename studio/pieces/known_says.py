"""What a recipe, a job or a day goes by besides labels and what is assumed, in a sentence."""

from __future__ import annotations

from collections.abc import Mapping

from coating.learning.names import COAT, DROP, FLOW, HOLE, LOSS, PACE, SET, STRENGTH, kind_of
from coating.learning.speaking import how_much
from coating.techniques import TECHNIQUES
from studio.common.words import lower

# What it is called after "your own", and what it is above and below what was assumed.
_WORDS = {
    DROP: ("drops", "heavier", "lighter"),
    STRENGTH: ("", "stronger", "weaker"),
    FLOW: ("", "thicker", "thinner"),
    COAT: ("coats", "thicker", "thinner"),
    HOLE: ("lines", "wider", "narrower"),
    SET: ("setting times", "longer", "shorter"),
    LOSS: ("cooling", "faster", "slower"),
    PACE: ("pace", "slower", "quicker"),
}


def thing_called(name: str, titles: Mapping[str, str]) -> str:
    """What is learned, after "your own"; "" of what is not there any more.

    >>> thing_called("strength.blue", {"blue": "Blue oil colour"}), thing_called("pace", {})
    ('blue oil colour', 'pace')
    >>> thing_called("coat.dip", {}), thing_called("strength.gone", {})
    ('coats (dip)', '')
    """
    kind, _, of = name.partition(".")
    if kind == COAT:
        return f"coats ({TECHNIQUES[of].title.lower()})"
    return _WORDS[kind][0] or lower(titles.get(of, ""))


def known_as(name: str, times: float, titles: Mapping[str, str]) -> str:
    """What is known of one thing, after "your own"; "" of what is not there any more.

    >>> known_as("strength.blue", 1.3, {"blue": "Blue oil colour"}), known_as("loss", 0.8, {})
    ('blue oil colour, about a third stronger', 'cooling, about a fifth slower')
    """
    called, (_, more, less) = thing_called(name, titles), _WORDS[kind_of(name)]
    return f"{called}, {how_much(times)} {more if times > 1 else less}" if called else ""


def goes_by_says(factors: Mapping[str, float], titles: Mapping[str, str]) -> str:
    """With what of one's own something is worked out; nothing of nothing.

    >>> goes_by_says({"strength.blue": 1.3, "pace": 0.8}, {"blue": "Blue oil colour"})
    'This goes by your own blue oil colour, about a third stronger, and pace, about a fifth quicker.'
    >>> goes_by_says({}, {}), goes_by_says({"strength.blue": 1.3}, {})
    ('', '')
    """
    parts = [words for name, times in factors.items() if (words := known_as(name, times, titles))]
    return f"This goes by your own {', and '.join(parts)}." if parts else ""
