"""Sentences of what was learned."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from coating.learning.names import DROP
from coating.learning.next_test import NextTest
from coating.learning.speaking import how_much
from studio.common.words import listed, lower, many, number_word, stress
from studio.learned.fitted import TaughtColour

DROPS = 6


def head_says(strengths: Sequence[TaughtColour], noted: int) -> str:
    """What all of it comes to."""
    used = [lower(one.name) for one in strengths if one.used]
    if used:
        are = "is not as its label says" if len(used) == 1 else "are not as their labels say"
        return f"Your {stress(listed(used))} {are}, and recipes go by your bowls."
    if not noted:
        say = stress("how a bowl looks")
        return f"Nothing is learned yet. Say {say} beside its swatch, and two bowls later recipes know."
    return f"{many(noted, 'look').capitalize()} noted so far, and {stress('your labels hold')}."


def strength_says(one: TaughtColour) -> str:
    """What the bowls say of a colour."""
    name, factor = lower(one.name), one.product.factor
    if not one.said:
        if one.bowls < 2:
            return "One bowl so far: nothing is concluded."
        return f"Your {name} is about as strong as its label: {many(one.bowls, 'bowl')} say so."
    way = "stronger" if factor > 1 else "weaker"
    drop = "Drop for drop your" if len(one.product.names) > 1 else "Your"
    odd = f", {number_word(len(one.odd))} looked odd" if one.odd else ""
    return f"{drop} {name} is {how_much(factor)} {way} than its label: {many(one.bowls, 'bowl')} say so{odd}."


def so_says(one: TaughtColour) -> str:
    """What follows from it."""
    if one.too_far:
        return "That is too far off to go by. Read a new tint of it, and it is settled."
    if not one.said:
        return ""
    if one.by_label:
        return "Recipes use the label all the same, as you said."
    if len(one.product.names) == 1:
        return "Recipes go by that."
    mine, theirs = same_drops(one.product.factor)
    return f"{many(mine, 'drop').capitalize()} now {'does' if mine == 1 else 'do'} what {theirs} did."


def same_drops(factor: float) -> tuple[int, int]:
    """So many of these drops do what so many of the label's did.

    >>> same_drops(1.33), same_drops(0.75)
    ((6, 8), (8, 6))
    """
    return (DROPS, round(DROPS * factor)) if factor >= 1 else (round(DROPS / factor), DROPS)


def next_says(test: NextTest | None, titles: Mapping[str, str]) -> str:
    """What to test next.

    >>> next_says(NextTest(DROP, 0.4), {}), next_says(NextTest("strength.blue", 0.2), {"strength.blue": "Blue"})
    ('Weigh 20 drops of one colour: recipes become about a third surer.', 'Read a bowl with blue in it: recipes become \
about a fifth surer.')
    >>> next_says(NextTest(DROP, 0.01), {}), next_says(None, {})
    ('', '')
    """
    if test is None or test.narrower < 0.05:
        return ""
    what = "Weigh 20 drops of one colour" if test.of == DROP else f"Read a bowl with {lower(titles[test.of])} in it"
    return f"{what}: recipes become {how_much(1 + test.narrower)} surer."
