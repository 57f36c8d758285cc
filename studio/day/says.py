"""What is done to a bowl on the day, in words that end the sentence begun by its name and how much of it there is."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from datetime import datetime, timedelta

from django.utils import timezone

from coating.heat.melting import warmth_of
from coating.job.making import chocolate_of
from coating.steps import HOT_AGE
from studio.common.templatetags.clocks import clocked
from studio.common.templatetags.kitchen import lower_first, seconds_in_all, until
from studio.common.types import Json
from studio.common.words import many, stress
from studio.pieces.adapters import ColourNeed

FIVE_MIN_S = 300
WORTH_SAYING_S = 300  # a saving that is worth a word
COLD = ("fridge", "freezer")


def then_says(need: ColourNeed, *, again: bool) -> str:
    """After it is melted, or warmed again: stirred; in temper never warmer than it is worked."""
    bowl = need.reckoned
    if not bowl.tempered:
        return ", and stir"
    warm = f"until {until(warmth_of(need.white, chocolate_of(bowl)).work_at_c)}"
    if again:
        return f" {warm} and no further, or it is out of temper; stir"
    tint = "Stir the colour in until no streak is left, then seed" if bowl.recipe else "Seed"
    return f". {tint} it bit by bit {warm}, and see that a smear of it sets"


def at_says(moment: datetime, *, days: int) -> str:
    """A moment of a plan; with its weekday where it takes several days.

    >>> at_says(datetime(2026, 11, 28, 9, 5), days=1), at_says(datetime(2026, 11, 28, 9, 5), days=2)
    ('9:05', 'Saturday, 9:05')
    """
    local = timezone.localtime(moment) if timezone.is_aware(moment) else moment
    return clocked(moment) if days == 1 else f"{local:%A}, {clocked(moment)}"


def day_says(begin: datetime, end: datetime, *, days: int, saved_s: float) -> str:
    """When to start and when everything is done.

    >>> day_says(datetime(2026, 11, 28, 9, 0), datetime(2026, 11, 28, 11, 40), days=1, saved_s=0)
    'Start at *9:00* and everything is done at *11:40*.'
    """
    sentence = f"Start at {stress(clocked(begin))} and everything is done at {stress(at_says(end, days=days))}"
    sooner = f": {seconds_in_all(saved_s)} sooner than piece by piece" if days == 1 and saved_s > WORTH_SAYING_S else ""
    return f"{sentence}{sooner}."


def likely_says(begin: datetime, ends_s: tuple[float, float] | None) -> str:
    """When it is likely done, to five minutes; nothing where that is no wider than it is said.

    >>> likely_says(datetime(2026, 11, 28, 9, 0), (9000.0, 11400.0))
    'Likely done between 11:30 and 12:10.'
    >>> likely_says(datetime(2026, 11, 28, 9, 0), None)
    ''
    """
    if ends_s is None:
        return ""
    first, last = (begin + timedelta(seconds=FIVE_MIN_S * round(s / FIVE_MIN_S)) for s in ends_s)
    return "" if first == last else f"Likely done between {clocked(first)} and {at_says(last, days=1)}."


def late_says(
    late_s: float, in_time: datetime, remedies: Sequence[Json], *, days: int, slack_s: float | None
) -> list[str]:
    """By how much it is too late and what would do, or how much it leaves; nothing without a deadline.

    >>> late_says(1800, datetime(2026, 11, 28, 8, 30), (), days=1, slack_s=None)
    ['That is 30 min too late: start at 8:30.']
    >>> late_says(0, datetime(2026, 11, 28, 9, 0), (), days=1, slack_s=2400)
    ['It leaves 40 min for what goes wrong.']
    """
    if late_s > 0:
        do = f"start at {clocked(in_time)}" if days == 1 else "start sooner, or work for longer"
        ways = "".join(_remedy_says(r) for r in remedies)
        return [f"That is {_about(late_s)} too late: {do}{ways}."]
    return [f"It leaves {_about(slack_s)} for what goes wrong."] if slack_s else []


def _remedy_says(remedy: Json) -> str:
    in_time = ", in time" if remedy["enough"] else ""
    return f"; or with {remedy['says']} it is done at {clocked(remedy['end'])}{in_time}"


def _about(duration_s: float) -> str:
    return seconds_in_all(duration_s).removeprefix("about ")


def helper_says(one: Json, *, days: int) -> str:
    """From when until when somebody is needed who helps."""
    if not one["steps"]:
        return f"There is nothing for {one['name']} to do."
    span = f"from {at_says(one['first'], days=days)} to {at_says(one['last'], days=days)}"
    return f"{one['name']} is needed {span}, for {seconds_in_all(one['work_s'])} of work."


def elsewhere_says(place: str, other: str) -> str:
    """What would wait in a place that there is none of.

    >>> elsewhere_says("freezer", "fridge")
    'There is no space in the freezer: what would wait there waits in the fridge.'
    >>> elsewhere_says("fridge", "room")
    'There is no space in the fridge: what would wait there waits at room temperature, for longer.'
    """
    waits = "waits at room temperature, for longer" if other == "room" else f"waits in the {other}"
    return f"There is no space in the {place}: what would wait there {waits}."


def worst_says(worst: Json | None, *, days: int, late: bool) -> list[str]:
    """What the day becomes should the worst bowl have to be made again; nothing where it is late already."""
    if worst is None or late:
        return []
    if worst["late_s"]:
        start = f": start at {clocked(worst['begin'])}, and there is time for that too" if days == 1 else ""
        return [
            f"If you had to make the {worst['says']} again, you would be {_about(worst['late_s'])} too late{start}."
        ]
    end = at_says(worst["end"], days=days)
    return [f"Even if you had to make the {worst['says']} again, which takes longest, you would be done at {end}."]


def part_says(first: datetime, last: datetime, count: int, *, days: int) -> str:
    """A stretch of the day.

    >>> part_says(datetime(2026, 11, 28, 9, 0), datetime(2026, 11, 28, 12, 0), 22, days=1)
    '9:00 to 12:00, 22 steps'
    """
    span = f"{clocked(first)} to {clocked(last)}, {many(count, 'step')}"
    return span if days == 1 else f"{first:%A}, {span}"


def wait_says(place: str, ready: datetime, *, stands: bool) -> str:
    """Where what was made waits, and until when, after the step that made it.

    >>> wait_says("fridge", datetime(2026, 11, 28, 9, 23), stands=True)
    'then in the fridge until 9:23'
    >>> wait_says("", datetime(2026, 11, 28, 9, 23), stands=False)
    'then it waits until 9:23'
    """
    where = f"in the {place}" if place in COLD else "left alone" if stands else "it waits"
    return f"then {where} until {clocked(ready)}"


def window_says(first: datetime, last: datetime) -> str:
    """When a step has to be begun.

    >>> window_says(datetime(2026, 11, 28, 9, 23), datetime(2026, 11, 28, 9, 27))
    'begin it between 9:23 and 9:27'
    """
    return f"begin it between {clocked(first)} and {clocked(last)}"


def undo_says(step: str, says: Mapping[str, str], bowls: Mapping[str, ColourNeed]) -> str:
    """What the button takes back: the last tap."""
    kind, _, key = step.partition(":")
    if kind == "melt":
        return f"Undo: {lower_first(bowls[key].name)} is melted" if key in bowls else "Undo the last tap"
    sentence = says.get(step, "").rstrip(".")
    return f"Undo: {sentence}" if sentence else "Undo the last tap"


def age_says(age: int) -> str:
    """Below which age a step is not for a child; nothing where it is for everyone.

    >>> age_says(12), age_says(8), age_says(0)
    ('Hot: not for children under 12.', 'Sharp: not for children under 8.', '')
    """
    if not age:
        return ""
    return f"{'Hot' if age >= HOT_AGE else 'Sharp'}: not for children under {age}."


def went_says(took_s: float, planned_s: float, *, broke: int, wrong: int) -> list[str]:
    """How a day at the bench went, once everything is done.

    >>> went_says(6720, 6600, broke=0, wrong=0)
    ['It took 1 h 52 min, as planned.', 'Nothing broke and nothing went wrong.']
    >>> went_says(7800, 6600, broke=2, wrong=1)[0]
    'It took 2 h 10 min, 20 min longer than planned.'
    >>> went_says(7800, 6600, broke=2, wrong=1)[1:]
    ['2 pieces broke.', 'You said once that something was wrong.']
    """
    late_s = took_s - planned_s
    than = f"{_about(abs(late_s))} {'longer' if late_s > 0 else 'less'} than planned"
    sentences = [f"It took {_about(took_s)}, {than if abs(late_s) > WORTH_SAYING_S else 'as planned'}."]
    if not broke and not wrong:
        return [*sentences, "Nothing broke and nothing went wrong."]
    times = "once" if wrong == 1 else f"{wrong} times"
    sentences += [f"{many(broke, 'piece')} broke."] if broke else []
    return sentences + ([f"You said {times} that something was wrong."] if wrong else [])


def moved_says(costs_s: float, end: datetime, why: Sequence[str], along: Sequence[str]) -> str:
    """What came of moving a step, after its name.

    >>> moved_says(0, datetime(2026, 11, 28, 9, 0), (), ())
    'it costs nothing, and everything is done at 9:00.'
    >>> moved_says(-600, datetime(2026, 11, 28, 9, 0), ["nobody is at work then"], ["Dip the comets"])[:42]
    'everything is done 10 min sooner, at 9:00.'
    """
    if costs_s:
        sentence = (
            f"everything is done {_about(abs(costs_s))} {'later' if costs_s > 0 else 'sooner'}, at {clocked(end)}."
        )
    else:
        sentence = f"it costs nothing, and everything is done at {clocked(end)}."
    sentence += f" It cannot be earlier, because {'; '.join(why)}." if why else ""
    return sentence + (f" It takes along: {'; '.join(along)}." if along else "")
