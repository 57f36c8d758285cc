"""Sentences of what was learned."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from coating.learning.fit import Odd
from coating.learning.names import DROP
from coating.learning.next_test import NextTest
from coating.learning.speaking import how_much
from studio.common.templatetags.kitchen import about_minutes, degrees, mass, sized
from studio.common.words import listed, lower, many, number_word, stress
from studio.learned.fitted import Taught

DROPS = 6


@dataclass(frozen=True)
class Kind:
    """How a kind of thing is spoken of: below and above what was assumed, as the ends of its line; what is said where
    it is more and where it is less, of {title} and {how}; and where it is about as assumed."""

    ends: tuple[str, str]
    more: str
    less: str
    same: str


KINDS = {
    "strength": Kind(
        ("weaker", "stronger"),
        "{drop} {title} is {how} stronger than its label",
        "{drop} {title} is {how} weaker than its label",
        "Your {title} is about as strong as its label",
    ),
    "drop": Kind(
        ("lighter", "heavier"),
        "Your drops are {how} heavier than assumed",
        "Your drops are {how} lighter than assumed",
        "Your drops weigh about what is assumed",
    ),
    "flow": Kind(
        ("thinner", "thicker"),
        "Your {title} is {how} thicker than its label",
        "Your {title} is {how} thinner than its label",
        "Your {title} flows about as its label says",
    ),
    "hole": Kind(
        ("narrower", "wider"),
        "Your lines come out {how} wider than planned",
        "Your lines come out {how} narrower than planned",
        "Your lines come out about as wide as planned",
    ),
    "coat": Kind(
        ("thinner", "thicker"),
        "Your {title} come out {how} thicker than planned",
        "Your {title} come out {how} thinner than planned",
        "Your {title} come out about as thick as planned",
    ),
    "set": Kind(
        ("sooner", "later"),
        "In your kitchen coats take {how} longer to set",
        "In your kitchen coats set in {how} less time",
        "In your kitchen coats set about when they should",
    ),
    "loss": Kind(
        ("slower", "faster"),
        "Your bowls cool {how} faster than assumed",
        "Your bowls cool {how} slower than assumed",
        "Your bowls cool about as fast as is assumed",
    ),
    "pace": Kind(
        ("quicker", "slower"),
        "Your hands take {how} more time than assumed",
        "Your hands take {how} less time than assumed",
        "Your hands take about the time that is assumed",
    ),
}
# What speaks for a thing, by the kind of its records.
_SPEAKS = {
    "read": ("bowl", "bowls"),
    "look": ("bowl", "bowls"),
    "drops": ("weighing", "weighings"),
    "spread": ("spread", "spreads"),
    "used": ("job", "jobs"),
    "set": ("coat", "coats"),
    "pace": ("job", "jobs"),
    "warmth": ("pair of temperatures", "pairs of temperatures"),
}
_TOO_FAR = {
    "strength": "Read a new tint of it, and it is settled.",
    "drop": "Weigh 20 drops, and it is settled.",
    "flow": "Test how it flows once, and keep that for the bag: then it is settled.",
    "hole": "Measure the hole with the bag test, and it is settled.",
}


def head_says(things: Sequence[Taught], noted: int) -> str:
    """What all of it comes to."""
    waiting = sum(one.asks for one in things)
    if waiting:
        wait = "thing waits" if waiting == 1 else "things wait"
        return f"{number_word(waiting).capitalize()} {wait} for {stress('your yes')}."
    used = [lower(one.title) for one in things if one.used]
    if used:
        return f"Recipes, grams and times go by your own {stress(listed(used))}."
    if not noted:
        say = stress("how a bowl looks")
        return f"Nothing is learned yet. Say {say} beside its swatch, and two bowls later recipes know."
    return f"{many(noted, 'record').capitalize()} so far, and {stress('what was assumed holds')}."


def evidence_says(one: Taught) -> str:
    """Who says so."""
    bowls = Counter(_SPEAKS[kind] for kind, _ in {(n.record.kind, n.record.bowl) for n in one.live})
    merged = [many(count, *words) for words, count in sorted(bowls.items(), key=lambda pair: -pair[1])]
    odd = f", {number_word(len(one.odd))} looked odd" if one.odd else ""
    says = "says" if sum(bowls.values()) == 1 else "say"
    return f"{listed(merged)} {says} so{odd}"


def taught_says(one: Taught) -> str:
    """What the records say of a thing."""
    if one.bowls < 2 and not one.said:
        return (
            "One bowl so far: nothing is concluded." if one.kind == "strength" else "Once so far: nothing is concluded."
        )
    kind, factor = KINDS[one.kind], one.product.factor
    words = kind.same if not one.said else kind.more if factor > 1 else kind.less
    drop = "Drop for drop your" if len(one.product.names) > 1 else "Your"
    said = words.format(drop=drop, title=lower(one.title), how=how_much(factor))
    return f"{said}: {evidence_says(one)}."


def so_says(one: Taught) -> str:
    """What follows from it."""
    if not one.said or one.drift is not None:
        return ""
    if one.before:
        return "That is of the bottle before: the new one begins at its label."
    if one.measured:
        return "You measured it yourself, and that is used: measure it again."
    if one.too_far and one.disagree:
        return "Too many of its records do not fit to go by them: look at those first."
    if one.too_far:
        return f"That is too far off to go by. {_TOO_FAR.get(one.kind, 'Look at its records one by one.')}"
    if one.by_label:
        return "What was assumed is used all the same, as you said."
    if one.too_few:
        return "Less is melted only once three jobs say so."
    if one.asks:
        return f"{follows_says(one)} Shall it be so from now on?"
    return follows_says(one)


def follows_says(one: Taught) -> str:
    """What becomes of it in recipes, grams and times."""
    factor = one.product.factor
    match one.kind:
        case "strength" if len(one.product.names) > 1:
            mine, theirs = same_drops(factor)
            return f"{many(mine, 'drop').capitalize()} now {'does' if mine == 1 else 'do'} what {theirs} did."
        case "strength":
            return "Recipes go by that."
        case "drop":
            return "A colour you have not used yet uses that too."
        case "flow":
            return f"It is thinned with {'more' if factor > 1 else 'less'} fat."
        case "hole":
            return f"Where {mass(20)} was to go on in lines, {mass(20 * factor**2)} does."
        case "coat":
            return f"Where {mass(100)} was to go on, {mass(100 * factor)} does."
        case "set":
            return f"Allow {about_minutes(15 * factor).removeprefix('about ')} where 15 were planned."
        case "loss":
            return f"Where a bowl stayed usable for 15 min, it is {about_minutes(15 / factor).removeprefix('about ')}."
        case _:
            return f"An hour of work becomes {about_minutes(60 * factor).removeprefix('about ')}."


def same_drops(factor: float) -> tuple[int, int]:
    """So many of these drops do what so many of the label's did.

    >>> same_drops(1.33), same_drops(0.75)
    ((6, 8), (8, 6))
    """
    return (DROPS, round(DROPS * factor)) if factor >= 1 else (round(DROPS / factor), DROPS)


def drift_says(one: Taught) -> str:
    """What the last bowls say otherwise, with its question."""
    if one.drift is None:
        return ""
    ask = {"strength": "A new bottle?", "flow": "Another bag?", "hole": "Another nozzle?"}.get(
        one.kind, "Something new?"
    )
    last, before = number_word(one.drift.last), one.drift.before
    return f"The last {last} say otherwise than the {before} before. {ask}"


_MEASURED = {
    "pace": lambda value: about_minutes(value / 60).removeprefix("about "),
    "set": lambda value: about_minutes(value).removeprefix("about "),
    "used": mass,
    "drops": mass,
    "spread": sized,
    "warmth": degrees,
}


def expected_says(kind: str, odd: Odd) -> str:
    """What the others would have it be, of a number."""
    return f"by the others it would be {value_says(kind, odd.expected[0])}" if kind in _MEASURED else ""


def value_says(kind: str, value: float) -> str:
    """What was measured, as a sentence has it."""
    return str(_MEASURED[kind](value))


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
